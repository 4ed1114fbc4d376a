<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import {
    centreOf,
    describeLoop,
    edgeLoop,
    edgeRing,
    loopThrough,
    borderOf,
    islandOf,
    selectEdges,
    selectFaces,
    united,
    verticesOf,
    isEmpty,
    type Selection
  } from '@ulvrin/core';
  import { theme } from '$lib/theme.svelte.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { Stand, type Side } from './stand.ts';

  let { job, stand = $bindable(), onhover }: { job: OpenJob; stand: Stand | undefined; onhover: (what: string) => void } = $props();
  let host: HTMLDivElement;
  let box: { x0: number; y0: number; x1: number; y1: number } | undefined = $state();
  let list: { x: number; y: number; picked: Selection } | undefined = $state();
  /** what was hovered last, so that nothing is drawn anew while the pointer stays over it */
  let hoveredKey = '';
  let released: { x: number; y: number; add: boolean } | undefined;
  let press: { x: number; y: number; button: number; handles: boolean; add: boolean } | undefined;

  onMount(() => {
    const made = new Stand(host);
    made.setTheme(theme.night);
    stand = made;
    job.takePicture = () => made.picture();
    made.onCamera = () => {
      job.view.camera = made.cameraState;
      job.saveViewSoon();
    };
    return () => {
      job.takePicture = undefined;
      made.end();
      stand = undefined;
    };
  });

  let framed = false;
  // parts, switches and previews to the stand; a preview that only moves vertices takes the quick way
  $effect(() => {
    if (!stand) return;
    const { view } = job;
    const night = theme.night;
    stand.setTheme(night);
    const preview = job.preview;
    if (preview?.moves) {
      if (preview.cage) stand.moveVertices(preview.cage, job.selection);
      return;
    }
    const settings = { cage: view.cage, smooth: view.smooth, level: view.level, cageOpacity: view.cageOpacity, overlays: { ...view.overlays } };
    stand.show(
      job.parts,
      new Set(view.hidden),
      view.activePart,
      settings,
      job.cutPoints ? undefined : preview?.cage,
      job.isolated && new Set(job.isolated)
    );
    job.shownLevel = stand.shownLevel;
    if (!framed && job.parts.length > 0) {
      framed = true;
      if (view.camera) stand.cameraState = $state.snapshot(view.camera) as never;
      else stand.frame();
      job.keepPictureSoon();
    }
  });
  $effect(() => {
    // marks are drawn anew with the cage they lie on
    void [
      job.version,
      job.preview,
      job.view.activePart,
      job.view.cage,
      job.view.smooth,
      job.view.level,
      job.view.cageOpacity,
      job.view.overlays.poles,
      job.isolated,
      theme.night
    ];
    const shown = job.message?.where ?? job.selection;
    if (job.cutPoints) stand?.markCut(job.cutPoints);
    else if (job.preview?.cage && !job.preview.moves) stand?.markPreview(job.preview.selection!);
    else stand?.mark(shown);
  });
  $effect(() => stand?.section(job.section));
  $effect(() => {
    if (!job.running) return;
    hoveredKey = '';
    stand?.hover(undefined);
  });

  const MODES = { move: 'translate', rotate: 'rotate', scale: 'scale' } as const;
  let handlesFor = $state('');
  $effect(() => {
    const id = job.running?.operation.id as keyof typeof MODES | undefined;
    const key = id && id in MODES && job.active?.cage && !isEmpty(job.selection) ? `${id} ${job.version}` : '';
    if (key === untrack(() => handlesFor)) return;
    handlesFor = key;
    if (!key || !id) return void stand?.showHandles(undefined);
    const vertices = verticesOf(job.active!.cage!, job.selection);
    const factor = id === 'scale' ? 100 : 1;
    const round = (n: number) => Math.round(n * factor * 1e4) / 1e4;
    stand?.showHandles(
      { mode: MODES[id], changed: (x, y, z) => job.setParams({ x: round(x), y: round(y), z: round(z) }) },
      centreOf(job.active!.cage!, vertices)
    );
  });

  const at = (event: PointerEvent | MouseEvent): [number, number] => {
    const r = host.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };

  function down(event: PointerEvent) {
    if (event.target !== host.querySelector('canvas')) return;
    list = undefined;
    const [x, y] = at(event);
    press = { x, y, button: event.button, handles: stand?.overHandles ?? false, add: event.shiftKey };
  }

  function move(event: PointerEvent) {
    if (!stand) return;
    const [x, y] = at(event);
    if (press?.button === 0 && !press.handles && Math.hypot(x - press.x, y - press.y) > 5) {
      box = { x0: Math.min(press.x, x), y0: Math.min(press.y, y), x1: Math.max(press.x, x), y1: Math.max(press.y, y) };
      stand.hover(undefined);
    } else if (!press && !job.running) {
      const picked = stand.pickAt(x, y, job.view.pick);
      const key = JSON.stringify(picked);
      if (key === hoveredKey) return;
      hoveredKey = key;
      job.hovered = picked;
      const edge = picked?.edges[0];
      const run = edge === undefined ? undefined : loopThrough(job.active!.cage!, 2 * edge);
      stand.hover(
        picked,
        run?.halves.map((h) => h >> 1)
      );
      onhover(picked ? describe(picked) + (run && run.halves.length > 1 ? `; its loop: ${describeLoop(run)}` : '') : '');
    }
  }

  function describe(picked: Selection): string {
    const cage = job.active!.cage!;
    if (picked.vertices.length > 0) return `vertex, valence ${cage.valence(picked.vertices[0])}`;
    if (picked.edges.length > 0) {
      const sharp = cage.value('crease', picked.edges[0]);
      return `edge, ${cage.edgeLength(picked.edges[0]).toFixed(2)} mm${sharp > 0 ? `, sharpness ${sharp}` : ''}`;
    }
    return `face of ${cage.faceSize(picked.faces[0])} corners`;
  }

  function up(event: PointerEvent) {
    const began = press;
    press = undefined;
    if (!stand || !began) return;
    const [x, y] = at(event);
    const still = Math.hypot(x - began.x, y - began.y) < 4;
    if (began.button === 2 && still) return openList(x, y);
    if (began.button !== 0 || began.handles) return;
    if (box) {
      const picked = stand.pickBox(box.x0, box.y0, box.x1, box.y1, job.view.pick);
      box = undefined;
      job.selection = began.add ? united(job.selection, picked) : picked;
    } else if (still && job.cutPoints) {
      const point = stand.cutPointAt(x, y);
      if (point) job.setParams({ points: [...job.cutPoints, point] });
    } else if (still && !job.running) released = { x, y, add: began.add };
  }

  /** The browser counts clicks in this event only. */
  function click(event: MouseEvent) {
    if (released) clicked(released.x, released.y, event.detail, released.add);
    released = undefined;
  }

  /** One click picks, two take the loop of an edge (or frame all on empty stand), three the island. */
  function clicked(x: number, y: number, count: number, add: boolean) {
    const picked = stand!.pickAt(x, y, job.view.pick);
    const cage = job.active?.cage;
    if (count === 2 && cage) {
      const edge = picked?.edges[0] ?? stand!.pickAt(x, y, 'edge')?.edges[0];
      if (edge !== undefined && (picked?.edges.length || job.view.pick === 'edge')) {
        const loop = selectEdges(edgeLoop(cage, edge).edges);
        job.selection = add ? { ...loop, edges: [...new Set([...job.selection.edges, ...loop.edges])] } : loop;
        return;
      }
      if (!picked) return stand!.frame();
    }
    if (count === 3 && cage) {
      const face = stand!.pickAt(x, y, 'face')?.faces[0];
      if (face !== undefined) return void (job.selection = selectFaces(islandOf(cage, [face])));
    }
    if (count > 1 && picked) return;
    job.pick(picked, add);
  }

  function openList(x: number, y: number) {
    const picked = stand!.pickAt(x, y, job.view.pick);
    if (picked) list = { x, y, picked };
  }

  const listItems = $derived.by(() => {
    const cage = job.active?.cage;
    if (!list || !cage) return [];
    const { picked } = list;
    const items: { label: string; run: () => void }[] = [
      { label: 'Pick', run: () => job.pick(picked, false) },
      { label: 'Add to the selection', run: () => job.pick(picked, true) }
    ];
    const edge = picked.edges[0];
    if (edge !== undefined) {
      items.push(
        { label: 'Loop', run: () => (job.selection = selectEdges(edgeLoop(cage, edge).edges)) },
        { label: 'Ring', run: () => (job.selection = selectEdges(edgeRing(cage, edge).edges)) }
      );
      if (cage.isBorderEdge(edge)) items.push({ label: 'Border', run: () => (job.selection = selectEdges(borderOf(cage, edge))) });
    }
    if (picked.faces[0] !== undefined) items.push({ label: 'Island', run: () => (job.selection = selectFaces(islandOf(cage, picked.faces))) });
    items.push({ label: 'Frame', run: () => stand?.frame(stand.selectionPoints(cage, picked)) });
    return items;
  });

  const sides: Side[] = ['front', 'right', 'top', 'back', 'left', 'bottom'];
  const orthographic = $derived(job.view.camera?.orthographic ?? false);
