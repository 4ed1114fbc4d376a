import Lasso from 'carbon-icons-svelte/lib/Lasso.svelte';
import SelectWindow from 'carbon-icons-svelte/lib/SelectWindow.svelte';
import { lasso as lassoArea, rectangle, type Area } from '../picking.ts';
import type { PickGesture, Pixel, Press, Scene } from './gesture.ts';

/** Pixels from which on a press is a drag. */
const DRAGGED = 5;

/** Picks what an area encloses that is drawn. @param add what a move of the pointer makes of what is drawn */
const enclosing = (
  own: Pick<PickGesture, 'id' | 'label' | 'help' | 'icon'>,
  drawnAs: Scene['drawnAs'],
  add: (drawn: Pixel[], press: Press, at: Pixel) => Pixel[],
  areaOf: (drawn: Pixel[]) => Area
): PickGesture => ({
  ...own,
  takes: () => true,
  begin: (scene, press) => ({
    move(at) {
      if (Math.hypot(at[0] - press.at[0], at[1] - press.at[1]) <= DRAGGED) return;
      scene.drawnAs = drawnAs;
      scene.drawn = add(scene.drawn, press, at);
      scene.stand.hover(undefined);
    },
    up() {
      const { job, stand, drawn } = scene;
      if (drawn.length < 2) return;
      const picked = stand.pickIn(areaOf(drawn), job.view.pick, { through: job.view.through });
      if (!job.running) job.pickMany(picked, press.how);
    }
  })
});

export const box = enclosing(
  { id: 'box', label: 'box', icon: SelectWindow, help: 'Drag a box; Shift adds, Ctrl takes away' },
  'box',
  (_drawn, press, at) => [press.at, at],
  ([[ax, ay], [bx, by]]) => rectangle(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by))
);

export const lasso = enclosing(
  { id: 'lasso', label: 'lasso', icon: Lasso, help: 'Drag a line round what is meant; Shift adds, Ctrl takes away' },
  'outline',
  (drawn, press, at) => [...(drawn.length > 0 ? drawn : [press.at]), at],
  lassoArea
);
