<script lang="ts">
  import BorderCounts from './BorderCounts.svelte';
  import StandGrip from './StandGrip.svelte';
  import Strokes from './Strokes.svelte';
  import { flushSync, onMount, untrack } from 'svelte';
  import {
    deepestLevel,
    describeLoop,
    edgeLoop,
    edgeRing,
    loopThrough,
    borderOf,
    islandOf,
    selectEdges,
    selectFaces,
    transformFrame,
    transformWeights,
    isEmpty,
    operationById,
    positionOf,
    verticesOf,
    type PointedPlace,
    type Selection,
    type TransformParams
  } from '@ulvrin/core';
  import { theme } from '$lib/theme.svelte.ts';
  import type { Deviations } from '$lib/tasks/task.worker.ts';
  import type { OpenJob } from '$lib/job/open-job.svelte.ts';
  import { disc, lasso, rectangle, type Area } from './picking.ts';
  import { Stand, type Side } from './stand.ts';

  type Triple = [number, number, number];

  let {
    job,
    deviations,
    stand = $bindable(),
    onhover
  }: { job: OpenJob; deviations: Deviations | undefined; stand: Stand | undefined; onhover: (what: string) => void } = $props();
  let host: HTMLDivElement;
  /** what the pointer draws while it is dragged: two corners of a box, or a line */
  let drawn: [number, number][] = $state.raw([]);
  let brushAt: [number, number] | undefined = $state.raw();
  let list: { x: number; y: number; picked: Selection } | undefined = $state();
  /** what was hovered last, so that nothing is drawn anew while the pointer stays over it */
  let hoveredKey = '';
  let released: { x: number; y: number; add: boolean } | undefined;
  let press: { x: number; y: number; button: number; handles: boolean; how: 'instead' | 'add' | 'take' } | undefined;
  /** where the pointer is, known before the handles hear of a move */
  let pointer: [number, number] = [0, 0];
  /** the point of the smooth surface that is being dragged */
  let pulled: { face: number; at: Triple } | undefined;
  /** places of the surface under the stroke that is being drawn */
  let stroke: Triple[] | undefined;

  onMount(() => {
    const made = new Stand(host);
    made.setTheme(theme.night);
    stand = made;
    // when this view goes, the page may have another job already
    const mine = job;
    mine.takePicture = () => made.picture();
    made.onCamera = () => {
      job.view.camera = made.cameraState;
      job.saveViewSoon();
    };
    mine.standParams = (operation) => (operation.id === 'slice-set' ? { view: made.viewAxes } : {});
    return () => {
      mine.takePicture = undefined;
      mine.standParams = undefined;
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
    const cage = job.active?.cage;
    // while vertices are dragged a heavy surface is shown at a lower level, and at its own once they rest
    const level = preview?.moves && view.smooth && cage ? deepestLevel(cage.faceCount, MOST_FOLLOWING, view.level, 0) : view.level;
    // what only moves vertices takes the quick way, where the same topology is drawn already
    const drawnLighter = (stand.shownLevel ?? 0) <= level || level === view.level;
    if (preview?.moves && drawnLighter && (!preview.cage || stand.moveVertices(preview.cage))) return;
    const settings = { cage: view.cage, smooth: view.smooth, level, cageOpacity: view.cageOpacity, overlays: { ...view.overlays } };
    stand.show(
      job.shownParts,
      new Set(job.hidden),
      view.activePart,
      settings,
      job.pointing && !['space', 'surface'].includes(job.pointing.kind) ? undefined : preview?.cage,
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
      job.view.overlays.creases,
      job.view.overlays.density,
      job.isolated,
      theme.night
    ];
    const shown = job.message?.where ?? job.selection;
    if (job.pointing) stand?.markPlaces(job.pointing.kind === 'corners' ? corners() : job.pointing.places, job.pointing.kind === 'corners');
    else if (job.preview?.cage && !job.preview.moves) stand?.markPreview(job.preview.selection!, job.change?.appear ?? []);
    else stand?.mark(shown);
  });
  $effect(() => {
    // drawn anew with the cage, and not while a preview hides it
    void [job.version, job.view.activePart, job.view.cage, job.view.smooth, job.view.level, job.isolated, theme.night];
    const off = job.view.overlays.deviation && !job.preview && !job.isolated ? deviations?.smooth : undefined;
    stand?.markDeviation(off?.distance, off?.most ?? 0);
  });
  $effect(() => stand?.section(job.section));
  $effect(() => {
    if (!job.running) return;
    hoveredKey = '';
    stand?.hover(undefined);
  });

  /** Faces of a smooth surface that can follow the pointer. */
  const MOST_FOLLOWING = 150_000;
  /** Picked vertices and the places clicked after them, as a face that is being drawn has them. */
  const corners = (): PointedPlace[] => [
    ...(job.active?.cage ? verticesOf(job.active.cage, job.selection).map((vertex) => ({ vertex })) : []),
    ...(job.pointing?.places ?? [])
  ];

  const MODES = { move: 'translate', rotate: 'rotate', scale: 'scale' } as const;
  const handleParams = $derived(job.running && job.running.operation.id in MODES ? (job.running.params as unknown as TransformParams) : undefined);
  let handlesFor = $state('');
  $effect(() => {
    const id = job.running?.operation.id as keyof typeof MODES;
    const cage = job.active?.cage;
    const p = handleParams;
    const { x: _x, y: _y, z: _z, ...settings } = p ?? ({} as TransformParams);
    const key = p && cage && !isEmpty(job.selection) ? `${id} ${job.version} ${job.movingPivot} ${JSON.stringify(settings)}` : '';
    if (key === untrack(() => handlesFor)) return;
    handlesFor = key;
    if (!key || !cage || !p || !stand) return void stand?.showHandles(undefined);
    const frame = transformFrame(cage, job.selection, p as never);
    const { snap, step } = p as unknown as { snap: string; step: number };
    if (job.movingPivot) {
      const [px, py, pz] = frame.pivot;
      const world = { axes: [[1, 0, 0] as Triple, [0, 1, 0] as Triple, [0, 0, 1] as Triple] as [Triple, Triple, Triple], pivot: [0, 0, 0] as Triple };
      stand.showHandles({ mode: 'translate', frame: world, step: 0, snapTo: () => snapPoint('vertex'), changed: movePivot });
      return stand.followNumbers(px, py, pz);
    }
    const factor = id === 'scale' ? 100 : 1;
    const round = (n: number) => Math.round(n * factor * 1e4) / 1e4;
    stand.showHandles({
      mode: MODES[id],
      frame,
      step: snap === 'grid' ? step : 0,
      snapTo: () => (snap === 'none' || snap === 'grid' ? undefined : snapPoint(snap)),
      changed: (x, y, z) => {
        const base = (p as unknown as { how?: string }).how === 'to' ? frame.pivot : [0, 0, 0];
        job.setParams({ x: round(x + base[0]), y: round(y + base[1]), z: round(z + base[2]) });
      }
    });
  });
  // typed numbers move the handles
  $effect(() => {
    const p = handleParams;
    if (!p || !handlesFor || job.movingPivot) return;
    const share = job.running?.operation.id === 'scale' ? 0.01 : 1;
    const base =
      (p as unknown as { how?: string }).how === 'to' && job.active?.cage
        ? transformFrame(job.active.cage, job.selection, p as never).pivot
        : [0, 0, 0];
    stand?.followNumbers((p.x - base[0]) * share, (p.y - base[1]) * share, (p.z - base[2]) * share);
  });
  $effect(() => {
    const cage = job.preview?.cage;
    const following = handleParams && handleParams.falloff !== 'none' && cage && job.active?.cage;
    stand?.markFalloff(following ? transformWeights(job.active!.cage!, job.selection, handleParams as never) : undefined);
  });

  $effect(() => stand?.markLines(job.steering?.sharp, job.steering?.sections));
  $effect(() => stand?.markComing(job.task?.shown.edges));

  function movePivot(x: number, y: number, z: number) {
    job.setParams({ pivot: 'typed', pivotX: Number(x.toFixed(4)), pivotY: Number(y.toFixed(4)), pivotZ: Number(z.toFixed(4)) });
  }

  /** What a dragged handle is drawn to: a place under the pointer that does not move itself. */
  function snapPoint(to: string): Triple | undefined {
    const cage = job.active?.cage;
    if (!cage || !stand) return undefined;
    const [x, y] = pointer;
    if (to === 'reference') return stand.pointOnReference(x, y);
    const moving = new Set(job.movingPivot ? [] : transformWeights(cage, job.selection, handleParams as never).keys());
    const place = stand.restingPlaceAt(cage, x, y, moving, to === 'edge');
    return place && positionOf(cage, place);
  }

  /** With Alt a handle draws the picked faces or border edges out first, and moves what came of it. */
  function extrudeFirst() {
    const { running } = job;
    const extrude = operationById('extrude')!;
    if (!running || job.whyNot(extrude)) return;
    job.discard();
    job.start(extrude);
    job.setParams({ distance: 0, faces: 'together' });
    job.apply();
    job.start(running.operation);
    flushSync();
  }

  const at = (event: PointerEvent | MouseEvent): [number, number] => {
    const r = host.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };

  function down(event: PointerEvent) {
    if (event.target !== host.querySelector('canvas')) return;
    list = undefined;
    const [x, y] = at(event);
    const handles = stand?.overHandles ?? false;
    if (handles && event.altKey && event.button === 0) extrudeFirst();
    if (event.button === 0 && !handles && job.pointing?.kind === 'surface') {
      const place = stand?.surfaceAt(x, y);
      if (place) job.setParams({ points: [place], x: 0, y: 0, z: 0 });
      pulled = place;
    }
    if (event.button === 0 && strokes()) {
      stroke = [];
      drawStroke(x, y);
    }
    press = { x, y, button: event.button, handles, how: event.shiftKey ? 'add' : event.ctrlKey || event.metaKey ? 'take' : 'instead' };
    if (event.button === 0 && !handles && !job.running && job.view.gesture === 'paint') {
      if (press.how === 'instead') job.selection = selectFaces([]);
      paint(x, y);
    }
  }

  /** Whether dragging draws strokes that steer auto quads. */
  const strokes = () => job.steering !== undefined && job.steering.kind !== 'none';

  /** The planned pole that is drawn at a place of the stand. */
  function poleAt(x: number, y: number): Triple | undefined {
    let [best, least]: [Triple | undefined, number] = [undefined, 14];
    for (const { at } of job.polePlan ?? []) {
      const [px, py] = stand!.onScreen(at);
      // one on the side that is seen comes before one behind it
      let off = Math.hypot(px - x, py - y);
      if (off < least && stand!.hides(at)) off += 7;
      if (off < least) [best, least] = [at, off];
    }
    return best;
  }

  /** Notes a place of the surface under a stroke, some pixels on from the last one. */
  function drawStroke(x: number, y: number) {
    const last = drawn.at(-1);
    const apart = job.steering?.kind === 'size' ? 20 : 4;
    if (last && Math.hypot(x - last[0], y - last[1]) < apart) return;
    const onSurface = job.reference ? stand!.pointOnReference(x, y) : stand!.surfaceAt(x, y)?.at;
    const at = (stroke!.length === 0 && job.steering?.kind === 'pole' && poleAt(x, y)) || onSurface;
    if (!at) return;
    stroke!.push(at);
    drawn = [...drawn, [x, y]];
  }

  /** Picks what the brush touches, or takes it out of the selection. */
  function paint(x: number, y: number) {
    if (!press || !stand) return;
    const kind = job.view.pick === 'nearest' ? 'face' : job.view.pick;
    const touched = stand.pickIn(disc(x, y, job.view.brush), kind, { through: job.view.through, touched: true });
    const under = kind === 'face' ? stand.pickAt(x, y, 'face') : undefined;
    const how = press.how === 'take' ? 'take' : 'add';
    job.pickMany(touched, how);
    if (under) job.pickMany(under, how);
  }

  function move() {
    if (!stand) return;
    const [x, y] = pointer;
    const { gesture } = job.view;
    brushAt = gesture === 'paint' && !job.running ? [x, y] : undefined;
    if (stroke) return drawStroke(x, y);
    if (strokes()) return;
    if (press?.button === 0 && pulled) return pull(x, y);
    if (press?.button === 0 && !press.handles && !job.running && gesture === 'paint') paint(x, y);
    else if (press?.button === 0 && !press.handles && Math.hypot(x - press.x, y - press.y) > 5) {
      drawn =
        gesture === 'lasso'
          ? [...(drawn.length > 0 ? drawn : [[press.x, press.y] as [number, number]]), [x, y]]
          : [
              [press.x, press.y],
              [x, y]
            ];
      stand.hover(undefined);
    } else if (!press && !job.running) {
      const picked = stand.pickAt(x, y, job.view.pick);
      const key = JSON.stringify(picked);
      if (key === hoveredKey) return;
      hoveredKey = key;
      job.hovered = picked;
      const edge = picked?.edges[0];
      const run = edge === undefined ? undefined : loopThrough(job.active!.cage!, 2 * edge, job.view.mostTurn);
      stand.hover(
        picked,
        run?.halves.map((h) => h >> 1)
      );
      onhover(picked ? describe(picked) + (run && run.halves.length > 1 ? `; its loop: ${describeLoop(run)}` : '') : '');
    }
  }

  /** Takes the dragged point of the smooth surface to the pointer, across the view. */
  function pull(x: number, y: number) {
    const goal = stand!.pointOnPlane(x, y, pulled!.at);
    if (!goal) return;
    const [dx, dy, dz] = goal.map((g, k) => Number((g - pulled!.at[k]).toFixed(4)));
    job.setParams({ x: dx, y: dy, z: dz });
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
    if (stroke) {
      drawStroke(...at(event));
      const points = stroke;
      [stroke, drawn] = [undefined, []];
      if (points.length > 0) job.steering?.add(points, stand!.viewAxes[2]);
      else job.tell('info', 'The stroke does not lie on the surface.');
      return;
    }
    if (pulled) return void (pulled = undefined);
    if (!stand || !began) return;
    const [x, y] = at(event);
    const still = Math.hypot(x - began.x, y - began.y) < 4;
    if (began.button === 2 && still) return openList(x, y);
    if (began.button !== 0 || began.handles) return;
    if (drawn.length > 1) {
      const picked = stand.pickIn(areaOf(drawn), job.view.pick, { through: job.view.through });
      drawn = [];
      if (!job.running) job.pickMany(picked, began.how);
    } else if (still && job.pointing && job.pointing.kind !== 'surface') point(x, y, event.altKey);
    else if (still && !job.running && job.view.gesture !== 'paint') released = { x, y, add: began.how === 'add' };
  }

  /** What a drawn box or line encloses. */
  function areaOf(line: [number, number][]): Area {
    if (job.view.gesture === 'lasso') return lasso(line);
    const [[ax, ay], [bx, by]] = line;
    return rectangle(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
  }

  /** Adds the place under the pointer to the points of the running operation. @param free a new corner, whatever of the cage lies there */
  function point(x: number, y: number, free: boolean) {
    const { kind, places } = job.pointing!;
    const cage = job.active!.cage!;
    const params = job.running!.params as { angle?: number; reach?: string; newOn?: string };
    const last = places.at(-1);
    if (params.angle && last) [x, y] = alongStep(stand!.onScreen(positionOf(cage, last)), [x, y], Number(params.angle));
    const through = params.reach === 'through';
    const onCage = kind === 'space' || (free && kind === 'corners') ? undefined : stand!.placeAt(x, y);
    const place =
      onCage && (kind === 'cage' || !('face' in onCage)) ? onCage : kind === 'cage' && !through ? undefined : newPoint(x, y, params.newOn ?? 'view');
    if (!place) return job.tell('info', params.newOn === 'reference' ? 'The pointer is not over a reference.' : 'Nothing of the cage lies there.');
    job.setParams({ points: [...places, place], ...(through && stand!.sight) });
  }

  /** The pixel nearest to another on a line through a third at a multiple of an angle. */
  function alongStep([ax, ay]: [number, number], [x, y]: [number, number], degrees: number): [number, number] {
    const step = (degrees * Math.PI) / 180;
    const angle = Math.round(Math.atan2(y - ay, x - ax) / step) * step;
    const long = Math.cos(angle) * (x - ax) + Math.sin(angle) * (y - ay);
    return [ax + long * Math.cos(angle), ay + long * Math.sin(angle)];
  }

  /** A new point in space: across the view as deep as the last one, on the plane of the last three, or on the reference. */
  function newPoint(x: number, y: number, on: string): PointedPlace | undefined {
    const cage = job.active!.cage!;
    const known = corners().map((p) => positionOf(cage, p));
    if (on === 'reference') {
      const hit = stand!.pointOnReference(x, y);
      return hit && { at: hit };
    }
    const depth: Triple = known.at(-1) ?? (stand!.cameraState.target as Triple);
    let normal: Triple | undefined;
    if (on === 'plane') {
      if (known.length < 3) return void job.tell('info', 'The plane needs three corners: pick or click three first.');
      const [a, b, c] = known.slice(-3);
      const [u, v] = [b.map((q, k) => q - a[k]), c.map((q, k) => q - a[k])];
      normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    }
    const at = stand!.pointOnPlane(x, y, depth, normal);
    return at && { at };
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
        const loop = selectEdges(edgeLoop(cage, edge, job.view.mostTurn).edges);
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
        { label: 'Loop', run: () => (job.selection = selectEdges(edgeLoop(cage, edge, job.view.mostTurn).edges)) },
        { label: 'Ring', run: () => (job.selection = selectEdges(edgeRing(cage, edge).edges)) }
      );
      if (cage.isBorderEdge(edge)) items.push({ label: 'Border', run: () => (job.selection = selectEdges(borderOf(cage, edge))) });
    }
    if (picked.faces[0] !== undefined) items.push({ label: 'Island', run: () => (job.selection = selectFaces(islandOf(cage, picked.faces))) });
    items.push({ label: 'Frame', run: () => stand?.frame(stand.selectionPoints(cage, picked)) });
    return items;
  });

  const gestures = [
    ['box', 'Drag a box; Shift adds, Ctrl takes away'],
    ['lasso', 'Drag a line round what is meant; Shift adds, Ctrl takes away'],
    ['paint', 'Paint with a round brush; Shift adds, Ctrl takes away']
  ] as const;
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
  onpointerdowncapture={down}
  onpointermovecapture={(e) => (pointer = at(e))}
  onpointermove={move}
  onpointerup={up}
  onclick={click}
  onpointerleave={() => {
    brushAt = undefined;
    if (press) return;
    hoveredKey = '';
    job.hovered = undefined;
    stand?.hover(undefined);
  }}
  oncontextmenu={(e) => e.preventDefault()}
  onwheelcapture={(e) => {
    if (!e.altKey || job.view.gesture !== 'paint') return;
    e.preventDefault();
    e.stopPropagation();
    job.view.brush = Math.min(120, Math.max(4, job.view.brush - Math.sign(e.deltaY) * 3));
  }}
