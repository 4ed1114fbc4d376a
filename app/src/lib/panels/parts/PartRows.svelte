<script lang="ts">
  import type { Part } from '@ulvrin/core';
  import { dndzone, TRIGGERS, type DndEvent } from 'svelte-dnd-action';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import PartRow from './PartRow.svelte';

  /** Parts of one layer, or of none; parts are dragged in and out, or moved by their menu. */
  let {
    job,
    parts,
    label,
    onrename,
    onmove
  }: { job: OpenJob; parts: readonly Part[]; label: string; onrename: (part: Part) => void; onmove: (id: string, at: number) => void } = $props();

  /** as they lie while one is dragged */
  let dragged: Part[] | undefined = $state.raw();
  const items = $derived(dragged ?? [...parts]);

  function end({ detail: { items: now, info } }: CustomEvent<DndEvent<Part>>) {
    dragged = undefined;
    if (info.trigger === TRIGGERS.DROPPED_INTO_ZONE)
      onmove(
        info.id,
        now.findIndex(({ id }) => id === info.id)
      );
  }
</script>

<ul
  aria-label={label}
  use:dndzone={{ items, type: 'parts', flipDurationMs: 0, zoneTabIndex: -1, zoneItemTabIndex: -1, autoAriaDisabled: true, dropTargetStyle: {} }}
  onconsider={(e) => (dragged = e.detail.items)}
  onfinalize={end}
>
  {#each items as part (part.id)}
    <li><PartRow {job} {part} onrename={() => onrename(part)} /></li>
  {/each}
</ul>

<style>
  ul {
    min-height: 8px;
    padding: 4px 8px;
    font-size: 12px;
  }
</style>
