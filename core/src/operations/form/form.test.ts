import { describe, expect, it } from 'vitest';
import { cube, run, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { faceAreaVector } from '../../mesh/normals.ts';
import { enclosedVolume } from '../../mesh/topology.ts';
import { edgeLoop } from '../../select/loops.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices, verticesOf } from '../../select/selection.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';

const sheet = (n = 6) => Cage.fromPolygons(plane(n, n, n, n));
const tube = () => Cage.fromPolygons(cylinder(5, 40, 16, 20, true));
const radii = (cage: Cage, vertices: number[]) => vertices.map((v) => Math.hypot(cage.position(v)[0], cage.position(v)[2]));
const middleFaces = (cage: Cage) =>
  [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => Math.max(...cage.position(v).map(Math.abs)) < 1.01));

describe('make round', () => {
  it('puts the outline of faces on a circle, evenly, and spreads what is inside', () => {
    const cage = sheet();
    const faces = middleFaces(cage);
    expect(faces).toHaveLength(4);
    const { cage: round, notes } = run('make-round', cage, selectFaces(faces), { size: 'typed', radius: 1.2 });
    const ring = verticesOf(cage, selectFaces(faces)).filter((v) => v !== vertexAt(cage, 0, 0, 0));
    for (const r of radii(round, ring)) expect(r).toBeCloseTo(1.2, 9);
    expect(radii(round, [vertexAt(cage, 0, 0, 0)])[0]).toBeCloseTo(0, 9);
    expect(notes[0]).toContain('8 vertices on a circle of radius 1.200 mm');
    const corner = round.position(vertexAt(cage, 1, 0, 1));
    expect(Math.abs(corner[0])).toBeCloseTo(1.2 * Math.SQRT1_2, 9);
    const turned = run('make-round', cage, selectFaces(faces), { phase: 90 }).cage;
    expect(Math.hypot(...turned.position(vertexAt(cage, 1, 0, 1)))).toBeCloseTo(Math.hypot(...turned.position(vertexAt(cage, 0, 0, 1))), 9);
  });

  it('makes an arc of an open chain whose ends lie on the circle, and refuses a line', () => {
    const cage = sheet();
    const chain = [...cage.edges()].filter((e) => [0, 1].every((k) => Math.abs(cage.position(cage.origin[2 * e + k])[0]) < 1e-9)).slice(0, 3);
    expect(() => run('make-round', cage, selectEdges(chain))).toThrow(/lie on a line/);
    cage.positions[3 * vertexAt(cage, 0, 0, chainMiddle(cage, chain)) + 1] += 0.5;
    expect(run('make-round', cage, selectEdges(chain)).notes[0]).toContain('vertices on an arc of radius');
  });
});
const chainMiddle = (cage: Cage, chain: number[]) => cage.position(cage.origin[2 * chain[1]])[2];

describe('flatten, align, space out', () => {
  it('flattens onto the best plane, each group in its own, and across an axis', () => {
    const cage = cube(2);
    const top = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[1] > 4.9));
    cage.positions[3 * vertexAt(cage, 0, 5, 0) + 1] += 3;
    const fitted = run('flatten', cage, selectFaces(top)).cage;
    expect(new Set(verticesOf(cage, selectFaces(top)).map((v) => fitted.position(v)[1].toFixed(9))).size).toBe(1);
    const across = run('flatten', cage, selectFaces(top), { onto: 'X', amount: 50 }).cage;
    expect(across.position(vertexAt(cage, 5, 5, 5))[0]).toBeCloseTo(2.5, 9);
  });

  it('centres a part exactly, and gives vertices one coordinate', () => {
    const moved = run('move', cube(), selectVertices(cube().vertices()), { x: 7, y: -3, z: 0.5 }).cage;
    const centred = run('align', moved, selectVertices(moved.vertices()), { axis: 'all', to: 'value', value: 0, how: 'whole' }).cage;
    expect(centred.positions).toEqual(cube().positions);
    const flat = run('align', cube(), selectVertices([0, 1, 2, 3, 4, 5, 6, 7]), { axis: 'Y', to: 'highest' }).cage;
    expect(new Set([...flat.vertices()].map((v) => flat.position(v)[1]))).toEqual(new Set([5]));
  });

  it('spaces a loop out along its own way, a chain on a line', () => {
    const cage = tube();
    const loop = edgeLoop(cage, cage.findHalfEdge(16, 17) >> 1).edges;
    const uneven = run('move', cage, selectVertices([17]), { x: -0.8, z: 0.9 }).cage;
    const { cage: even } = run('space-out', uneven, selectEdges(loop));
    const lengths = loop.map((e) => even.edgeLength(e));
    const spread = (list: number[]) => Math.max(...list) / Math.min(...list);
    expect(spread(lengths)).toBeLessThan(1.05);
    expect(spread(loop.map((e) => uneven.edgeLength(e)))).toBeGreaterThan(1.3);
    expect(() => run('space-out', cage, selectEdges(loop), { along: 'line' })).toThrow(/no ends/);
  });
});

