import type { Component } from 'svelte';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import type { Stand } from '../stand.ts';

/** A place on the stand, in pixels from its corner. */
export type Pixel = [number, number];

/** The pointer as it was pressed. */
export interface Press {
  at: Pixel;
  button: number;
  alt: boolean;
  /** what picking makes of what it picks */
  how: 'instead' | 'add' | 'take';
}

/** What gestures work on: the job, the stand, and what they show over it. */
export interface Scene {
  readonly job: OpenJob;
  readonly stand: Stand;
  /** what is drawn over the stand while the pointer is dragged */
  drawn: Pixel[];
  /** how `drawn` is shown */
  drawnAs: 'line' | 'outline' | 'box';
  /** how hard a pen is pressed, 0 to 1; 1 for what has no pressure */
  readonly pressure: number;
}

/** A drag that is under way. */
export interface Drag {
  move(at: Pixel): void;
  /** It is released. */
  up(at: Pixel): void;
}

/** What dragging with the first button does; the first one that takes a press has it until it is released. */
export interface DragGesture {
  id: string;
  takes(scene: Scene, press: Press): boolean;
  /** a click is its own, too: nothing is picked or pointed at by it */
  takesClicks?: boolean;
  begin(scene: Scene, press: Press): Drag;
}

/** One of the ways to pick by dragging, which a switch chooses. */
export interface PickGesture extends DragGesture {
  /** of its switch */
  label: string;
  icon: Component;
  help: string;
  /** it picks within a circle round the pointer, whose size can be changed */
  round?: boolean;
}

/** Whether a press may pick: not while an operation runs. */
export const picks = ({ job }: Scene): boolean => !job.running;
