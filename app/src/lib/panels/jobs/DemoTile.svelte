<script lang="ts">
  import type { DemoEntry } from '$lib/job/demo-files.ts';

  /** A demo job: opens as a copy. */
  let { demo, busy, onopen }: { demo: DemoEntry; busy: boolean; onopen: () => void } = $props();
</script>

<article class="tile">
  <button disabled={busy} onclick={onopen} aria-label={demo.name} aria-describedby="demo-{demo.id}">
    <img src="/pictures/{demo.id}.jpg" alt="" loading="lazy" />
    <span class="minutes">{demo.minutes} min</span>
    <strong>{demo.name}</strong>
    <span class="quiet" id="demo-{demo.id}">{demo.teaches}</span>
  </button>
</article>

<style>
  button {
    position: relative;
    display: grid;
    gap: 2px;
    align-content: start;
    width: 100%;
    height: 100%;
    padding: 0 0 12px;
    border: 1px solid var(--line);
    border-radius: var(--corner);
    background: var(--panel);
    color: inherit;
    font: inherit;
    font-size: 12px;
    line-height: 1.4;
    text-align: left;
    cursor: pointer;
  }
  button:hover {
    box-shadow: var(--shadow);
  }
  button:hover strong {
    color: var(--cobalt);
  }
  button:disabled {
    cursor: default;
    opacity: 0.6;
  }
  img {
    width: 100%;
    aspect-ratio: 16 / 9.4;
    object-fit: cover;
    border-bottom: 1px solid var(--line);
    background: linear-gradient(#f4f2ec, #e3dfd5);
  }
  strong {
    padding: 8px 12px 0;
    font-size: 14px;
    font-weight: 600;
  }
  .quiet {
    padding: 0 12px;
  }
  .minutes {
    position: absolute;
    left: 8px;
    top: 8px;
    padding: 1px 8px;
    border: 1px solid var(--line);
    border-radius: 10px;
    background: var(--panel);
    color: var(--soft);
  }
</style>
