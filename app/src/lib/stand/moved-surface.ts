import type { BufferAttribute, BufferGeometry } from 'three';
import { sendSlots, slotsByPoint, type SlotsByPoint } from './followers.ts';
import { normalsRound } from './vertex-normals.ts';

/** A drawn triangle surface, some of whose points come once more behind all others, in step with points that move: places and normals. */
export class MovedSurface {
  private copiesOf?: SlotsByPoint;
  private cornersOf?: SlotsByPoint;

  /**
   * @param geometry indexed, with normals
   * @param copies the points that those behind all others stand for
   * @param points how many there are without them
   */
  constructor(
    private readonly geometry: BufferGeometry,
    private readonly copies: ArrayLike<number>,
    private readonly points: number
  ) {}

  /** @param moved points @param places x, y, z of every point */
  follow(moved: ArrayLike<number>, places: ArrayLike<number>): void {
    const { geometry, points } = this;
    const { position, normal } = geometry.attributes as Record<string, BufferAttribute>;
    const array = position.array as Float32Array;
    const index = geometry.index!.array;
    this.copiesOf ??= slotsByPoint(this.copies, points);
    this.cornersOf ??= slotsByPoint(index, array.length / 3);
    const { start, slot } = this.copiesOf;
    const written: number[] = [];
    const write = (to: number, v: number) => {
      for (let k = 0; k < 3; k++) array[3 * to + k] = places[3 * v + k];
      written.push(to);
    };
    for (let n = 0; n < moved.length; n++) {
      const v = moved[n];
      write(v, v);
      for (let i = start[v]; i < start[v + 1]; i++) write(points + slot[i], v);
    }
    const slots = Int32Array.from(written);
    sendSlots(position, slots);
    sendSlots(normal, normalsRound(array, index, this.cornersOf, slots, normal.array as Float32Array));
  }
}
