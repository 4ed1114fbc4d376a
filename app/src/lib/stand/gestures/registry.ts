import { brush } from './brush.ts';
import { box, lasso } from './enclose.ts';
import { handle } from './handle.ts';
import { clicks, stroke as drawBand, strokes } from './draw-on.ts';
import type { DragGesture, PickGesture } from './gesture.ts';
import { lay } from './lay.ts';
import { paint } from './paint.ts';
import { pull } from './pull.ts';
import { steer } from './stroke.ts';

/** Ways to pick by dragging, in the order of their switches; the first is that of a new job. */
export const pickGestures: readonly PickGesture[] = [box, lasso, paint];

/** What takes a press before picking does. */
const before: readonly DragGesture[] = [handle, pull, brush, lay, drawBand, strokes, clicks, steer];

/** The way to pick that has an id; the first one where none has it. */
export const pickGesture = (chosen: string): PickGesture => pickGestures.find(({ id }) => id === chosen) ?? pickGestures[0];

/** All that may take a press, the first one first. @param chosen id of the way to pick */
export const gesturesFor = (chosen: string): readonly DragGesture[] => [...before, pickGesture(chosen)];
