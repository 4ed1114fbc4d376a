import { type Cage } from '../mesh/cage.ts';
import { type CageArrays } from '../mesh/cage-arrays.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Params } from '../operations/operation.ts';
import { type Selection } from '../select/selection.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { type ElementPlaces } from './element-places.ts';

export type PartKind = 'reference' | 'cage';

/** One mesh in a job. References keep their polygons; cages are half-edges. */
export interface Part extends SurfaceSettings {
  id: string;
  name: string;
  kind: PartKind;
  cage?: Cage;
  mesh?: PolygonMesh;
}

/** All parts at one place of the logbook; never changed, only replaced. */
export interface JobState {
  parts: readonly Part[];
}

/** One thing done, as data: it can be stored, replayed and edited. Never changed once it is in a logbook, only replaced. */
export interface Entry {
  /** counts up within a job; never used twice */
  id: number;
  operation: string;
  /** id of the part made or changed */
  part: string;
  params: Params;
  selection: Selection;
  /** where the selected elements lay, to know them again after an earlier entry was changed */
  places?: ElementPlaces;
  /** the same for elements that its parameters name: what a cut or a pull was pointed at */
  paramPlaces?: ElementPlaces;
  /** fingerprint of the part's connectivity when it was done: where it is the same still, ids mean the same elements */
  topology?: number;
  /** for entries that make a part: its name, kind and settings */
  makes?: { name: string; kind: PartKind; scheme?: Part['scheme']; borderCorners?: Part['borderCorners'] };
  /** a result that is stored and never computed again */
  cast?: PolygonMesh;
  /**
   * for a stored result that takes the place of the selected faces only: vertices of `cast` that are vertices of the cage,
   * in pairs (index in `cast`, id in the cage)
   */
  seam?: Int32Array;
  /** the cage it made, where that is stored: it is not computed again, whatever comes before it, until it is released */
  result?: CageArrays;
  /** a name and a note of its own, where somebody gave it one */
  name?: string;
  note?: string;
  /** name of the group it is listed in, with those beside it of the same one */
  group?: string;
  /** it stays in the list and does nothing */
  disabled?: true;
  /** what was found and done, a sentence each */
  notes: string[];
  /** why the entry could not be replayed; it is skipped then, never dropped */
  problem?: string;
  /** when it was done, ISO 8601 */
  at: string;
}

/** Operation id of the entry that gives a part another name, `name` among its parameters. */
export const RENAME_PART = 'rename-part';

/** Operation id of the entry that takes a part out of the job. */
export const REMOVE_PART = 'remove-part';

/** A named group of parts. */
export interface Layer {
  name: string;
  /** of its clay, like #a0b0c0; left out: that of the stand */
  colour?: string;
  /** ids */
  parts: readonly string[];
}

/** Another way that a job took from one of its entries on; what comes before is shared with the way it is on now. */
export interface Branch {
  name: string;
  /** ids of the entries before it, the last one of which that is there still is where it leaves */
  after: readonly number[];
  entries: readonly Entry[];
}

/** A selection kept under a name. */
export interface NamedSet {
  name: string;
  part: string;
  selection: Selection;
}
