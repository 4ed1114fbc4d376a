import { describe, expect, it } from 'vitest';
import { run, sizes } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { describeSelection, emptySelection } from '../../select/selection.ts';
import { plane } from '../../shapes/start-shapes.ts';

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
