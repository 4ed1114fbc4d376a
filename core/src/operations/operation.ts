import type Joi from 'joi';
import { type LiveWork, type MeshWork } from '../live/live-edit.ts';
import { type Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Triple } from '../numeric/vectors.ts';
import { type Selection } from '../select/selection.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { type Refusal } from './refusal.ts';
import { type PlacementNumbers } from './shared/placement.ts';

export { type Refusal } from './refusal.ts';

/** The benches of the job rail, by number. */
export const benches = ['Source', 'Lay', 'Shape', 'Brace', 'Fill', 'Even out', 'Check', 'Deliver'] as const;
/** A bench by its number, from 1. */
export type Bench = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8;

/** Parameters of an operation, by name, as its schema has them. */
export type Params = Record<string, unknown>;

interface OperationBase {
  id: string;
  bench: Bench;
  name: string;
  /** one sentence: what it is for; the lookup searches it */
  purpose: string;
  /** name of an icon of the interface's set */
  icon: string;
  /** place in the rack: a letter of the upper row (all benches) or of the lower row (its bench) */
  key?: 'A' | 'S' | 'D' | 'F' | 'G' | 'Z' | 'X' | 'C' | 'V' | 'B';
  /** heading it is listed under in its bench's list */
  group?:
    | 'On the reference'
    | 'Regions'
    | 'Mending'
    | 'Edge flow'
    | 'Form'
    | 'Parts and solids'
    | 'Creases'
    | 'Support loops'
    | 'Surface'
    | 'Holes'
    | 'Brushes'
    | 'Masks and locks'
    | 'Regions and colours'
    | 'Returns';
  /** what must be picked or present, as the hover text of the dimmed key says it */
  needs: string;
  /**
   * its parameter `points` is filled by pointing on the stand, once it has begun: on places of the cage, on such and new
   * points beside it (corners), on points in space alone, or on one point of the smooth surface
   */
  pointed?: 'cage' | 'corners' | 'space' | 'surface';
  /** Enter applies it and begins the next one on what it made */
  goesOn?: boolean;
  /** a key of its own beside the rack, as the key map writes it: like `Delete` */
  keyWish?: string;
  /** it is done as soon as it is called; its card stays open */
  atOnce?: boolean;
  /** parameters that are meant once: the next time it begins with their defaults */
  once?: readonly string[];
  /** operations that name the same here begin with each other's numbers, but for those meant once */
  settings?: string;
  /** what is said below the stand while its card is open; left out: what holds for most */
  hint?: string;
  /** what clicks, drags and keys do on the stand while its card is open, where that is more than fits below the stand */
  gestures?: readonly (readonly [gesture: string, does: string])[];
  /** fields of the card, with labels, units, bounds and defaults */
  params: Joi.ObjectSchema;
  /**
   * about how many seconds it takes on a usual machine, at worst; left out: what moving every vertex takes. From `LONG` on it is
   * done in the background, with Stop, and previewed by a worker.
   */
  seconds?(cage: Cage, selection: Selection, params: Params): number;
}

/** Seconds from which on an operation runs in the background. */
export const LONG = 1;
/** Seconds a face that the plainest operations take: they copy the cage. */
const PLAIN_SECONDS = 6e-6;
/** Seconds a face that a refit for `keepSurface` takes, and at most: it goes by what changed, which a loop makes some hundred faces of. */
const [REFIT_SECONDS, MOST_REFIT_SECONDS] = [1e-3, 8];

/** Picked elements times faces: what operations take that look through the cage for each of them. */
export const pickedTimesFaces = (cage: Cage, { vertices, edges, faces }: Selection): number =>
  (vertices.length + edges.length + faces.length) * cage.faceCount;

/**
 * About how many seconds an operation takes at worst on what is picked.
 * @param params valid ones
 * @returns seconds on a usual machine; from `LONG` on it is done in the background
 */
export function secondsFor(operation: Operation, cage: Cage, selection: Selection, params: Params): number {
  const own = operation.seconds?.(cage, selection, params) ?? 0;
  const refit = params.keepSurface === true ? Math.min(MOST_REFIT_SECONDS, REFIT_SECONDS * cage.faceCount) : 0;
  return Math.max(own, PLAIN_SECONDS * cage.faceCount) + refit;
}

export interface CageResult {
  cage: Cage;
  selection: Selection;
  notes: string[];
}

/** What a cage is made for: how it is subdivided, and the dense mesh it is laid over, if there is one. */
export interface Surroundings {
  surface: SurfaceSettings;
  reference?: PolygonMesh;
}

