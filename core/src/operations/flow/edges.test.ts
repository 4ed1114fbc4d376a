import { describe, expect, it } from 'vitest';
import { run, sizes } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { selectEdges, selectVertices } from '../../select/selection.ts';
import { plane } from '../../shapes/start-shapes.ts';

const innerEdge = (cage: Cage) => [...cage.edges()].find((e) => !cage.isBorderEdge(e))!;

describe('swing, connect, point on edge', () => {
  it('swings a diagonal to the other one and back', () => {
    const square = Cage.fromPolygons(
      polygonMesh(
        [
          [0, 0, 0],
          [1, 0, 0],
          [1, 1, 0],
          [0, 1, 0]
        ],
        [
          [0, 1, 2],
          [0, 2, 3]
        ]
      )
    );
    const { cage, selection } = run('swing-edge', square, selectEdges([innerEdge(square)]));
    expect(cage.findHalfEdge(1, 3)).toBeGreaterThanOrEqual(0);
    expect(cage.findHalfEdge(0, 2)).toBe(-1);
    const back = run('swing-edge', cage, selection, { way: 'back' }).cage;
    expect(back.findHalfEdge(0, 2)).toBeGreaterThanOrEqual(0);
  });

  it('swings an edge between quads through three places', () => {
    const sheet = Cage.fromPolygons(plane(2, 1, 2, 1));
    const places = new Set<string>();
    let [cage, selection] = [sheet, selectEdges([innerEdge(sheet)])];
    for (let i = 0; i < 3; i++) {
      ({ cage, selection } = run('swing-edge', cage, selection));
      expect(sizes(cage)).toEqual([0, 2, 0]);
      const e = selection.edges[0];
      places.add([cage.origin[2 * e], cage.origin[2 * e + 1]].sort().join(' '));
    }
    expect(places.size).toBe(3);
  });

  it('connects picked corners across every face they share', () => {
    const sheet = Cage.fromPolygons(plane(2, 2, 2, 2));
    const [a, , c] = sheet.faceVertices(0);
    expect(sizes(run('connect', sheet, selectVertices([a, c])).cage)).toEqual([2, 3, 0]);
    const points = run('point-on-edge', sheet, selectEdges(sheet.loopOf(sheet.faceEdge[0]).map((h) => h >> 1)), { fraction: 0.5 });
    const inner = run('connect', points.cage, points.selection);
    expect(inner.selection.edges).toHaveLength(4);
    expect(() => run('connect', sheet, selectVertices(sheet.faceVertices(0).slice(0, 2)))).toThrow(/lie apart/);
    expect(() => run('connect', sheet, selectVertices([a]))).toThrow(/Only one vertex/);
  });
});
