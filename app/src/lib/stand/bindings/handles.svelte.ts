import { untrack } from 'svelte';
import {
  isEmpty,
  positionOf,
  transformFrame,
  transformWeights,
  type CageOperation,
  type TransformParams,
  type Triple,
  WORLD_AXES
} from '@ulvrin/core';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import type { Pixel } from '../gestures/gesture.ts';
import type { HandleMode } from '../handles.ts';
import type { Stand } from '../stand.ts';

type Params = TransformParams & { snap: string; step: number; how?: string };

/** How the handles of an operation are drawn, and how its numbers are told from theirs: scaling has percent. */
const KINDS: Record<NonNullable<CageOperation['handles']>, { mode: HandleMode; factor: number }> = {
  move: { mode: 'translate', factor: 1 },
  turn: { mode: 'rotate', factor: 1 },
  scale: { mode: 'scale', factor: 100 }
};

/** Numbers that handles change: all others say where and how these are drawn. */
const settingsOf = ({ x: _x, y: _y, z: _z, ...settings }: Params): object => settings;

/**
 * Keeps the handles in step with the running operation: they change its numbers, and typed numbers move them. Called while a component is set up.
 * @param pointer where the pointer is
 * @returns what the handles stand for now: the operation, or nothing
 */
export function bindHandles(job: OpenJob, standNow: () => Stand | undefined, pointer: () => Pixel): () => string {
  let shownFor = $state('');
  const running = $derived.by(() => {
    const operation = job.running?.operation;
    if (operation?.kind !== 'cage' || !operation.handles) return undefined;
    return { operation, ...KINDS[operation.handles], params: job.running!.params as unknown as Params };
  });

  /** What a dragged handle is drawn to: a place under the pointer that does not move itself. */
  function snapPoint(to: string): Triple | undefined {
    const [cage, stand] = [job.active?.cage, standNow()];
    if (!cage || !stand) return undefined;
    const [x, y] = pointer();
    if (to === 'reference') return stand.pointOnReference(x, y);
    const moving = new Set(job.draft.movingPivot ? [] : transformWeights(cage, job.selection, running!.params as never).keys());
    const place = stand.restingPlaceAt(cage, x, y, moving, to === 'edge');
    return place && positionOf(cage, place);
  }

  function movePivot(x: number, y: number, z: number) {
    const [pivotX, pivotY, pivotZ] = [x, y, z].map((n) => Number(n.toFixed(4)));
    job.setParams({ pivot: 'typed', pivotX, pivotY, pivotZ });
  }

  /** Where the numbers are counted from: the pivot where they are a place. */
  const baseOf = ({ how }: Params, pivot: Triple): Triple => (how === 'to' ? pivot : [0, 0, 0]);

  $effect(() => {
    const now = running;
    const [cage, stand] = [job.active?.cage, standNow()];
    const isShown = now && cage && !isEmpty(job.selection);
    const key = isShown ? `${now.operation.id} ${job.version} ${job.draft.movingPivot} ${JSON.stringify(settingsOf(now.params))}` : '';
    if (key === untrack(() => shownFor)) return;
    shownFor = key;
    if (!isShown || !stand) return void stand?.showHandles(undefined);
    const { mode, factor, params } = now;
    const frame = transformFrame(cage, job.selection, params as never);
    if (job.draft.movingPivot) {
      const world = { axes: WORLD_AXES, pivot: [0, 0, 0] as Triple };
      stand.showHandles({ mode: 'translate', frame: world, step: 0, snapTo: () => snapPoint('vertex'), changed: movePivot });
      return stand.followNumbers(...frame.pivot);
    }
    const { snap, step } = params;
    const round = (n: number) => Math.round(n * factor * 1e4) / 1e4;
    const [bx, by, bz] = baseOf(params, frame.pivot);
    stand.showHandles({
      mode,
      frame,
      step: snap === 'grid' ? step : 0,
      snapTo: () => (snap === 'none' || snap === 'grid' ? undefined : snapPoint(snap)),
      changed: (x, y, z) => job.setParams({ x: round(x + bx), y: round(y + by), z: round(z + bz) })
    });
  });

  // typed numbers move the handles
  $effect(() => {
    const cage = job.active?.cage;
    if (!running || !shownFor || job.draft.movingPivot || !cage) return;
    const { params, factor } = running;
    const [x, y, z] = params.how === 'to' ? baseOf(params, transformFrame(cage, job.selection, params as never).pivot) : [0, 0, 0];
    standNow()?.followNumbers((params.x - x) / factor, (params.y - y) / factor, (params.z - z) / factor);
  });

  // how far vertices follow: it goes with them, and changes with settings alone
  const fading = $derived(running && running.params.falloff !== 'none' ? JSON.stringify(settingsOf(running.params)) : '');
  $effect(() => {
    void job.version;
    const cage = job.active?.cage;
    const weights = fading && cage ? untrack(() => transformWeights(cage, job.selection, running!.params as never)) : undefined;
    standNow()?.markFalloff(weights);
  });

  return () => shownFor.split(' ')[0];
}
