<script lang="ts">
  import { onMount } from 'svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { heldLetters } from '$lib/settings/keys.ts';
  import { theme } from '$lib/settings/theme.svelte.ts';
  import { bindDrawing } from './bindings/drawing.svelte.ts';
  import { bindHandle } from './bindings/handle.svelte.ts';
  import BorderCounts from './BorderCounts.svelte';
  import BrushRing from './BrushRing.svelte';
  import FindingMarks from './FindingMarks.svelte';
  import LayMarks from './LayMarks.svelte';
  import { coveredAreas } from './covered.ts';
  import { brushes, turned } from './gestures/brush.ts';
  import { wheelOnPoint } from './gestures/draw-on.ts';
  import type { Pixel } from './gestures/gesture.ts';
  import { offersFor } from './gestures/pick.ts';
  import { Pointer } from './gestures/pointer.svelte.ts';
  import { pickGesture } from './gestures/registry.ts';
  import type { Measured } from './marks/overlay.ts';
  import type { Side } from './sides.ts';
  import { Stand } from './stand.ts';
  import StandGrips from './StandGrips.svelte';
  import Strokes from './Strokes.svelte';

  /** The stand of a job: what is drawn follows the job, what the pointer does goes to the gestures. */
  let {
    job,
    meter,
    stand = $bindable(),
    side,
    onhover
  }: {
    job: OpenJob;
    meter: Measured;
    stand?: Stand;
    /** a pane that looks from there, straight, beside the first one */
    side?: Side;
    onhover: (what: string) => void;
  } = $props();
  let host: HTMLDivElement;
  let pointer: Pointer | undefined = $state.raw();
  /** the pointer is over the stand */
  let inside = $state(false);

  onMount(() => {
    const made = new Stand(host, side);
    made.setTheme(theme.night);
    made.eyes.covered = () => coveredAreas(host);
    stand = made;
    // when this view goes, the page may have another job already
    const mine = job;
    pointer = new Pointer(mine, made, (what) => onhover(what));
    const leave = side ? undefined : isSeenBy(mine, made);
    return () => {
      leave?.();
      made.end();
      stand = pointer = undefined;
    };
  });

  /** The first pane is what the job's picture shows, and what is looked from when it is opened again. */
  function isSeenBy(mine: OpenJob, made: Stand) {
    mine.document.takePicture = () => made.picture();
    mine.draft.viewAxes = () => made.viewAxes;
    made.onCamera = () => {
      mine.view.camera = made.cameraState;
      mine.saveViewSoon();
    };
    return () => {
      mine.document.takePicture = undefined;
      mine.draft.viewAxes = undefined;
    };
  }

  // a view shows one job all its life
  // svelte-ignore state_referenced_locally
  bindDrawing(job, () => stand, meter, side);
  // svelte-ignore state_referenced_locally
  const handle = bindHandle(
    job,
    () => stand,
    () => pointer?.at ?? [0, 0]
  );
  $effect(() => {
    if (job.running) pointer?.forget();
  });

  const at = (event: MouseEvent): Pixel => {
    const r = host.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };
  const round = $derived(pickGesture(job.view.gesture).round ?? false);

  function down(event: PointerEvent) {
    // directions of the view are those of the pane that is worked in
    if (stand) job.draft.viewAxes = () => stand!.viewAxes;
    if (event.target !== host.querySelector('canvas')) return;
    pointer?.down(event, at(event));
  }

  function moved(event: PointerEvent) {
    inside = true;
    if (!pointer) return;
    pointer.at = at(event);
    pointer.pressure = event.pointerType === 'pen' ? event.pressure : 1;
  }

  /** Alt and the wheel change the size of a round brush, with Shift the strength of one that works on the surface; there its key does as well. Over a point of a band they change that. */
  function wheel(event: WheelEvent) {
    const by = Math.sign(event.deltaY || event.deltaX);
    if (event.altKey && stand && wheelOnPoint({ job, stand }, at(event), by, event.shiftKey)) {
      event.preventDefault();
      return event.stopPropagation();
    }
    const works = brushes({ job });
    if (!(event.altKey ? round || works : works && heldLetters.size > 0)) return;
    event.preventDefault();
    event.stopPropagation();
    if (works) return job.setParams(turned(job.running!.params, by, event.shiftKey));
    job.view.brush = Math.min(120, Math.max(4, job.view.brush - Math.sign(event.deltaY) * 3));
  }
