import Joi from 'joi';
import { setHeld } from '../../hand/held.ts';
import { holdTo } from '../../hand/hold.ts';
import { type Cage } from '../../mesh/cage.ts';
import { landmarkWarp } from '../../numeric/landmark-warp.ts';
import { spreadInWords } from '../../numeric/length-words.ts';
import { cross, length, subtract, type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal, type Surroundings } from '../operation.ts';
import { counted } from '../shared/words.ts';
import { NO_REFERENCE } from './laying.ts';

interface LandmarkParams {
  clicks: Triple[];
  passes: number;
  lasting: boolean;
}

/** Fewest landmarks: fewer leave a turn open. */
const FEWEST = 3;
/** Of the square of their reach, the area that three landmarks at least span. */
const ON_ONE_LINE = 1e-3;

/** Whether places lie on one line, or nearly. */
function lieOnLine(places: readonly Triple[]): boolean {
  const [a, ...others] = places;
  const far = others.reduce((x, y) => (length(subtract(y, a)) > length(subtract(x, a)) ? y : x));
  const reach = length(subtract(far, a));
  return others.every((p) => length(cross(subtract(far, a), subtract(p, a))) <= ON_ONE_LINE * reach * reach);
}

function check(cage: Cage, { vertices }: Selection, params: Params, { reference }: Surroundings): Refusal | undefined {
  if (!reference) return NO_REFERENCE;
  if (vertices.length < FEWEST)
    return {
      found: `${vertices.length === 0 ? 'No vertex is' : counted(vertices.length, 'vertex is', 'vertices are')} picked; landmarks are three at least.`,
      where: selectVertices(vertices),
      instead: 'Pick the vertices in order, then click where each of them lies on the reference.'
    };
  const { clicks } = params as unknown as LandmarkParams;
  const [at, onto] = [vertices.map((v) => cage.position(v)), clicks.slice(0, vertices.length)];
  if (lieOnLine(at))
    return { found: 'The picked vertices lie on one line.', where: selectVertices(vertices), instead: 'Pick one beside it as well.' };
  if (onto.length < vertices.length)
    return { numbers: true, waits: true, found: `Click where vertex ${onto.length + 1} of ${vertices.length} lies on the reference.` };
  if (lieOnLine(onto))
    return { numbers: true, found: 'The clicked places lie on one line.', instead: 'Backspace takes the last one back; click one beside it.' };
  return undefined;
}

function run(cage: Cage, { vertices }: Selection, params: Params, { surface, reference }: Surroundings): CageResult {
  const { clicks, passes, lasting } = params as unknown as LandmarkParams;
  const warp = landmarkWarp(
    vertices.map((v) => cage.position(v)),
    clicks.slice(0, vertices.length)
  );
  const copy = cage.clone();
  for (const v of cage.vertices()) copy.positions.set(warp(cage.position(v)), 3 * v);
  const notes = [`${counted(vertices.length, 'landmark')} met; every vertex keeps its number.`];
  if (passes === 0) return { cage: copy, selection: selectVertices(vertices), notes };
  const all = [...copy.vertices()];
  const { cage: held, report } = holdTo(copy, Reference.of(reference!), surface, {
    way: 'nearest',
    fit: 'vertices',
    passes,
    offset: 0,
    even: true,
    vertices: all
  });
  setHeld(held, all, lasting);
  const { mean, max } = report.before;
  notes.push(`Vertices then lay ${spreadInWords({ mean, most: max })} from the reference, and are held to it now.`);
  if (report.lost.length > 0) notes.push(`${counted(report.lost.length, 'vertex', 'vertices')} found nothing that looks their way, and stayed.`);
  return { cage: held, selection: selectVertices(vertices), notes };
}

/** Fits a cage onto another sculpt by places that belong together. */
export const landmarks: CageOperation = {
  kind: 'cage',
  id: 'landmarks',
  bench: 2,
  group: 'On the reference',
  name: 'Fit by landmarks',
  purpose:
    'Fit the cage onto another sculpt: pick vertices in order, click where each lies on the reference, and the rest goes along, in the same order.',
  icon: 'LocationCurrent',
  needs: 'Pick three vertices or more, in order, and have a reference.',
  onReference: 'clicks',
  once: ['clicks'],
  heedsMask: true,
  hint: 'Click where each picked vertex lies on the reference, in the order they were picked. Backspace takes the last one back. Enter applies.',
  params: Joi.object({
    passes: Joi.number().integer().min(0).max(20).default(4).label('Then held in passes').meta({ step: 1 }).description('0: not held'),
    lasting: Joi.boolean().default(false).label('Held from now on').description('Whatever moves these vertices later, they stay on the reference'),
    clicks: Joi.array().items(Joi.array().items(Joi.number()).length(3)).max(500).default([]).meta({ hidden: true })
  }),
  check,
  run
};
