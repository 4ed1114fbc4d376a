import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { silent, type TaskReport } from '../task/steps.ts';
import { type Mirror } from './base/mirror.ts';
import { type AutoQuadsOptions, pullOf } from './base/options.ts';
import { StepStore } from './base/step-store.ts';
import { type PlannedPole, polesOf } from './field/pole-plan.ts';
import { type Prepared, prepared, surfaceOf } from './input/prepare.ts';
import { endsOf } from './lines/features.ts';
import { DirectionSteps } from './search/directions.ts';
import { sectionLines } from './symmetry/symmetry.ts';

/** What is known of a surface before anything is laid over it. Lines are x, y, z of both ends of each, one after the other. */
export interface LookAhead {
  /** planes it is mirrored in: one side of them is laid */
  mirrors: Mirror[];
  /** where these cut it */
  sections: Float32Array;
  /** edges that become edges of quads */
  sharp: Float32Array;
}

/**
 * Looks a surface through before poles are asked for or quads: what these need first is made and kept, so that they come sooner.
 * @param tell is told what was seen as soon as it is known
 * @throws AutoQuadsError
 */
export function lookAhead(mesh: PolygonMesh, options: AutoQuadsOptions, tell: (seen: LookAhead) => void, kept: StepStore): void {
  kept.begin(mesh);
  const input = prepared(mesh, options, kept);
  const { dense, mirrors, diagonal } = input;
  const sections = mirrors.map((mirror) => sectionLines(dense, mirror, diagonal));
  tell({ mirrors, sections: Float32Array.from(sections.flat()), sharp: endsOf(dense, dense.featureEdges()) });
  if (kept.isKeeping) firstSteps(input, options, silent, kept).workingMesh();
}

/**
 * Where the field has its poles, before quads are laid: a third of the way, and what guides and pulls change is seen in it.
 * @param kept takes up what an earlier run made; laying the quads afterwards goes on from there
 * @throws AutoQuadsError
 */
export function planPoles(mesh: PolygonMesh, options: AutoQuadsOptions, report: TaskReport = silent, kept = new StepStore()): PlannedPole[] {
  report.phase('Preparing', 0);
  kept.begin(mesh);
  const { mesh: working, field } = firstSteps(prepared(mesh, options, kept), options, report, kept).directions();
  report.phase('Done', 1);
  return polesOf(working, field);
}

/** The way that quads are laid by first. */
function firstSteps(input: Prepared, options: AutoQuadsOptions, report: TaskReport, kept: StepStore): DirectionSteps {
  const surface = surfaceOf(input, input.mirrors, options, kept);
  return new DirectionSteps(surface, 1, pullOf(options), options.cancelWithin ?? 1, report);
}
