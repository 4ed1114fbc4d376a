<script lang="ts">
  import type { Tile } from '$lib/platform/storage/job-store.ts';
  import JobTile from './JobTile.svelte';

  interface Props {
    templates: Tile[];
    onstart: (template: Tile) => void;
    onrename: (template: Tile) => void;
    onremove: (template: Tile) => void;
  }
  /** Jobs that others are started from; nothing where there are none. */
  let { templates, onstart, onrename, onremove }: Props = $props();

  const acts = [
    { text: 'Rename', run: (template: Tile) => onrename(template) },
    { text: 'Delete', danger: true, run: (template: Tile) => onremove(template) }
  ];
</script>

{#if templates.length > 0}
  <div class="heading">
    <h2>Templates</h2>
    <span class="quiet">a click starts a job from a copy</span>
  </div>
  <div class="tiles">
    {#each templates as template (template.id)}<JobTile job={template} {acts} onstart={() => onstart(template)} />{/each}
  </div>
{/if}
