import { describe, expect, it } from 'vitest';
import { cube, run, sizes, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { eulerCharacteristic } from '../../mesh/topology.ts';
import { edgeLoop } from '../../select/loops.ts';
import { describeSelection, emptySelection, selectEdges, selectVertices } from '../../select/selection.ts';
import { cylinder, plane, quadSphere, torus } from '../../shapes/start-shapes.ts';

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
