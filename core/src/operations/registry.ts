import { bakeCreases } from './creases/bake-creases.ts';
import { creasesToLoops, loopsToCreases } from './creases/convert.ts';
import { fitReference } from './surface/fit-reference.ts';
import { pullSurface } from './surface/pull-surface.ts';
import { brace, braceWidth, takeOutBrace } from './loops/brace.ts';
import { clearCreases, crease, creaseByAngle, creaseRegions } from './creases/crease.ts';
import { levelPlan } from './surface/set-level-plan.ts';
import { bridgeOperation } from './fill/bridge-borders.ts';
import { oneFaceCap, quadGrid, ringCap, triangleCapOperation } from './fill/caps.ts';
import { fillBetween } from './fill/fill-between.ts';
import { layAlongOperation } from './fill/lay-along.ts';
import { sweep } from './fill/sweep.ts';
import { pinCount } from './fill/pin-count.ts';
import { weldBorders, zip } from './fill/weld-borders.ts';
import { average } from './even/average.ts';
import { evenQuads } from './even/even-quads.ts';
import { followRowsOperation } from './even/follow-rows.ts';
import { movingBrushes } from './even/brushes.ts';
import { lock } from './even/lock.ts';
import { paintBrushes } from './even/paint-brushes.ts';
import { offsetArea } from './even/offset-area.ts';
import { relaxArea } from './even/relax-area.ts';
import { setMask } from './even/set-mask.ts';
import { setRegion } from './even/set-region.ts';
import { shapeChain } from './even/shape-chain.ts';
import { band } from './lay/band.ts';
import { hold } from './lay/hold.ts';
import { keepEdges } from './lay/keep-edges.ts';
import { landmarks } from './lay/landmarks.ts';
import { limbLoops } from './lay/limb-loops.ts';
import { cageFromRegionsOperation, findRegionsOperation } from './lay/find-regions.ts';
import { sections } from './lay/sections.ts';
import { layByHand } from './lay/lay-by-hand.ts';
import { autoQuadsOperation } from './lay/lay-quads.ts';
import { type Bench, type CageOperation, type Operation } from './operation.ts';
import { align } from './form/align.ts';
import { fixAllWith } from './check/fix-all.ts';
import { bendTest } from './check/bend-test.ts';
import { sharpnessScale } from './deliver/sharpness-scale.ts';
import { takeReturn } from './deliver/take-return.ts';
import { idleLoops } from './check/idle-loops.ts';
import { addLoop } from './flow/add-loop.ts';
import { bevel } from './build/bevel.ts';
import { commonSolid, joinSolids, subtractSolid } from './solids/join-solids.ts';
import { collapse } from './flow/collapse.ts';
import { connect, pointOnEdge } from './flow/connect.ts';
import { cut } from './flow/cut.ts';
import { alongCurve, bend, inflate, taper, twist } from './form/deform.ts';
import { deleteOperation } from './build/delete.ts';
import { dissolve } from './flow/dissolve.ts';
import { divideOnce } from './flow/divide-once.ts';
import { drawFace } from './build/draw-face.ts';
import { duplicate } from './build/duplicate.ts';
import { extrude } from './build/extrude.ts';
import { flatten } from './form/flatten.ts';
import { flip, turnOutward } from './build/flip.ts';
import { inset } from './build/inset.ts';
import { makeRound } from './form/make-round.ts';
import { mirror } from './build/mirror-part.ts';
import { openEdges } from './build/open-edges.ts';
import { combine, separate } from './build/parts.ts';
import { joinPoles, movePole } from './flow/poles.ts';
import { slide } from './flow/slide.ts';
import { sliceSet } from './flow/slice-set.ts';
import { spaceOut } from './form/space-out.ts';
import { swingEdge } from './flow/swing-edge.ts';
import { runCutOutOperation } from './flow/run-cut-out.ts';
import { thinOut } from './flow/thin-out.ts';
import { triangleToQuad } from './flow/triangle-to-quad.ts';
import { weld, weldNearPairs } from './build/weld.ts';
import { move, rotate, scale } from './form/transform.ts';
import { bringInFile } from './source/bring-in-file.ts';
import { startShape } from './source/start-shape.ts';

/** Every operation there is. The rack, the lookup, the key sheet, the logbook and job files read this list. */
export const operations: readonly Operation[] = [
  bringInFile,
  startShape,
  autoQuadsOperation,
  layByHand,
  band,
  limbLoops,
  sections,
  findRegionsOperation,
  cageFromRegionsOperation,
  hold,
  keepEdges,
  landmarks,
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
  weldNearPairs,
  thinOut,
  runCutOutOperation,
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
  sweep,
  weldBorders,
  zip,
  pinCount,
  ...movingBrushes,
  ...paintBrushes,
  relaxArea,
  average,
  evenQuads,
  offsetArea,
  setMask,
  lock,
  setRegion,
  followRowsOperation,
  shapeChain,
  idleLoops,
  bendTest,
  takeReturn,
  sharpnessScale,
  fixAllWith((id) => operationById(id) as CageOperation)
];

/** The operation of an id; nothing where a job names one that there is no more. */
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
