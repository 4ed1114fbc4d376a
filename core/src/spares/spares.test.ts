import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { box } from '../shapes/start-shapes.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../select/selection.ts';
import { footingsOn } from './footings.ts';
import { placedSpare, plainSpare, readSpare, spareOf, type Placing } from './spare.ts';

const block = Cage.fromPolygons(box({ x: 20, y: 10, z: 30 }, { x: 2, y: 2, z: 2 }));
const all = [...block.faces()];
/** faces of the block without its lower side */
const open = all.filter((f) => block.faceVertices(f).some((v) => block.position(v)[1] > -4.9));
const as = (own: Partial<Placing> = {}): Placing => ({ scale: 1, turn: 0, mirrored: false, ...own });
const extent = (positions: Float64Array, k: number) => {
  const own = [...positions].filter((_, i) => i % 3 === k);
  return [Math.min(...own), Math.max(...own)].map((x) => Number(x.toFixed(6)));
};

describe('a spare', () => {
  it('stands on the middle of its lowest side, or on the one border it is open at, whichever way that faces', () => {
    const whole = spareOf(block, all, 'Block', ['plain']);
    expect([0, 1, 2].map((k) => extent(whole.mesh.positions, k))).toEqual([
      [-10, 10],
      [0, 10],
      [-15, 15]
    ]);
    // the same block, open at the side that faces +X: it stands on that
    const sideways = all.filter((f) => block.faceVertices(f).some((v) => block.position(v)[0] < 9.9));
    const { mesh } = spareOf(block, sideways, 'On its side', []);
    expect(extent(mesh.positions, 1)).toEqual([0, 20]);
  });

  it('goes through JSON with its creases; what is none, damaged or from the future is refused in a sentence', () => {
    const creased = block.clone();
    creased.setValue('crease', 3, 2.5);
    const spare = spareOf(creased, all, 'Block', ['plain', 'small']);
    const plain = JSON.parse(JSON.stringify(plainSpare(spare))) as { mesh: { faceVertices: number[] }; version: number };
    expect(readSpare(plain)).toEqual(
      JSON.parse(JSON.stringify(plainSpare(spare))) && expect.objectContaining({ name: 'Block', tags: ['plain', 'small'] })
    );
    expect(readSpare(plain).mesh.creaseSharpness).toEqual(Float64Array.of(2.5));
    expect([...readSpare(plain).mesh.positions]).toEqual([...spare.mesh.positions]);
    expect(() => readSpare({ ...plain, version: 2 })).toThrow('newer Ulvrin (version 2');
    expect(() => readSpare({ ...plain, name: '' })).toThrow(/^This is no spare: "name"/);
    expect(() => readSpare({ ...plain, mesh: { ...plain.mesh, faceVertices: [0, 1, 2, 999] } })).toThrow(
      /mesh of this spare has faces|uses vertex 999/
    );
    expect(() => spareOf(block, [], 'Nothing', [])).toThrow('nothing to keep');
  });

  it('is scaled, turned and mirrored; what is mirrored faces outward too', () => {
    const spare = spareOf(block, all, 'Block', []);
    const [footing] = footingsOn(block, selectFaces(all.filter((f) => block.faceVertices(f).every((v) => block.position(v)[0] > 9.9))), 1);
    const { positions } = placedSpare(spare, [footing], as({ scale: 0.5, turn: 90 }));
    // on the side that faces +X: what stood along Y lies along X now
    expect(extent(positions, 0)).toEqual([10, 15]);
    const both = placedSpare(spare, [footing], as({ mirrored: true }));
    expect(extent(both.positions, 0)).toEqual([-20, 20]);
    const cage = Cage.fromPolygons(both);
    assertValid(cage);
    expect(enclosedVolume(cage)).toBeCloseTo(2 * 20 * 10 * 30, 6);
  });

  it('stands on picked faces, on each picked vertex, or evenly along picked edges', () => {
    const top = all.filter((f) => block.faceVertices(f).every((v) => block.position(v)[1] > 4.9));
    expect(footingsOn(block, selectFaces(top), 1)).toEqual([{ at: [0, 5, 0], up: [0, 1, 0], x: [1, 0, 0] }]);
    expect(footingsOn(block, selectVertices([0, 1, 2]), 1)).toHaveLength(3);
    const ridge = [...block.edges()].filter((e) =>
      [2 * e, 2 * e + 1].every((h) => block.position(block.origin[h])[1] > 4.9 && block.position(block.origin[h])[0] > 9.9)
    );
    const along = footingsOn(block, selectEdges(ridge), 3);
    expect(along.map(({ at }) => Math.round(at[2]) + 0).sort((a, b) => a - b)).toEqual([-10, 0, 10]);
    expect(along.every(({ x }) => Math.abs(x[2]) > 0.9)).toBe(true);
    expect(footingsOn(block, emptySelection(), 3)).toEqual([]);
    expect(spareOf(block, open, 'Lid', []).mesh.faceStart.length).toBe(open.length + 1);
  });
});