>
  {#if drawn.length > 1}
    <svg class="drawn" aria-hidden="true">
      {#if strokes()}
        <polyline points={drawn.map((p) => p.join(',')).join(' ')} fill="none" />
      {:else if job.view.gesture === 'lasso'}
        <polygon points={drawn.map((p) => p.join(',')).join(' ')} />
      {:else}
        {@const [[ax, ay], [bx, by]] = drawn}
        <rect x={Math.min(ax, bx)} y={Math.min(ay, by)} width={Math.abs(bx - ax)} height={Math.abs(by - ay)} />
      {/if}
    </svg>
  {:else if brushAt}
    <svg class="drawn" aria-hidden="true"><circle cx={brushAt[0]} cy={brushAt[1]} r={job.view.brush} /></svg>
  {/if}
  {#if stand}
    <BorderCounts {job} {stand} />
    <StandGrip {job} {stand} />
    <Strokes {job} {stand} />
  {/if}
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
    <div class="gestures wide" role="group" aria-label="Dragging picks by">
      {#each gestures as [id, hint] (id)}
        <button title={hint} aria-pressed={job.view.gesture === id} onclick={() => ((job.view.gesture = id), job.saveViewSoon())}>{id}</button>
      {/each}
    </div>
    <button
      class="wide"
      title="Dragging picks what the cage hides as well"
      aria-pressed={job.view.through}
      onclick={() => ((job.view.through = !job.view.through), job.saveViewSoon())}>{job.view.through ? 'through the model' : 'visible only'}</button
    >
    {#if job.view.gesture === 'paint'}
      <input
        class="wide"
        type="range"
        min="4"
        max="120"
        aria-label="Brush radius"
        title="Radius of the brush (Alt and the wheel)"
        bind:value={job.view.brush}
      />
    {/if}
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
  /* what is laid over the drawing lets the pointer through */
  .stand :global(.over-stand) {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: hidden;
    pointer-events: none;
  }
  .stand :global(canvas) {
    display: block;
  }
  .drawn {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
    fill: #1d5bd622;
    stroke: var(--cobalt);
  }
  .gestures {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 2px;
    margin-top: 6px;
  }
  .views [aria-pressed='true'] {
    background: var(--cobalt);
    color: var(--paper);
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
