import { describe, expect, it } from 'vitest';
import { jitteredTube, noisySphere, offSphere } from '../../../testing/noisy-shapes.ts';
import { run, vertexAt } from '../../../testing/run-operation.ts';
import { limitDistance } from '../../check/limit-distance.ts';
import { cornerAngles, measure } from '../../check/measures.ts';
import { Cage } from '../../mesh/cage.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { edgeLoop } from '../../select/loops.ts';
import { applyOperation } from '../apply.ts';
import { type CageOperation, type Params, type Refusal } from '../operation.ts';
import { OperationRefused } from '../refusal.ts';
import { operationById } from '../registry.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices, type Selection, verticesOf } from '../../select/selection.ts';
import { box, cylinder, plane, quadSphere } from '../../shapes/start-shapes.ts';

/** Why an operation is refused. */
function refusal(id: string, cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  try {
    applyOperation(operationById(id) as CageOperation, cage, selection, params);
  } catch (error) {
    if (error instanceof OperationRefused) return error.refusal;
    throw error;
  }
  return undefined;
}

const edgeBetween = (cage: Cage, a: Triple, b: Triple) => cage.findHalfEdge(vertexAt(cage, ...a), vertexAt(cage, ...b)) >> 1;

describe('relax area', () => {
  it('evens the whole part, or what is picked with its outline still, and tells what came of it', () => {
    const cage = noisySphere(12);
    const whole = run('relax-area', cage, emptySelection(), { passes: 30 });
    expect(whole.notes[0]).toMatch(/^Spread 0\.1\d to 0\.[01]\d; 866 vertices moved, by \d\.\d+ mm at most\. Volume \+0\.00 %\.$/);
    expect(offSphere(whole.cage)).toBeLessThan(0.6 * offSphere(cage));
    const faces = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[1] > 3));
    const outline = new Set(faces.flatMap((f) => cage.faceVertices(f)).filter((v) => cage.spokes(v).some((h) => !faces.includes(cage.face[h]))));
    const part = run('relax-area', cage, selectFaces(faces), {});
    const moved = [...cage.vertices()].filter((v) => part.cage.position(v).some((x, k) => x !== cage.position(v)[k]));
    expect(moved.length).toBeGreaterThan(50);
    for (const v of moved) expect([outline.has(v), cage.position(v)[1] > 3]).toEqual([false, true]);
    const free = run('relax-area', cage, selectFaces(faces), { outline: false });
    expect([...outline].some((v) => free.cage.position(v).some((x, k) => x !== cage.position(v)[k]))).toBe(true);
  });

  it('is refused where all of it is held, or there is no reference to stay on', () => {
    const strip = Cage.fromPolygons(plane(4, 1, 4, 1));
    expect(refusal('relax-area', strip, emptySelection(), {})).toMatchObject({ found: expect.stringContaining('held'), numbers: true });
    expect(refusal('relax-area', noisySphere(4), emptySelection(), { onReference: true })?.found).toMatch(/no reference/);
    expect(() => run('relax-area', strip, emptySelection(), { strength: NaN })).toThrow(/Strength/);
    expect(() => run('relax-area', strip, emptySelection(), { passes: 0 })).toThrow(/Passes/);
  });
});

