import { describe, expect, it } from 'vitest';
import { boundsOf, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { wedge } from '../../shapes/sample-surfaces.ts';
import { plane } from '../../shapes/start-shapes.ts';
import { NoQuadsError } from '../base/options.ts';
import { type Closeness } from '../fit/deviation.ts';
import { markFeatures } from '../lines/features.ts';
import { givingUpLines } from './lines-in-the-way.ts';
import { after, WorkingMesh } from '../base/working-mesh.ts';

/** A wedge of 30 degrees, 40 by 20 mm, with its sharp edges marked but for some; its tip lies along Z at the origin. */
function wedgeWithout(leftOut: readonly number[]) {
  const mesh = wedge(30);
  const dense = new WorkingMesh(mesh.positions, triangulate(mesh).triangles);
  markFeatures(dense, boundsOf(mesh.positions).diagonal);
  for (const h of leftOut) dense.markEdge(h, 0);
  return { dense, size: 4, mirrors: [] };
}
const isAtTip = (h: number) => {
  const { dense } = wedgeWithout([]);
  return [h, after(h)].every((end) => Math.hypot(...dense.point(dense.corner[end]).slice(0, 2)) < 1e-9);
};

/** Four quads at the tip's middle, some of them with a straight corner; how far they lie off, against what is near enough. */
function quadsAtTip(straight: 0 | 1 | 2, share: number): { laid: PolygonMesh; notes: string[]; closeness: Closeness } {
  const laid = plane(1, 1, 2, 2);
  for (let i = 0; i < laid.positions.length; i += 3) laid.positions[i + 2] += 10;
  if (straight > 0) laid.positions.set([-0.25, 0, 9.75], 0);
  if (straight > 1) laid.positions.set([0.25, 0, 10.25], laid.positions.length - 3);
  return { laid, notes: ['As laid.'], closeness: { mean: 0, most: 0, apart: [], share } };
}

describe('lines in the way', () => {
  it('are none where quads are of use', () => {
    const asked: number[] = [];
    const laid = givingUpLines((leftOut) => {
      asked.push(leftOut.length);
      return quadsAtTip(0, 20);
    }, wedgeWithout);
    expect([asked, laid.notes]).toEqual([[0], ['As laid.']]);
  });

  it('are those that pass by quads of no use; the sharpest only where there are no others, and no more than it takes', () => {
    const asked: number[][] = [];
    const laid = givingUpLines((leftOut) => {
      asked.push([...leftOut]);
      return quadsAtTip(leftOut.length === 0 ? 1 : 0, 1);
    }, wedgeWithout);
    // no other edge is near the middle of the tip
    expect(asked.map((lines) => lines.map(isAtTip))).toEqual([[], [true]]);
    expect(laid.notes[1]).toMatch(/^Sharp edges left out, .*: 1, near -?0\.0, 0\.0, (0|20)\.0\./);
    // at the tip's end edges of 90 degrees meet it, which is sharper: they are given up first
    const atEnd = new NoQuadsError('The map folds over.', [[0, 0, 0]]);
    const order: boolean[][] = [];
    expect(() =>
      givingUpLines((leftOut) => {
        order.push(leftOut.map(isAtTip));
        throw atEnd;
      }, wedgeWithout)
    ).toThrow('The map folds over.');
    expect(order).toEqual([[], [false, false], [false, false, true]]);
    // any of the nine, where it is not known where
    const counts: number[] = [];
    const anywhere = givingUpLines((leftOut) => {
      counts.push(leftOut.length);
      if (leftOut.length < 9) throw new NoQuadsError('They would not hang together.', []);
      return quadsAtTip(0, 1);
    }, wedgeWithout);
    expect([counts[0], counts[1] > 0, counts[2], counts.length]).toEqual([0, true, 9, 3]);
    expect(anywhere.notes[1]).toMatch(/^Sharp edges left out, .*: 9, near /);
  });

  it('are given up further where part of the surface would be left out, and the nearest quads are taken', () => {
    const shares = [1, 30, 20, 90];
    const atEnd: number[] = [];
    const laid = givingUpLines((leftOut) => {
      atEnd.push(leftOut.length);
      const own = quadsAtTip(leftOut.length === 0 ? 1 : 0, shares[atEnd.length - 1]);
      for (let i = 2; i < own.laid.positions.length; i += 3) own.laid.positions[i] -= 10;
      return own;
    }, wedgeWithout);
    expect([atEnd, laid.closeness.share, laid.notes.length]).toEqual([[0, 2, 3], 20, 2]);
    // and where some are of no use still; straight ones are taken only where there is nothing else
    const left: number[] = [];
    const fewest = givingUpLines((leftOut) => {
      const own = quadsAtTip(([2, 1, 0] as const)[left.length], 1);
      left.push(leftOut.length);
      for (let i = 2; i < own.laid.positions.length; i += 3) own.laid.positions[i] -= 10;
      return own;
    }, wedgeWithout);
    expect([left, fewest.notes.length]).toEqual([[0, 2, 3], 2]);
    expect(givingUpLines(() => quadsAtTip(1, 1), wedgeWithout).notes).toEqual(['As laid.']);
  });
});