describe('twist, taper, bend, inflate, along a curve', () => {
  const low = vertexAt(tube(), 5, -20, 0);
  const high = vertexAt(tube(), 5, 20, 0);

  it('twists between the ends of a stretch and nowhere else', () => {
    const { cage } = run('twist', tube(), emptySelection(), { angle: 90, from: 25, to: 75 });
    expect(cage.position(low)).toEqual(tube().position(low));
    const [x, , z] = cage.position(high);
    expect([Math.hypot(x, z), Math.abs(z)].map((n) => n.toFixed(9))).toEqual(['5.000000000', '5.000000000']);
    expect(() => run('twist', tube(), emptySelection(), { from: 80, to: 20 })).toThrow(/begins at 80 %/);
  });

  it('tapers the far end to a share of its width', () => {
    const { cage } = run('taper', tube(), emptySelection(), { size: 40 });
    expect(radii(cage, [low, high])[0]).toBeCloseTo(5, 9);
    expect(radii(cage, [low, high])[1]).toBeCloseTo(2, 9);
  });

  it('bends into a quarter ring that keeps the length of its middle line', () => {
    const { cage } = run('bend', tube(), emptySelection(), { angle: 90 });
    // the ring's radius is 40 / (pi / 2), and its volume by Pappus that of the straight one
    expect(enclosedVolume(cage) / enclosedVolume(tube())).toBeCloseTo(1, 2);
    const top = [...tube().vertices()].filter((v) => tube().position(v)[1] > 19.9);
    const radius = 40 / (Math.PI / 2);
    const ends = new Set(top.map((v) => cage.position(v)[1].toFixed(6)));
    expect(ends.size).toBeGreaterThan(4);
    const heights = top.map((v) => cage.position(v)[1]);
    expect((Math.max(...heights) + Math.min(...heights)) / 2).toBeCloseTo(-20 + radius, 6);
  });

  it("works along a part's own length where that lies askew", () => {
    const askew = run('rotate', tube(), selectVertices(tube().vertices()), { x: 30, z: 40 }).cage;
    const { cage } = run('taper', askew, emptySelection(), { size: 40, axis: 'own' });
    const across = (v: number) => {
      const rim = [...tube().vertices()].filter((w) => Math.abs(tube().position(w)[1] - tube().position(v)[1]) < 1e-6);
      const middle = [0, 1, 2].map((k) => rim.reduce((sum, w) => sum + cage.position(w)[k] / rim.length, 0));
      return Math.hypot(...cage.position(v).map((x, k) => x - middle[k]));
    };
    expect([across(low), across(high)].map((r) => r.toFixed(6)).sort()).toEqual(['2.000000', '5.000000']);
  });

  it('inflates by a distance in mm, and towards a ball', () => {
    const { cage } = run('inflate', cube(), emptySelection(), { distance: 1 });
    expect(enclosedVolume(cage)).toBeCloseTo(12 ** 3, 9);
    const ball = run('inflate', cube(4), emptySelection(), { distance: 0, ball: 100 }).cage;
    expect(new Set([...ball.vertices()].map((v) => Math.hypot(...ball.position(v)).toFixed(9))).size).toBe(1);
  });

  it('lays a part along a drawn curve with its cross-sections square to it', () => {
    const points = [{ at: [0, 0, 0] }, { at: [30, 10, 0] }, { at: [60, 0, 20] }, { at: [90, 0, 20] }];
    const { cage, notes } = run('along-curve', tube(), emptySelection(), { points });
    const start = [...tube().vertices()].filter((v) => tube().position(v)[1] < -19.9);
    const middle = [0, 1, 2].map((k) => start.reduce((sum, v) => sum + cage.position(v)[k], 0) / start.length);
    middle.forEach((x) => expect(x).toBeCloseTo(0, 6));
    for (const v of start) expect(Math.hypot(...cage.position(v))).toBeCloseTo(radii(tube(), [v])[0], 6);
    expect(notes[0]).toMatch(/^The curve is 100.0 mm long; what lies along it was 40.0 mm/);
    expect(() => run('along-curve', tube(), emptySelection())).toThrow(/no points.*Click/);
  });

  it('keeps the upper side of a panel up, whichever way its curve was drawn and from whichever end it is laid', () => {
    const panel = Cage.fromPolygons(plane(8, 2, 8, 2));
    const leftToRight = [{ at: [-4, 0, 0] }, { at: [0, 1, 0] }, { at: [4, 0, 0] }];
    for (const points of [leftToRight, [...leftToRight].reverse()])
      for (const turned of [false, true]) {
        const { cage } = run('along-curve', panel, emptySelection(), { points, turned });
        expect(Math.min(...[...cage.faces()].map((f) => faceAreaVector(cage, f)[1]))).toBeGreaterThan(0.5);
      }
  });
});
