import PaintBrush from 'carbon-icons-svelte/lib/PaintBrush.svelte';
import { selectFaces } from '@ulvrin/core';
import { disc } from '../picking.ts';
import { picks, type PickGesture, type Pixel, type Press, type Scene } from './gesture.ts';

/** Picks what the brush touches, or takes it out of the selection. */
function touch({ job, stand }: Scene, [x, y]: Pixel, { how: pressed }: Press): void {
  const kind = job.view.pick === 'nearest' ? 'face' : job.view.pick;
  const touched = stand.pickIn(disc(x, y, job.view.brush), kind, { through: job.view.through, touched: true });
  const under = kind === 'face' ? stand.pickAt(x, y, 'face') : undefined;
  const how = pressed === 'take' ? 'take' : 'add';
  job.pickMany(touched, how);
  if (under) job.pickMany(under, how);
}

/** Picks with a round brush. */
export const paint: PickGesture = {
  id: 'paint',
  takesClicks: true,
  round: true,
  label: 'paint',
  icon: PaintBrush,
  help: 'Paint with a round brush; Shift adds, Ctrl takes away',
  takes: picks,
  begin(scene, press) {
    if (press.how === 'instead') scene.job.selection = selectFaces([]);
    touch(scene, press.at, press);
    return { move: (at) => touch(scene, at, press), up: () => undefined };
  }
};
