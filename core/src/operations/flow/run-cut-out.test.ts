import { describe, expect, it } from 'vitest';
import { plantedCage } from '../../../testing/planted-defects.ts';
import { checkPart } from '../../check/check-part.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { emptySelection, selectFaces } from '../../select/selection.ts';
import { cylinder } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { runCutOutOperation } from './run-cut-out.ts';

const surface = { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const };
const run = (cage: Cage, picks = emptySelection()) => applyOperation(runCutOutOperation, cage, picks, {}, { surface });
const ends = (cage: Cage) => checkPart({ cage, settings: surface }).filter((f) => f.kind === 'cut-end');

describe('run cut out', () => {
  it('runs every cut on from where it ends, straight through quads to a border', () => {
    const { cage } = plantedCage(2);
    expect(ends(cage)).toHaveLength(2);
    const made = run(cage);
    assertValid(made.cage);
    expect(made.notes[0]).toMatch(/^2 cuts run out: \d+ quads more\.$/);
    expect(ends(made.cage)).toEqual([]);
  });

  it('runs the picked one alone', () => {
    const { cage } = plantedCage(2);
    const [first] = ends(cage);
    expect(ends(run(cage, selectFaces(first.where.faces)).cage)).toHaveLength(1);
  });

  it('keeps the smooth surface where it was, if asked', () => {
    const { cage } = plantedCage(0);
    const made = applyOperation(runCutOutOperation, cage, emptySelection(), { keepSurface: true }, { surface });
    assertValid(made.cage);
    expect(ends(made.cage)).toEqual([]);
  });

  it('is refused where no cut ends', () => {
    expect(() => run(Cage.fromPolygons(cylinder(10, 30, 20, 6, false)))).toThrow('No face of five corners with the end of a cut is picked.');
  });
});
