import Joi from 'joi';
import { cutEndAt, runCutOut } from '../../check/without-defect.ts';
import { type Cage } from '../../mesh/cage.ts';
import { facesOf, selectFaces, type Selection } from '../../select/selection.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { type CageOperation, type CageResult, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';

/** Faces of five corners among what is picked, or in the whole part, in which a cut ends. */
function cutEnds(cage: Cage, selection: Selection): number[] {
  const picked = facesOf(cage, selection);
  return (picked.length > 0 ? picked : [...cage.faces()]).filter((f) => cage.faceSize(f) === 5 && cutEndAt(cage, f) !== undefined);
}

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (cutEnds(cage, selection).length > 0) return undefined;
  return { found: 'No face of five corners with the end of a cut is picked.', instead: 'Pick one: the check (bench 7) finds them.' };
}

function run(cage: Cage, selection: Selection): CageResult {
  let copy = cage.clone();
  const ends = cutEnds(cage, selection);
  let done = 0;
  for (const f of ends) {
    // the one before may have run into this one
    if (!copy.hasFace(f) || copy.faceSize(f) !== 5 || cutEndAt(copy, f) === undefined) continue;
    const trial = copy.clone();
    if (!runCutOut(trial, f)) continue;
    copy = trial;
    done++;
  }
  if (done === 0) refuse('The cut cannot run on: it would cross itself.', selectFaces(ends), 'Dissolve it instead.');
  const made = [...copy.faces()].filter((f) => !cage.hasFace(f));
  return { cage: copy, selection: selectFaces(made), notes: [`${counted(done, 'cut runs', 'cuts run')} out: ${counted(made.length, 'quad')} more.`] };
}

/** Runs cuts on from where they end. */
export const runCutOutOperation: CageOperation = {
  kind: 'cage',
  id: 'run-cut-out',
  bench: 7,
  group: 'Mending',
  name: 'Run cut out',
  purpose: 'Run a cut on from the face of five sides in which it ends, straight through quads, to a border or a face that is no quad.',
  icon: 'ArrowUpRight',
  needs: 'Pick a face of five corners where a cut ends; with nothing picked all such cuts run out.',
  keepsSurface: 'there too',
  params: Joi.object({ keepSurface: keepSurfaceField() }),
  check,
  run
};