/** Changes one cage; pure: what it changes it copies. */
export interface CageOperation extends OperationBase {
  kind: 'cage';
  /** its parameter `keepSurface` asks for a refit that leaves the smooth surface where it was; beside the faces it made, which it picks, or there too */
  keepsSurface?: 'beside' | 'there too';
  /** nothing where it can run */
  check(cage: Cage, selection: Selection, params: Params, around: Surroundings): Refusal | undefined;
  run(cage: Cage, selection: Selection, params: Params, around: Surroundings): CageResult;
  /** ways it can go, each with what it costs, to choose from before it is done */
  proposals?(cage: Cage, selection: Selection): Proposal[];
  /** the numbers that the handle on the stand stands for; its previews only move vertices */
  handle?: PlacementNumbers;
  /** a knob on the handle begins it */
  knob?: Knob;
  /** it holds masked vertices itself, by their shares; otherwise what only moves vertices is held afterwards */
  heedsMask?: true;
  /** it says what is locked: the locks before do not hold what it does */
  setsLocks?: true;
  /**
   * its parameter of that name is filled on the reference: `acts` by clicking and dragging, `stroke` and `strokes` by drawing, `clicks` by clicking, and nothing by `whole`, which takes all of it; a part is
   * begun where there is none
   */
  onReference?: 'acts' | 'stroke' | 'strokes' | 'clicks' | 'whole';
  /** how it is worked on live; where that does not suit, it is run as usual */
  live?: LiveWork;
  /** how it is worked on a dense mesh that is no cage: a reference; left out: it needs a cage */
  onMesh?: MeshWork;
  /** numbers that suit what it works on: it begins with them where it was not used before. @param positions x, y, z of vertices @param reference what it is laid over */
  fits?(positions: Float64Array, reference?: PolygonMesh): Params;
  /** it shows what would be, and is never applied */
  tries?: true;
  /** its parameter `view` takes the directions of the view: right, up and towards the eye */
  takesView?: boolean;
  /** its parameter `dabs` is filled by dragging a brush of its `radius` over the surface, stroke by stroke; the space bar swaps it for its partner, by id */
  brushed?: { partner?: string };
  /** the paint that shows what it changes, by id: it is on while its card is open */
  shows?: string;
  /** a point that can be dragged on the stand while its card is open; nothing where there is none */
  grips?(cage: Cage, selection: Selection, params: Params): Grip[];
  /** numbers that are written on the stand, where they belong, and typed there */
  numbers?(cage: Cage, selection: Selection, params: Params): StandNumber[];
}

/** How an operation is begun with a knob on the handle: dragging the knob changes one of its numbers. */
export interface Knob {
  label: string;
  /** name of the number: mm along the knob's direction */
  number: string;
  /** parameters it begins with: those that the direction is meant for */
  params: Params;
  /** unit vector that the knob lies along; nothing where there is none to drag */
  along(cage: Cage, selection: Selection): Triple | undefined;
}

/** A point that is dragged from stop to stop, each of which chooses parameters; a line leads to it. */
export interface Grip {
  label: string;
  /** where the line begins */
  from: Triple;
  at: Triple;
  stops: { at: Triple; params: Params }[];
  /** what is shown beside it: the number it stands at */
  shows?: string;
}

/** A number that is written on the stand and typed there. */
export interface StandNumber {
  label: string;
  at: Triple;
  value: number;
  min: number;
  max: number;
  /** what choosing another number sets */
  params(value: number): Params;
}

/** An operation that can be worked on live. */
export type LiveOperation = CageOperation & Required<Pick<CageOperation, 'live'>>;

/** A brush: an operation that strokes over the surface are given to. */
export type BrushOperation = CageOperation & Required<Pick<CageOperation, 'brushed'>>;

export const isBrush = (operation: Operation | undefined): operation is BrushOperation =>
  operation?.kind === 'cage' && operation.brushed !== undefined;

/** The name of the parameter that an operation is filled with on the reference; nothing where it is not. */
export const filledOnReference = (operation: Operation | undefined): CageOperation['onReference'] =>
  operation?.kind === 'cage' ? operation.onReference : undefined;

/** Whether an operation is worked on live with some parameters: its preview costs what it moves, whatever the size of the cage. */
export const worksLive = (operation: Operation, params: Params): operation is LiveOperation =>
  operation.kind === 'cage' && operation.live !== undefined && (operation.live.suits?.(params) ?? true);

/** One way an operation can go. */
export interface Proposal {
  label: string;
  /** parameters that choose it; missing where it is not possible here */
  params?: Params;
  /** what it costs, or why it is not possible */
  cost: string;
}

/** Makes a new cage from its parameters alone. */
export interface ShapeOperation extends OperationBase {
  kind: 'shape';
  make(params: Params): PolygonMesh;
}

/** A cage with the part's id and name. */
export interface NamedCage {
  id: string;
  name: string;
  cage: Cage;
}

export interface PartsResult extends CageResult {
  /** ids of parts that go */
  gone: string[];
  /** new parts */
  made: { name: string; cage: Cage }[];
}

/** Works on the active part and another, which its parameter `with` names; may make parts and take some away. */
export interface PartsOperation extends OperationBase {
  kind: 'parts';
  check(active: NamedCage, other: NamedCage | undefined, selection: Selection, params: Params): Refusal | undefined;
  run(active: NamedCage, other: NamedCage | undefined, selection: Selection, params: Params): PartsResult;
}

/** Changes how a part is subdivided; its cage stays. */
export interface SurfaceOperation extends OperationBase {
  kind: 'surface';
  check(cage: Cage, params: Params): Refusal | undefined;
  run(cage: Cage, surface: SurfaceSettings, params: Params): { surface: SurfaceSettings; notes: string[] };
  /** the parameters that say what a part has now */
  paramsOf(surface: SurfaceSettings): Params;
}

/** Makes a new part from a file that is chosen; its entry stores what was in the file. */
export interface FileOperation extends OperationBase {
  kind: 'file';
}

/** Makes a part, or faces of one, by a task over the reference, or over the active cage; its entry stores what came of it. */
export interface TaskOperation extends OperationBase {
  kind: 'task';
  /** what the button that starts the task says, and the one that does it again from an entry's card */
  verb: string;
  again: string;
}

/** One of all kinds of operations; `kind` tells them apart. */
export type Operation = CageOperation | PartsOperation | ShapeOperation | SurfaceOperation | FileOperation | TaskOperation;

/** Whether what it makes is stored with its entry, and not made again when the job is replayed. */
export const isStored = (operation: Operation): operation is FileOperation | TaskOperation => operation.kind === 'file' || operation.kind === 'task';
