import type { Cage, Operation, Params, PolygonMesh, Refusal, Selection, SurfaceSettings } from '@ulvrin/core';

/** An operation whose card is open and that is not applied yet. */
export interface Running {
  operation: Operation;
  params: Params;
}

/** What the running operation would do: its cage, or why it cannot. */
export interface Preview {
  cage?: Cage;
  /** of a dense mesh */
  mesh?: PolygonMesh;
  selection?: Selection;
  notes?: string[];
  refusal?: Refusal;
  /** vertices move, and nothing else changes */
  moves: boolean;
  /** those that have moved since the preview before, where that is known */
  moved?: Iterable<number>;
  surface?: SurfaceSettings;
}
