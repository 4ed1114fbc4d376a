import Joi from 'joi';
import { boundsOf, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { type Refusal } from '../operation.ts';

/** The weld distance at first, as a share of the reference's diagonal. */
const WELD = 0.012;
/** mm that a reference measures across where there is none to measure. */
const USUAL = 80;

/** What is said where there is nothing to lay on. */
export const NO_REFERENCE: Refusal = { found: 'The job has no reference to lay on.', instead: 'Bring a dense mesh in as a reference (bench 1).' };

/** The field for how near things have to be to be welded. */
export const weldField = (): Joi.NumberSchema => Joi.number().min(0).max(1e6).default(1).label('Weld within').unit('mm').meta({ step: 0.1 });

/** A length that suits a reference, as a share of its diagonal; mm. */
export const suiting = (reference: PolygonMesh | undefined, share = WELD): number =>
  Number((share * ((reference && boundsOf(reference.positions).diagonal) || USUAL)).toPrecision(2));