describe('even spacing', () => {
  const sheet = Cage.fromPolygons(plane(10, 1, 10, 1));
  const row = Array.from({ length: 11 }, (_, i) => vertexAt(sheet, i - 5, 0, -0.5));
  const edges = row.slice(1).map((v, i) => sheet.findHalfEdge(row[i], v) >> 1);
  const lengths = (cage: Cage) => row.slice(1).map((v, i) => Math.hypot(...cage.position(v).map((x, k) => x - cage.position(row[i])[k])));

  it('puts vertices at distances in mm, the last edge taking the rest, and says where that is too much', () => {
    const half = expect.closeTo(0.5, 9);
    const ends = [true, false].map((other) => lengths(run('space-out', sheet, selectEdges(edges), { by: 'mm', length: 0.5, other }).cage));
    expect(ends).toEqual([
      [...Array<unknown>(9).fill(half), expect.closeTo(5.5, 9)],
      [expect.closeTo(5.5, 9), ...Array<unknown>(9).fill(half)]
    ]);
    expect(refusal('space-out', sheet, selectEdges(edges), { by: 'mm', length: 1.2 })).toMatchObject({
      found: 'Edges of 1.2 mm do not fit: the chain is 10.00 mm long.',
      instead: 'Use less than 1.11 mm.'
    });
  });

  it('keeps the smooth surface where asked, while vertices slide in it', () => {
    const ball = noisySphere(8, 0.25, 0);
    const ring = selectEdges(
      edgeLoop(
        ball,
        [...ball.edges()].find((e) => edgeLoop(ball, e).closed)!
      ).edges
    );
    const off = (params: Params) => {
      const { cage } = run('space-out', ball, ring, params);
      const smooth = (c: Cage) => ({ mesh: c.toPolygons(), settings: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const } });
      return limitDistance(smooth(ball), smooth(cage))!;
    };
    expect(off({ keepSurface: true })).toBeLessThan(0.5 * off({ keepSurface: false }));
  });

  it('puts them closer where the chain bends, more so as asked', () => {
    const bent = sheet.clone();
    // a kink of 90 degrees in the middle
    for (let i = 6; i <= 10; i++) bent.positions.set([0, 0, -0.5 - (i - 5)], 3 * row[i]);
    const [slightly, much] = [50, 300].map((bend) => lengths(run('space-out', bent, selectEdges(edges), { by: 'bend', bend }).cage));
    for (const made of [slightly, much]) expect(made[4]).toBeLessThan(made[0]);
    expect(much[4] / much[0]).toBeLessThan(slightly[4] / slightly[0]);
    // a straight one is evenly spaced
    expect(lengths(run('space-out', sheet, selectEdges(edges), { by: 'bend' }).cage)).toEqual(Array(10).fill(expect.closeTo(1, 9)));
  });
});

describe('rows across a strip', () => {
  it('are spaced between its outlines; the shorter family of rows is meant', () => {
    const sheet = Cage.fromPolygons(plane(12, 4, 12, 4));
    const inner = [...sheet.vertices()].filter((v) => !sheet.isBorderVertex(v));
    for (const v of inner) sheet.positions[3 * v + 2] += 0.4;
    const { cage } = run('space-out', sheet, selectFaces([...sheet.faces()]), { along: 'rows' });
    for (const v of inner) expect(cage.position(v)[2]).toBeCloseTo(sheet.position(v)[2] - 0.4, 9);
    for (const v of sheet.vertices()) expect(cage.position(v)[0]).toBeCloseTo(sheet.position(v)[0], 12);
    const thin = selectFaces([...sheet.faces()].filter((f) => sheet.faceVertices(f).every((v) => sheet.position(v)[2] < -0.4)));
    expect(refusal('space-out', sheet, thin, { along: 'rows' })?.found).toBe('No row of edges runs across the picked faces.');
  });
});

describe('average', () => {
  it('brings picked vertices to the mean of their neighbours, as far as asked', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 8, 8));
    const middle = vertexAt(sheet, 0, 0, 0);
    sheet.positions[3 * middle + 1] = 2;
    const high = (amount: number) => run('average', sheet, selectVertices([middle]), { amount }).cage.position(middle)[1];
    expect([high(100), high(25), high(0)]).toEqual([expect.closeTo(0, 12), expect.closeTo(1.5, 12), 2]);
    expect(refusal('average', sheet, emptySelection(), {})?.found).toBe('Nothing is picked.');
  });

  it('keeps the smooth surface where asked: its form moves less', () => {
    const ball = Cage.fromPolygons(quadSphere(10, 6));
    const some = selectVertices([...ball.vertices()].filter((v) => ball.position(v)[1] > 5));
    const sunk = (params: Params) => Math.max(...some.vertices.map((v) => 10 - Math.hypot(...run('average', ball, some, params).cage.position(v))));
    expect(sunk({ keepSurface: true })).toBeLessThan(0.35 * sunk({ keepSurface: false }));
  });
});

