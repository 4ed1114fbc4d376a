<script lang="ts">
  import CircleFilled from 'carbon-icons-svelte/lib/CircleFilled.svelte';
  import CursorIcon from 'carbon-icons-svelte/lib/Cursor_1.svelte';
  import SquareOutline from 'carbon-icons-svelte/lib/SquareOutline.svelte';
  import Subtract from 'carbon-icons-svelte/lib/Subtract.svelte';
  import View from 'carbon-icons-svelte/lib/View.svelte';
  import ViewOff from 'carbon-icons-svelte/lib/ViewOff.svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { pickGesture, pickGestures } from './gestures/registry.ts';
  import type { PickKind } from './picking.ts';

  /** What a click picks, how dragging picks, and whether what is hidden is picked too. */
  let { job }: { job: OpenJob } = $props();

  const kinds: { id: PickKind; label: string; key: string; icon: typeof View }[] = [
    { id: 'vertex', label: 'vertices', key: 'Q', icon: CircleFilled },
    { id: 'edge', label: 'edges', key: 'W', icon: Subtract },
    { id: 'face', label: 'faces', key: 'E', icon: SquareOutline },
    { id: 'nearest', label: 'nearest', key: 'R', icon: CursorIcon }
  ];
  const chosen = $derived(pickGesture(job.view.gesture));

  function change(settings: Partial<typeof job.view>) {
    Object.assign(job.view, settings);
    job.saveViewSoon();
  }
</script>

<div class="strip raised" data-covers>
  <div role="group" aria-label="Pick">
    {#each kinds as { id, label, key, icon: Icon } (id)}
      <button
        class="icon {id}"
        aria-label={label}
        aria-pressed={job.view.pick === id}
        title="Pick {id === 'nearest' ? 'whichever is nearest' : label} ({key})"
        onclick={() => change({ pick: id })}><Icon /></button
      >
    {/each}
  </div>
  <div role="group" aria-label="Dragging picks by">
    {#each pickGestures as { id, label, help, icon: Icon } (id)}
      <button class="icon" aria-label={label} title={help} aria-pressed={chosen.id === id} onclick={() => change({ gesture: id })}><Icon /></button>
    {/each}
  </div>
  {#if chosen.round}
    <input
      type="range"
      min="4"
      max="120"
      aria-label="Brush radius"
      title="Radius of the brush: {job.view.brush} pixels (Alt and the wheel)"
      bind:value={job.view.brush}
    />
  {/if}
  <div>
    <button
      class="icon"
      aria-label={job.view.through ? 'through the model' : 'visible only'}
      aria-pressed={job.view.through}
      title={job.view.through ? 'Dragging picks through the model' : 'Dragging picks what is visible only'}
      onclick={() => change({ through: !job.view.through })}
      >{#if job.view.through}<ViewOff />{:else}<View />{/if}</button
    >
  </div>
</div>

<style>
  .strip {
    position: absolute;
    left: 8px;
    top: 8px;
    width: 36px;
    padding: 2px;
  }
  .strip > div + div,
  input {
    border-top: 1px solid var(--line);
    margin-top: 3px;
    padding-top: 3px;
  }
  .icon.vertex :global(svg) {
    scale: 0.55;
  }
  input {
    writing-mode: vertical-lr;
    direction: rtl;
    width: 30px;
    height: 76px;
  }
</style>
