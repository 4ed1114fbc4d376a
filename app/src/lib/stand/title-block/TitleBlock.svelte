<script lang="ts">
  import ChevronDown from 'carbon-icons-svelte/lib/ChevronDown.svelte';
  import ChevronUp from 'carbon-icons-svelte/lib/ChevronUp.svelte';
  import CenterSquare from 'carbon-icons-svelte/lib/CenterSquare.svelte';
  import CutOut from 'carbon-icons-svelte/lib/CutOut.svelte';
  import Grid from 'carbon-icons-svelte/lib/Grid.svelte';
  import Opacity from 'carbon-icons-svelte/lib/Opacity.svelte';
  import View from 'carbon-icons-svelte/lib/View.svelte';
  import ViewOff from 'carbon-icons-svelte/lib/ViewOff.svelte';
  import ZoomFit from 'carbon-icons-svelte/lib/ZoomFit.svelte';
  import { call } from '$lib/commands/registry.ts';
  import type { Workshop } from '$lib/commands/command.ts';
  import { measuredWith, type Measured } from '../marks/overlay.ts';
  import { paintOn, paints, withPaint } from '../marks/registry.ts';
  import { isBlockFolded } from './folding.svelte.ts';
  import MarksCell from './MarksCell.svelte';
  import PanesCell from './PanesCell.svelte';
  import RangeCell from './RangeCell.svelte';
  import { scaleBar, shortLength } from './scale.ts';
  import Views from './Views.svelte';

  /** Control and legend of the view in one, as the corner of a drawing has it. */
  let { workshop, meter }: { workshop: Workshop; meter: Measured } = $props();
  const job = $derived(workshop.job);
  const stand = $derived(workshop.stand);
  const { view } = $derived(job);
  const folded = $derived(isBlockFolded(view));
  const straight = $derived(view.camera?.orthographic ?? false);
  const lower = $derived(view.smooth && job.shownLevel !== undefined && job.shownLevel < view.level);
  const paint = $derived(paintOn(view.overlays, job.shows));
  const painted = $derived(
    job.active?.cage && !job.preview ? paint?.values(job.active.cage, measuredWith(meter, job.compared), job.active) : undefined
  );

  /** mm a pixel, as the last frame had it */
  let scale = $state(1);
  $effect(() => stand?.afterFrames(() => (scale = stand.scale)));
  const bar = $derived(scaleBar(scale, 54));

  function change(settings: Partial<typeof view>) {
    Object.assign(view, settings);
    job.saveViewSoon();
  }
</script>

