<script lang="ts">
  import {
    findAll,
    cornerAngles,
    edgeLengths,
    histogram,
    selectEdges,
    selectFaces,
    selectVertices,
    skewFaces,
    unevenEdges,
    type Deviation,
    type Selection
  } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { Deviations } from '$lib/tasks/task.worker.ts';
  import Histogram from './Histogram.svelte';

  let { job, deviations }: { job: OpenJob; deviations: Deviations | undefined } = $props();

  const cage = $derived(job.active?.cage);
  const m = $derived(job.measures);
  let chart: 'edges' | 'corners' | 'vertices' | 'smooth' = $state('edges');

  interface Row {
    label: string;
    value: string;
    pick?: () => Selection;
    hint: string;
  }

  const rows = $derived.by((): Row[] => {
    if (!m || !cage) return [];
    const many = (n: number) => n.toLocaleString('en');
    const list: Row[] = [
      {
        label: 'Quads',
        value: `${many(m.quads)} (${m.faces ? ((100 * m.quads) / m.faces).toFixed(1) : 0} %)`,
        pick: () => findAll(cage, 'quads'),
        hint: 'Pick all quads'
      },
      { label: 'Triangles', value: many(m.triangles), pick: () => findAll(cage, 'triangles'), hint: 'Pick all triangles' },
      { label: 'N-gons', value: many(m.ngons), pick: () => findAll(cage, 'n-gons'), hint: 'Pick all n-gons' },
      ...m.poles.map((p) => ({
        label: `Poles of valence ${p.valence}`,
        value: many(p.count),
        pick: () => findAll(cage, 'poles', p.valence),
        hint: `Pick poles of valence ${p.valence}`
      })),
      { label: 'Borders', value: many(m.borders), pick: () => findAll(cage, 'borders'), hint: 'Pick all border edges' },
      { label: 'Islands', value: many(m.islands), hint: 'Separate pieces of this part' },
      {
        label: 'Spacing',
        value: m.spacing.toFixed(3),
        pick: () => selectEdges(unevenEdges(cage)),
        hint: 'Spread of edge lengths over their mean. Pick edges that are far off'
      },
      {
        label: 'Edge length',
        value: `${m.edgeLength.least.toFixed(2)} – ${m.edgeLength.most.toFixed(2)} mm`,
        pick: () => selectEdges(unevenEdges(cage)),
        hint: 'Pick edges that are far from the mean'
      },
      {
        label: 'Corner angles',
        value: `${m.corners.least.toFixed(0)}° – ${m.corners.most.toFixed(0)}°`,
        pick: () => selectFaces(skewFaces(cage)),
        hint: 'Pick faces with a corner below 45° or above 135°'
      }
    ];
    if (deviations)
      for (const [label, { mean, most }] of [
        ['Vertices', deviations.vertices],
        ['Smooth surface', deviations.smooth]
      ] as const)
        list.push({
          label: `${label} to reference`,
          value: `${mean.toFixed(3)} / ${most.toFixed(3)} mm`,
          pick: () => farVertices(label === 'Vertices' ? deviations.vertices : deviations.smooth),
          hint: 'Mean / most. Pick the tenth of the vertices that is farthest off'
        });
    return list;
  });

  /** The first points of the smooth surface are those of the cage's vertices. */
  function farVertices({ distance }: Deviation): Selection {
    const ids = [...cage!.vertices()];
    const limit = distance.slice(0, ids.length).sort()[Math.floor(0.9 * ids.length)];
    return selectVertices(ids.filter((_, i) => distance[i] >= limit));
  }

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
        {#each rows as row (row.label)}
          <tr>
            <th>{row.label}</th>
            <td>
              {#if row.pick}<button class="plain number" title={row.hint} onclick={() => (job.selection = row.pick!())}>{row.value}</button>
              {:else}<span class="number" title={row.hint}>{row.value}</span>{/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    <div class="chooser">
      <select bind:value={chart} aria-label="Chart">
        <option value="edges">Edge lengths</option><option value="corners">Corner angles</option>
        {#if deviations}
          <option value="vertices">Distance of vertices to the reference</option><option value="smooth"
            >Distance of the smooth surface to the reference</option
          >
        {/if}
      </select>
    </div>
    {#if bars}<Histogram {bars} />{/if}
  {:else}
    <p class="quiet">Readings appear with the first cage.</p>
  {/if}
</section>

<style>
  section {
    padding: 8px 12px;
    overflow-y: auto;
    height: 100%;
  }
  h3 {
    font-size: 13px;
    font-weight: 600;
  }
  table {
    width: 100%;
    font-size: 12px;
  }
  th {
    font-weight: 400;
    text-align: left;
    color: var(--soft);
  }
  td {
    text-align: right;
  }
  td button {
    padding: 1px 0;
  }
  select {
    background: var(--paper);
    color: inherit;
    border: 1px solid var(--line);
    font-size: 12px;
    margin-top: 6px;
  }
</style>
