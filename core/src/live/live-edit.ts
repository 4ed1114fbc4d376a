import { type Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Refusal } from '../operations/refusal.ts';
import { type Selection } from '../select/selection.ts';

/** What one step of a live edit did. */
export interface LiveStep {
  /** vertices whose places are others than before it */
  moved: Int32Array;
  /** faces, edges or vertices have come or gone as well */
  topologyChanged: boolean;
}

/**
 * Work on a cage that lasts longer than one call: it begins on a cage, takes steps at the rate of the pointer, and ends as one entry or is
 * forgotten. A step costs what it touches, not the size of the cage; the cage it began on is never changed.
 */
export interface LiveEdit {
  /** the cage as it is now: a copy of its own, changed by every step */
  readonly cage: Cage;
  /** what is to be said of it */
  readonly notes: readonly string[];
  /** @param input numbers as the operation's card has them, valid ones */
  step(input: Record<string, unknown>): LiveStep;
}

/** The same on a dense mesh that is no cage. */
export interface MeshEdit extends Pick<LiveEdit, 'notes' | 'step'> {
  /** the mesh as it is now: it shares all but its places with what it began on */
  readonly mesh: PolygonMesh;
}

/** How an operation is worked on a dense mesh. */
export interface MeshWork {
  /** what is said until there is a first touch */
  waits: Refusal;
  /** why it cannot; nothing where it can */
  refusal(mesh: PolygonMesh): Refusal | undefined;
  begin(mesh: PolygonMesh, params: Record<string, unknown>): MeshEdit;
}

/** How an operation is worked on live. */
export interface LiveWork {
  /** parameters that steps change; with any other changed it begins anew */
  numbers: readonly string[];
  /** whether it can be, with these parameters; left out: always */
  suits?(params: Record<string, unknown>): boolean;
  /** @param params valid ones @param around what the cage is laid over, for what is held to it */
  begin(cage: Cage, selection: Selection, params: Record<string, unknown>, around?: { reference?: PolygonMesh }): LiveEdit;
}
