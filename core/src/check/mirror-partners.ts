import { type Cage } from '../mesh/cage.ts';
import { boundsOf } from '../mesh/polygon-mesh.ts';
import { PointGrid } from '../numeric/point-grid.ts';
import { type Triple } from '../numeric/vectors.ts';

/** Shares of the diagonal within which a vertex has a partner nearly, and exactly; share of the diagonal that a cell of the grid is wide. */
const [NEAR, SAME, CELL] = [2e-3, 1e-6, 6e-3];
/** Vertices that are tried before a whole part is looked through for partners. */
const TRIED = 400;

/** How far the vertices of a cage are from having partners in mirrors at 0; what was found once is followed when vertices move. */
export class MirrorPartners {
  private readonly diagonal: number;
  /** vertices by where they lie, and lay: what is found by it is measured again */
  private readonly grid: PointGrid;
  /** by axis, and vertex: mm from the image of a vertex to the nearest one, `Infinity` beyond what is near; nothing where that was not asked for */
  private readonly off: (Float64Array | undefined)[] = [undefined, undefined, undefined];

  /** @param before what was found on the cage before some vertices changed, the cage, and these vertices */
  constructor(
    private readonly cage: Cage,
    before?: { partners: MirrorPartners; changed: readonly number[] }
  ) {
    if (!before) {
      const vertices = [...cage.vertices()];
      this.diagonal = boundsOf(Float64Array.from(vertices.flatMap((v) => cage.position(v)))).diagonal;
      this.grid = new PointGrid(NEAR * this.diagonal || Number.MIN_VALUE, CELL * this.diagonal || Number.MIN_VALUE);
      for (const v of vertices) this.grid.put(v, ...cage.position(v));
      return;
    }
    const { partners, changed } = before;
    this.diagonal = partners.diagonal;
    this.grid = partners.grid;
    for (const v of changed) if (cage.hasVertex(v)) this.grid.put(v, ...cage.position(v));
    this.off = partners.off.map((off, axis) => off && this.followed(off, partners.cage, changed, axis));
  }

  /** Distances once some vertices have moved: theirs, and those of vertices whose partners they were or are. */
  private followed(off: Float64Array, was: Cage, changed: readonly number[], axis: number): Float64Array {
    const now = new Float64Array(this.cage.vertexSlots).fill(Infinity);
    now.set(off.subarray(0, now.length));
    const again = new Set(changed);
    for (const v of changed)
      for (const cage of [was, this.cage]) if (cage.hasVertex(v)) this.grid.visitNear(...imageOf(cage.position(v), axis), (w) => again.add(w));
    for (const v of again) if (this.cage.hasVertex(v)) now[v] = this.offAt(v, axis);
    return now;
  }

  /** mm from the image of a vertex to the nearest one. */
  private offAt(v: number, axis: number): number {
    const { cage, grid } = this;
    const { positions: p } = cage;
    const [x, y, z] = imageOf(cage.position(v), axis);
    let least = Infinity;
    grid.visitNear(x, y, z, (w) => {
      if (!cage.hasVertex(w)) return;
      least = Math.min(least, (p[3 * w] - x) ** 2 + (p[3 * w + 1] - y) ** 2 + (p[3 * w + 2] - z) ** 2);
    });
    return Math.sqrt(least);
  }

  /**
   * How far every vertex is from having a partner, in the mirror that the most of them have one in exactly, the first one of these; beyond what is
   * near that counts as just that.
   * @returns mm by vertex id; nothing where there are no vertices
   */
  errors(): { axis: number; byVertex: Float64Array; most: number } | undefined {
    const { cage } = this;
    if (cage.vertexCount === 0) return undefined;
    const [same, near] = [SAME * this.diagonal, NEAR * this.diagonal];
    const exact = [0, 1, 2].map((axis) => [...cage.vertices()].filter((v) => this.offOf(axis)[v] <= same).length);
    const axis = exact.indexOf(Math.max(...exact));
    const byVertex = this.offOf(axis).map((off, v) => (!cage.hasVertex(v) || off <= same ? 0 : Math.min(off, near)));
    return { axis, byVertex, most: byVertex.reduce((a, b) => Math.max(a, b), 0) };
  }

  /** mm to the nearest partner by vertex id; found once. */
  private offOf(axis: number): Float64Array {
    const { cage } = this;
    return (this.off[axis] ??= Float64Array.from({ length: cage.vertexSlots }, (_, v) => (cage.hasVertex(v) ? this.offAt(v, axis) : Infinity)));
  }

  /**
   * Vertices that have a partner only nearly, where most have one.
   * @param meant share of the vertices with an exact partner from which on the part is meant to be symmetric
   * @returns nothing where it is not
   */
  nearlyAlone(axis: number, meant: number): number[] | undefined {
    const { cage } = this;
    const step = Math.ceil(cage.vertexSlots / TRIED);
    const some: number[] = [];
    for (let v = 0; v < cage.vertexSlots; v += step) if (cage.hasVertex(v)) some.push(v);
    const [same, near] = [SAME * this.diagonal, NEAR * this.diagonal];
    const known = this.off[axis];
    const isExact = (v: number) => (known ? known[v] : this.offAt(v, axis)) <= same;
    if (some.filter(isExact).length < meant * some.length) return undefined;
    const off = this.offOf(axis);
    const alone: number[] = [];
    let exact = 0;
    for (let v = 0; v < cage.vertexSlots; v++) {
      if (!cage.hasVertex(v)) continue;
      if (off[v] <= same) exact++;
      else if (off[v] <= near) alone.push(v);
    }
    return exact < meant * cage.vertexCount ? undefined : alone;
  }
}

function imageOf(p: Triple, axis: number): Triple {
  p[axis] = -p[axis];
  return p;
}
