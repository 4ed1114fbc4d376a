import Joi from 'joi';
import { bandAlong, bandProblem, type BandSettings } from '../../hand/band.ts';
import { layFaces } from '../../hand/lay-act.ts';
import { SurfaceWalk } from '../../hand/surface-walk.ts';
import { type Cage } from '../../mesh/cage.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { type Axis } from '../../select/counterparts.ts';
import { selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal, type Surroundings } from '../operation.ts';
import { NO_REFERENCE, suiting, weldField } from './laying.ts';
import { counted } from '../shared/words.ts';
import { mirroredField } from '../shared/mirrored-field.ts';

interface BandParams extends BandSettings {
  stroke: Triple[];
  weld: number;
  mirrored: 'none' | Axis;
}

/** Width at first, as a share of the reference's diagonal. */
const WIDTH = 0.05;

function check(_cage: Cage, _selection: Selection, params: Params, { reference }: Surroundings): Refusal | undefined {
  if (!reference) return NO_REFERENCE;
  const { stroke, ...settings } = params as unknown as BandParams;
  const found = bandProblem(stroke, settings);
  return found === undefined
    ? undefined
    : {
        numbers: true,
        waits: stroke.length < 2 || undefined,
        found,
        instead: stroke.length < 2 ? undefined : 'Draw a longer one, or make it narrower.'
      };
}

function run(cage: Cage, _selection: Selection, params: Params, { reference }: Surroundings): CageResult {
  const { stroke, weld, mirrored, ...settings } = params as unknown as BandParams;
  const { act } = bandAlong(SurfaceWalk.over(Reference.of(reference!)), stroke, settings);
  const { cage: laid, made, welds, misses } = layFaces(cage, act, weld, mirrored);
  const notes = [`A band of ${counted(act.faces.length, 'quad')}, ${act.faces.length / settings.across} along.`];
  if (welds > 0) notes.push(`${counted(welds, 'vertex welds', 'vertices weld')} to what is there.`);
  if (misses.length > 0) {
    const most = Math.max(...misses.map(({ by }) => by));
    notes.push(
      `${counted(misses.length, 'vertex misses', 'vertices miss')} by ${lengthInWords(most)} at most: weld within ${lengthInWords(1.01 * most)} takes them.`
    );
  }
  return { cage: laid, selection: selectFaces(made), notes };
}

/** Lays a strip of quads along a stroke. */
export const band: CageOperation = {
  kind: 'cage',
  id: 'band',
  bench: 2,
  key: 'C',
  name: 'Band',
  purpose: 'Lay a strip of quads along a stroke on the reference, open or closed; its ends and sides weld to what they come near.',
  icon: 'FlowStream',
  needs: 'Needs a reference to lay on.',
  onReference: 'stroke',
  goesOn: true,
  once: ['stroke'],
  hint: 'Drag over the reference for a band; its numbers can be changed until the next one. Enter applies it.',
  params: Joi.object({
    across: Joi.number().integer().min(1).max(50).default(1).label('Quads across'),
    along: Joi.number().integer().min(0).max(2000).default(0).label('Quads along').description('0: as many as make them about square'),
    width: Joi.number().greater(0).max(1e5).default(4).label('Width').unit('mm').meta({ step: 0.5 }),
    closed: Joi.boolean().default(false).label('Closed'),
    weld: weldField(),
    mirrored: mirroredField(),
    stroke: Joi.array().items(Joi.array().items(Joi.number()).length(3)).max(20_000).default([]).meta({ hidden: true })
  }),
  fits: (_positions, reference) => ({ width: suiting(reference, WIDTH), weld: suiting(reference) }),
  check,
  run
};
