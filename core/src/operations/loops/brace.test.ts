import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../../testing/random-meshes.ts';
import { cube, run, sizes, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { eulerCharacteristic, isPole } from '../../mesh/topology.ts';
import { dot } from '../../numeric/vectors.ts';
import { emptySelection, selectEdges, selectFaces } from '../../select/selection.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';
import { OperationRefused } from '../refusal.ts';

const sheet = (n = 6) => Cage.fromPolygons(plane(n, n, n, n));

const edgeAt = (cage: Cage, a: [number, number, number], b: [number, number, number]) =>
  cage.findHalfEdge(vertexAt(cage, ...a), vertexAt(cage, ...b)) >> 1;

/** Faces as sets of places, to compare cages whose numbers differ. */
const facesByPlace = (cage: Cage) =>
  [...cage.faces()]
    .map((f) =>
      cage
        .faceVertices(f)
        .map((v) => cage.position(v).map((x) => (Math.abs(x) < 1e-9 ? 0 : x).toFixed(6)))
        .sort()
        .join(' | ')
    )
    .sort();

const noneTurned = (cage: Cage, up: number) => [...cage.faces()].every((f) => dot(faceNormal(cage, f), [0, 1, 0]) * up > 0.99);

describe('brace', () => {
  it('crosses loops squarely where every edge is braced: a cube gets nine quads a side', () => {
    const cage = cube();
    const { cage: braced, notes } = run('brace', cage, selectEdges(cage.edges()), { width: 1 });
    expect([sizes(braced), eulerCharacteristic(braced)]).toEqual([[0, 54, 0], 2]);
    expect([...braced.vertices()].filter((v) => isPole(braced, v)).map((v) => braced.valence(v))).toEqual(Array(8).fill(3));
    const coordinates = new Set([...braced.vertices()].flatMap((v) => braced.position(v).map((x) => x.toFixed(6))));
    expect(coordinates).toEqual(new Set(['-5.000000', '-4.000000', '4.000000', '5.000000']));
    expect(notes).toEqual(['12 edges braced at 1 mm; 48 vertices.']);
  });

  it('goes round corners with mitres, and past them with one loop on each side', () => {
    const cage = cube();
    const top = [...cage.faces()].find((f) => faceNormal(cage, f)[1] > 0.9)!;
    const { cage: braced, notes } = run('brace', cage, selectFaces([top]), { width: 1 });
    // four strips and an inner quad above, a strip on every side
    expect(sizes(braced)).toEqual([0, 5 + 8 + 1, 0]);
    expect(notes.join(' ')).toContain('4 bent edges at the corners of the brace are not braced');
  });

  it('turns round the ends of a chain inside the faces there, with quads only and poles that are told', () => {
    const cage = sheet();
    for (const edges of [
      [edgeAt(cage, [0, 0, 0], [1, 0, 0])],
      [edgeAt(cage, [-1, 0, 0], [0, 0, 0]), edgeAt(cage, [0, 0, 0], [1, 0, 0])],
      [edgeAt(cage, [-1, 0, 0], [0, 0, 0]), edgeAt(cage, [0, 0, 0], [0, 0, 1])],
      [edgeAt(cage, [-1, 0, 0], [0, 0, 0]), edgeAt(cage, [0, 0, 0], [1, 0, 0]), edgeAt(cage, [0, 0, 0], [0, 0, 1])],
      [-3, -2, -1, 0, 1, 2].map((x) => edgeAt(cage, [x, 0, 0], [x + 1, 0, 0]))
    ]) {
      const { cage: braced } = run('brace', cage, selectEdges(edges), { width: 0.2 });
      expect([sizes(braced)[1], noneTurned(braced, 1), eulerCharacteristic(braced)]).toEqual([braced.faceCount, true, 1]);
      for (const e of edges) expect([cage.origin[2 * e], cage.origin[2 * e + 1]].every((v) => braced.hasVertex(v))).toBe(true);
    }
  });

  it('braces one side, two loops a side, or whole loops, and says where there is no room', () => {
    const cage = sheet();
    const edges = [-3, -2, -1, 0, 1, 2].map((x) => edgeAt(cage, [x, 0, 0], [x + 1, 0, 0]));
    const count = (params: object, some = edges) => run('brace', cage, selectEdges(some), { width: 0.2, ...params }).cage.faceCount - 36;
    expect([count({}), count({ sides: 'left' }), count({ loops: 2 })]).toEqual([12, 6, 24]);
    expect(count({ span: 'whole' }, edges.slice(2, 3))).toBe(12);
    const { notes } = run('brace', cage, selectEdges([edges[2], edgeAt(cage, [0, 0, 1], [1, 0, 1])]), { width: 0.7 });
    expect(notes.join(' ')).toMatch(/At \d+ places there is no room/);
    expect(() => run('brace', cage, emptySelection())).toThrow(/No edge is picked/);
  });

  it('braces the rim of a cap of many corners', () => {
    const tube = Cage.fromPolygons(cylinder(5, 10, 12, 2, true));
    const cap = [...tube.faces()].find((f) => tube.faceSize(f) === 12)!;
    const { cage: braced } = run('brace', tube, selectFaces([cap]), { width: 0.5 });
    expect([eulerCharacteristic(braced), braced.faceCount - tube.faceCount]).toEqual([2, 24]);
  });

  it('keeps any cage valid, makes no triangle of quads, and can be taken out to what was there before', () => {
    fc.assert(
      fc.property(anyCage, fc.nat(), fc.integer({ min: 1, max: 6 }), (cage, at, many) => {
        const all = [...cage.edges()].filter((e) => cage.faceCount > 0 && !cage.isBorderEdge(e));
        if (all.length === 0) return;
        const edges = [...new Set(Array.from({ length: many }, (_, i) => all[(at + i * i * 7) % all.length]))];
        const tooSmall = (c: Cage) => sizes(c)[0];
        let result: Cage;
        try {
          result = run('brace', cage, selectEdges(edges), { width: 0.05 }).cage;
        } catch (error) {
          if (error instanceof OperationRefused) return;
          throw error;
        }
        expect(eulerCharacteristic(result)).toBe(eulerCharacteristic(cage));
        expect(tooSmall(result)).toBeLessThanOrEqual(tooSmall(cage));
        const back = run('take-out-brace', result, emptySelection()).cage;
        expect(facesByPlace(back)).toEqual(facesByPlace(cage));
      }),
      { numRuns: 150 }
    );
  });
});

describe('braces later', () => {
  const braced = () => {
    const cage = sheet();
    const edges = [-2, -1, 0, 1].map((x) => edgeAt(cage, [x, 0, 0], [x + 1, 0, 0]));
    return run('brace', cage, selectEdges(edges), { width: 0.2 }).cage;
  };
  const heights = (cage: Cage) =>
    new Set([...cage.vertices()].map((v) => Math.abs(cage.position(v)[2]).toFixed(4)).filter((z) => Number(z) % 1 !== 0));

  it('move to another width with one number, also after a loop was cut across them', () => {
    const cage = braced();
    expect(heights(run('brace-width', cage, emptySelection(), { width: 0.35 }).cage)).toEqual(new Set(['0.3500']));
    const across = run('add-loop', cage, selectEdges([edgeAt(cage, [0, 0, 0], [1, 0, 0])])).cage;
    const wider = run('brace-width', across, emptySelection(), { width: 0.3 });
    expect(heights(wider.cage)).toEqual(new Set(['0.3000']));
    expect(() => run('brace-width', cage, emptySelection(), { width: 1.5 })).toThrow(/would turn over/);
    expect(() => run('brace-width', sheet(), emptySelection())).toThrow(/None of the edges has support loops/);
  });

  it('are taken out after their edge was moved and cut, and leave the cut', () => {
    const cage = braced();
    const across = run('add-loop', cage, selectEdges([edgeAt(cage, [0, 0, 0], [1, 0, 0])])).cage;
    const moved = run('move', across, selectEdges([edgeAt(across, [0, 0, 0], [0.5, 0, 0])]), { y: 1 }).cage;
    const without = run('take-out-brace', moved, emptySelection()).cage;
    const expected = run('add-loop', sheet(), selectEdges([edgeAt(sheet(), [0, 0, 0], [1, 0, 0])])).cage;
    expect([without.faceCount, sizes(without)[1], without.vertexCount]).toEqual([expected.faceCount, expected.faceCount, expected.vertexCount]);
  });

  it('take part of them only, where edges are picked', () => {
    const cage = sheet();
    const apart = [edgeAt(cage, [-2, 0, 0], [-1, 0, 0]), edgeAt(cage, [1, 0, 1], [2, 0, 1])];
    const both = run('brace', cage, selectEdges(apart), { width: 0.1 }).cage;
    const one = run('take-out-brace', both, selectEdges([edgeAt(both, [1, 0, 1], [2, 0, 1])])).cage;
    expect(facesByPlace(one)).toEqual(facesByPlace(run('brace', cage, selectEdges(apart.slice(0, 1)), { width: 0.1 }).cage));
  });
});
