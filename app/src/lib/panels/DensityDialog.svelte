<script lang="ts">
  import { Button, Modal } from 'carbon-components-svelte';
  import { differenceInWords, formats, type DensityRow } from '@ulvrin/core';
  import { sentPart } from '$lib/job/sent.ts';
  import { places } from '$lib/settings/places.svelte.ts';
  import { OwnTask } from '$lib/tasks/own-task.svelte.ts';
  import Choice from './Choice.svelte';
  import NumberEntry from './NumberEntry.svelte';
  import DensityChart from './DensityChart.svelte';
  import TaskProgress from './TaskProgress.svelte';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  /** How evenly vertices lie where somebody sculpts, for each way to send the part. */
  let { job, onclose }: { job: OpenJob; onclose: () => void } = $props();
  const USUAL = formats.find((f) => f.usual) ?? formats[0];

  let place = $state('carving-bench');
  let detail = $state(0.2);
  const own = new OwnTask<DensityRow[]>();
  let found: { rows: readonly DensityRow[]; of: unknown } | undefined = $state.raw();
  // what was measured holds for one state of the part
  const rows = $derived(found && found.of === job.active?.cage ? found.rows : undefined);
  /** places that smooth what they get */
  const smoothing = $derived(places.all.filter((d) => d.levels > 0));

  async function compute() {
    const part = job.active;
    const to = places.byId(place);
    if (!part?.cage || !to) return;
    const made = await own.run('Density', (tasks, tell) => tasks.density(sentPart(part), USUAL.id, $state.snapshot(to), detail, tell));
    if (made) found = { rows: made, of: part.cage };
    if (made?.length === 0) own.problem = `${to.name} takes nothing of this part that could be sculpted on.`;
  }
</script>

<Modal open passiveModal modalHeading="Density for sculpting" size="lg" on:close={onclose}>
  {#if job.active?.cage}
    <div class="asked">
      <Choice
        label="Sculpted at"
        value={place}
        choices={smoothing.map(({ id, name }) => ({ value: id, label: name }))}
        onchange={(v) => (place = v)}
      />
      <NumberEntry label="Detail" unit="mm" value={detail} min={0} step={0.1} onchange={(typed) => (detail = Math.max(0, Number(typed) || 0))} />
      <!-- one button for both: it keeps the focus -->
      <Button size="small" kind={own.running ? 'danger-tertiary' : 'primary'} on:click={() => (own.running ? own.stop() : compute())}
        >{own.running ? 'Stop' : 'Compare ways to send it'}</Button
      >
    </div>
    {#if own.running}<TaskProgress task={own.running} />{/if}
    {#if own.problem}<p class="problem" role="alert">{own.problem}</p>{/if}
    {#if rows && rows.length > 0}
      <table aria-label="Density">
        <thead>
          <tr>
            <th>Sent</th>
            <th title="Standard deviation of the edge lengths over their mean: less is more even">Spread</th>
            <th>Edges, mm</th>
            <th>Faces there</th>
            <th title="Faces that cross themselves where the detail is raised or sunk">Crossing</th>
            <th title="Faces of which an edge shrinks to less than half">Pinched</th>
            <th>Off</th>
          </tr>
        </thead>
        <tbody>
          {#each rows as row (row.way)}
            <tr>
              <th>{row.way}</th>
              <td class="number">{row.spacing.spread.toFixed(2)}</td>
              <td class="number">{row.spacing.finest.toFixed(2)} – {row.spacing.coarsest.toFixed(2)}</td>
              <td class="number">{row.faces.toLocaleString('en')}</td>
              <td class="number">{row.turned.toLocaleString('en')}</td>
              <td class="number">{(100 * row.pinched).toFixed(1)} %</td>
              <td class="number">{differenceInWords(row)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
      <h3>Edges by length, the mean being 1</h3>
      <DensityChart {rows} />
    {:else if !own.running}
      <p class="quiet">
        Edges can be kept sharp in several ways on their way to somebody who sculpts on the part. Each is tried, subdivided as it is done there, and
        measured.
      </p>
    {/if}
  {:else}<p class="quiet">There is no cage yet.</p>{/if}
</Modal>

<style>
  .asked {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 16px;
    margin-bottom: 16px;
  }
  table {
    width: 100%;
    margin-bottom: 16px;
  }
  th,
  td {
    padding: 4px 8px 4px 0;
    border-bottom: 1px solid var(--line);
    text-align: left;
    font-size: 14px;
  }
  th + th,
  td {
    text-align: right;
    white-space: nowrap;
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
  }
</style>
