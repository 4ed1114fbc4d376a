<script lang="ts">
  import {
    lengthInWords,
    planeName,
    ringOfStroke,
    type Guide,
    type LinePick,
    type LookAhead,
    type Params,
    type PoleMove,
    type SizeDab,
    type Triple
  } from '@ulvrin/core';
  import Close from 'carbon-icons-svelte/lib/Close.svelte';
  import { polygonsOf } from '$lib/draft/bare-area.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import type { StrokeKind } from '$lib/draft/steering.ts';
  import { onDestroy, untrack } from 'svelte';
  import NumberEntry from './NumberEntry.svelte';

  /** Milliseconds without a change after which the surface is looked through. */
  const PAUSE = 200;

  let { job, params, onchange }: { job: OpenJob; params: Params; onchange: (params: Params) => void } = $props();

  const guides = $derived((params.guides as Guide[] | undefined) ?? []);
  const sizes = $derived((params.sizes as SizeDab[] | undefined) ?? []);
  const lines = $derived((params.lines as LinePick[] | undefined) ?? []);
  const poleMoves = $derived((params.poleMoves as PoleMove[] | undefined) ?? []);
  const kind = $derived(job.laying.strokeKind);
  let brush = $state({ percent: 50, radius: 5 });

  const kinds: [StrokeKind, string, string][] = [
    ['none', 'pick', 'Dragging picks, as always'],
    ['guide', 'guide', 'Draw a line for loops to follow'],
    ['round', 'ring', 'Draw across a limb or round an eye: loops close there'],
    ['size', 'size', 'Click or drag where quads should be smaller or larger'],
    ['edge', 'keep edge', 'Click an edge or drag along edges: they become edges of quads'],
    ['no edge', 'release edge', 'Drag along edges that quads may ignore'],
    ['pole', 'pole', 'Drag a pole, or drop it onto one of the other kind: the two cancel']
  ];

  function choose(id: StrokeKind) {
    job.laying.strokeKind = id;
    if (id === 'pole' && !job.laying.polePlan) void job.laying.planPoles(params);
  }

  const source = $derived(job.document.underQuads);
  let sharpShown = $state(false);
  /** What is known of the surface before anything is laid, or why nothing can be. */
  let seen: LookAhead | undefined = $state.raw();
  let refusal = $state('');
  const sharp = $derived(sharpShown ? seen?.sharp : undefined);
  const planes = $derived(seen?.mirrors.map((mirror) => `${planeName(mirror)}, ${lengthInWords(mirror.error)}`) ?? []);

  let looking = false;
  let due = false;
  /** Looks the surface through with the settings as they are; one time after the other. */
  async function look() {
    due = looking;
    if (looking) return;
    looking = true;
    refusal = '';
    try {
      await job.laying.lookAhead(params, (told) => (seen = told));
    } catch (error) {
      seen = undefined;
      refusal = error instanceof Error ? error.message : String(error);
    }
    looking = false;
    if (due) void look();
  }
  $effect(() => {
    // whatever of these changes; again after a task, as its worker may be gone
    void [source, params];
    const timer = job.task ? undefined : setTimeout(look, PAUSE);
    return () => clearTimeout(timer);
  });

  $effect(() => {
    // quads that are there have a loop where a plane was
    const sections = job.running ? seen?.sections : undefined;
    job.laying.steering = { kind, guides, sizes, poleMoves, sharp, sections, add };
  });
  // when this panel goes, the page may have another job already
  const mine = untrack(() => job);
  onDestroy(() => {
    due = false;
    mine.laying.steering = undefined;
    mine.laying.polePlan = undefined;
  });

  /** Takes a stroke that was drawn on the surface. */
  function add(points: Triple[], view: Triple) {
    if (kind === 'pole') return void dragPole(points);
    job.laying.polePlan = undefined;
    if (kind === 'edge' || kind === 'no edge') {
      sharpShown = true;
      onchange({ lines: [...lines, { points, follow: kind === 'edge' }] });
    } else if (kind === 'size') onchange({ sizes: [...sizes, ...points.map((at) => ({ at, ...brush }))] });
    else if (points.length < 2) job.tell('info', 'A guide needs a line: drag over the surface.');
    else if (kind === 'guide') onchange({ guides: [...guides, { points, influence: 60 }] });
    else {
      const ring = source && ringOfStroke(polygonsOf(source), points, view);
      if (ring) onchange({ guides: [...guides, { points: ring, influence: 60, closed: true, count: 0 }] });
      else job.tell('info', 'The surface does not close round there: draw the whole way round, or a guide along.');
    }
  }

  /** Takes the pole that a stroke began at to where it ends, and shows what becomes of the others. */
  async function dragPole(points: Triple[]) {
    if (!job.laying.polePlan) return job.tell('info', 'Show the poles first: then drag one of them.');
    const from = job.laying.polePlan.find(({ at }) => at.every((c, k) => c === points[0][k]))?.at;
    if (!from) return job.tell('info', 'No pole is there: begin on one of the marks.');
    const moved = { poleMoves: [...poleMoves, { from, to: points[points.length - 1] }] };
    onchange(moved);
    await job.laying.planPoles({ ...params, ...moved });
  }

  function change(i: number, part: Partial<Guide>) {
    job.laying.polePlan = undefined;
    onchange({ guides: guides.map((g, k) => (k === i ? { ...g, ...part } : g)) });
  }
  const drawn = $derived([
    { name: 'sizes', list: sizes, one: 'touch of the size brush', many: 'touches of the size brush' },
    { name: 'lines', list: lines, one: 'stroke over edges', many: 'strokes over edges' },
    { name: 'poleMoves', list: poleMoves, one: 'pole dragged', many: 'poles dragged' }
  ]);
  function takeBack(part: Params) {
    job.laying.polePlan = undefined;
    onchange(part);
  }
  const poles = $derived.by(() => {
    const found = new Map<number, number>();
    for (const { valence } of job.laying.polePlan ?? []) found.set(valence, (found.get(valence) ?? 0) + 1);
    return [...found].sort((a, b) => a[0] - b[0]).map(([valence, count]) => `${count} of ${valence}`);
  });