</script>

<!-- the stand takes every pointer event; its keys are handled by the page -->
<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
<div
  class="stand"
  bind:this={host}
  role="application"
  aria-label="Stand"
  data-testid="stand"
  data-handles={handlesFor.split(' ')[0]}
  onpointerdown={down}
  onpointermove={move}
  onpointerup={up}
  onclick={click}
  onpointerleave={() => {
    if (press) return;
    hoveredKey = '';
    job.hovered = undefined;
    stand?.hover(undefined);
  }}
  oncontextmenu={(e) => e.preventDefault()}
>
  {#if box}<div class="box" style="left:{box.x0}px;top:{box.y0}px;width:{box.x1 - box.x0}px;height:{box.y1 - box.y0}px"></div>{/if}
  {#if list}
    <ul class="list" role="menu" style="left:{list.x}px;top:{list.y}px">
      {#each listItems as item (item.label)}
        <li role="none"><button role="menuitem" class="plain" onclick={() => (item.run(), (list = undefined))}>{item.label}</button></li>
      {/each}
    </ul>
  {/if}
  <div class="views" role="group" aria-label="Views">
    {#each sides as side (side)}<button title="Look from the {side}" onclick={() => stand?.lookFrom(side)}>{side}</button>{/each}
    <button class="wide" title="Perspective or orthographic" aria-pressed={orthographic} onclick={() => stand?.setOrthographic(!orthographic)}
      >{orthographic ? 'orthographic' : 'perspective'}</button
    >
    <button class="wide" title="Everything in view (Shift+F with nothing picked)" onclick={() => stand?.frame()}>frame all</button>
  </div>
</div>

<style>
  .stand {
    position: relative;
    width: 100%;
    height: 100%;
    overflow: hidden;
    touch-action: none;
  }
  .stand :global(canvas) {
    display: block;
  }
  .box {
    position: absolute;
    border: 1px solid var(--cobalt);
    background: #1d5bd622;
    pointer-events: none;
  }
  .list {
    position: absolute;
    background: var(--panel);
    border: 1px solid var(--line);
    box-shadow: 0 4px 14px #0003;
    padding: 4px;
    z-index: 5;
  }
  .views {
    position: absolute;
    right: 8px;
    top: 8px;
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 2px;
    width: 150px;
  }
  .views button {
    font-size: 11px;
    border: 1px solid var(--line);
    background: var(--panel);
    color: inherit;
    padding: 2px 0;
    cursor: pointer;
  }
  .views button:hover {
    border-color: var(--sea);
  }
  .views .wide {
    grid-column: span 3;
  }
</style>
