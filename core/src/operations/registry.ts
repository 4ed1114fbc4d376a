import { autoQuadsOperation } from './lay/auto-quads.ts';
import { type Bench, type Operation } from './operation.ts';
import { addLoop } from './shape/add-loop.ts';
import { collapse } from './shape/collapse.ts';
import { connect, pointOnEdge } from './shape/connect.ts';
import { cut } from './shape/cut.ts';
import { deleteOperation } from './shape/delete.ts';
import { dissolve } from './shape/dissolve.ts';
import { drawFace } from './shape/draw-face.ts';
import { extrude } from './shape/extrude.ts';
import { flip } from './shape/flip.ts';
import { inset } from './shape/inset.ts';
import { mirror } from './shape/mirror.ts';
import { slide } from './shape/slide.ts';
import { swingEdge } from './shape/swing-edge.ts';
import { thinOut } from './shape/thin-out.ts';
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
  swingEdge,
  connect,
  pointOnEdge,
  collapse,
  weld,
  thinOut,
  flip
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
