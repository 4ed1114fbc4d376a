<script lang="ts">
  import { benches, type Bench, counted } from '@ulvrin/core';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';

  let { job, delivered }: { job: OpenJob; delivered: string } = $props();

  const many = (n: number) => n.toLocaleString('en');
  /** Creases, braces and the level plan, whichever there are. */
  function braceState(): string {
    const layers = job.active?.cage?.layers;
    const count = (name: string) => layers?.get(name)?.data.filter((s) => s > 0).length ?? 0;
    const [sharp, braced] = [count('crease'), count('braced')];
    const said = [sharp > 0 && `${many(sharp)} creased`, braced > 0 && `${many(braced)} braced`, job.active?.plan && 'plan'].filter(Boolean);
    return said.length > 0 ? said.join(', ') : 'no creases';
  }
  /** One short line a bench: where the job stands there. */
  const lines = $derived.by((): string[] => {
    const reference = job.reference;
    const m = job.measures;
    return [
      reference
        ? `${many(reference.mesh!.faceStart.length - 1)} ${reference.mesh!.faceVertices.length === 3 * (reference.mesh!.faceStart.length - 1) ? 'triangles' : 'faces'}`
        : job.parts.length > 0
          ? counted(job.parts.length, 'part')
          : 'nothing yet',
      m && m.faces > 0 ? counted(m.quads, 'quad') : 'no quads yet',
      m ? counted(m.faces, 'face') : 'no cage yet',
      braceState(),
      m ? (m.borders === 0 ? 'closed' : `${many(m.borders)} border${m.borders === 1 ? '' : 's'} open`) : 'no cage yet',
      m && m.edges > 0 ? `spacing ${m.spacing.toFixed(2)}` : 'no cage yet',
      m ? (m.triangles + m.ngons === 0 ? '100 % quads' : `${many(m.triangles + m.ngons)} not quads`) : 'no cage yet',
      delivered || 'not yet'
    ];
  });
</script>

<nav aria-label="Benches">
  {#each benches as bench, i (bench)}
    <button
      class:current={job.view.bench === i + 1}
      aria-current={job.view.bench === i + 1}
      onclick={() => ((job.view.bench = (i + 1) as Bench), job.saveViewSoon())}
    >
      <span class="digit number">{i + 1}</span>
      <span class="name">{bench}</span>
      <span class="state quiet">{lines[i]}</span>
    </button>
  {/each}
</nav>

<style>
  nav {
    display: flex;
    flex-direction: column;
    background: var(--panel);
    border-right: 1px solid var(--line);
    overflow-y: auto;
  }
  button {
    display: grid;
    grid-template-columns: 22px 1fr;
    text-align: left;
    background: none;
    border: 0;
    border-left: 4px solid transparent;
    border-bottom: 1px solid var(--line);
    color: inherit;
    font: inherit;
    padding: 9px 6px 9px 4px;
    cursor: pointer;
  }
  button:hover {
    background: var(--paper);
  }
  .current {
    border-left-color: var(--cobalt);
    background: var(--paper);
  }
  .current .name {
    font-weight: 600;
  }
  .digit {
    grid-row: span 2;
    font-size: 16px;
    color: var(--soft);
  }
  .state {
    font-size: 11px;
    line-height: 1.2;
  }
</style>