</script>

<!-- the stand takes every pointer event; its keys are handled by the page -->
<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
<div
  class="stand"
  class:grab={pointer?.overHandle}
  bind:this={host}
  role="application"
  aria-label={side ? `Stand from the ${side}` : 'Stand'}
  data-testid={side ? `stand-${side}` : 'stand'}
  data-handle={handle()}
  onpointerdowncapture={down}
  onpointermovecapture={moved}
  onpointermove={() => pointer?.move()}
  onpointerup={(e) => pointer?.up(e, at(e))}
  onclick={(e) => pointer?.click(e)}
  onpointerleave={() => {
    inside = false;
    pointer?.leave();
  }}
  oncontextmenu={(e) => e.preventDefault()}
  onwheelcapture={wheel}
>
  {#if pointer}
    {@const { drawn, drawnAs, list } = pointer}
    {#if drawn.length > 1}
      {@const [[ax, ay], [bx, by]] = drawn}
      <svg class="drawn" aria-hidden="true">
        {#if drawnAs === 'line'}
          <polyline points={drawn.map((p) => p.join(',')).join(' ')} fill="none" />
        {:else if drawnAs === 'outline'}
          <polygon points={drawn.map((p) => p.join(',')).join(' ')} />
        {:else}
          <rect x={Math.min(ax, bx)} y={Math.min(ay, by)} width={Math.abs(bx - ax)} height={Math.abs(by - ay)} />
        {/if}
      </svg>
    {:else if round && inside && !job.running}
      <svg class="drawn" aria-hidden="true"><circle cx={pointer.at[0]} cy={pointer.at[1]} r={job.view.brush} /></svg>
    {/if}
    {#if list}
      <ul class="list" role="menu" style="left:{list.at[0]}px;top:{list.at[1]}px">
        {#each offersFor(pointer, list.picked) as offer (offer.label)}
          <li role="none"><button role="menuitem" class="plain" onclick={() => (offer.run(), (pointer!.list = undefined))}>{offer.label}</button></li>
        {/each}
      </ul>
    {/if}
  {/if}
  {#if side}
    <button class="side" title="Frame all in this pane" onclick={() => stand?.frame()}>{side}</button>
  {/if}
  {#if stand}
    <BorderCounts {job} {stand} />
    <FindingMarks {job} {stand} />
    <StandGrips {job} {stand} />
    <Strokes {job} {stand} />
    {#if pointer && inside}<BrushRing {job} {stand} at={pointer.at} /><LayMarks {job} {stand} at={pointer.at} />{/if}
  {/if}
</div>

<style>
  .stand {
    position: relative;
    width: 100%;
    height: 100%;
    overflow: hidden;
    touch-action: none;
  }
  /* what is laid over the drawing lets the pointer through */
  .stand :global(.over-stand) {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: hidden;
    pointer-events: none;
  }
  .stand :global(canvas) {
    display: block;
  }
  .grab {
    cursor: grab;
  }
  .drawn {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
    fill: #1d5bd622;
    stroke: var(--cobalt);
  }
  .side {
    position: absolute;
    left: 8px;
    top: 8px;
    min-height: 24px;
    padding: 0 8px;
    border: 1px solid var(--line);
    border-radius: var(--corner);
    background: var(--panel);
    color: var(--soft);
    font: inherit;
    font-size: 12px;
    cursor: pointer;
  }
  .side:hover {
    background: var(--hover);
  }
  .list {
    position: absolute;
    background: var(--panel);
    border: 1px solid var(--line);
    box-shadow: 0 4px 14px #0003;
    padding: 4px;
    z-index: 5;
  }
</style>