describe('even quads', () => {
  it('evens a noisy sphere without leaving it, and squares its corners', () => {
    const cage = noisySphere(12, 0.2, 0);
    const made = run('even-quads', cage, emptySelection(), {});
    const spread = (c: Cage) => measure(c).spacing;
    expect(spread(made.cage)).toBeLessThan(0.6 * spread(cage));
    expect(offSphere(made.cage)).toBeLessThan(1.2 * offSphere(cage) + 0.02);
    const skew = (c: Cage) => [...c.faces()].reduce((sum, f) => sum + Math.max(...cornerAngles(c, f).map((a) => Math.abs(a - 90))), 0);
    expect(skew(made.cage)).toBeLessThan(skew(cage));
    expect(made.notes[0]).toMatch(/^Spread of edge lengths \S+ to \S+, on the surface as it was\.$/);
  });

  it('keeps the outline of picked faces, and edges near the length typed', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 8, 8));
    const inner = selectFaces([...sheet.faces()].filter((f) => sheet.faceVertices(f).every((v) => Math.abs(sheet.position(v)[0]) < 3.5)));
    const picked = new Set(verticesOf(sheet, inner));
    const jittered = sheet.clone();
    const inside = [...picked].filter((v) => !sheet.isBorderVertex(v) && Math.abs(sheet.position(v)[0]) < 2.5);
    for (const v of inside) jittered.positions[3 * v] += 0.3 * Math.sin(7 * v);
    const { cage } = run('even-quads', jittered, inner, { by: 'mm', length: 1 });
    for (const v of sheet.vertices()) if (!inside.includes(v)) expect(cage.position(v)).toEqual(jittered.position(v));
    for (const v of picked) expect(cage.position(v)[1]).toBe(0);
    const off = (c: Cage) => [...inner.faces].flatMap((f) => c.loopOf(c.faceEdge[f])).reduce((s, h) => s + Math.abs(c.edgeLength(h >> 1) - 1), 0);
    expect(off(cage)).toBeLessThan(0.5 * off(jittered));
  });
});

describe('offset', () => {
  it('stops before the sides of a thin plate pass each other, or tells which did', () => {
    const slab = Cage.fromPolygons(box({ x: 10, y: 1, z: 10 }, { x: 5, y: 1, z: 5 }));
    const inside = selectFaces(
      [...slab.faces()].filter((f) => slab.faceVertices(f).every((v) => Math.abs(slab.position(v)[0]) < 4 && Math.abs(slab.position(v)[2]) < 4))
    );
    const stopping = run('offset-area', slab, inside, { distance: -0.8 });
    expect(stopping.notes[0]).toContain('stopped on the way');
    for (const v of verticesOf(slab, inside)) expect(stopping.cage.position(v)[1] * slab.position(v)[1]).toBeGreaterThan(0);
    const passing = run('offset-area', slab, inside, { distance: -0.8, stops: false });
    expect(passing.notes.join()).toMatch(/\d+ vertices went past the opposite side and are picked now/);
    expect(run('offset-area', slab, inside, { distance: -0.3 }).notes).toEqual([]);
  });

  it('lies off by as much as asked for, out and in', () => {
    const ball = Cage.fromPolygons(quadSphere(10, 12));
    for (const distance of [2, -3]) {
      const { cage, notes } = run('offset-area', ball, emptySelection(), { distance });
      for (const v of cage.vertices()) expect(Math.abs(Math.hypot(...cage.position(v)) - 10 - distance)).toBeLessThan(0.02);
      expect(notes).toEqual([]);
    }
    const cube = Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 3, y: 3, z: 3 }));
    const out = run('offset-area', cube, emptySelection(), { distance: 1 }).cage;
    expect(Math.max(...out.positions)).toBeCloseTo(6, 9);
  });

  it('stops where faces would fold over, or tells which did', () => {
    const tube = Cage.fromPolygons(cylinder(2, 10, 12, 5, true));
    const stopping = run('offset-area', tube, emptySelection(), { distance: -3 });
    expect(stopping.notes[0]).toMatch(/^\d+ vertices stopped on the way/);
    for (const v of tube.vertices()) {
      const [x, , z] = stopping.cage.position(v);
      const [a, , b] = tube.position(v);
      // nothing has gone through the axis
      expect(x * a + z * b).toBeGreaterThanOrEqual(-1e-9);
    }
    const folding = run('offset-area', tube, emptySelection(), { distance: -3, stops: false });
    expect(folding.notes[0]).toMatch(/^\d+ faces folded over and are picked now/);
    expect(folding.selection.faces.length).toBeGreaterThan(30);
  });
});

