import { describe, expect, it } from 'vitest';
import { run } from '../../../testing/run-operation.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { selectEdges, selectFaces } from '../../select/selection.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { plane } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { sweep } from './sweep.ts';

/** A sheet of 4 by 4 without its quarter: its border has a corner that turns in. */
const bent = () => {
  const cage = Cage.fromPolygons(plane(4, 4, 4, 4));
  const quarter = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[0] >= 0 && cage.position(v)[2] >= 0));
  return run('delete', cage, selectFaces(quarter)).cage;
};
const inner = (cage: Cage) =>
  selectEdges(
    [...cage.edges()].filter(
      (e) =>
        cage.isBorderEdge(e) &&
        [0, 1].every((k) => {
          const [x, , z] = cage.position(cage.origin[2 * e + k]);
          return (Math.abs(x) < 1e-9 && z >= 0) || (Math.abs(z) < 1e-9 && x >= 0);
        })
    )
  );

describe('sweep', () => {
  it('fills the corner between two chains with a grid of their counts', () => {
    const cage = bent();
    expect(inner(cage).edges).toHaveLength(4);
    const { cage: made, selection, notes } = run('sweep', cage, inner(cage));
    assertValid(made);
    expect([made.faceCount, selection.faces.length, notes[0]]).toEqual([16, 4, '2 by 2: 4 quads.']);
    expect(borderLoops(made).map((loop) => loop.length)).toEqual([16]);
    for (const v of made.vertices()) expect(made.position(v).map((x) => Math.abs(x - Math.round(x)) < 1e-9)).toEqual([true, true, true]);
  });

  it('goes over the reference, and refuses edges that make no corner', () => {
    const cage = bent();
    for (const v of cage.vertices()) {
      const [x, , z] = cage.position(v);
      cage.positions[3 * v + 1] = Math.sqrt(400 - x * x - z * z);
    }
    const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference: denseSphere(64) };
    const { cage: made, selection } = applyOperation(sweep, cage, inner(cage), {}, around);
    for (const v of selection.faces.flatMap((f) => made.faceVertices(f))) expect(Math.abs(Math.hypot(...made.position(v)) - 20)).toBeLessThan(0.02);
    expect(() => run('sweep', cage, selectEdges(inner(cage).edges.slice(0, 1)))).toThrow(/no two chains of a border/);
  });
});
