<script lang="ts">
  import CheckmarkFilled from 'carbon-icons-svelte/lib/CheckmarkFilled.svelte';
  import ChevronDown from 'carbon-icons-svelte/lib/ChevronDown.svelte';
  import ChevronUp from 'carbon-icons-svelte/lib/ChevronUp.svelte';
  import CircleDash from 'carbon-icons-svelte/lib/CircleDash.svelte';
  import Close from 'carbon-icons-svelte/lib/Close.svelte';
  import { describeCondition, isMet } from '@ulvrin/core';
  import type { DeviationMeter } from '$lib/job/deviation-meter.svelte.ts';
  import { deliveredAs } from '$lib/job/view.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  /** What there is to do in this job, as a checklist that is measured. */
  let { job, meter }: { job: OpenJob; meter: DeviationMeter } = $props();
  let open = $state(true);
  let told = $state(true);

  const steps = $derived.by(() => {
    const facts = {
      cage: job.active?.cage,
      measures: job.measures,
      surfaceOff: meter.found?.smooth.most,
      // the part is looked through only where the brief asks for it
      visible: job.document.doneWhen.some(({ is }) => is === 'check') ? job.findings.visible : undefined,
      delivered: deliveredAs(job.view)
    };
    return job.document.doneWhen.map((condition) => ({ label: describeCondition(condition), ...isMet(condition, facts) }));
  });
  const done = $derived(steps.filter((step) => step.done).length);
</script>

{#if open && (job.record.brief || steps.length > 0)}
  <section class="raised" aria-label="Brief" data-covers>
    <header>
      <h3 title={job.name}>{job.name}</h3>
      {#if steps.length > 0}<span class="number quiet" data-testid="brief-done">{done} of {steps.length}</span>{/if}
      {#if job.record.brief && steps.length > 0}
        <button class="icon" aria-label={told ? 'Hide what it is about' : 'What it is about'} aria-expanded={told} onclick={() => (told = !told)}
          >{#if told}<ChevronUp />{:else}<ChevronDown />{/if}</button
        >
      {/if}
      <button class="icon" aria-label="Close the brief" onclick={() => (open = false)}><Close /></button>
    </header>
    {#if job.record.brief && told}<p>{job.record.brief}</p>{/if}
    {#if steps.length > 0}
      <ul>
        {#each steps as step (step.label)}
          <li class:done={step.done}>
            {#if step.done}<CheckmarkFilled title="done" />{:else}<CircleDash title="to do" />{/if}
            <span
              >{step.label}{#if step.now}<span class="quiet now">({step.now})</span>{/if}</span
            >
          </li>
        {/each}
      </ul>
    {/if}
  </section>
{/if}

<style>
  section {
    width: 264px;
    max-height: 46vh;
    overflow-y: auto;
    padding: 6px 8px 10px 12px;
    font-size: 12px;
    line-height: 1.4;
  }
  header {
    display: flex;
    align-items: center;
    gap: 6px;
  }
  h3 {
    flex: 1;
    font-size: 13px;
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .icon {
    width: 24px;
    height: 24px;
  }
  p {
    font-size: 12px;
    line-height: 1.4;
  }
  ul {
    margin-top: 4px;
    display: grid;
    gap: 3px;
    font-size: 13px;
  }
  li {
    display: grid;
    grid-template-columns: 16px 1fr;
    gap: 8px;
  }
  li :global(svg) {
    margin-top: 1px;
    fill: var(--soft);
  }
  .now {
    margin-left: 0.4em;
  }
  .done :global(svg) {
    fill: var(--sea);
  }
  @media (max-height: 760px) {
    section {
      max-height: 34vh;
    }
  }
</style>