describe('follow rows', () => {
  it('brings jittered rows of a tube back, picked as loops, as faces or as vertices', () => {
    const { cage, moved } = jitteredTube(5, 24, 8, [3, 4]);
    const off = (made: Cage) => Math.max(...moved.map((v) => Math.abs(Math.hypot(made.position(v)[0], made.position(v)[2]) - 5)));
    expect(off(cage)).toBeGreaterThan(0.3);
    const loops = [moved[0], moved[24]].flatMap(
      (v) => edgeLoop(cage, cage.spokes(v).find((h) => moved.includes(cage.target(h)) && sameRow(cage, h))! >> 1).edges
    );
    const faces = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => moved.includes(v)));
    for (const selection of [selectEdges([...new Set(loops)]), selectFaces(faces), selectVertices(moved)]) {
      const { cage: made } = run('follow-rows', cage, selection, {});
      expect(off(made)).toBeLessThan(0.005 * 5);
      // rows at even distances again
      for (const v of moved) expect(Math.abs(made.position(v)[1] - Math.round(made.position(v)[1]))).toBeLessThan(1e-3);
    }
  });

  it('goes as far as asked, and keeps shares of the way where these are to stay', () => {
    const { cage, moved } = jitteredTube(5, 24, 8, [4]);
    const [v] = moved;
    const whole = run('follow-rows', cage, selectVertices(moved), {}).cage.position(v);
    const half = run('follow-rows', cage, selectVertices(moved), { strength: 50 }).cage.position(v);
    half.forEach((x, k) => expect(x).toBeCloseTo((cage.position(v)[k] + whole[k]) / 2, 9));
    const kept = run('follow-rows', cage, selectVertices(moved), { spacing: 'kept' }).cage;
    expect(moved.some((w) => Math.abs(kept.position(w)[1]) > 0.05)).toBe(true);
    for (const w of moved) expect(Math.hypot(kept.position(w)[0], kept.position(w)[2])).toBeCloseTo(5, 6);
  });

  it('tells which row is missing where there is none', () => {
    const tube = Cage.fromPolygons(cylinder(5, 8, 12, 4, false));
    expect(refusal('follow-rows', tube, selectVertices([...tube.vertices()]), {})?.found).toMatch(/going across, a border comes first, at -?\d/);
    const sphere = Cage.fromPolygons(quadSphere(10, 2));
    const pole = [...sphere.vertices()].find((v) => sphere.valence(v) === 3)!;
    expect(refusal('follow-rows', sphere, selectVertices([pole]), {})?.found).toMatch(/a pole comes first/);
    expect(refusal('follow-rows', sphere, emptySelection(), {})?.found).toBe('Nothing is picked.');
    // some can, some cannot
    const { notes } = run(
      'follow-rows',
      sphere,
      selectVertices([pole, ...[...sphere.vertices()].filter((v) => sphere.valence(v) === 4).slice(0, 1)]),
      {}
    );
    expect(notes[0]).toMatch(/^1 vertex stayed: going across, a pole comes first/);
  });
});

