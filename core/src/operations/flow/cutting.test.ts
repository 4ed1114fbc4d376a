import { describe, expect, it } from 'vitest';
import { cube, run, sizes, vertexAt } from '../../../testing/run-operation.ts';
import { measure } from '../../check/measures.ts';
import { Cage } from '../../mesh/cage.ts';
import { faceAreaVector } from '../../mesh/normals.ts';
import { enclosedVolume, eulerCharacteristic } from '../../mesh/topology.ts';
import { emptySelection, inverted, selectFaces, selectVertices } from '../../select/selection.ts';
import { cylinder, plane, quadSphere, torus } from '../../shapes/start-shapes.ts';

const sheet = () => Cage.fromPolygons(plane(4, 4, 4, 4));

const edgeOf = (cage: Cage, a: [number, number, number], b: [number, number, number]) =>
  cage.findHalfEdge(vertexAt(cage, ...a), vertexAt(cage, ...b)) >> 1;

const topOf = (cage: Cage) => {
  const top = Math.max(...[...cage.vertices()].map((v) => cage.position(v)[1]));
  return [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[1] > top - 1e-6));
};

const faceBetween = (cage: Cage) =>
  [...cage.faces()].find((f) => cage.faceVertices(f).every((v) => [0, 1].includes(cage.position(v)[0]) && [0, 1].includes(cage.position(v)[2])))!;

describe('cut with points inside faces and through everything', () => {
  it('turns inside a face where it was clicked', () => {
    const cage = sheet();
    const points = [
      { edge: edgeOf(cage, [0, 0, 0], [1, 0, 0]), fraction: 0.5 },
      { face: faceBetween(cage), at: [0.5, 0, 0.4] },
      { face: faceBetween(cage), at: [0.7, 0, 0.6] },
      { edge: edgeOf(cage, [1, 0, 0], [1, 0, 1]), fraction: 0.5 }
    ];
    const { cage: cutUp, selection } = run('cut', cage, emptySelection(), { points });
    expect([cutUp.faceCount, selection.edges.length]).toEqual([17, 3]);
    expect(cutUp.position(vertexAt(cutUp, 0.7, 0, 0.6))).toEqual([0.7, 0, 0.6]);
    expect(() => run('cut', cage, emptySelection(), { points: points.slice(0, 3) })).toThrow(/inside a face: a cut can turn there, not end/);
  });

  it('goes through everything behind the line, only between its ends', () => {
    const block = cube(4);
    const at = (x: number, y: number) => ({ at: [x, y, 20] });
    const whole = run('cut', block, emptySelection(), { points: [at(-9, 1), at(9, 1)], reach: 'through', eye: [0, 0, -1], parallel: true });
    expect(sizes(whole.cage)).toEqual([0, 96 + 16, 0]);
    expect(enclosedVolume(whole.cage)).toBeCloseTo(1000, 9);
    const half = run('cut', block, emptySelection(), { points: [at(-9, 1), at(0, 1)], reach: 'through', eye: [0, 0, -1], parallel: true });
    // two columns in front, two behind, and the four of the side
    expect(half.cage.faceCount).toBe(96 + 2 + 2 + 4);
    const seen = run('cut', block, emptySelection(), { points: [at(-9, 1), at(9, 1)], reach: 'through', eye: [0, 0, 100] });
    expect(eulerCharacteristic(seen.cage)).toBe(2);
    expect(() => run('cut', block, emptySelection(), { points: [at(20, 1), at(30, 1)], reach: 'through', eye: [0, 0, -1], parallel: true })).toThrow(
      /crosses no face/
    );
  });
});

