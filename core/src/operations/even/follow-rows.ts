import Joi from 'joi';
import { followRows, type RowMissing, type RowSettings } from '../../even/follow-rows.ts';
import { type Cage } from '../../mesh/cage.ts';
import { isEmpty, selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { counted } from '../shared/words.ts';

interface FollowParams {
  strength: number;
  spacing: RowSettings['spacing'];
}

const followed = (cage: Cage, selection: Selection, params: Params) => {
  const { strength, spacing } = params as unknown as FollowParams;
  return followRows(cage, verticesOf(cage, selection), new Set(selection.edges), { strength: strength / 100, spacing });
};

/** Why there is no row beside a vertex. */
function describeMissing(cage: Cage, { why, at }: RowMissing): string {
  const place = cage
    .position(at)
    .map((x) => x.toFixed(1))
    .join(', ');
  if (why === 'border') return `a border comes first, at ${place}`;
  if (why === 'pole') return `a pole comes first, at ${place}`;
  return 'what is picked goes all the way round';
}

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick loops, faces or vertices that are to follow the rows beside them.' };
  const { places, alone } = followed(cage, selection, params);
  if (places.size > 0) return undefined;
  return {
    found: `What is picked has no rows beside it on both sides: going across, ${describeMissing(cage, alone[0])}.`,
    where: selectVertices(alone.map(({ vertex }) => vertex)),
    instead: 'Pick fewer rows, so that one stays on each side; Relax area needs none.'
  };
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { places, alone } = followed(cage, selection, params);
  const copy = cage.clone();
  for (const [v, at] of places) copy.positions.set(at, 3 * v);
  const notes = alone.length > 0 ? [`${counted(alone.length, 'vertex', 'vertices')} stayed: going across, ${describeMissing(cage, alone[0])}.`] : [];
  return { cage: copy, selection, notes };
}

/** Brings picked rows into line with the rows beside them. */
export const followRowsOperation: CageOperation = {
  kind: 'cage',
  id: 'follow-rows',
  bench: 6,
  key: 'C',
  name: 'Follow rows',
  purpose: 'Bring picked loops or vertices into line with the rows beside them: on the curve through two vertices on each side.',
  icon: 'ChartMultiLine',
  needs: 'Pick loops, faces or vertices with rows beside them.',
  keepsSurface: 'there too',
  params: Joi.object({
    strength: Joi.number().min(0).max(100).default(100).label('Strength').unit('%').meta({ step: 5 }),
    spacing: Joi.string()
      .valid('even', 'kept')
      .default('even')
      .label('Spacing')
      .meta({ labels: { even: 'Even', kept: 'As it is' } }),
    keepSurface: keepSurfaceField().meta({ more: true })
  }),
  check,
  run
};
