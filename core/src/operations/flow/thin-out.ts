import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { type Selection } from '../../select/selection.ts';
import { thinnedOut, type ThinOutSettings } from '../../select/every-nth-loop.ts';
import { type Transition } from '../../fill/bridge.ts';
import { type CageOperation, type CageResult, type Params, type Refusal, pickedTimesFaces } from '../operation.ts';
import { counted } from '../shared/words.ts';
import { dissolveEdges } from './dissolve.ts';
import { putTransitions } from '../shared/rim-transitions.ts';

interface ThinOutParams extends ThinOutSettings {
  rimVertices: boolean;
  transitions: boolean;
}

/** On a border there is nothing to join a face with: such edges stay. */
const edgesToGo = (cage: Cage, selection: Selection, params: Params) =>
  thinnedOut(cage, selection.edges, params as unknown as ThinOutParams).filter((e) => !cage.isBorderEdge(e));

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  if (selection.edges.length === 0)
    return { found: 'No edge is picked.', instead: 'Pick one edge of the loops to thin out: on a tube, an edge along it.' };
  if (edgesToGo(cage, selection, params).length === 0)
    return {
      numbers: true,
      found: 'No loop beside the picked edge would go.',
      where: selection,
      instead: 'Pick an edge with quads beside it, or keep one of fewer.'
    };
  return undefined;
}

/** Keeps one of every N loops beside the picked edge's and dissolves the others. */
export const thinOut: CageOperation = {
  kind: 'cage',
  id: 'thin-out',
  seconds: (cage, selection) => 1.5e-8 * pickedTimesFaces(cage, selection),
  bench: 3,
  name: 'Thin out',
  purpose: 'Keep one of every N loops, counted from the picked edge, and take the others out.',
  icon: 'RowCollapse',
  needs: 'Pick one edge of the loops to thin out.',
  params: Joi.object({
    every: Joi.number().integer().min(2).max(64).default(2).label('Keep one of').meta({ step: 1 }),
    phase: Joi.number().integer().min(0).max(63).default(0).label('Shift by').unit('loops').meta({ step: 1 }),
    keepRims: Joi.boolean().default(true).label('Rim loops stay'),
    evenAtRims: Joi.boolean()
      .default(false)
      .label('Even at the rims')
      .description('A loop that stays too close to a rim goes.')
      .meta({ when: { field: 'keepRims', is: 'true' } }),
    rimVertices: Joi.boolean().default(false).label('Rims keep all their vertices'),
    transitions: Joi.boolean()
      .default(false)
      .label('Transition quads at the rims')
      .description('Rows of quads lead from the vertices of a rim to the fewer loops, instead of faces of five corners and more.')
      .meta({ when: { field: 'rimVertices', is: 'true' } })
  }).rename('keepBorders', 'keepRims', { ignoreUndefined: true }),
  check,
  run: (cage, selection, params) => {
    const { rimVertices, transitions, every } = params as unknown as ThinOutParams;
    const edges = new Set(edgesToGo(cage, selection, params));
    const result = dissolveEdges(cage, edges, [], (v) => rimVertices && onRim(cage, v, edges));
    return rimVertices ? withRims(cage, edges, result, transitions ? (every > 2 ? '3:1' : '4:2') : undefined) : result;
  }
};

/** Tells of the faces that took up what the rims kept, or puts transition quads in their place. */
function withRims(before: Cage, gone: ReadonlySet<number>, result: CageResult, transition: Transition | undefined): CageResult {
  const { cage } = result;
  const kept = new Set(
    [...gone].flatMap((e) => [before.origin[2 * e], before.origin[2 * e + 1]]).filter((v) => cage.hasVertex(v) && onRim(before, v, gone))
  );
  const faces = [...new Set([...gone].flatMap((e) => [before.face[2 * e], before.face[2 * e + 1]]))].filter(
    (f) => cage.hasFace(f) && cage.faceSize(f) > 4 && cage.faceVertices(f).some((v) => kept.has(v))
  );
  if (faces.length === 0) return result;
  const many = (n: number) => counted(n, 'face');
  if (!transition) {
    const most = Math.max(...faces.map((f) => cage.faceSize(f)));
    const size = most > 5 ? `five to ${most}` : 'five';
    return {
      ...result,
      notes: [...result.notes, `${many(faces.length)} of ${size} corners at the rims: transition quads can take their place.`]
    };
  }
  const { cage: done, made, left } = putTransitions(cage, faces, kept, transition);
  const notes = [...result.notes, `${counted(made, 'quad')} lead from the rims to the fewer loops.`];
  if (left > 0) notes.push(`${many(left)} at the rims stayed: there is no row with the rim on one side alone.`);
  return { ...result, cage: done, notes };
}

/** Whether loops that go end at a vertex: it lies on a rim then. */
const onRim = (cage: Cage, v: number, gone: ReadonlySet<number>): boolean => cage.spokes(v).filter((h) => gone.has(h >> 1)).length === 1;
