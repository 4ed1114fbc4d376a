<script lang="ts">
  import { benches, type Bench } from '@ulvrin/core';
  import { deliveredAs } from '$lib/job/view.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { benchStates } from './bench-states.ts';

  let { job }: { job: OpenJob } = $props();

  const states = $derived(
    benchStates({
      parts: job.parts.length,
      reference: job.reference?.mesh,
      cage: job.active?.cage,
      measures: job.measures,
      plan: job.active?.plan,
      // elsewhere the part is not looked through
      visible: job.view.bench === 7 ? job.findings.visible : undefined,
      delivered: deliveredAs(job.view)
    })
  );
</script>

<nav aria-label="Benches">
  {#each benches as bench, i (bench)}
    {@const current = job.view.bench === i + 1}
    <button class={states[i].tone} class:current aria-current={current} onclick={() => ((job.view.bench = (i + 1) as Bench), job.saveViewSoon())}>
      <span class="digit number">{i + 1}</span>
      <span class="name">{bench}</span>
      <span class="state" title={states[i].line}>{states[i].line}</span>
    </button>
  {/each}
</nav>

<style>
  nav {
    display: flex;
    flex-direction: column;
    background: var(--rail);
    border-right: 1px solid var(--line);
    overflow-y: auto;
    padding-top: 4px;
  }
  button {
    display: grid;
    grid-template-columns: 28px 1fr;
    column-gap: 7px;
    text-align: left;
    background: none;
    border: 0;
    border-left: 3px solid transparent;
    color: inherit;
    font: inherit;
    padding: 9px 4px 9px 7px;
    cursor: pointer;
  }
  button:hover {
    background: var(--hover);
  }
  .current {
    border-left-color: var(--cobalt);
    background: var(--panel);
  }
  .name {
    font-weight: 600;
    line-height: 18px;
  }
  .digit {
    grid-row: span 2;
    place-self: center;
    display: grid;
    place-items: center;
    width: 28px;
    height: 28px;
    border: 1.5px solid var(--line);
    border-radius: 50%;
    font-size: 12px;
    color: var(--soft);
    background: var(--panel);
  }
  .done .digit {
    border-color: var(--sea);
    color: var(--sea);
  }
  .open .digit {
    border-color: var(--brick);
    color: var(--brick);
  }
  .current .digit {
    border-color: var(--cobalt);
    background: var(--cobalt);
    color: var(--on-cobalt);
  }
  .state {
    font-size: 12px;
    line-height: 16px;
    color: var(--soft);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  /* a low window: one line a bench */
  @media (max-height: 540px) {
    button {
      padding-block: 4px;
    }
    .state {
      display: none;
    }
  }
</style>