describe('slice set', () => {
  it('cuts a part by evenly spaced planes, along one axis or all three', () => {
    const { cage } = run('slice-set', cube(), emptySelection(), { along: 'all', count: 3 });
    expect([sizes(cage)[1], cage.faceCount, enclosedVolume(cage)]).toEqual([96, 96, 1000]);
    const ball = Cage.fromPolygons(quadSphere(5, 6));
    const { cage: sliced, selection } = run('slice-set', ball, emptySelection(), { along: 'Y', count: 4, offset: 30 });
    expect(eulerCharacteristic(sliced)).toBe(2);
    const heights = new Set(selection.edges.flatMap((e) => [0, 1].map((k) => sliced.position(sliced.origin[2 * e + k])[1].toFixed(6))));
    expect(heights).toEqual(new Set([-2.4, -0.4, 1.6, 3.6].map((y) => y.toFixed(6))));
  });

  it("cuts only picked faces, in the panel's own frame, and says who got corners", () => {
    const panel = run('rotate', Cage.fromPolygons(plane(6, 3, 1, 1)), selectVertices([0, 1, 2, 3]), { x: 20, y: 35, z: 10 }).cage;
    const { cage } = run('slice-set', panel, emptySelection(), { along: 'panel', count: 5, across: 2 });
    expect(cage.faceCount).toBe(18);
    const lengths = new Set([...cage.edges()].map((e) => cage.edgeLength(e).toFixed(6)));
    expect(lengths).toEqual(new Set(['1.000000']));
    const { notes, cage: some } = run('slice-set', sheet(), selectFaces([5]), { along: 'X', count: 1 });
    expect([some.faceCount, notes.join(' ')]).toEqual([17, expect.stringContaining('2 faces beside got more corners')]);
  });

  it('cuts a face that bends inward only where the plane runs in it', () => {
    const cage = Cage.fromPolygons(plane(3, 3, 3, 3));
    const inner = (f: number) => cage.faceVertices(f).every((v) => Math.abs(cage.position(v)[0]) < 1 && cage.position(v)[2] > 0);
    const u = run('delete', cage, selectFaces([...cage.faces()].filter(inner))).cage;
    const one = run('dissolve', u, selectFaces(u.faces()), { keepVertices: true }).cage;
    expect(one.faceCount).toBe(1);
    const { cage: cutUp } = run('slice-set', one, emptySelection(), { along: 'Z', count: 1, offset: 60 });
    expect(cutUp.faceCount).toBe(3);
  });
});

describe('a cut that runs out at both ends', () => {
  const across = (cage: Cage, a: [number, number, number], b: [number, number, number], fraction = 0.5) => {
    const e = edgeOf(cage, a, b);
    return { edge: e, fraction: cage.position(cage.origin[2 * e]).every((x, k) => Math.abs(x - a[k]) < 1e-9) ? fraction : 1 - fraction };
  };

  it('goes to the border on both sides, or stops at what is no quad, each end by itself', () => {
    const points = [across(sheet(), [0, 0, 0], [0, 0, 1]), across(sheet(), [1, 0, 0], [1, 0, 1])];
    const { cage, notes } = run('cut', sheet(), emptySelection(), { points, runOut: true });
    expect([cage.faceCount, sizes(cage)[2]]).toEqual([20, 0]);
    expect(notes.join(' ')).toContain(
      'Its last end runs out through 1 face and stops at a border. Its first end runs out through 2 faces and stops at a border.'
    );
    const odd = run('connect', sheet(), selectVertices([vertexAt(sheet(), 1, 0, 0), vertexAt(sheet(), 2, 0, 1)])).cage;
    expect(run('cut', odd, emptySelection(), { points, runOut: true }).notes.join(' ')).toContain('Its last end stays at a face that is no quad.');
  });

  it('closes round a tube, and stops in front of itself where it would come back beside itself', () => {
    const ring = Cage.fromPolygons(torus(10, 3, 12, 8));
    const h = ring.findHalfEdge(0, 1);
    const [a, b] = [h, ring.next[ring.next[h]]];
    const at = (k: number, t: number) => ({ edge: k >> 1, fraction: k % 2 === 0 ? t : 1 - t });
    const closed = run('cut', ring, emptySelection(), { points: [at(a, 0.5), at(b, 0.5)], runOut: true });
    expect([closed.notes.join(' ').includes('closes'), closed.cage.faceCount - ring.faceCount, sizes(closed.cage)[2]]).toEqual([
      true,
      closed.selection.edges.length,
      0
    ]);
    const askew = run('cut', ring, emptySelection(), { points: [at(a, 0.3), at(b, 0.5)], runOut: true });
    expect(askew.notes.join(' ')).toContain('stops where it meets itself');
    expect(eulerCharacteristic(askew.cage)).toBe(0);
  });
});

