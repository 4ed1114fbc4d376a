import { bakeCreases } from './brace/bake-creases.ts';
import { creasesToLoops, loopsToCreases } from './brace/convert.ts';
import { fitReference } from './brace/fit-reference.ts';
import { pullSurface } from './brace/pull-surface.ts';
import { brace, braceWidth, takeOutBrace } from './brace/brace.ts';
import { clearCreases, crease, creaseByAngle, creaseRegions } from './brace/crease.ts';
import { levelPlan } from './brace/level-plan.ts';
import { bridgeOperation } from './fill/bridge.ts';
import { oneFaceCap, quadGrid, ringCap, triangleCapOperation } from './fill/caps.ts';
import { fillBetween } from './fill/fill-between.ts';
import { layAlongOperation } from './fill/lay-along.ts';
import { pinCount } from './fill/pin-count.ts';
import { weldBorders, zip } from './fill/weld-borders.ts';
import { autoQuadsOperation } from './lay/auto-quads.ts';
import { type Bench, type Operation } from './operation.ts';
import { align } from './shape/align.ts';
import { addLoop } from './shape/add-loop.ts';
import { bevel } from './shape/bevel.ts';
import { commonSolid, joinSolids, subtractSolid } from './shape/boolean.ts';
import { collapse } from './shape/collapse.ts';
import { connect, pointOnEdge } from './shape/connect.ts';
import { cut } from './shape/cut.ts';
import { alongCurve, bend, inflate, taper, twist } from './shape/deform.ts';
import { deleteOperation } from './shape/delete.ts';
import { dissolve } from './shape/dissolve.ts';
import { divideOnce } from './shape/divide-once.ts';
import { drawFace } from './shape/draw-face.ts';
import { duplicate } from './shape/duplicate.ts';
import { extrude } from './shape/extrude.ts';
import { flatten } from './shape/flatten.ts';
import { flip, turnOutward } from './shape/flip.ts';
import { inset } from './shape/inset.ts';
import { makeRound } from './shape/make-round.ts';
import { mirror } from './shape/mirror.ts';
import { openEdges } from './shape/open-edges.ts';
import { combine, separate } from './shape/parts.ts';
import { joinPoles, movePole } from './shape/poles.ts';
import { slide } from './shape/slide.ts';
import { sliceSet } from './shape/slice-set.ts';
import { spaceOut } from './shape/space-out.ts';
import { swingEdge } from './shape/swing-edge.ts';
import { thinOut } from './shape/thin-out.ts';
import { triangleToQuad } from './shape/triangle-to-quad.ts';
import { weld } from './shape/weld.ts';
import { move, rotate, scale } from './shape/transform.ts';
import { bringInFile } from './source/bring-in.ts';
import { startShape } from './source/start-shape.ts';

/** Every operation there is. The rack, the lookup, the key sheet, the logbook and job files read this list. */
export const operations: readonly Operation[] = [
  bringInFile,
  startShape,
  autoQuadsOperation,
  addLoop,
  slide,
  dissolve,
  extrude,
  cut,
  move,
  rotate,
  scale,
  deleteOperation,
  mirror,
  drawFace,
  inset,
  bevel,
  swingEdge,
  connect,
  pointOnEdge,
  collapse,
  weld,
  thinOut,
  triangleToQuad,
  movePole,
  joinPoles,
  openEdges,
  divideOnce,
  sliceSet,
  duplicate,
  separate,
  combine,
  subtractSolid,
  joinSolids,
  commonSolid,
  flip,
  turnOutward,
  makeRound,
  flatten,
  align,
  spaceOut,
  twist,
  taper,
  bend,
  alongCurve,
  inflate,
  crease,
  brace,
  braceWidth,
  takeOutBrace,
  creaseByAngle,
  creaseRegions,
  clearCreases,
  creasesToLoops,
  loopsToCreases,
  levelPlan,
  bakeCreases,
  pullSurface,
  fitReference,
  quadGrid,
  bridgeOperation,
  ringCap,
  triangleCapOperation,
  oneFaceCap,
  fillBetween,
  layAlongOperation,
  weldBorders,
  zip,
  pinCount
];

export function operationById(id: string): Operation | undefined {
  return operations.find((o) => o.id === id);
}

/** Keys of the rack's two rows, from left to right. */
export const UPPER_ROW = ['A', 'S', 'D', 'F', 'G'] as const;
export const LOWER_ROW = ['Z', 'X', 'C', 'V', 'B'] as const;

/** The operation on each key of the rack at a bench (undefined: the key is free), and the bench's others. */
export function rackAt(bench: Bench): { upper: (Operation | undefined)[]; lower: (Operation | undefined)[]; others: Operation[] } {
  const upper = UPPER_ROW.map((key) => operations.find((o) => o.key === key));
  const lower = LOWER_ROW.map((key) => operations.find((o) => o.key === key && o.bench === bench));
  const shown = new Set([...upper, ...lower]);
  return { upper, lower, others: operations.filter((o) => o.bench === bench && !shown.has(o)) };
}
