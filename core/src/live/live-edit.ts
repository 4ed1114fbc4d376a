import { type Cage } from '../mesh/cage.ts';
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

/** How an operation is worked on live. */
export interface LiveWork {
  /** parameters that steps change; with any other changed it begins anew */
  numbers: readonly string[];
  /** whether it can be, with these parameters; left out: always */
  suits?(params: Record<string, unknown>): boolean;
  /** @param params valid ones */
  begin(cage: Cage, selection: Selection, params: Record<string, unknown>): LiveEdit;
}
