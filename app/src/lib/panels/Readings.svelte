<script lang="ts">
  import { cornerAngles, edgeLengths, histogram } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Deviations } from '$lib/tasks/task.worker.ts';
  import Choice from './Choice.svelte';
  import Histogram from './Histogram.svelte';
  import { readingsOf } from './readings/rows.ts';

  let { job, deviations }: { job: OpenJob; deviations: Deviations | undefined } = $props();

  const cage = $derived(job.active?.cage);
  const m = $derived(job.measures?.edges ? job.measures : undefined);
  const groups = $derived(m && cage ? readingsOf(cage, m, deviations) : []);
  let chart = $state('edges');
  const charts = $derived([
    { value: 'edges', label: 'Edge lengths' },
    { value: 'corners', label: 'Corner angles' },
    ...(deviations
      ? [
          { value: 'vertices', label: 'Vertices off the reference' },
          { value: 'smooth', label: 'Smooth surface off the reference' }
        ]
      : [])
  ]);

  const bars = $derived.by(() => {
    if (!cage || !m) return undefined;
    if (chart === 'edges') return { ...histogram(edgeLengths(cage)), unit: 'mm' };
    if (chart === 'corners') return { ...histogram([...cage.faces()].flatMap((f) => cornerAngles(cage, f))), unit: '°' };
    const measured = chart === 'vertices' ? deviations?.vertices : deviations?.smooth;
    return measured ? { ...histogram(measured.distance), unit: 'mm' } : undefined;
  });
</script>

<section aria-label="Readings">
  <header>
    <h3>Readings</h3>
    {#if m}
      <Choice label="Chart" hidesLabel value={chart} choices={charts} onchange={(value) => (chart = value)} />
    {/if}
  </header>
  {#if m}
    {#if bars}<Histogram {bars} />{/if}
    <table>
      <tbody>
        {#each groups as { heading, rows } (heading)}
          <tr class="heading"><th colspan="2">{heading}</th></tr>
          {#each rows as { label, value, bar, warns, pick, hint, short } (label)}
            <tr class:warns class:short>
              <th>{label}</th>
              <td class="value">
                {#if pick}<button class="plain number" title={hint} onclick={() => (job.selection = pick())}>{value}</button>
                {:else}<span class="number" title={hint}>{value}</span>{/if}{#if bar}<span class="bar" aria-hidden="true"
                    ><span style="left:{100 * bar[0]}%;right:{100 - 100 * bar[1]}%"></span></span
                  >{/if}
              </td>
            </tr>
          {/each}
        {/each}
      </tbody>
    </table>
  {:else}
    <p class="quiet">Readings appear with the first faces.</p>
  {/if}
</section>

<style>
  section {
    padding: 10px 12px;
    container-type: inline-size;
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
  }
  table {
    width: 100%;
    font-size: 12px;
  }
  /* counts stand two in a row, where there is room */
  tbody {
    display: grid;
    grid-template-columns: 1fr 1fr;
    column-gap: 20px;
  }
  tr {
    position: relative;
    grid-column: 1 / 3;
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    column-gap: 8px;
    align-items: center;
    min-height: 24px;
  }
  tr.short {
    grid-column: auto;
  }
  tr.heading {
    min-height: 20px;
    padding-top: 4px;
    color: var(--soft);
  }
  th {
    font-weight: 400;
    text-align: left;
    white-space: nowrap;
  }
  .value .number {
    min-width: 40px;
    min-height: 24px;
    padding: 0;
    text-align: right;
  }
  .bar {
    position: absolute;
    inset: auto 0 1px;
    height: 2px;
    background: var(--line);
  }
  .bar span {
    position: absolute;
    inset-block: 0;
    min-width: 1px;
    background: var(--soft);
  }
  .warns .number {
    color: var(--brick);
  }
  .warns .bar span {
    background: var(--brick);
  }
  @container (max-width: 235px) {
    tr.short {
      grid-column: 1 / 3;
    }
  }
  header {
    display: flex;
    align-items: center;
    justify-content: space-between;
  }
  header > :global(.choice) {
    width: 172px;
  }
</style>
