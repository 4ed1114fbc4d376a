import {
  borderLoops,
  bringInFile,
  emptySelection,
  facesOf,
  footingsOn,
  isEmpty,
  operationById,
  placedSpare,
  selectEdges,
  selectFaces,
  SpareError,
  spareOf,
  validParams,
  type Cage,
  type Footing,
  type Logbook,
  type NewEntry,
  type Params,
  type Placing,
  type Selection,
  type Spare
} from '@ulvrin/core';
import type { OpenJob } from './open-job.svelte.ts';

/** How a spare is placed, and whether it is joined to what it stands on. */
export interface PlacedHow extends Placing {
  /** copies along each picked chain of edges */
  along: number;
  /** picked faces go, and the rim they leave is bridged to the spare's own */
  joins: boolean;
}

const ORIGIN: Footing = { at: [0, 0, 0], up: [0, 1, 0], x: [1, 0, 0] };

/** What is picked of the active part, or all of it, as a spare. @throws SpareError */
export function spareOfPicked({ active, selection }: OpenJob, name: string, tags: readonly string[]): Spare {
  if (!active?.cage) throw new SpareError('There is no cage to keep a piece of.');
  const faces = isEmpty(selection) ? [...active.cage.faces()] : facesOf(active.cage, selection);
  return spareOf(active.cage, faces, name, tags);
}

/**
 * Puts a spare on what is picked, or at 0 where nothing is, as a part of its own, or joined.
 * @returns whether it could be done; why not is told by the job
 */
export function placeSpare(job: OpenJob, spare: Spare, how: PlacedHow): boolean {
  const { active, selection } = job;
  const footings = active?.cage && !isEmpty(selection) ? footingsOn(active.cage, selection, how.along) : [ORIGIN];
  const picked = $state.snapshot(selection) as Selection;
  const id = crypto.randomUUID();
  const place = (logbook: Logbook) => {
    const add: Add = (operation, part, params, of, more = {}) =>
      logbook.add({ operation, part, params: validParams(operationById(operation)!, params), selection: of, ...more });
    if (footings.length === 0) throw new SpareError('What is picked faces no way: pick faces, vertices or a chain of edges.');
    const makes = { name: job.document.freeName(spare.name), kind: 'cage', scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
    const cast = placedSpare(spare, footings, how);
    add(bringInFile.id, id, { file: spare.name, as: 'cage' }, emptySelection(), { name: `Place ${spare.name}`, cast, makes });
    if (how.joins) join(logbook, add, active!.id, id, picked);
  };
  return job.rework((logbook) => logbook.together(`Place ${spare.name}`, () => place(logbook)));
}

type Add = (operation: string, part: string, params: Params, of: Selection, more?: Partial<NewEntry>) => void;

/** Takes the picked faces of a part out, merges the spare into it, and bridges both rims, their counts matched. */
function join(logbook: Logbook, add: Add, part: string, spare: string, { faces }: Selection): void {
  const cageOf = (): Cage => logbook.part(part)!.cage!;
  if (faces.length === 0) throw new SpareError('To join it, pick the faces of the part that it takes the place of.');
  if (borderLoops(logbook.part(spare)!.cage!).length !== 1)
    throw new SpareError('Only a spare that is open at one border can be joined: keep one without the faces it stands on.');
  const before = new Set(borderLoops(cageOf()).flat());
  add('delete', part, {}, selectFaces(faces));
  const rims = borderLoops(cageOf()).filter((loop) => !loop.every((h) => before.has(h)));
  if (rims.length !== 1) throw new SpareError('The picked faces must leave one hole: pick one patch of faces, away from open borders.');
  const vertices = new Set(rims[0].map((h) => cageOf().origin[h]));
  const own = new Set(cageOf().vertices());
  add('combine', part, { with: spare }, emptySelection());
  const cage = cageOf();
  const both = borderLoops(cage).filter((loop) => loop.every((h) => vertices.has(cage.origin[h])) || loop.every((h) => !own.has(cage.origin[h])));
  add('bridge', part, {}, selectEdges(both.flat().map((h) => h >> 1)));
}
