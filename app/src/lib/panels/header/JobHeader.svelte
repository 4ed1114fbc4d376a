<script lang="ts">
  import { resolve } from '$app/paths';
  import { call } from '$lib/commands/registry.ts';
  import type { Workshop } from '$lib/commands/command.ts';
  import type { PickKind } from '$lib/stand/picking.ts';
  import { overlays } from '$lib/stand/marks/registry.ts';
  import { theme } from '$lib/settings/theme.svelte.ts';

  let { workshop }: { workshop: Workshop } = $props();
  const job = $derived(workshop.job);

  const kinds: { id: PickKind; label: string }[] = [
    { id: 'vertex', label: 'vertices' },
    { id: 'edge', label: 'edges' },
    { id: 'face', label: 'faces' },
    { id: 'nearest', label: 'nearest' }
  ];

  function toggleCompare() {
    job.view.compare = job.view.compare === undefined ? 'smooth' : undefined;
    job.saveViewSoon();
  }
  function toggleOverlay(id: string) {
    job.view.overlays[id] = !job.view.overlays[id];
    job.saveViewSoon();
  }
</script>

<header>
  <a href={resolve('/')} class="home" title="To the jobs">Ulvrin</a>
  <strong>{job.name}</strong>
  <span class="gap"></span>
  <div class="group" role="group" aria-label="Pick">
    {#each kinds as kind (kind.id)}<button aria-pressed={job.view.pick === kind.id} onclick={() => call(`pick-${kind.id}`, workshop)}
        >{kind.label}</button
      >{/each}
  </div>
  <div class="group" role="group" aria-label="Shown">
    <button aria-pressed={job.view.cage} title="Cage (Y)" onclick={() => call('cage', workshop)}>cage</button>
    <input
      type="range"
      min="0.1"
      max="1"
      step="0.05"
      title="Cage opacity"
      aria-label="Cage opacity"
      bind:value={job.view.cageOpacity}
      onchange={() => job.saveViewSoon()}
    />
    <button aria-pressed={job.view.smooth} title="Smooth surface (T)" onclick={() => call('smooth', workshop)}>smooth</button>
    <label
      >level <select bind:value={job.view.level} onchange={() => job.saveViewSoon()}
        >{#each [0, 1, 2, 3, 4] as level (level)}<option value={level}>{level}</option>{/each}</select
      ></label
    >
    {#if job.view.smooth && job.shownLevel !== undefined && job.shownLevel < job.view.level}
      <span class="quiet" title="Level {job.view.level} of this cage has more faces than can be drawn; level {job.shownLevel} is shown"
        >shown: {job.shownLevel}</span
      >
    {/if}
    <button
      aria-pressed={job.view.compare !== undefined}
      title="Two panes with one eye: against all levels smooth, the state before the last entry, or another part"
      onclick={toggleCompare}>compare</button
    >
  </div>
  <div class="group" role="group" aria-label="Overlays">
    {#each overlays as { id, label, help } (id)}<button title={help} aria-pressed={job.view.overlays[id]} onclick={() => toggleOverlay(id)}
        >{label}</button
      >{/each}
  </div>
  <button class="take" onclick={() => call('take-away', workshop)}>Take away</button>
  <button class="plain" title="Light or night" onclick={() => call('theme', workshop)}>{theme.night ? 'light' : 'night'}</button>
</header>

<style>
  header {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 0 10px;
    background: var(--panel);
    border-bottom: 1px solid var(--line);
    white-space: nowrap;
    font-size: 13px;
  }
  header strong {
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 60px;
  }
  .home {
    color: var(--sea);
    font-weight: 600;
    text-decoration: none;
  }
  .gap {
    flex: 1;
  }
  .group {
    display: flex;
    align-items: center;
  }
  .group button,
  .take {
    border: 1px solid var(--line);
    background: var(--paper);
    color: inherit;
    font: inherit;
    font-size: 12px;
    padding: 3px 7px;
    cursor: pointer;
    margin-left: -1px;
  }
  .group button[aria-pressed='true'] {
    background: var(--cobalt);
    color: #fff;
    border-color: var(--cobalt);
  }
  :global(html[theme='g100']) .group button[aria-pressed='true'] {
    color: #14181b;
  }
  .group input[type='range'] {
    width: 54px;
    margin: 0 4px;
  }
  .group label {
    margin-left: 6px;
    font-size: 12px;
  }
  .group select {
    background: var(--paper);
    color: inherit;
    border: 1px solid var(--line);
  }
  .take {
    border-color: var(--sea);
  }
</style>
