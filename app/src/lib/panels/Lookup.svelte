<script lang="ts">
  import type { Found } from '$lib/commands/registry.ts';
  import { noteCalled, recentNames, searchIn } from '$lib/commands/search.ts';

  let { items, onclose }: { items: Found[]; onclose: () => void } = $props();
  let text = $state('');
  let at = $state(0);
  let field: HTMLInputElement;

  const recent = recentNames();
  const search = $derived(searchIn(items));
  const matches = $derived(search(text, recent));
  $effect(() => field.focus());

  function choose(item: Found | undefined) {
    if (!item) return;
    noteCalled(item.name);
    onclose();
    item.run();
  }
  function keys(event: KeyboardEvent) {
    if (event.key === 'ArrowDown') at = Math.min(at + 1, matches.length - 1);
    else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
    else if (event.key === 'Enter') choose(matches[at]);
    else if (event.key === 'Escape') onclose();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<div class="back" role="presentation" onclick={onclose}></div>
<div class="lookup" role="dialog" aria-label="Lookup">
  <input bind:this={field} bind:value={text} oninput={() => (at = 0)} onkeydown={keys} placeholder="What do you want to do?" aria-label="Lookup" />
  <ul role="listbox" aria-label="Found">
    {#each matches as item, i (item.name)}
      <!-- the keys are those of the field above -->
      <!-- svelte-ignore a11y_click_events_have_key_events -->
      <li role="option" class="item" class:at={i === at} class:dim={item.why} aria-selected={i === at} onclick={() => choose(item)}>
        <span>{item.name}</span><span class="quiet number">{item.key ?? ''}</span>
        <span class="quiet purpose">{item.why ?? item.purpose}</span>
      </li>
    {:else}<li class="quiet none">No matches.</li>{/each}
  </ul>
</div>

<style>
  .back {
    position: fixed;
    inset: 0;
    background: #0004;
    z-index: 8000;
  }
  .lookup {
    position: fixed;
    z-index: 8001;
    top: 90px;
    left: 50%;
    transform: translateX(-50%);
    width: 520px;
    background: var(--panel);
    border: 1px solid var(--line);
    box-shadow: 0 8px 30px #0004;
  }
  input {
    width: 100%;
    font-size: 16px;
    padding: 12px;
    border: 0;
    border-bottom: 1px solid var(--line);
    background: none;
    color: inherit;
  }
  .item {
    cursor: pointer;
    display: grid;
    grid-template-columns: 1fr auto;
    padding: 6px 12px;
  }
  .purpose {
    grid-column: 1 / 3;
    font-size: 12px;
  }
  .at {
    background: var(--paper-deep);
  }
  .item:hover {
    background: var(--hover);
  }
  .dim span:first-child {
    color: var(--soft);
  }
  .none {
    padding: 12px;
  }
</style>
