import { describe, expect, it } from 'vitest';
import { cube, run, sizes, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic, genus } from '../../mesh/topology.ts';
import { edgeLoop } from '../../select/loops.ts';
import { describeSelection, emptySelection, selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { cylinder, plane, quadSphere, torus } from '../../shapes/start-shapes.ts';

const topFaces = (cage: Cage) => [...cage.faces()].filter((f) => faceNormal(cage, f)[1] > 0.99);
const edgeBetween = (cage: Cage, a: number, b: number) => cage.findHalfEdge(a, b) >> 1;
const innerEdge = (cage: Cage) => [...cage.edges()].find((e) => !cage.isBorderEdge(e))!;

describe('add loop', () => {
  it('runs all round a torus and leaves quads', () => {
    const { cage, selection } = run('add-loop', Cage.fromPolygons(torus(4, 1, 10, 6)), selectEdges([0]), { fraction: 0.3 });
    expect(sizes(cage)).toEqual([0, cage.faceCount, 0]);
    expect(eulerCharacteristic(cage)).toBe(0);
    expect(describeSelection(cage, selection)).toContain('closed loop');
  });

  it("puts several loops evenly, and one at a distance in mm from the edge's start", () => {
    const e = edgeBetween(cube(), 0, cube().target(cube().spokes(0)[0]));
    const { cage } = run('add-loop', cube(), selectEdges([e]), { count: 3 });
    expect([cage.faceCount, cage.vertexCount]).toEqual([18, 20]);
    const one = run('add-loop', cube(), selectEdges([0]), { measure: 'mm', distance: 2 }).cage;
    const lengths = new Set([...one.edges()].map((k) => one.edgeLength(k).toFixed(6)));
    expect(lengths).toEqual(new Set(['2.000000', '8.000000', '10.000000']));
  });

  it('goes beside a picked loop on both sides, at a distance from it', () => {
    const tube = Cage.fromPolygons(cylinder(5, 30, 12, 3, false));
    const rung = edgeLoop(tube, edgeBetween(tube, 12, 13)).edges;
    const { cage, selection } = run('add-loop', tube, selectEdges(rung), { where: 'both', measure: 'mm', distance: 1.5 });
    expect([cage.faceCount, selection.edges.length]).toEqual([60, 24]);
    const heights = new Set(selection.edges.map((e) => cage.position(cage.origin[2 * e])[1].toFixed(6)));
    expect(heights).toEqual(new Set(['-6.500000', '-3.500000']));
    expect(run('add-loop', tube, selectEdges(rung), { where: 'left' }).cage.faceCount).toBe(48);
  });

  it('this span on one edge ends at a corner on both sides of it', () => {
    const sheet = Cage.fromPolygons(plane(4, 4, 4, 4));
    const edge = (z: number) => selectEdges([sheet.findHalfEdge(vertexAt(sheet, 0, 0, z), vertexAt(sheet, 0, 0, z + 1)) >> 1]);
    const { cage, selection, notes } = run('add-loop', sheet, edge(0), { span: 'this' });
    expect([sizes(cage), selection.edges.length]).toEqual([[2, 16, 0], 2]);
    expect(notes.join(' ')).toContain('2 ends led to a corner');
  });

  it('this span ends at a corner of the next face, with one triangle an end', () => {
    const sheet = Cage.fromPolygons(plane(5, 1, 5, 1));
    const inner = [...sheet.edges()].filter((e) => !sheet.isBorderEdge(e));
    const { cage, notes } = run('add-loop', sheet, selectEdges(inner.slice(1, 3)), { span: 'this' });
    expect(sizes(cage)).toEqual([2, 6, 0]);
    expect(notes.join(' ')).toContain('2 ends led to a corner');
  });

  it('crosses itself where its ring does', () => {
    const sheet = Cage.fromPolygons(quadSphere(1, 2));
    for (const e of sheet.edges()) expect(sizes(run('add-loop', sheet, selectEdges([e])).cage)[2]).toBe(0);
  });

  it('says why no loop can run', () => {
    const fan = Cage.fromPolygons(
      polygonMesh(
        [
          [0, 0, 0],
          [1, 0, 0],
          [0, 1, 0],
          [-1, 0, 0]
        ],
        [
          [0, 1, 2],
          [0, 2, 3]
        ]
      )
    );
    expect(() => run('add-loop', fan, selectEdges([innerEdge(fan)]))).toThrow(/No quad lies beside/);
    expect(() => run('add-loop', fan, emptySelection())).toThrow(/No edge is picked/);
  });
});

describe('slide', () => {
  const tube = () => Cage.fromPolygons(cylinder(5, 30, 12, 3, false));
  const ring = (cage: Cage) => edgeLoop(cage, edgeBetween(cage, 12, 13)).edges;
  const heightsOf = (cage: Cage) => new Set([...Array(12).keys()].map((i) => cage.position(12 + i)[1].toFixed(6)));

  it('moves a loop by a fraction or a distance, both ways', () => {
    const [up, down] = [0.5, -0.5].map((fraction) => [...heightsOf(run('slide', tube(), selectEdges(ring(tube())), { fraction }).cage)]);
    expect([up, down].flat().sort()).toEqual(['-10.000000', '0.000000']);
    const [byMm] = heightsOf(run('slide', tube(), selectEdges(ring(tube())), { measure: 'mm', distance: 2.5 }).cage);
    expect(Math.abs(Number(byMm) + 5)).toBeCloseTo(2.5, 6);
  });

  it('even puts every vertex at the same share between both sides', () => {
    const bent = run('move', tube(), selectVertices([12, 13, 14]), { y: 3 }).cage;
    expect(heightsOf(bent).size).toBe(2);
    expect(heightsOf(run('slide', bent, selectEdges(ring(bent)), { keep: 'even', fraction: 0 }).cage)).toEqual(new Set(['-5.000000']));
  });

  it('stops at the loop beside and says so', () => {
    const { notes, cage } = run('slide', tube(), selectEdges(ring(tube())), { measure: 'mm', distance: 99 });
    expect(notes.join(' ')).toContain('12 vertices stopped');
    expect([...heightsOf(cage)][0]).toMatch(/^(-15|5)\.0/);
  });
});

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

describe('collapse and weld', () => {
  it('pulls an edge of a sphere together', () => {
    const start = Cage.fromPolygons(quadSphere(5, 3));
    const { cage, selection } = run('collapse', start, selectEdges([0]));
    expect([cage.vertexCount, cage.faceCount, sizes(cage)[0]]).toEqual([start.vertexCount - 1, 54, 2]);
    expect(eulerCharacteristic(cage)).toBe(2);
    expect(selection.vertices).toHaveLength(1);
  });

  it('pulls a whole loop together to close a tube, and a face to a point', () => {
    const tube = Cage.fromPolygons(cylinder(5, 30, 8, 3, false));
    const { cage } = run('collapse', tube, selectEdges(edgeLoop(tube, edgeBetween(tube, 0, 1)).edges));
    expect([borderLoops(cage).length, sizes(cage)[0]]).toEqual([1, 8]);
    const face = run('collapse', Cage.fromPolygons(quadSphere(5, 3)), selectFaces([4]));
    expect([face.cage.faceCount, eulerCharacteristic(face.cage)]).toEqual([53, 2]);
  });

  it('welds to the last, the first or the middle', () => {
    const sheet = Cage.fromPolygons(plane(2, 2, 2, 2));
    const [a, b] = sheet.faceVertices(0);
    const at = (to: string) => {
      const { cage, selection } = run('weld', sheet, selectVertices([a, b]), { to });
      return cage.position(selection.vertices[0]);
    };
    expect(at('last')).toEqual(sheet.position(b));
    expect(at('first')).toEqual(sheet.position(a));
    expect(at('middle')).toEqual([0, 1, 2].map((k) => (sheet.position(a)[k] + sheet.position(b)[k]) / 2));
  });

  it('welds two halves within a distance, only what is picked', () => {
    const left = plane(2, 2, 1, 1);
    const right = plane(2, 2, 1, 1);
    const points = [left, right].flatMap((m, i) =>
      Array.from({ length: 4 }, (_, v) => [m.positions[3 * v] + 2.04 * i, m.positions[3 * v + 1], m.positions[3 * v + 2]])
    );
    const cage = Cage.fromPolygons(polygonMesh(points, [[...left.faceVertices], [...right.faceVertices].map((v) => v + 4)]));
    const all = selectVertices(cage.vertices());
    expect(run('weld', cage, all, { to: 'distance', distance: 0.05 }).cage.vertexCount).toBe(6);
    expect(() => run('weld', cage, all, { to: 'distance', distance: 0.01 })).toThrow(/nearest two are 0\.040 mm apart/);
    const near = [...cage.vertices()].filter((v) => cage.position(v)[2] > 0);
    expect(() => run('weld', cage, selectVertices(near), { to: 'distance', distance: 0.05 })).toThrow(/touch in a corner only/);
  });
});

describe('cut', () => {
  const sheet = () => Cage.fromPolygons(plane(4, 4, 4, 4));
  const middle = (cage: Cage, f: number, i: number) => ({ edge: cage.loopOf(cage.faceEdge[f])[i] >> 1, fraction: 0.5 });

  it('goes from edge to edge and runs out straight on to both borders', () => {
    const cage = sheet();
    const points = [middle(cage, 5, 0), middle(cage, 5, 2)];
    expect(run('cut', cage, emptySelection(), { points }).cage.faceCount).toBe(17);
    const { cage: through, selection } = run('cut', cage, emptySelection(), { points, runOut: true });
    expect([through.faceCount, sizes(through)[1], selection.edges.length]).toEqual([20, 20, 4]);
    expect(describeSelection(through, selection)).toContain('open chain');
  });

  it('keeps its distance from the same side all the way', () => {
    const cage = sheet();
    const at = (i: number, t: number) => {
      const h = cage.loopOf(cage.faceEdge[5])[i];
      return { edge: h >> 1, fraction: h % 2 === 0 ? t : 1 - t };
    };
    const { cage: through, selection } = run('cut', cage, emptySelection(), { points: [at(0, 0.2), at(2, 0.8)], runOut: true });
    const along = [0, 1, 2].map(
      (k) =>
        new Set(selection.edges.flatMap((e) => [through.origin[2 * e], through.origin[2 * e + 1]]).map((v) => through.position(v)[k].toFixed(6))).size
    );
    expect(along.sort()).toEqual([1, 1, 5]);
  });

  it('uses vertices, edges that are there, and several points on one edge', () => {
    const cage = sheet();
    const [a, b, c] = cage.faceVertices(0);
    expect(sizes(run('cut', cage, emptySelection(), { points: [{ vertex: a }, { vertex: c }] }).cage)[0]).toBe(2);
    expect(run('cut', cage, emptySelection(), { points: [{ vertex: a }, { vertex: b }] }).cage.faceCount).toBe(16);
    const e = cage.loopOf(cage.faceEdge[5])[0] >> 1;
    const zigzag = run('cut', cage, emptySelection(), {
      points: [{ edge: e, fraction: 0.75 }, middle(cage, 5, 2), { edge: e, fraction: 0.25 }]
    }).cage;
    expect(zigzag.faceCount).toBe(18);
  });

  it('names the points that share no face, and asks for more', () => {
    const cage = sheet();
    expect(() => run('cut', cage, emptySelection(), { points: [middle(cage, 0, 0), middle(cage, 15, 2)] })).toThrow(
      /Points 1 and 2 lie on no common face/
    );
    expect(() => run('cut', cage, emptySelection(), { points: [] })).toThrow(/no points yet/);
    expect(() => run('cut', cage, emptySelection(), { points: [{ edge: 0, fraction: 7 }] })).toThrow(/points\[0\]/);
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
