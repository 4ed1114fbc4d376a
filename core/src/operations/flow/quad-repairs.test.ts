import { describe, expect, it } from 'vitest';
import { run, sizes, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { scaledJacobian } from '../../check/quad-quality.ts';
import { enclosedVolume, isPole } from '../../mesh/topology.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { cylinder, plane, quadSphere } from '../../shapes/start-shapes.ts';
import { operationById } from '../registry.ts';
import { type CageOperation, type Params } from '../operation.ts';

const sheet = (n = 6) => Cage.fromPolygons(plane(n, n, n, n));
/** A sheet with two triangles, some quads apart in one row. */
function withTriangles(): { cage: Cage; first: number } {
  const start = sheet();
  const split = (cage: Cage, x: number) => {
    const corners = [vertexAt(cage, x, 0, 0), vertexAt(cage, x + 1, 0, 1)];
    return run('connect', cage, selectVertices(corners)).cage;
  };
  const cage = split(start, -2);
  return { cage, first: [...cage.faces()].find((f) => cage.faceSize(f) === 3)! };
}
const proposalsAt = (cage: Cage, f: number) => (operationById('triangle-to-quad') as CageOperation).proposals!(cage, selectFaces([f]));
const poles = (cage: Cage) => [...cage.vertices()].filter((v) => isPole(cage, v));

describe('triangle to quad', () => {
  it('lists every way with its cost before it is done, and each keeps its word', () => {
    const { cage, first } = withTriangles();
    const list = proposalsAt(cage, first);
    expect(new Set(list.map(({ label }) => label))).toEqual(
      new Set([
        'Run a loop in',
        'Dissolve towards a triangle beside',
        'Cut and dissolve with a quad beside',
        'Double the loop at a corner',
        'Collapse its strip',
        'Divide everything once'
      ])
    );
    // possible ones come before those that are not, and the first is what it begins with: the other triangle is its neighbour
    expect(list.map((p) => p.params !== undefined)).toEqual(list.map((_, i) => i < list.filter((p) => p.params).length));
    expect(list[0].label).toBe('Dissolve towards a triangle beside');
    expect(sizes(run('triangle-to-quad', cage, selectFaces([first])).cage)).toEqual([0, 36, 0]);
    for (const { params, cost } of list) {
      if (!params) continue;
      const after = run('triangle-to-quad', cage, selectFaces([first]), params);
      expect(after.notes[0]).toContain(cost);
      expect(sizes(after.cage)[0]).toBeLessThan(2);
    }
  });
  it('runs a loop in to the border, dissolves towards the other triangle, collapses the strip', () => {
    const { cage, first } = withTriangles();
    const by = (params: Params) => sizes(run('triangle-to-quad', cage, selectFaces([first]), params).cage);
    expect(by({ way: 'run' })[0]).toBe(1);
    expect(by({ way: 'dissolve' })).toEqual([0, 36, 0]);
    expect(by({ way: 'divide' })).toEqual([0, 4 * 35 + 6, 0]);
  });
  it('doubles the loop from its corner to the border, or to another triangle, which becomes a quad too', () => {
    // collapsing an edge leaves a triangle on either side, tip to tip
    const tip = (cage: Cage, x: number) =>
      run('collapse', cage, selectEdges([cage.findHalfEdge(vertexAt(cage, x, 0, 0), vertexAt(cage, x, 0, 1)) >> 1])).cage;
    const toBorder = tip(sheet(), -1);
    expect(sizes(toBorder)[0]).toBe(2);
    const triangle = [...toBorder.faces()].find((f) => toBorder.faceSize(f) === 3)!;
    const { cage } = run('triangle-to-quad', toBorder, selectFaces([triangle]), { way: 'double' });
    expect(sizes(cage)[0]).toBeLessThan(2);
    expect(sizes(cage)[2]).toBe(0);
    const both = tip(tip(sheet(), -2), 1);
    const first = [...both.faces()].find((f) => both.faceSize(f) === 3 && both.faceVertices(f).some((v) => both.position(v)[0] === -1))!;
    const joined = run('triangle-to-quad', both, selectFaces([first]), { way: 'double' }).cage;
    expect(sizes(both)[0] - sizes(joined)[0]).toBe(2);
  });
  it('says that a way is not possible, and refuses what is no triangle', () => {
    const cap = run('connect', sheet(1), selectVertices([0, 3])).cage;
    const alone = run('delete', cap, selectFaces([[...cap.faces()][0]])).cage;
    const [f] = [...alone.faces()];
    expect(
      proposalsAt(alone, f)
        .filter((p) => !p.params)
        .map((p) => p.label)
    ).toContain('Run a loop in');
    expect(() => run('triangle-to-quad', alone, selectFaces([f]), { way: 'run' })).toThrow(/not possible at this triangle/);
    expect(() => run('triangle-to-quad', sheet(), selectFaces([0]))).toThrow(/None of the picked faces is a triangle/);
  });
});

describe('triangle to quad, with nothing chosen', () => {
  it('takes a way that is possible, and one that leaves no flat corner where there is one', () => {
    // a triangle that a collapsed edge left: no loop can run in from it, and there is no triangle beside
    const cage = run('collapse', sheet(), selectEdges([0])).cage;
    for (const f of [...cage.faces()].filter((g) => cage.faceSize(g) === 3)) {
      const list = proposalsAt(cage, f);
      const { notes } = run('triangle-to-quad', cage, selectFaces([f]));
      expect(notes[0]).toContain(list[0].label);
      if (list.some((p) => p.params && !p.cost.includes('180°') && !p.cost.includes('n-gons'))) expect(list[0].cost).not.toContain('180°');
    }
  });
});

describe('thin out with rims that keep their vertices', () => {
  const along = (cage: Cage) => [...cage.edges()].filter((e) => cage.position(cage.origin[2 * e])[1] !== cage.position(cage.origin[2 * e + 1])[1]);

  it('says how many faces of five corners that makes, or puts transition quads there', () => {
    for (const capped of [true, false]) {
      const tube = Cage.fromPolygons(cylinder(10, 40, 24, 6, capped));
      const plain = run('thin-out', tube, selectEdges([along(tube)[0]]), { rimVertices: true });
      expect([sizes(plain.cage)[2], plain.notes.join(' ')]).toEqual([24, expect.stringContaining('24 faces of five corners at the rims')]);
      for (const [every, rings] of [
        [2, 12],
        [3, 8]
      ]) {
        const { cage } = run('thin-out', tube, selectEdges([along(tube)[0]]), { every, rimVertices: true, transitions: true });
        const lids = capped ? 2 : 0;
        expect([sizes(cage)[0], sizes(cage)[2], cage.faceCount - lids - sizes(cage)[1]]).toEqual([0, 0, 0]);
        // the rows between the rims are thinned, the rims have all their vertices
        expect(cage.faceCount - lids).toBeGreaterThanOrEqual(4 * rings);
        const rim = [...cage.vertices()].filter((v) => Math.abs(cage.position(v)[1]) > 19.9);
        expect(rim).toHaveLength(48);
        expect(enclosedVolume(cage) / enclosedVolume(tube)).toBeGreaterThan(0.85);
        const tubes = [...cage.faces()].filter((f) => cage.faceSize(f) === 4);
        expect(Math.min(...tubes.map((f) => scaledJacobian(cage, f)))).toBeGreaterThan(0.3);
      }
    }
  });

  it('does so along the border of a sheet too', () => {
    const flat = sheet(8);
    const e = flat.findHalfEdge(vertexAt(flat, 0, 0, 0), vertexAt(flat, 0, 0, 1)) >> 1;
    const { cage } = run('thin-out', flat, selectEdges([e]), { every: 2, rimVertices: true, transitions: true });
    expect(sizes(cage)).toEqual([0, cage.faceCount, 0]);
    expect(cage.faceCount).toBeLessThan(64);
  });
});

describe('poles', () => {
  const disturbed = () => {
    const cage = sheet(8);
    const edge = cage.findHalfEdge(vertexAt(cage, 0, 0, 0), vertexAt(cage, 1, 0, 0)) >> 1;
    return run('swing-edge', cage, selectEdges([edge])).cage;
  };
  it('cancels two 3s and two 5s that a swing made', () => {
    const cage = disturbed();
    expect(poles(cage)).toHaveLength(4);
    const { cage: calm, notes } = run('join-poles', cage, selectVertices(poles(cage)));
    expect([poles(calm).length, sizes(calm)[1]]).toEqual([0, calm.faceCount]);
    expect(notes[0]).toContain('4 poles fewer');
  });
  it('says why lone poles stay', () => {
    const ball = Cage.fromPolygons(quadSphere(5, 4));
    expect(() => run('join-poles', ball, selectVertices(poles(ball).slice(0, 2)))).toThrow(/mark the end of a strip/);
    expect(() => run('join-poles', ball, emptySelection())).toThrow(/No pole is picked/);
  });
  it('moves a pole of a pair along an edge and leaves no more poles', () => {
    const cage = disturbed();
    const moved = poles(cage).flatMap((v) =>
      cage.spokes(v).flatMap((h) => {
        const to = cage.target(h);
        if (isPole(cage, to)) return [];
        try {
          return [{ v, to, after: run('move-pole', cage, selectVertices([v, to])).cage }];
        } catch {
          return [];
        }
      })
    );
    expect(moved.length).toBeGreaterThan(0);
    for (const { v, to, after } of moved) {
      expect(after.valence(to)).toBe(cage.valence(v));
      expect([poles(after).length <= 4, sizes(after)[1]]).toEqual([true, after.faceCount]);
    }
    expect(() => run('move-pole', cage, selectVertices([poles(cage)[0]]))).toThrow(/1 vertices are picked/);
    const tube = Cage.fromPolygons(cylinder(2, 5, 8, 3, false));
    expect(() => run('move-pole', tube, selectVertices([8, 9]))).toThrow(/is no pole/);
  });
});
