<script lang="ts">
  import { untrack } from 'svelte';
  import { Button, Select, SelectItem } from 'carbon-components-svelte';
  import { isEmpty, lengthInWords, type Advice, type DeliveryReport, type Part, type Way } from '@ulvrin/core';
  import { sentPart } from '$lib/job/sent.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { places } from '$lib/settings/places.svelte.ts';
  import { difference } from '$lib/stand/marks/difference.ts';
  import { withPaint } from '$lib/stand/marks/registry.ts';
  import { OwnTask } from '$lib/tasks/own-task.svelte.ts';
  import TaskProgress from './TaskProgress.svelte';

  /** What arrives at a simulated destination, and what would bring it nearer. */
  let {
    job,
    part,
    formatId,
    way = $bindable(),
    id = $bindable(),
    report = $bindable(),
    onformat,
    ondescribe,
    onclose
  }: {
    job: OpenJob;
    part: Part;
    formatId: string;
    /** what is done to what is sent; nothing: it is sent as it is */
    way: Way | undefined;
    /** of the destination; empty where none is chosen */
    id: string;
    /** what was found there; nothing before it was looked at */
    report: DeliveryReport | undefined;
    onformat: (id: string) => void;
    /** asked for a destination to be described */
    ondescribe: () => void;
    onclose: () => void;
  } = $props();

  const looking = new OwnTask<DeliveryReport>();
  const to = $derived(places.byId(id));

  // what was found holds for one destination and format
  $effect(() => {
    void [id, formatId];
    report = undefined;
    way = undefined;
    looking.problem = '';
    untrack(() => looking.stop());
  });

  async function send() {
    if (!to) return;
    report = await looking.run('Looking at what arrives', (tasks, tell) => tasks.deliver(sentPart(part), formatId, $state.snapshot(to), tell));
  }

  function take({ way: chosen }: Advice) {
    if ('format' in chosen) return onformat(chosen.format);
    if ('operation' in chosen) {
      job.mend({ label: '', operation: chosen.operation, params: chosen.params, pick: { vertices: [], edges: [], faces: [] } });
      return onclose();
    }
    way = chosen;
  }

  function look() {
    job.view.compare = { destination: id, format: formatId };
    job.view.wipe = undefined;
    job.view.sides = [];
    job.view.smooth = true;
    job.view.overlays = withPaint(job.view.overlays, difference.id);
    if (!isEmpty(job.selection)) job.selection = { vertices: [], edges: [], faces: [] };
    job.saveViewSoon();
    onclose();
  }
</script>

<Select labelText="What arrives at" size="sm" bind:selected={id}>
  <SelectItem value="" text="(choose a destination)" />
  {#each places.all as d (d.id)}<SelectItem value={d.id} text={d.name} />{/each}
</Select>
<button class="plain own" onclick={ondescribe}>Own destinations</button>
{#if to}
  <p class="quiet about">{to.about}</p>
  {#if looking.running}
    <TaskProgress task={looking.running} />
    <Button kind="danger-tertiary" size="small" on:click={() => looking.stop()}>Stop</Button>
  {:else if report}
    <div class="found" role="note" aria-label="What arrives">
      {#if report.refused}<p class="problem">{report.refused}</p>{/if}
      {#each report.losses as sentence, i (i)}<p>{sentence}</p>{/each}
      {#if report.difference !== undefined}
        <p>
          {#if report.difference === 0}It looks the same there.
          {:else}Up to <strong class="number">{lengthInWords(report.difference)}</strong> off{report.worst
              ? `, the most at ${report.worst.at.map((x) => x.toFixed(1)).join(', ')} mm`
              : ''}.{/if}
          <button class="plain act" onclick={look}>See both side by side</button>
        </p>
      {/if}
      {#if report.advice.length > 0}
        <ul aria-label="What would help">
          {#each report.advice as advice (advice.text)}
            <li class:taken={advice.way === way}>
              <span
                >{advice.text} <span class="number">{lengthInWords(advice.difference)}</span> off then, {advice.faces.toLocaleString('en')} faces.</span
              >
              <button class="plain act" onclick={() => take(advice)}>{advice.way === way ? 'Taken' : 'Take it'}</button>
            </li>
          {/each}
        </ul>
      {:else if report.difference !== 0}<p class="quiet">Nothing that was tried brings it nearer.</p>{/if}
    </div>
  {:else}
    <Button kind="tertiary" size="small" on:click={send}>Look at what arrives</Button>
  {/if}
  {#if looking.problem}<p class="problem" role="alert">{looking.problem}</p>{/if}
{/if}

<style>
  .own {
    padding: 6px 0;
    color: var(--cobalt);
    font-size: 13px;
  }
  .about {
    font-size: 13px;
  }
  .found {
    margin: 8px 0;
    font-size: 13px;
    line-height: 1.4;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    padding: 4px 0;
    border-top: 1px solid var(--line);
  }
  li button {
    flex: none;
  }
  .taken {
    box-shadow:
      -8px 0 0 var(--panel),
      -11px 0 0 var(--cobalt);
  }
</style>
