<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import type { DemoEntry } from '$lib/job/demo-files.ts';

  /** The way in for a first visit: one demo job, and the steps to its end. */
  let { demo, busy, onopen }: { demo: DemoEntry; busy: boolean; onopen: () => void } = $props();
  const steps = ['Lay quads', 'See it smooth', 'Move a loop', 'Deliver'];
</script>

<section aria-label="Start here">
  <img src="/pictures/{demo.id}.jpg" alt="" />
  <div>
    <h2>Start here: {demo.name}</h2>
    <p>{demo.teaches} About {demo.minutes} minutes.</p>
    <ol>
      {#each steps as step, i (step)}<li><span class="digit number">{i + 1}</span>{step}</li>{/each}
    </ol>
    <Button size="small" disabled={busy} on:click={onopen}>Open the newt</Button>
  </div>
</section>

<style>
  section {
    display: grid;
    grid-template-columns: minmax(200px, 33%) 1fr;
    margin-top: 20px;
    border: 1px solid var(--line);
    border-radius: var(--corner);
    background: var(--field);
    overflow: hidden;
  }
  img {
    width: 100%;
    height: 100%;
    max-height: 224px;
    object-fit: cover;
    border-right: 1px solid var(--line);
  }
  div {
    display: grid;
    gap: 10px;
    align-content: center;
    justify-items: start;
    padding: 20px 24px;
  }
  h2 {
    font-size: 20px;
    font-weight: 600;
  }
  p {
    max-width: 62ch;
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 20px;
    font-size: 13px;
  }
  li {
    display: flex;
    align-items: center;
    gap: 6px;
  }
  .digit {
    display: grid;
    place-items: center;
    width: 22px;
    height: 22px;
    border: 1px solid var(--edge);
    border-radius: 50%;
    font-size: 11px;
  }
</style>
