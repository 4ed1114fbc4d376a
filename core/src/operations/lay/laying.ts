import Joi from 'joi';
import { boundsOf, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { type LaidFaces } from '../../hand/lay-act.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { type Refusal } from '../operation.ts';
import { counted } from '../shared/words.ts';

/** The weld distance at first, as a share of the reference's diagonal. */
const WELD = 0.012;
/** mm that a reference measures across where there is none to measure. */
const USUAL = 80;

/** What is said where there is nothing to lay on. */
export const NO_REFERENCE: Refusal = {
  found: 'The job has no reference to lay on.',
  instead: 'Bring a dense mesh in as a reference (bench 1), or use a part as one: its menu under Parts does that.'
};

/** The field for how near things have to be to be welded. */
export const weldField = (): Joi.NumberSchema => Joi.number().min(0).max(1e6).default(1).label('Weld within').unit('mm').meta({ step: 0.1 });

/** A length that suits a reference, as a share of its diagonal; mm. */
export const suiting = (reference: PolygonMesh | undefined, share = WELD): number =>
  Number((share * ((reference && boundsOf(reference.positions).diagonal) || USUAL)).toPrecision(2));

/** What is said of what new faces met. @param weld mm that were asked for */
export function meetingNotes({ welds, misses, within }: LaidFaces, weld: number): string[] {
  const notes: string[] = [];
  if (welds > 0) notes.push(`${counted(welds, 'vertex welds', 'vertices weld')} to what is there.`);
  if (within < weld)
    notes.push(`Welded within ${lengthInWords(within)} alone: ${lengthInWords(weld)} would take vertices of two rows for one, and close edges up.`);
  if (misses.length > 0) {
    const most = Math.max(...misses.map(({ by }) => by));
    notes.push(
      `${counted(misses.length, 'vertex misses', 'vertices miss')} by ${lengthInWords(most)} at most: weld within ${lengthInWords(1.01 * most)} takes them.`
    );
  }
  return notes;
}
