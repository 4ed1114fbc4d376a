import { describe, expect, it } from 'vitest';
import { cube, run, sizes } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic, genus } from '../../mesh/topology.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { plane, quadSphere } from '../../shapes/start-shapes.ts';

const topFaces = (cage: Cage) => [...cage.faces()].filter((f) => faceNormal(cage, f)[1] > 0.99);

const innerEdge = (cage: Cage) => [...cage.edges()].find((e) => !cage.isBorderEdge(e))!;

describe('extrude', () => {
  it('draws faces out together: walls only round them', () => {
    const start = cube(2);
    const { cage, selection } = run('extrude', start, selectFaces(topFaces(start)), { distance: 4 });
    expect([cage.faceCount, selection.faces.length]).toEqual([24 + 8, 4]);
    expect(enclosedVolume(cage)).toBeCloseTo(1000 + 400, 9);
    expect([genus(cage), borderLoops(cage).length]).toEqual([0, 0]);
  });

  it('each by itself, inward too', () => {
    const start = cube(2);
    const { cage } = run('extrude', start, selectFaces(topFaces(start)), { distance: -2, faces: 'each' });
    expect(cage.faceCount).toBe(24 + 16);
    expect(enclosedVolume(cage)).toBeCloseTo(1000 - 200, 9);
  });

  it('along the normals grows a sphere evenly', () => {
    const start = Cage.fromPolygons(quadSphere(10, 4));
    const half = [...start.faces()].filter((f) => start.faceVertices(f).every((v) => start.position(v)[1] > -1e-9));
    const { cage, selection } = run('extrude', start, selectFaces(half), { distance: 2, along: 'normals' });
    for (const f of selection.faces) for (const v of cage.faceVertices(f)) expect(Math.hypot(...cage.position(v))).toBeGreaterThan(11.9);
  });

  it('an open sheet gets walls along its border', () => {
    const sheet = Cage.fromPolygons(plane(4, 4, 2, 2));
    const { cage } = run('extrude', sheet, selectFaces(sheet.faces()), { distance: 3 });
    expect([cage.faceCount, borderLoops(cage).map((b) => b.length)]).toEqual([12, [8]]);
  });

  it('border edges go on in the plane of their faces, also round a corner', () => {
    const sheet = Cage.fromPolygons(plane(4, 4, 1, 1));
    const { cage } = run('extrude', sheet, selectEdges(sheet.edges()), { distance: 1 });
    const xs = [...cage.vertices()].map((v) => Math.abs(cage.position(v)[0]));
    expect([cage.faceCount, Math.max(...xs)]).toEqual([5, 3]);
    expect([...cage.vertices()].every((v) => cage.position(v)[1] === 0)).toBe(true);
  });

  it('keeps creases at the foot and puts them on top, and takes regions along', () => {
    const start = cube(1);
    const [top] = topFaces(start);
    for (const h of start.loopOf(start.faceEdge[top])) start.layer('crease').data[h >> 1] = 3;
    start.layer('region').data[top] = 2;
    const { cage, selection } = run('extrude', start, selectFaces([top]), { distance: 4 });
    expect([...cage.edges()].filter((e) => cage.value('crease', e) === 3)).toHaveLength(8);
    expect(cage.value('region', selection.faces[0])).toBe(2);
  });

  it('refuses inner edges and closed shells with the reason', () => {
    const sheet = Cage.fromPolygons(plane(4, 4, 2, 2));
    expect(() => run('extrude', sheet, selectEdges([innerEdge(sheet)]))).toThrow(/faces on both sides/);
    expect(() => run('extrude', cube(), selectFaces(cube().faces()))).toThrow(/closed shell/);
    expect(() => run('extrude', sheet, selectVertices([0]))).toThrow(/no face to draw out/);
  });
});

describe('inset and draw face', () => {
  it('insets evenly wide whatever the angles', () => {
    const wedge = Cage.fromPolygons(
      polygonMesh(
        [
          [0, 0, 0],
          [30, 0, 0],
          [26, 14, 0],
          [4, 9, 0]
        ],
        [[0, 1, 2, 3]]
      )
    );
    const { cage, selection } = run('inset', wedge, selectFaces([0]), { width: 1.5 });
    expect(sizes(cage)).toEqual([0, 5, 0]);
    const corners = cage.faceVertices(selection.faces[0]).map((v) => cage.position(v));
    const outer = [
      [0, 0],
      [30, 0],
      [26, 14],
      [4, 9]
    ];
    outer.forEach(([ax, ay], i) => {
      const [bx, by] = outer[(i + 1) % 4];
      const away = (p: number[]) => Math.abs((bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax)) / Math.hypot(bx - ax, by - ay);
      expect(
        corners
          .map(away)
          .sort((a, b) => a - b)
          .slice(0, 2)
          .map((d) => d.toFixed(9))
      ).toEqual(['1.500000000', '1.500000000']);
    });
  });

  it('insets faces together or each, raises them, and says what width fits', () => {
    const start = cube(2);
    const top = selectFaces(topFaces(start));
    expect(run('inset', start, top, { width: 1 }).cage.faceCount).toBe(24 + 8);
    expect(run('inset', start, top, { width: 1, faces: 'each' }).cage.faceCount).toBe(24 + 16);
    expect(enclosedVolume(run('inset', start, top, { width: 1, depth: 2 }).cage)).toBeGreaterThan(1000 + 2 * 64);
    expect(() => run('inset', cube(1), selectFaces([topFaces(cube(1))[0]]), { width: 5 })).toThrow(/Up to 4\.995 mm fits/);
    expect(() => run('inset', start, emptySelection())).toThrow(/No face is picked/);
  });

  it('draws a face over a hole in the order picked, either way round, and refuses what cannot be held', () => {
    const holed = run('delete', Cage.fromPolygons(quadSphere(5, 3)), selectFaces([4])).cage;
    const [border] = borderLoops(holed);
    const rim = border.map((h) => holed.origin[h]);
    for (const order of [rim, [...rim].reverse()]) {
      const { cage } = run('draw-face', holed, selectVertices(order));
      expect([borderLoops(cage).length, eulerCharacteristic(cage), cage.faceCount]).toEqual([0, 2, 54]);
    }
    expect(() => run('draw-face', holed, selectVertices(rim.slice(0, 2)))).toThrow(/Only 2 corners/);
    const inside = [...holed.vertices()].find((v) => !holed.isBorderVertex(v))!;
    expect(() => run('draw-face', holed, selectVertices([...rim.slice(0, 2), inside]))).toThrow(/faces all round/);
  });

  it('draws the first face between lone vertices', () => {
    const cage = Cage.fromPolygons(
      polygonMesh(
        [
          [0, 0, 0],
          [1, 0, 0],
          [0, 1, 0]
        ],
        []
      )
    );
    expect(run('draw-face', cage, selectVertices([0, 1, 2])).cage.faceCount).toBe(1);
  });
});
