import { describe, expect, it } from 'vitest';
import { run } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { enclosedVolume } from '../../mesh/topology.ts';
import { selectEdges, selectVertices } from '../../select/selection.ts';
import { cylinder, quadSphere } from '../../shapes/start-shapes.ts';
import { bendAt, hingeOf } from '../../check/bend-test.ts';

/** A limb of radius 4 and length 60 along y, with rows every 2 mm, or so many. */
const limb = (rows = 30) => Cage.fromPolygons(cylinder(4, 60, 16, rows, true));
const rowAt = (cage: Cage, y: number) => [...cage.vertices()].filter((v) => Math.abs(cage.position(v)[1] - y) < 1e-6);
const place = (cage: Cage) => [...cage.vertices()].reduce((a, b) => (cage.position(b)[1] > cage.position(a)[1] ? b : a));

describe('bend test', () => {
  it('turns what lies beyond the row as a whole, and leaves what lies before it', () => {
    const cage = limb();
    const hinge = hingeOf(cage, { vertices: rowAt(cage, 10), axisAngle: 0, reach: 6 })!;
    const { cage: bent } = bendAt(cage, hinge, 90);
    const end = place(cage);
    const far = cage.position(end).map((x, k) => x - hinge.middle[k]);
    const now = bent.position(end).map((x, k) => x - hinge.middle[k]);
    // as far from the hinge's axis as before, a quarter turn on
    expect(Math.hypot(...now)).toBeCloseTo(Math.hypot(...far), 9);
    expect(Math.abs(now[1])).toBeLessThan(4.1);
    for (const v of rowAt(cage, -20)) expect(bent.position(v)).toEqual(cage.position(v));
    bendAt(cage, hinge, 0).cage.positions.forEach((x, i) => expect(x).toBeCloseTo(cage.positions[i], 12));
  });

  it('tells what a sharp bend does: volume lost, edges shrunk, faces turned over; the wider it is spread, the less', () => {
    const cage = limb();
    const bent = (reach: number, degrees = 110) => bendAt(cage, hingeOf(cage, { vertices: rowAt(cage, 10), axisAngle: 0, reach })!, degrees);
    const [sharp, wide] = [bent(2), bent(14)];
    expect(sharp.folded.length).toBeGreaterThan(0);
    expect(wide.folded.length).toBeLessThan(sharp.folded.length);
    expect(bent(6, 20).folded).toEqual([]);
    expect(sharp.volume!).toBeLessThan(-0.3);
    expect(sharp.volume!).toBeCloseTo(100 * (enclosedVolume(sharp.cage) / enclosedVolume(cage) - 1), 9);
    expect(sharp.edges.least).toBeLessThan(0.7);
    expect(sharp.edges.most).toBeGreaterThan(1.2);
  });

  it('says what it lacks, and keeps nothing by itself', () => {
    const ball = Cage.fromPolygons(quadSphere(10, 4));
    const [f] = ball.faces();
    expect(() => run('bend-test', ball, selectVertices(ball.faceVertices(f).slice(0, 2)))).toThrow(/No row round a joint/);
    const cage = limb();
    const some = rowAt(cage, 10).slice(0, 6);
    const edges = [...cage.edges()].filter((e) => [0, 1].every((k) => some.includes(cage.origin[2 * e + k])));
    expect(() => run('bend-test', cage, selectEdges(edges))).toThrow(/parts nothing off/);
    const { notes } = run('bend-test', cage, selectVertices(rowAt(cage, 10)), { angle: 110, reach: 2 });
    expect(notes[0]).toMatch(/^\d+ faces turn over; edges in the bend go down to \d+ %/);
    expect(notes.at(-1)).toMatch(/^Rows across the joint take it better/);
  });
});
