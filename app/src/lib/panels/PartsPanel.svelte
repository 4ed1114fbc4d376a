<script lang="ts">
  import TrashCan from 'carbon-icons-svelte/lib/TrashCan.svelte';
  import View from 'carbon-icons-svelte/lib/View.svelte';
  import ViewOff from 'carbon-icons-svelte/lib/ViewOff.svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  let { job }: { job: OpenJob } = $props();
</script>

<ul aria-label="Parts">
  {#each job.parts as part (part.id)}
    {@const hidden = job.hidden.includes(part.id)}
    <li class:active={part.id === job.view.activePart}>
      <button
        class="plain"
        title={hidden ? 'Show' : 'Hide'}
        aria-label="{hidden ? 'Show' : 'Hide'} {part.name}"
        onclick={() => job.toggleHidden(part)}
      >
        {#if hidden}<ViewOff />{:else}<View />{/if}
      </button>
      <button
        class="plain name"
        disabled={part.kind === 'reference'}
        title={part.kind === 'cage' ? 'Work on this part' : 'A reference'}
        onclick={() => job.workOn(part)}>{part.name}</button
      >
      <span class="quiet number"
        >{part.kind === 'cage'
          ? `${part.cage!.faceCount.toLocaleString('en')} faces`
          : `reference, ${(part.mesh!.faceStart.length - 1).toLocaleString('en')}`}</span
      >
      <button class="plain" title="Remove this part (undo brings it back)" aria-label="Remove {part.name}" onclick={() => job.removePart(part.id)}
        ><TrashCan /></button
      >
    </li>
  {:else}
    <li class="quiet">No parts yet.</li>
  {/each}
</ul>

<style>
  ul {
    padding: 4px 8px;
    font-size: 12px;
  }
  li {
    display: grid;
    grid-template-columns: 24px 1fr auto 24px;
    align-items: center;
  }
  .active {
    background: var(--picked);
    box-shadow: inset 3px 0 0 var(--cobalt);
  }
  .name:disabled {
    cursor: default;
    text-decoration: none;
  }
</style>
