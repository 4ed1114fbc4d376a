import { flushSync, untrack } from 'svelte';
import {
  isEmpty,
  namesOf,
  numbersFor,
  operations,
  placementOf,
  positionOf,
  transformFrame,
  transformWeights,
  type CageOperation,
  type Frame,
  type Knob,
  type Placement,
  type PlacementNumbers,
  type TransformParams,
  type Triple,
  WORLD_AXES
} from '@ulvrin/core';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import type { Pixel } from '../gestures/gesture.ts';
import { STILL, type KnobSettings } from '../handle/handle.ts';
import type { Stand } from '../stand.ts';

type Params = TransformParams & { snap: string; step: number } & Record<string, unknown>;

/** As the card shows numbers. */
const round = (n: number) => Math.round(n * 1e4) / 1e4;

/** Numbers that the handle changes: all others say where and how it is drawn. */
const settingsOf = (params: Params, numbers: PlacementNumbers): string =>
  JSON.stringify(Object.entries(params).filter(([name]) => !namesOf(numbers).includes(name)));

/** What a knob on the handle begins. */
const drawing = operations.find((o): o is CageOperation & { knob: Knob } => o.kind === 'cage' && o.knob !== undefined)!;

/**
 * Keeps the handle in step with the running operation: it changes its numbers, and typed numbers move it. Called while a component is set up.
 * @param pointer where the pointer is
 * @returns what the handle stands for now: the operation, or nothing
 */
export function bindHandle(job: OpenJob, standNow: () => Stand | undefined, pointer: () => Pixel): () => string {
  let shownFor = $state('');
  /** the frame it is shown in: it does not change with the numbers that are dragged */
  let frame: Frame | undefined = $state.raw();
  /** the knob is being drawn: the handle stays until it is released */
  let drawsOut = $state(false);
  const running = $derived.by(() => {
    const operation = job.running?.operation;
    if (operation?.kind !== 'cage' || !operation.handle) return undefined;
    return { operation, numbers: operation.handle, params: job.running!.params as Params };
  });

  /** What the dragged handle is drawn to: a place under the pointer that does not move itself. */
  function snapPoint(to: string): Triple | undefined {
    const [cage, stand] = [job.active?.cage, standNow()];
    if (!cage || !stand) return undefined;
    const [x, y] = pointer();
    if (to === 'reference') return stand.referenceAt(x, y)?.at;
    const moving = new Set(job.draft.movingPivot ? [] : transformWeights(cage, job.selection, running!.params).keys());
    const place = stand.restingPlaceAt(cage, x, y, moving, to === 'edge');
    return place && positionOf(cage, place);
  }

  /** The knob, where what is picked can be drawn out; what the handle has done by then is applied first. */
  function knobFor(operation: CageOperation): KnobSettings | undefined {
    const cage = job.active?.cage;
    const { label, number, params, along: alongOf } = drawing.knob;
    const along = cage && !job.whyNot(drawing) && alongOf(cage, job.selection);
    if (!along) return undefined;
    return {
      label,
      along,
      begin() {
        drawsOut = true;
        if (isMoved()) job.apply();
        else job.discard();
        job.start(drawing);
        job.setParams({ ...params, [number]: 0 });
        return {
          drag: (mm) => job.setParams({ [number]: round(mm) }),
          end() {
            if (job.running?.params[number] === 0) job.discard();
            else job.apply();
            // what was refused stays open
            if (!job.running && !job.task) job.start(operation);
            drawsOut = false;
            flushSync();
          }
        };
      }
    };
  }

  /** where the handle stands with the numbers there are */
  const placementNow = (): Placement | undefined => running && frame && placementOf(running.numbers, frame, running.params);
  const isMoved = () => JSON.stringify(placementNow()) !== JSON.stringify(STILL);

  function movePivot({ shift }: Placement) {
    const [pivotX, pivotY, pivotZ] = shift.map(round);
    job.setParams({ pivot: 'typed', pivotX, pivotY, pivotZ });
  }

  $effect(() => {
    const now = running;
    const [cage, stand] = [job.active?.cage, standNow()];
    if (drawsOut) return;
    const isShown = now && cage && !isEmpty(job.selection);
    const key = isShown ? `${now.operation.id} ${job.version} ${job.draft.movingPivot} ${settingsOf(now.params, now.numbers)}` : '';
    if (key === untrack(() => shownFor)) return;
    shownFor = key;
    stand?.draw();
    if (!isShown || !stand) return void stand?.handle.hide();
    const { numbers, params } = now;
    const shown = (frame = transformFrame(cage, job.selection, params));
    if (job.draft.movingPivot) {
      const world = { axes: WORLD_AXES, pivot: [0, 0, 0] as Triple };
      stand.handle.show({ frame: world, step: 0, base: [0, 0, 0], onlyMoves: true, snapTo: () => snapPoint('vertex'), changed: movePivot });
      return stand.handle.follow({ ...STILL, shift: shown.pivot });
    }
    const { snap, step } = params;
    const base: Triple = params.how === 'to' ? shown.pivot : [0, 0, 0];
    stand.handle.show({
      frame: shown,
      step: snap === 'grid' ? step : 0,
      base,
      snapTo: () => (snap === 'none' || snap === 'grid' ? undefined : snapPoint(snap)),
      changed(placement) {
        const made = numbersFor(numbers, shown, placement, job.running!.params);
        job.setParams(Object.fromEntries(Object.entries(made).map(([name, n]) => [name, round(n)])));
      },
      knob: untrack(() => knobFor(now.operation))
    });
  });

  // typed numbers move the handle
  $effect(() => {
    const [placement, stand] = [placementNow(), standNow()];
    if (!placement || !stand || !shownFor || job.draft.movingPivot) return;
    stand.handle.follow(placement);
    stand.draw();
  });

  // how far vertices follow: it goes with them, and changes with settings alone
  const fading = $derived(running && running.params.falloff !== 'none' ? settingsOf(running.params, running.numbers) : '');
  $effect(() => {
    void job.version;
    const cage = job.active?.cage;
    const weights = fading && cage ? untrack(() => transformWeights(cage, job.selection, running!.params)) : undefined;
    standNow()?.markFalloff(weights);
  });

  return () => shownFor.split(' ')[0];
}
