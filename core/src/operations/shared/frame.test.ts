import { describe, expect, it } from 'vitest';
import { Cage } from '../../mesh/cage.ts';
import { edgeLoop } from '../../select/loops.ts';
import { selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { box, cylinder } from '../../shapes/start-shapes.ts';
import { squareTo } from './frame.ts';

describe('what is looked at squarely', () => {
  const cube = Cage.fromPolygons(box({ x: 10, y: 20, z: 30 }, { x: 1, y: 1, z: 1 }));

  it('faces of a panel are seen along their normal, from outside', () => {
    for (const f of cube.faces()) {
      const { middle, towards } = squareTo(cube, selectFaces([f]));
      const half = [5, 10, 15];
      const k = middle.findIndex((c) => Math.abs(c) > 1);
      expect(middle.map((c, i) => (i === k ? Math.abs(c) - half[k] : c))).toEqual([0, 0, 0].map((c) => expect.closeTo(c, 9)));
      expect(towards[k] * Math.sign(middle[k])).toBeCloseTo(1, 9);
    }
  });

  it('a loop right round is seen across its own plane, from above', () => {
    const tube = Cage.fromPolygons(cylinder(5, 20, 12, 4, false));
    const around = [...tube.edges()].find((e) => {
      const [a, b] = [tube.position(tube.origin[2 * e]), tube.position(tube.origin[2 * e + 1])];
      return Math.abs(a[1] - b[1]) < 1e-9 && Math.abs(a[1]) < 1e-9;
    })!;
    const { middle, towards } = squareTo(tube, selectEdges(edgeLoop(tube, around).edges));
    expect(middle).toEqual([0, 0, 0].map((c) => expect.closeTo(c, 9)));
    expect(towards).toEqual([0, 1, 0].map((c) => expect.closeTo(c, 9)));
  });

  it('a corner is seen from the side it points to', () => {
    const [v] = [...cube.vertices()].filter((at) => cube.position(at).every((c) => c > 0));
    expect(squareTo(cube, selectVertices([v])).towards.every((c) => c > 0.2)).toBe(true);
  });
});