</script>

<fieldset class="steering">
  <legend>Steer</legend>
  {#if refusal}
    <p class="quiet first">{refusal}</p>
  {:else if planes.length > 0}
    <p class="quiet first">Symmetric in {planes.join('; in ')}: one side is laid and mirrored.</p>
  {:else if seen && params.symmetry === 'auto'}
    <p class="quiet first">No plane of symmetry was found.</p>
  {/if}
  <div class="kinds" role="group" aria-label="Dragging draws">
    {#each kinds as [id, label, hint] (id)}<button title={hint} aria-pressed={kind === id} onclick={() => choose(id)}>{label}</button>{/each}
  </div>
  {#if kind === 'size'}
    <div class="row">
      <NumberEntry
        label="Quad size"
        value={brush.percent}
        unit="%"
        min={30}
        max={300}
        step={10}
        onchange={(typed) => (brush.percent = Math.min(300, Math.max(30, Number(typed) || 100)))}
      />
    </div>
    <div class="row">
      <NumberEntry
        label="Brush radius"
        value={brush.radius}
        unit="mm"
        min={0.1}
        onchange={(typed) => (brush.radius = Math.max(0.1, Number(typed) || 5))}
      />
    </div>
  {/if}
  {#if guides.length > 0}
    <ul aria-label="Guides">
      {#each guides as guide, i (i)}
        <li>
          <div class="name">
            <span>{i + 1} {guide.closed ? 'ring' : 'along'}</span>
            <button class="icon" aria-label="Remove guide {i + 1}" onclick={() => onchange({ guides: guides.filter((_, k) => k !== i) })}
              ><Close /></button
            >
          </div>
          <div class="numbers">
            <NumberEntry
              label="Pull of guide {i + 1}"
              title="How strongly loops follow it"
              hidesLabel
              value={guide.influence}
              unit="%"
              min={0}
              max={100}
              step={10}
              onchange={(typed) => change(i, { influence: Math.min(100, Math.max(0, Number(typed))) })}
            />
            {#if guide.closed}<NumberEntry
                label="Quads of guide {i + 1}"
                title="Quads round it; 0 leaves that open"
                hidesLabel
                value={guide.count ?? 0}
                unit="quads"
                min={0}
                max={2000}
                onchange={(typed) => change(i, { count: Math.max(0, Math.round(Number(typed))) })}
              />{/if}
          </div>
        </li>
      {/each}
    </ul>
  {/if}
  {#each drawn as { name, list, one, many } (name)}
    {#if list.length > 0}
      <p class="quiet">
        {list.length}
        {list.length === 1 ? one : many}
        <button class="plain" onclick={() => takeBack({ [name]: list.slice(0, -1) })}>Remove last</button>
        <button class="plain" onclick={() => takeBack({ [name]: [] })}>Clear</button>
      </p>
    {/if}
  {/each}
  <p class="quiet">
    <button class="plain" aria-pressed={sharpShown} onclick={() => (sharpShown = !sharpShown)}>Show the sharp edges</button>
    {#if sharp}{(sharp.length / 6).toLocaleString('en')} edges will be kept.{/if}
  </p>
  <p class="quiet">
    <button class="plain" onclick={() => job.laying.planPoles(params)}>Show the poles</button>
    {#if job.laying.polePlan}{job.laying.polePlan.length} poles: {poles.join(', ')} edges.{/if}
  </p>
</fieldset>

<style>
  .steering {
    min-width: 0;
    border: 0;
    border-top: 1px solid var(--line);
    margin: 6px 0 0;
    padding: 6px 0 0;
  }
  legend {
    font-weight: 600;
    padding-right: 6px;
  }
  .kinds {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    gap: 2px;
  }
  .kinds button {
    border: 1px solid var(--line);
    background: var(--panel);
    color: inherit;
    min-height: 26px;
    padding: 0;
    cursor: pointer;
  }
  .kinds [aria-pressed='true'] {
    background: var(--cobalt);
    color: var(--paper);
  }
  ul {
    list-style: none;
    margin: 6px 0 0;
    padding: 0;
  }
  .row {
    display: flex;
    align-items: center;
    gap: 6px;
    margin-top: 4px;
  }
  li {
    padding: 2px 0;
    border-bottom: 1px solid var(--line);
  }
  .name,
  .numbers {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
    min-height: 28px;
  }
  .numbers > :global(.entry) {
    flex: 1;
  }
  .name .icon {
    width: 24px;
    height: 24px;
  }
  p {
    margin: 6px 0 0;
  }
  .first {
    margin: 0 0 6px;
  }
</style>
