<script lang="ts">
  import Close from 'carbon-icons-svelte/lib/Close.svelte';
  import Document from 'carbon-icons-svelte/lib/Document.svelte';
  import type { FileRecord } from '$lib/platform/storage/database.ts';
  import { changedWhen } from './wall.ts';

  /** Files brought in before: each can be brought in again. */
  let { files, onopen, onforget }: { files: FileRecord[]; onopen: (name: string) => void; onforget: (name: string) => void } = $props();
  const sizeOf = (bytes: number) => (bytes < 1e5 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(1)} MB`);
</script>

{#if files.length > 0}
  <div class="heading">
    <h2>Recent files</h2>
    <span class="quiet">kept in this browser, to be brought in again</span>
  </div>
  <ul aria-label="Recent files">
    {#each files as { name, size, at } (name)}
      <li>
        <button class="open" title="Bring in {name} again" onclick={() => onopen(name)}>
          <Document /><span class="name">{name}</span><span class="quiet number">{sizeOf(size)}, {changedWhen(at)}</span>
        </button>
        <button class="icon" aria-label="Forget {name}" title="Forget it; jobs made of it stay" onclick={() => onforget(name)}><Close /></button>
      </li>
    {/each}
  </ul>
{/if}

<style>
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  li {
    display: flex;
    align-items: center;
    border: 1px solid var(--line);
    border-radius: var(--corner);
    background: var(--panel);
    max-width: 100%;
  }
  .open {
    display: flex;
    align-items: center;
    gap: 8px;
    min-width: 0;
    height: 32px;
    padding: 0 8px;
    border: 0;
    background: none;
    color: inherit;
    font: inherit;
    font-size: 13px;
    cursor: pointer;
  }
  .open:hover {
    color: var(--cobalt);
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    max-width: 260px;
  }
  .number {
    font-size: 12px;
    white-space: nowrap;
  }
  .open :global(svg) {
    flex: none;
  }
  .icon {
    width: 28px;
  }
</style>
