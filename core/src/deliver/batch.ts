import Joi from 'joi';
import { autoQuads } from '../autoquad/auto-quads.ts';
import { type Finding } from '../check/findings/finding.ts';
import { reportOn } from '../check/report.ts';
import { bringIn } from '../formats/bring-in.ts';
import { stemOf } from '../formats/gzip.ts';
import { formats, writeMesh } from '../formats/registry.ts';
import { playRoutine, readRoutine, type Routine } from '../logbook/routine.ts';
import { Cage } from '../mesh/cage.ts';
import { lengthInWords } from '../numeric/length-words.ts';
import { validParams } from '../operations/apply.ts';
import { autoQuadsOperation, autoQuadsOptions } from '../operations/lay/lay-quads.ts';
import { type Params } from '../operations/operation.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { detailLevels, type DetailSettings, fewerLevels } from './detail-levels.ts';
import { type Destination, destinations, destinationSchema } from './destination.ts';
import { differenceAt } from './difference.ts';
import { receive } from './receive.ts';

/** What is done with every file of a batch, in this order; what is left out is not done. */
export interface BatchSettings {
  format: 'ulvrin-batch';
  version: 1;
  /** auto quads over what is read: parameters as its card has them */
  quads?: Params;
  /** a routine, and numbers in place of its own */
  routine?: Routine;
  numbers: Record<string, number>;
  /** levels of detail that are written beside it */
  levels?: DetailSettings;
  /** id of the format that is written */
  as: string;
  /** the place it is for: losses and the difference there are told */
  to?: Destination;
  /** findings are counted */
  check: boolean;
}

/** Settings that cannot be used; the message says why. */
export class BatchError extends Error {}

const schema = Joi.object({
  format: Joi.string().valid('ulvrin-batch').required(),
  version: Joi.number().valid(1).required(),
  quads: Joi.object(),
  routine: Joi.object(),
  numbers: Joi.object().pattern(Joi.string(), Joi.number()).default({}),
  levels: Joi.object({
    levels: Joi.number().integer().min(1).max(8).required(),
    within: Joi.number().greater(0).max(1e6).required()
  }),
  as: Joi.string()
    .valid(...formats.map(({ id }) => id))
    .default('usda'),
  to: Joi.alternatives(Joi.string().valid(...destinations.map(({ id }) => id)), destinationSchema),
  check: Joi.boolean().default(true)
});

/** Settings of a batch from plain data; a routine in it is read, a destination may be named or described. @throws BatchError, RoutineError */
export function readBatch(data: unknown): BatchSettings {
  const { value, error } = schema.validate(data);
  if (error) throw new BatchError(`These are no settings of a batch: ${error.details[0].message}.`);
  const given = value as Omit<BatchSettings, 'to' | 'routine'> & { to?: string | Destination; routine?: unknown };
  if (given.quads) validParams(autoQuadsOperation, given.quads);
  const to = typeof given.to === 'string' ? destinations.find(({ id }) => id === given.to) : given.to;
  return { ...given, to, routine: given.routine === undefined ? undefined : readRoutine(given.routine) };
}

/** Why files cannot be done together, in a sentence: what comes of two of the same stem would be written one over the other. Nothing where they can. */
export function twinsAmong(names: readonly string[]): string | undefined {
  const stems = names.map(stemOf);
  const twin = stems.findIndex((stem, i) => stems.indexOf(stem) < i);
  return twin < 0 ? undefined : `Two files are called ${stems[twin]}: what comes of one would be written over the other. Rename one.`;
}

/** Why one file of a batch could not be done, in a sentence. @param megabytes that its thread may fill */
export function failureInWords(error: unknown, megabytes: number): string {
  const { message, code } = error as Error & { code?: string };
  if (code === 'ERR_WORKER_OUT_OF_MEMORY' || /out of memory/i.test(message))
    return `It needed more than ${megabytes.toLocaleString('en')} MB. Thin it out, or ask for fewer quads.`;
  return code === 'ENOSPC' ? 'The disk is full: free some, and start again; what is done stays done.' : message;
}

/** What came of one file. */
export interface BatchReport {
  name: string;
  faces: number;
  /** what was found and done, a sentence each */
  notes: string[];
  losses: string[];
  /** mm that it lies off at the place it is for; nothing where none is named, or nothing arrives there */
  difference?: number;
  visible?: number;
  gravest?: string;
  /** names of the files that were made, the finest first */
  files: string[];
}

/** What came of a file, in a line. */
export const reportInWords = ({ faces, visible, difference }: BatchReport): string =>
  [
    `${faces.toLocaleString('en')} faces`,
    ...(visible === undefined ? [] : [visible === 0 ? 'nothing that shows' : `${visible} that show`]),
    ...(difference === undefined ? [] : [difference === 0 ? 'the same there' : `${lengthInWords(difference)} off there`])
  ].join(', ');

/** A file of a batch with its bytes. */
export interface BatchFile {
  name: string;
  bytes: Uint8Array;
}

/**
 * Does what a batch asks for with one file.
 * @param name of the file, with its extension
 * @throws FormatError, AutoQuadsError, RoutineError: their messages are sentences
 */
export function doBatchFile({ name, bytes }: BatchFile, settings: BatchSettings): { files: BatchFile[]; report: BatchReport } {
  const read = bringIn(bytes, name);
  const notes = [...read.notes];
  const surface: SurfaceSettings = {
    scheme: read.scheme === 'loop' && !settings.quads ? 'loop' : 'catmull-clark',
    borderCorners: read.borderCorners
  };
  let cage = Cage.fromPolygons(read.mesh);
  if (settings.quads) {
    const laid = autoQuads(read.mesh, autoQuadsOptions(validParams(autoQuadsOperation, settings.quads)));
    cage = Cage.fromPolygons(laid.mesh);
    notes.push(...laid.notes);
  }
  if (settings.routine) {
    const reference = settings.quads ? read.mesh : undefined;
    const played = playRoutine(cage, settings.routine, settings.numbers, { surface, reference });
    cage = played.cage;
    notes.push(...played.steps.flatMap((step) => [...step.notes, ...(step.left === undefined ? [] : [step.left])]));
  }
  const format = formats.find(({ id }) => id === settings.as)!;
  const sent = { mesh: cage.toPolygons(), settings: surface };
  const levels = settings.levels ? detailLevels(sent, settings.levels) : [{ cage, difference: 0 }];
  const fewer = settings.levels && fewerLevels(levels.length - 1, settings.levels);
  if (fewer) notes.push(fewer);
  const stem = stemOf(name);
  const files = levels.map(({ cage: own }, level) => ({
    name: `${stem}${level === 0 ? '' : `-level-${level}`}.${format.extensions[0]}`,
    bytes: writeMesh(own.toPolygons(), format, { name: stem, scheme: surface.scheme, borderCorners: surface.borderCorners })
  }));
  const received = settings.to && receive(sent, settings.to, format);
  const findings: readonly Finding[] | undefined = settings.check ? reportOn(stem, { cage, settings: surface }).findings : undefined;
  const visible = findings?.filter((f) => f.visible);
  return {
    files,
    report: {
      name,
      faces: sent.mesh.faceStart.length - 1,
      notes,
      losses: [...(received?.refused ? [received.refused] : []), ...(received?.losses ?? [])],
      difference: received && differenceAt(sent, received),
      visible: visible?.length,
      gravest: visible?.[0]?.why,
      files: files.map((f) => f.name)
    }
  };
}
