<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A cell of the title block that opens a sheet over it; a press outside or Escape closes it. */
  let {
    name,
    title,
    sheet,
    head,
    children
  }: {
    /** of its button, where that has no text of its own */
    name?: string;
    title: string;
    /** what the sheet is called */
    sheet: string;
    head: Snippet<[boolean]>;
    children: Snippet<[() => void]>;
  } = $props();
  let open = $state(false);
  let host: HTMLDivElement | undefined = $state();

  function close() {
    open = false;
    host?.querySelector('button')?.focus();
  }
</script>

<svelte:window onpointerdowncapture={(e) => open && !host?.contains(e.target as Node) && (open = false)} />

<div class="cell" bind:this={host}>
  <button class="head" aria-label={name} aria-expanded={open} {title} onclick={() => (open = !open)}>{@render head(open)}</button>
  {#if open}
    <!-- escape closes the sheet, wherever in it the focus is -->
    <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
    <div
      class="sheet raised"
      role="group"
      aria-label={sheet}
      onkeydown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        close();
      }}
    >
      {@render children(close)}
    </div>
  {/if}
</div>

<style>
  .cell {
    position: relative;
    flex: 1;
    min-width: 0;
  }
  .head {
    display: flex;
    align-items: center;
    gap: 6px;
    width: 100%;
    height: 26px;
    border: 0;
    border-radius: var(--corner);
    background: none;
    color: inherit;
    font: inherit;
    padding: 0;
    cursor: pointer;
  }
  .head:hover {
    background: var(--hover);
  }
  .head :global(svg) {
    flex: none;
    margin-right: 4px;
  }
  .sheet {
    position: absolute;
    right: 0;
    bottom: 32px;
    width: 196px;
    padding: 4px;
    z-index: 5;
  }
  .sheet :global(.row) {
    display: grid;
    grid-template-columns: 16px 1fr auto;
    align-items: center;
    gap: 8px;
    width: 100%;
    min-height: 26px;
    padding: 0 4px;
    border: 0;
    border-radius: 3px;
    background: none;
    color: inherit;
    font: inherit;
    text-align: left;
    cursor: pointer;
  }
  .sheet :global(.row.marked) {
    grid-template-columns: 16px 14px 1fr auto;
  }
  .sheet :global(.row:hover) {
    background: var(--hover);
  }
  .sheet :global(.tick) {
    display: grid;
  }
</style>
