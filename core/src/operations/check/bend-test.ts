import Joi from 'joi';
import { bendAt, hingeOf, type Hinge, type Joint } from '../../check/bend-test.ts';
import { type Cage } from '../../mesh/cage.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { changeInWords } from '../../numeric/length-words.ts';
import { add, cross, scaled, type Triple } from '../../numeric/vectors.ts';
import { selectFaces, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Grip, type Params, type Refusal } from '../operation.ts';
import { counted } from '../shared/words.ts';

interface BendParams {
  angle: number;
  axisAngle: number;
  reach: number;
}

/** mm that a bend is spread over at first, as a share of the part's diagonal. */
const REACH = 0.05;
/** Degrees from one stop of the grip to the next, and the farthest. */
const [STEP, MOST] = [15, 150];
/** Volume lost, in %, and the share that edges shrink to, from which on a bend is called poor. */
const [MUCH_LOST, SHRUNK] = [5, 0.35];

const jointOf = (cage: Cage, selection: Selection, { axisAngle, reach }: BendParams): Joint => ({
  vertices: verticesOf(cage, selection),
  axisAngle,
  reach
});

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const vertices = verticesOf(cage, selection);
  if (vertices.length < 3)
    return { found: 'No row round a joint is picked.', instead: 'Pick a closed loop round the limb, lid or jaw: double-click one of its edges.' };
  if (hingeOf(cage, jointOf(cage, selection, params as unknown as BendParams))) return undefined;
  return {
    found: 'What is picked parts nothing off: the part hangs together round it.',
    where: selection,
    instead: 'Pick the whole loop round the joint.'
  };
}

/** A handle that is dragged round the joint. */
function grips(cage: Cage, selection: Selection, params: Params): Grip[] {
  const p = params as unknown as BendParams;
  const hinge = check(cage, selection, params) ? undefined : hingeOf(cage, jointOf(cage, selection, p));
  if (!hinge) return [];
  const long = 3 * p.reach;
  const at = (degrees: number): Triple => add(hinge.middle, scaled(turned(hinge, degrees), long));
  const angles = Array.from({ length: (2 * MOST) / STEP + 1 }, (_, i) => i * STEP - MOST);
  return [
    {
      label: 'Angle',
      from: hinge.middle,
      at: at(p.angle),
      stops: angles.map((angle) => ({ at: at(angle), params: { angle } })),
      shows: `${p.angle}°`
    }
  ];
}

function turned({ along, axis }: Hinge, degrees: number): Triple {
  const angle = (degrees * Math.PI) / 180;
  return add(scaled(along, Math.cos(angle)), scaled(cross(axis, along), Math.sin(angle)));
}

/** Tries a bend, and tells what it does to the faces. */
export const bendTest: CageOperation = {
  kind: 'cage',
  id: 'bend-test',
  bench: 7,
  key: 'C',
  name: 'Bend test',
  purpose:
    'Bend a limb, a lid or a jaw at a picked loop, as programs that move figures do: faces that turn over, shrunk edges and lost volume are told. Nothing is kept.',
  icon: 'Flow',
  needs: 'Pick a closed loop round the joint.',
  tries: true,
  params: Joi.object({
    angle: Joi.number().min(-180).max(180).default(60).label('Angle').unit('°').meta({ step: STEP, slider: true }),
    axisAngle: Joi.number().min(-180).max(180).default(0).label('Axis turned by').unit('°').meta({ step: 15 }),
    reach: Joi.number().greater(0).max(1e6).default(5).label('Spread over').unit('mm').meta({ step: 1 })
  }),
  fits: (positions) => ({ reach: Number((REACH * boundsOf(positions).diagonal || 5).toPrecision(2)) }),
  grips,
  check,
  run(cage, selection, params) {
    const p = params as unknown as BendParams;
    const { cage: bent, folded, volume, edges, tightest } = bendAt(cage, hingeOf(cage, jointOf(cage, selection, p))!, p.angle);
    const notes = [
      `${folded.length === 0 ? 'No face turns' : `${counted(folded.length, 'face')} turn`} over; edges in the bend go down to ${Math.round(100 * edges.least)} % and up to ${Math.round(100 * edges.most)} % of their length.`
    ];
    if (volume !== undefined) notes.push(`Volume ${changeInWords(volume, 1)}.`);
    const isPoor = folded.length > 0 || edges.least < SHRUNK || (volume ?? 0) < -MUCH_LOST;
    if (isPoor) notes.push('Rows across the joint take it better: add a loop on either side, or spread the bend over more of the limb.');
    return { cage: bent, selection: selectFaces(folded.length > 0 ? folded : tightest), notes };
  }
};