<section class="block" class:folded aria-label="Title block" data-covers>
  {#if folded}
    <div class="line">
      <span class="bar" style="width:{bar.pixels.toFixed(1)}px"></span><span class="number">{shortLength(bar.mm)}</span>
      <PanesCell {job} />
      <button class="icon" aria-label="Unfold the title block" title="Unfold the title block" onclick={() => change({ blockFolded: false })}
        ><ChevronUp /></button
      >
    </div>
  {:else}
    <div class="cell views"><Views {stand} /></div>
    <div class="cell row">
      <span>cage</span>
      <input
        type="range"
        min="0.1"
        max="1"
        step="0.05"
        title="Opacity of the cage: {Math.round(100 * view.cageOpacity)} %"
        aria-label="Cage opacity"
        bind:value={view.cageOpacity}
        onchange={() => job.saveViewSoon()}
      />
      <button
        class="icon eye"
        aria-label="x-ray"
        aria-pressed={view.xray}
        title="X-ray: see through surfaces (Shift+X)"
        onclick={() => call('xray', workshop)}><Opacity /></button
      >
      <button class="icon eye" aria-label="cage" aria-pressed={view.cage} title="Cage (Y)" onclick={() => call('cage', workshop)}
        >{#if view.cage}<View />{:else}<ViewOff />{/if}</button
      >
    </div>
    <div class="cell row">
      <span>smooth</span>
      {#if lower}<span class="quiet" title="Level {view.level} has more faces than can be drawn">shown: {job.shownLevel}</span>{/if}
      <select class="number" aria-label="level" title="Level of the smooth surface" bind:value={view.level} onchange={() => job.saveViewSoon()}
        >{#each [0, 1, 2, 3, 4] as level (level)}<option value={level}>{level}</option>{/each}</select
      >
      <button class="icon eye" aria-label="smooth" aria-pressed={view.smooth} title="Smooth surface (T)" onclick={() => call('smooth', workshop)}
        >{#if view.smooth}<View />{:else}<ViewOff />{/if}</button
      >
    </div>
    <div class="cell row"><MarksCell {job} /></div>
    <div class="cell row paint">
      <span class="quiet">paint</span>
      <select
        aria-label="Paint"
        title={paint?.help ?? 'What colours the surface'}
        value={paint?.id ?? ''}
        onchange={(e) => change({ overlays: withPaint(view.overlays, e.currentTarget.value) })}
      >
        <option value="">clay</option>
        {#each paints as { id, label } (id)}<option value={id}>{label}</option>{/each}
      </select>
    </div>
    <div class="cell row straight">
      <button class="plain" aria-pressed={straight} title="Perspective or straight" onclick={() => stand?.eyes.setOrthographic(!straight)}
        >{straight ? 'straight' : 'perspective'}</button
      >
      <button class="icon" aria-label="look squarely" title="Look squarely at what is picked (Shift+D)" onclick={() => call('square', workshop)}
        ><CenterSquare /></button
      >
    </div>
    <div class="cell row legend" role="note" aria-label="Legend of the paint">
      {#if paint?.legend && job.active?.cage}
        <span class="quiet">{paint.legend(job.active.cage)}</span>
      {:else if paint && painted}
        <RangeCell {job} {paint} found={painted} />
      {:else}<span class="quiet">{paint ? '...' : 'no paint'}</span>{/if}
    </div>
    <div class="cell row tools">
      <span class="scale" title="Scale"
        ><span class="bar" style="width:{bar.pixels.toFixed(1)}px"></span><span class="number">{shortLength(bar.mm)}</span></span
      >
      <PanesCell {job} />
      <button
        class="icon"
        aria-label="section"
        aria-pressed={job.section !== undefined}
        title="Section plane (Shift+`)"
        onclick={() => call('section', workshop)}><CutOut /></button
      >
      <button class="icon" aria-label="floor" aria-pressed={view.floor} title="Floor grid" onclick={() => change({ floor: !view.floor })}
        ><Grid /></button
      >
      <button class="icon" aria-label="frame all" title="Everything in view (Shift+F with nothing picked)" onclick={() => stand?.frame()}
        ><ZoomFit /></button
      >
      <button class="icon" aria-label="Fold the title block" title="Fold the title block" onclick={() => change({ blockFolded: true })}
        ><ChevronDown /></button
      >
    </div>
  {/if}
</section>

<style>
  .block {
    position: absolute;
    right: 8px;
    bottom: 8px;
    display: grid;
    grid-template-columns: 124px 224px;
    grid-template-rows: repeat(5, 31px);
    background: var(--panel);
    border: 1.5px solid var(--edge);
    box-shadow: var(--shadow);
    font-size: 12px;
  }
  .folded {
    display: block;
  }
  .line,
  .row {
    display: flex;
    align-items: center;
    gap: 6px;
    padding: 0 4px 0 8px;
  }
  .row.tools {
    gap: 0;
  }
  .cell {
    border: 0 solid var(--line);
    border-left-width: 1px;
    border-top-width: 1px;
    min-width: 0;
  }
  .cell.views {
    grid-row: span 3;
    border-width: 0;
  }
  .row > span:first-child:not(.bar) {
    flex: 1;
  }
  .paint select {
    width: 82px;
  }
  .row.paint > span:first-child {
    flex: none;
  }
  .row:nth-child(2) {
    border-top: 0;
  }
  .paint,
  .straight {
    grid-column: 1;
    border-left: 0;
  }
  .tools {
    grid-column: 2;
    gap: 0;
  }
  .paint {
    grid-row: 4;
  }
  .straight {
    grid-row: 5;
  }
  .tools {
    grid-row: 5;
    justify-content: flex-end;
  }
  .legend {
    grid-column: 2;
    grid-row: 4;
    white-space: nowrap;
    padding-right: 8px;
  }
  .row > .number:first-child {
    flex: none;
  }
  .scale {
    display: flex;
    align-items: center;
    gap: 6px;
    white-space: nowrap;
    overflow: hidden;
  }
  .bar {
    height: 6px;
    border: solid var(--ink);
    border-width: 0 1.5px 1.5px;
  }
  .tools .icon,
  .line .icon,
  .eye {
    width: 26px;
    height: 24px;
  }
  /* a switch that is on shows an open eye; blue means picked */
  .eye[aria-pressed] {
    background: none;
    color: inherit;
  }
  .eye[aria-pressed='false'] {
    color: var(--soft);
  }
  .tools .icon[aria-pressed='true'] {
    background: var(--hover);
    color: inherit;
    box-shadow: inset 0 -2px 0 var(--ink);
  }
  input[type='range'] {
    width: 74px;
    accent-color: var(--ink);
  }
  select {
    background: var(--field);
    color: inherit;
    border: 1px solid var(--line);
    border-radius: 3px;
    font: inherit;
    height: 24px;
    min-width: 0;
    max-width: 100%;
  }
</style>
