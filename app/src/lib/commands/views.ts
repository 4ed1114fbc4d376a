import { dot, facesRound, isEmpty, selectFaces, squareTo, verticesOf } from '@ulvrin/core';
import { placesOf } from '$lib/selection/places.ts';
import { preferences } from '$lib/settings/preferences.svelte.ts';
import { theme } from '$lib/settings/theme.svelte.ts';
import { SIDES, type Side } from '$lib/stand/sides.ts';
import type { Command, Workshop } from './command.ts';

/** Brings what is picked into view, or everything where nothing is. */
export function framePicked({ job, stand }: Pick<Workshop, 'job' | 'stand'>): void {
  const cage = job.active?.cage;
  stand?.frame(cage && !isEmpty(job.selection) ? placesOf(cage, job.selection) : undefined);
}

/** Rings of faces that are seen round something that was found; cosine of the angle under which it is seen too flat to be judged. */
const [ROUND, FLAT] = [3, 0.35];

/** Brings what is picked into view with what lies round it, from where it faces if it is hidden or seen edge-on: a single face would fill the stand. */
export function framePickedRound({ job, stand }: Pick<Workshop, 'job' | 'stand'>): void {
  const cage = job.active?.cage;
  if (!cage || !stand || isEmpty(job.selection)) return;
  const { middle, towards } = squareTo(cage, job.selection);
  const [, , back] = stand.viewAxes;
  if (stand.hides(middle) || dot(towards, back) < FLAT) stand.eyes.lookAlong(middle, towards);
  stand.frame(placesOf(cage, selectFaces(facesRound(cage, verticesOf(cage, job.selection), ROUND))));
}

/** Looks straight at what is picked, from where it faces. */
function lookSquarely({ job, stand }: Workshop): void {
  const cage = job.active?.cage;
  if (!cage || isEmpty(job.selection)) return job.tell('info', 'Pick faces, edges or vertices to look at squarely.');
  const { middle, towards } = squareTo(cage, job.selection);
  stand?.eyes.lookSquarely(middle, towards);
}

/** Cuts the view open through what is picked, or through what is looked at; closes it again. */
function toggleSection({ job, stand }: Workshop): void {
  if (!stand) return;
  const cage = job.active?.cage;
  if (job.section) return void (job.section = undefined);
  const points = cage && !isEmpty(job.selection) ? placesOf(cage, job.selection) : undefined;
  const centre: [number, number, number] = [0, 0, 0];
  if (points) for (let i = 0; i < points.length; i++) centre[i % 3] += points[i] / (points.length / 3);
  job.section = { point: points ? centre : stand.cameraState.target, offset: 0 };
}

/** Level sides, in the order that one turns round in. */
const LEVEL: readonly Side[] = ['front', 'right', 'back', 'left'];

/** Looks plumb at the part, straight from the level side that is nearest; once more from the next one. */
function lookPlumb({ stand }: Workshop): void {
  if (!stand) return;
  const [, , towards] = stand.viewAxes;
  const facing = (side: Side) => SIDES[side].reduce<number>((sum, c, k) => sum + c * towards[k], 0);
  const nearest = LEVEL.reduce((a, b) => (facing(b) > facing(a) ? b : a));
  const isThere = facing(nearest) > 0.9999;
  stand.eyes.lookFrom(isThere ? LEVEL[(LEVEL.indexOf(nearest) + 1) % LEVEL.length] : nearest);
}

/** What is shown, and how. */
export const shown: readonly Command[] = [
  { id: 'smooth', name: 'Smooth surface on or off', code: 'KeyT', run: ({ job }) => (job.view.smooth = !job.view.smooth) },
  { id: 'cage', name: 'Cage on or off', code: 'KeyY', run: ({ job }) => (job.view.cage = !job.view.cage) },
  {
    id: 'xray',
    name: 'X-ray',
    purpose: 'See through surfaces, and all wires',
    code: 'Shift+KeyX',
    run: ({ job }) => (job.view.xray = !job.view.xray)
  }
];

export const looking: readonly Command[] = [
  { id: 'section', name: 'Section plane', code: 'Shift+Backquote', run: toggleSection },
  {
    id: 'square',
    name: 'Look squarely at what is picked',
    purpose: 'A straight view of a panel, from where it faces',
    code: 'Shift+KeyD',
    run: lookSquarely
  },
  {
    id: 'plumb',
    name: 'Look plumb from the side',
    purpose: 'A straight view from the level side that is nearest; once more turns on to the next',
    code: 'Shift+KeyS',
    run: lookPlumb
  },
  { id: 'frame', name: 'Frame the selection, or all', code: 'Shift+KeyF', run: framePicked }
];

export const orbiting: Command = {
  id: 'orbit-pointer',
  name: 'Orbit round what is under the pointer',
  purpose: 'A setting: on or off; else round the middle of the view',
  run: () => preferences.change({ orbitsPointer: !preferences.now.orbitsPointer })
};

export const colours: Command = {
  id: 'theme',
  name: 'Night theme or light',
  purpose: 'Change the colours',
  run: () => theme.set(!theme.night)
};
