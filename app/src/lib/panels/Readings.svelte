<script lang="ts">
  import { Select, SelectItem } from 'carbon-components-svelte';
  import { cornerAngles, edgeLengths, histogram } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Deviations } from '$lib/tasks/task.worker.ts';
  import Histogram from './Histogram.svelte';
  import { readingsOf } from './readings/rows.ts';

  let { job, deviations }: { job: OpenJob; deviations: Deviations | undefined } = $props();

  const cage = $derived(job.active?.cage);
  const m = $derived(job.measures);
  const groups = $derived(m && cage ? readingsOf(cage, m, deviations) : []);
  let chart: 'edges' | 'corners' | 'vertices' | 'smooth' = $state('edges');

  const bars = $derived.by(() => {
    if (!cage || !m || m.edges === 0) return undefined;
    if (chart === 'edges') return { ...histogram(edgeLengths(cage)), unit: 'mm' };
    if (chart === 'corners') return { ...histogram([...cage.faces()].flatMap((f) => cornerAngles(cage, f))), unit: '°' };
    const measured = chart === 'vertices' ? deviations?.vertices : deviations?.smooth;
    return measured ? { ...histogram(measured.distance), unit: 'mm' } : undefined;
  });
</script>

<section aria-label="Readings">
  <h3>Readings</h3>
  {#if m}
    <table>
      <tbody>
        {#each groups as { heading, rows } (heading)}
          <tr><th class="heading" colspan="3">{heading}</th></tr>
          {#each rows as { label, value, bar, warns, pick, hint } (label)}
            <tr class:warns>
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
    <div class="chooser">
      <Select hideLabel labelText="Chart" size="sm" bind:selected={chart}>
        <SelectItem value="edges" text="Edge lengths" />
        <SelectItem value="corners" text="Corner angles" />
        {#if deviations}
          <SelectItem value="vertices" text="Distance of vertices to the reference" />
          <SelectItem value="smooth" text="Distance of the smooth surface to the reference" />
        {/if}
      </Select>
    </div>
    {#if bars}<Histogram {bars} />{/if}
  {:else}
    <p class="quiet">Readings appear with the first cage.</p>
  {/if}
</section>

<style>
  section {
    padding: 10px 12px;
    container-type: inline-size;
  }
  @container (max-width: 225px) {
    .value .bar {
      width: 28px;
    }
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
  }
  table {
    width: 100%;
    font-size: 12px;
  }
  tr {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    column-gap: 8px;
    align-items: center;
  }
  th {
    font-weight: 400;
    text-align: left;
  }
  .heading {
    color: var(--soft);
    padding-top: 6px;
  }
  .value {
    display: flex;
    flex-direction: row-reverse;
    align-items: center;
    gap: 8px;
    text-align: right;
  }
  .value .number {
    min-width: 62px;
    padding: 2px 0;
    text-align: right;
  }
  .bar {
    position: relative;
    width: 64px;
    height: 4px;
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
  .chooser {
    margin: 8px 0 2px;
  }
</style>