describe('slices along two axes', () => {
  it('have a count each, and refuse the same axis twice', () => {
    const { cage } = run('slice-set', cube(), emptySelection(), { along: 'two', first: 'X', count: 2, second: 'Y', across: 4 });
    // the front and back are cut by both, the other sides by one
    expect(cage.faceCount).toBe(2 * (3 * 5 + 3 + 5));
    expect(() => run('slice-set', cube(), emptySelection(), { along: 'two', first: 'Y', second: 'Y' })).toThrow(/Both axes are Y/);
  });
});

describe('whole cells in a panel', () => {
  const cells = (cage: Cage, size: number, faces = [...cage.faces()]) => run('slice-set', cage, selectFaces(faces), { along: 'cells', size });
  const allUpward = (cage: Cage) => [...cage.faces()].every((f) => faceAreaVector(cage, f)[1] > 0);

  it('clears stray diagonals, and fills a rectangle with even cells right to its border', () => {
    const one = Cage.fromPolygons(plane(60, 30, 1, 1));
    const stray = run('connect', one, selectVertices([0, 3])).cage;
    const { cage, selection, notes } = cells(stray, 5.1);
    expect(sizes(cage)).toEqual([0, 72, 0]);
    expect(selection.faces).toHaveLength(10 * 4);
    expect(notes).toContain('1 edge inside cleared first.');
    expect(new Set([...cage.edges()].map((e) => cage.edgeLength(e).toFixed(6)))).toEqual(new Set(['5.000000']));
  });

  it('takes the nearest whole numbers where the size does not divide the panel, or keeps it with a rim; no pole, no flat corner', () => {
    for (const [x, z, size] of [
      [360, 90, 20],
      [180, 60, 17],
      [100, 63, 9]
    ]) {
      for (const fit of ['nearest', 'keep']) {
        const panel = Cage.fromPolygons(plane(x, z, 1, 1));
        const { cage, selection } = run('slice-set', panel, emptySelection(), { along: 'cells', size, fit });
        const { corners, poles, quads } = measure(cage);
        expect([poles, quads, corners.least > 89, corners.most < 91]).toEqual([[], cage.faceCount, true, true]);
        const sides = selection.faces.flatMap((f) => cage.loopOf(cage.faceEdge[f]).map((h) => cage.edgeLength(h >> 1)));
        if (fit === 'keep') for (const side of sides) expect(side).toBeCloseTo(size, 9);
        else expect(cage.faceCount).toBe(Math.round(x / size) * Math.round(z / size));
      }
    }
  });

  it('joins the cells to a border that bends, round or inward, with quads only', () => {
    const disc = Cage.fromPolygons(cylinder(20, 10, 24, 1, true));
    const cap = [...disc.faces()].find((f) => disc.faceSize(f) > 4 && faceAreaVector(disc, f)[1] > 0)!;
    const round = cells(disc, 3.1, [cap]);
    expect([
      eulerCharacteristic(round.cage),
      allUpward(run('delete', round.cage, inverted(round.cage, selectFaces(topOf(round.cage)))).cage)
    ]).toEqual([2, true]);
    expect(topOf(round.cage).every((f) => round.cage.faceSize(f) === 4)).toBe(true);
    const bent = run('delete', sheet(), selectFaces([0, 1, 4, 5])).cage;
    for (const size of [0.2, 0.23, 0.31, 0.5]) {
      const { cage } = cells(bent, size);
      expect([sizes(cage)[1], eulerCharacteristic(cage), allUpward(cage)]).toEqual([cage.faceCount, 1, true]);
    }
  });

  it('refuses what is not flat, has a hole, or is too small, with the reason', () => {
    const holed = run('delete', sheet(), selectFaces([5])).cage;
    expect(() => cells(holed, 0.2)).toThrow(/has a hole/);
    expect(() => cells(cube(), 2)).toThrow(/close on themselves/);
    expect(() => cells(sheet(), 0.005)).toThrow(/640,000 in number.*Type 0.0080 mm or more/);
    expect(() => cells(sheet(), 3)).toThrow(/No whole cell of 3 mm fits.*1\.5 mm/);
    expect(() => cells(Cage.fromPolygons(quadSphere(5, 4)), 0.2, [0, 1, 2, 3, 4, 5])).toThrow(/not flat/);
  });
});