describe('shape a chain', () => {
  const sheet = Cage.fromPolygons(plane(12, 6, 6, 3));
  const row = Array.from({ length: 6 }, (_, i) => edgeBetween(sheet, [2 * i - 6, 0, 1], [2 * i - 4, 0, 1]));
  const placesOf = (cage: Cage) => Array.from({ length: 7 }, (_, i) => vertexAt(sheet, 2 * i - 6, 0, 1)).map((v) => cage.position(v));

  it('bows it by mm to either side, as an arc of a circle or a peak, and pulls it straight', () => {
    for (const [towards, k] of [
      ['normal', 1],
      ['side', 2]
    ] as const)
      for (const bow of [2, -2, 6, 9]) {
        const places = placesOf(run('shape-chain', sheet, selectEdges(row), { bow, towards }).cage);
        const base = k === 2 ? 1 : 0;
        expect(Math.abs(places[3][k] - base)).toBeCloseTo(Math.abs(bow), 9);
        // all lie on one circle through both ends
        const high = Math.abs(bow);
        const radius = 36 / (2 * high) + high / 2;
        const side = Math.sign(places[3][k] - base);
        for (const at of places) expect(Math.hypot(at[0], (at[k] - base) * side - (high - radius))).toBeCloseTo(radius, 9);
        expect([places[0], places[6]]).toEqual(placesOf(sheet).filter((_, i) => i % 6 === 0));
      }
    const sides = [3, -3].map((bow) => placesOf(run('shape-chain', sheet, selectEdges(row), { bow }).cage)[3][1]);
    expect(sides[0]).toBeCloseTo(-sides[1], 9);
    const peak = placesOf(run('shape-chain', sheet, selectEdges(row), { bow: 3, roundness: 0 }).cage);
    expect(peak.map(([, y]) => Math.abs(y))).toEqual([0, 1, 2, 3, 2, 1, 0].map((y) => expect.closeTo(y, 9)));
    const bent = run('shape-chain', sheet, selectEdges(row), { bow: 3 }).cage;
    const straight = placesOf(run('shape-chain', bent, selectEdges(row), {}).cage);
    straight.forEach((at, i) => expect(at).toEqual([expect.closeTo(2 * i - 6, 9), expect.closeTo(0, 9), expect.closeTo(1, 9)]));
  });

  it('goes through picked vertices, smoothly or in bows between them, and keeps sharp corners', () => {
    const lifted = sheet.clone();
    const middle = vertexAt(sheet, 0, 0, 1);
    lifted.positions[3 * middle + 1] = 3;
    const picks = { ...selectEdges(row), vertices: [middle] };
    const heights = (params: object) =>
      placesOf(run('shape-chain', lifted, picks, { keeps: 'picks', corners: 180, ...params }).cage).map(([, y]) => y);
    const curve = heights({});
    expect(curve[3]).toBe(3);
    // rounder than two straight lines
    expect(curve[2]).toBeGreaterThan(2.05);
    expect(heights({ smooth: false })[2]).toBeCloseTo(2, 9);
    // the outline of faces keeps its four corners
    const outline = run('shape-chain', sheet, selectFaces([...sheet.faces()]), { bow: 1, towards: 'side' }).cage;
    for (const [x, z] of [
      [-6, -3],
      [6, 3]
    ]) {
      const v = vertexAt(sheet, x, 0, z);
      expect(outline.position(v)).toEqual(sheet.position(v));
    }
    const edge = outline.position(vertexAt(sheet, 0, 0, 3));
    expect(Math.abs(edge[2]) - 3).toBeCloseTo(edge[2] > 3 ? 1 : -1, 9);
  });

  it('is refused where nothing lies between what stays', () => {
    const tube = Cage.fromPolygons(cylinder(5, 8, 12, 4, false));
    const ring = edgeLoop(
      tube,
      [...tube.edges()].find((e) => Math.abs(tube.position(tube.origin[2 * e])[1]) < 1e-9 && Math.abs(tube.position(tube.target(2 * e))[1]) < 1e-9)!
    ).edges;
    expect(refusal('shape-chain', tube, selectEdges(ring), { bow: 1 })?.found).toMatch(/closed loop without corners/);
    const every = { ...selectEdges(row), vertices: [...sheet.vertices()] };
    expect(refusal('shape-chain', sheet, every, { keeps: 'picks', bow: 1 })).toMatchObject({
      found: expect.stringMatching(/All vertices/),
      numbers: true
    });
    expect(refusal('shape-chain', sheet, selectVertices([0]), {})?.found).toMatch(/No chain/);
  });
});

/** Whether a half-edge of the tube runs round it. */
const sameRow = (cage: Cage, h: number) => Math.abs(cage.position(cage.origin[h])[1] - cage.position(cage.target(h))[1]) < 0.9;
