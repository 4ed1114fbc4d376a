import { describe, expect, it } from 'vitest';
import { cube, run, sizes, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic } from '../../mesh/topology.ts';
import { edgeLoop } from '../../select/loops.ts';
import { selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';

const allQuads = (cage: Cage) => sizes(cage)[1] === cage.faceCount;
const everyEdge = (cage: Cage) => selectEdges(cage.edges());

describe('bevel', () => {
  it('cuts one edge of a cube evenly wide; its end faces get a corner more', () => {
    const { cage, selection } = run('bevel', cube(), selectEdges([0]), { width: 2, segments: 1 });
    expect([sizes(cage), selection.faces.length]).toEqual([[0, 5, 2], 1]);
    expect(enclosedVolume(cage)).toBeCloseTo(1000 - (10 * 2 * 2) / 2, 9);
  });

  it.each([1, 2, 3, 4, 5])('rounds all edges of a cube with %i segments, closed and in quads but for odd corners', (segments) => {
    const { cage } = run('bevel', cube(), everyEdge(cube()), { width: 2, segments });
    expect([borderLoops(cage).length, eulerCharacteristic(cage)]).toEqual([0, 2]);
    expect(sizes(cage)[0]).toBe(segments % 2 === 1 ? 8 : 0);
    expect(allQuads(cage)).toBe(segments % 2 === 0);
    expect(cage.faceCount).toBe(6 + 12 * segments + 8 * (3 * Math.floor(segments / 2) ** 2 + (segments % 2) * (3 * Math.floor(segments / 2) + 1)));
  });

  it('puts round corners on a ball and round edges on cylinders', () => {
    const { cage } = run('bevel', cube(), everyEdge(cube()), { width: 2, segments: 8 });
    const exact = 6 ** 3 + 6 * 36 * 2 + (12 * 6 * Math.PI * 4) / 4 + (4 / 3) * Math.PI * 8;
    expect(enclosedVolume(cage)).toBeGreaterThan(0.995 * exact);
    expect(enclosedVolume(cage)).toBeLessThan(exact);
    for (const v of cage.vertices()) {
      const off = Math.hypot(...cage.position(v).map((x) => Math.max(0, Math.abs(x) - 3)));
      expect(off).toBeCloseTo(2, 9);
    }
  });

  it('runs round a tube between quads, with every profile', () => {
    const tube = Cage.fromPolygons(cylinder(10, 30, 12, 2, false));
    const loop = edgeLoop(tube, tube.findHalfEdge(12, 13) >> 1).edges;
    expect(loop).toHaveLength(12);
    const widest = (profile: string, more = {}) => {
      const { cage } = run('bevel', tube, selectEdges(loop), { width: 3, segments: 4, profile, ...more });
      expect([allQuads(cage), cage.faceCount]).toEqual([true, 24 + 48]);
      return [...cage.vertices()].map((v) => Math.hypot(cage.position(v)[0], cage.position(v)[2]));
    };
    // the tube is straight: only a drawn profile has nowhere to rise to either
    for (const profile of ['flat', 'round', 'drawn']) for (const r of widest(profile)) expect(r).toBeCloseTo(10, 9);
  });

  it('hollows, steps and draws a profile on a bent edge', () => {
    const volume = (params: object) => enclosedVolume(run('bevel', cube(), selectEdges([0]), { width: 2, ...params }).cage);
    const cut = (area: number) => 1000 - 10 * area;
    expect(volume({ segments: 2, profile: 'stepped' })).toBeCloseTo(cut(4), 9);
    expect(volume({ segments: 4, profile: 'stepped' })).toBeCloseTo(cut(3), 9);
    expect(volume({ segments: 64, profile: 'hollow' })).toBeCloseTo(cut(Math.PI), 1);
    expect(volume({ segments: 64, profile: 'round' })).toBeCloseTo(cut(4 - Math.PI), 1);
    expect(volume({ segments: 2, profile: 'drawn', heights: [100] })).toBeCloseTo(1000, 9);
  });

  it('ends in a triangle at a vertex of four edges, without touching the faces beyond', () => {
    const sheet = Cage.fromPolygons(plane(4, 4, 4, 4));
    const [a, b, c] = [-1, 0, 1].map((x) => vertexAt(sheet, x, 0, 0));
    const two = selectEdges([sheet.findHalfEdge(a, b) >> 1, sheet.findHalfEdge(b, c) >> 1]);
    const { cage } = run('bevel', sheet, two, { width: 0.2, segments: 1 });
    expect(sizes(cage)).toEqual([2, 16, 0]);
    // between the two narrow ends there is no width for one edge alone
    expect(() => run('bevel', sheet, selectEdges([two.edges[0]]), { width: 0.2, segments: 1 })).toThrow(/no width.*whole loop/);
  });

  it('refuses or clamps before faces collide, with the place', () => {
    expect(() => run('bevel', cube(), everyEdge(cube()), { width: 5 })).toThrow(/run into each other.*Up to 4.9/);
    const { notes } = run('bevel', cube(), everyEdge(cube()), { width: 50, tooWide: 'clamp' });
    expect(notes.join(' ')).toContain('narrowed');
  });

  it('takes the sharpness of its edges away and leaves that of others', () => {
    const creased = cube();
    for (const e of creased.edges()) creased.setValue('crease', e, 3);
    const { cage, notes } = run('bevel', creased, selectEdges([0]), { width: 1, segments: 2 });
    expect(notes.join(' ')).toContain('1 of the edges had a sharpness');
    expect([...cage.edges()].filter((e) => cage.value('crease', e) > 0)).toHaveLength(11);
  });

  it('goes round the outline of picked faces, cuts vertices off, and leaves borders alone', () => {
    const block = cube(3);
    const top = [...block.faces()].filter((f) => block.faceVertices(f).every((v) => block.position(v)[1] > 4.9));
    const { cage } = run('bevel', block, selectFaces(top), { width: 0.5, segments: 2 });
    expect(cage.faceCount).toBe(54 + 24);
    expect(sizes(run('bevel', cube(), selectVertices([vertexAt(cube(), 5, 5, 5)]), { width: 2 }).cage)).toEqual([1, 3, 3]);
    expect(() => run('bevel', Cage.fromPolygons(plane(1, 1, 1, 1)), selectEdges([0]))).toThrow(/on a border/);
  });
});
