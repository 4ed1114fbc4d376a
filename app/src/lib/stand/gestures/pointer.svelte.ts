import type { Selection } from '@ulvrin/core';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import type { Stand } from '../stand.ts';
import type { Drag, DragGesture, Pixel, Press, Scene } from './gesture.ts';
import { click, hover } from './pick.ts';
import { point } from './point.ts';
import { gesturesFor } from './registry.ts';
import { isSteered } from './stroke.ts';

/** Pixels by which a click may be off. */
const STILL = 4;

/** The pointer over a stand: it hands drags to the gestures, and clicks to picking or pointing. */
export class Pointer implements Scene {
  drawn: Pixel[] = $state.raw([]);
  drawnAs: Scene['drawnAs'] = $state('box');
  /** where the pointer is, known before the handles hear of a move */
  at: Pixel = $state.raw([0, 0]);
  /** the short list of a right click */
  list: { at: Pixel; picked: Selection } | undefined = $state.raw();
  /** a part of the handle is under the pointer */
  overHandle = $state(false);
  /** of a pen, 0 to 1, known before the handles hear of a move */
  pressure = 1;
  private press: Press | undefined;
  private gesture: DragGesture | undefined;
  private drag: Drag | undefined;
  private released: { at: Pixel; add: boolean } | undefined;
  /** what was hovered last, so that nothing is drawn anew while the pointer stays over it */
  private hoveredKey = '';

  constructor(
    readonly job: OpenJob,
    readonly stand: Stand,
    private readonly onhover: (what: string) => void
  ) {}

  down(event: PointerEvent, at: Pixel): void {
    this.list = undefined;
    const how = event.shiftKey ? 'add' : event.ctrlKey || event.metaKey ? 'take' : 'instead';
    const press: Press = { at, button: event.button, alt: event.altKey, how };
    this.press = press;
    if (press.button !== 0) return;
    this.gesture = gesturesFor(this.job.view.gesture).find((gesture) => gesture.takes(this, press));
    this.drag = this.gesture?.begin(this, press);
  }

  move(): void {
    const { press, job, at } = this;
    if (press?.button === 0) this.drag?.move(at);
    else if (!press && job.running) this.lookAtHandle(at);
    else if (!press && !isSteered(this)) this.lookUnder(at);
  }

  private lookAtHandle(at: Pixel): void {
    const { handle } = this.stand;
    const label = handle.isShown ? handle.hover(...at) : undefined;
    this.overHandle = label !== undefined;
    if ((label ?? '') === this.hoveredKey) return;
    this.hoveredKey = label ?? '';
    this.onhover(label ?? '');
    this.stand.draw();
  }

  private lookUnder(at: Pixel): void {
    const picked = this.stand.pickAt(...at, this.job.view.pick);
    const painted = this.stand.paintedAt(...at);
    const key = JSON.stringify([picked, painted]);
    if (key === this.hoveredKey) return;
    this.hoveredKey = key;
    this.job.picked.hovered = picked;
    this.onhover([hover(this, picked), painted].filter(Boolean).join('; '));
  }

  /** Nothing is under the pointer any more. */
  forget(): void {
    this.overHandle = false;
    this.hoveredKey = '';
    this.onhover('');
    this.stand.hover(undefined);
  }

  leave(): void {
    if (this.press) return;
    this.job.picked.hovered = undefined;
    this.forget();
  }

  up(event: PointerEvent, at: Pixel): void {
    const { press, gesture, drag, job, stand } = this;
    this.press = this.gesture = this.drag = undefined;
    if (!press) return;
    const still = Math.hypot(at[0] - press.at[0], at[1] - press.at[1]) < STILL;
    if (press.button === 2 && still) {
      const picked = stand.pickAt(...at, job.view.pick);
      if (picked) this.list = { at, picked };
    }
    if (press.button !== 0) return;
    const wasDrawn = this.drawn.length > 1;
    drag?.up(at);
    this.drawn = [];
    if (wasDrawn || !still || gesture?.takesClicks) return;
    if (job.pointing) point(this, at, event.altKey);
    else if (!job.running) this.released = { at, add: press.how === 'add' };
  }

  /** The browser counts clicks in this event only. */
  click(event: MouseEvent): void {
    if (this.released) click(this, this.released.at, event.detail, this.released.add);
    this.released = undefined;
  }
}
