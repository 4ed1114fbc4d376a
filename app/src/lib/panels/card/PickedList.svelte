<script lang="ts">
  import Close from 'carbon-icons-svelte/lib/Close.svelte';
  import Crosshair from 'carbon-icons-svelte/lib/CenterCircle.svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { alone, elementsOf, placeElement } from '$lib/selection/elements.ts';

  /** What is picked, one by one: to be walked by keys and read aloud, and taken off one at a time. */
  let { job, onframe }: { job: OpenJob; onframe: () => void } = $props();
  /** longer lists are no help */
  const MOST_LISTED = 60;
  let open = $state(false);
  const cage = $derived(job.active?.cage);
  const elements = $derived(open ? elementsOf(job.selection) : []);
</script>

<details class="fold" bind:open>
  <summary>What is picked, one by one</summary>
  {#if cage}
    <ul aria-label="Picked elements">
      {#each elements.slice(0, MOST_LISTED) as element (`${element.kind} ${element.id}`)}
        {@const text = placeElement(cage, element.kind, element.id)}
        <li>
          <span>{text}</span>
          <button
            class="icon"
            title="Pick this alone, and frame it"
            aria-label="Pick alone: {text}"
            onclick={() => {
              job.pickMany(alone(element), 'instead');
              onframe();
            }}><Crosshair /></button
          >
          <button class="icon" title="No longer pick this" aria-label="Take off: {text}" onclick={() => job.pickMany(alone(element), 'take')}
            ><Close /></button
          >
        </li>
      {/each}
    </ul>
    {#if elements.length > MOST_LISTED}<p class="quiet">and {elements.length - MOST_LISTED} more</p>{/if}
  {/if}
</details>

<style>
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 24px 24px;
    align-items: center;
    min-height: 26px;
    border-bottom: 1px solid var(--line);
  }
  .icon {
    width: 24px;
    height: 24px;
  }
</style>
