<script lang="ts">
  import { SIDES, type Side } from '../sides.ts';
  import type { Stand } from '../stand.ts';

  /** The six sides, laid out as a box unfolded: each is shaded by how much one looks at it, a click looks from there, a drag orbits. */
  let { stand }: { stand: Stand | undefined } = $props();

  const cells: { side: Side; short: string; column: number; row: number }[] = [
    { side: 'top', short: 'Top', column: 2, row: 1 },
    { side: 'left', short: 'Left', column: 1, row: 2 },
    { side: 'front', short: 'Front', column: 2, row: 2 },
    { side: 'right', short: 'Right', column: 3, row: 2 },
    { side: 'back', short: 'Back', column: 4, row: 2 },
    { side: 'bottom', short: 'Bot', column: 2, row: 3 }
  ];
  const AXES = [
    { name: 'x', colour: '#c4352b' },
    { name: 'y', colour: '#3c8a2e' },
    { name: 'z', colour: '#2f62c9' }
  ];

  /** directions of the view, as the last frame had them */
  let view = $state.raw<[number, number, number][]>([
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1]
  ]);
  $effect(() =>
    stand?.afterFrames(() => {
      const now = stand.viewAxes;
      // most frames are drawn with the same view
      if (now.join() !== view.join()) view = now;
    })
  );

  const facing = (side: Side) =>
    Math.max(
      0,
      SIDES[side].reduce<number>((sum, c, k) => sum + c * view[2][k], 0)
    );
  /** ends of the axes, those further off first */
  const axes = $derived(
    AXES.map(({ name, colour }, k) => ({ name, colour, x: 16 * view[0][k], y: -16 * view[1][k], depth: view[2][k] })).sort(
      (a, b) => a.depth - b.depth
    )
  );

  let from: { x: number; y: number; moved: boolean } | undefined;
  function down(event: PointerEvent) {
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    from = { x: event.clientX, y: event.clientY, moved: false };
  }
  function move(event: PointerEvent) {
    if (!from) return;
    const [dx, dy] = [event.clientX - from.x, event.clientY - from.y];
    if (!from.moved && Math.hypot(dx, dy) < 4) return;
    from = { x: event.clientX, y: event.clientY, moved: true };
    stand?.eyes.orbit(dx * 0.012, dy * 0.012);
  }
  function look(side: Side) {
    if (!from?.moved) stand?.eyes.lookFrom(side);
    from = undefined;
  }
</script>

<div class="views" role="group" aria-label="Views">
  {#each cells as { side, short, column, row } (side)}
    <button
      style="grid-area:{row}/{column};--facing:{facing(side).toFixed(2)}"
      aria-label={side}
      title="Look from the {side}; drag to orbit"
      onpointerdown={down}
      onpointermove={move}
      onclick={() => look(side)}>{short}</button
    >
  {/each}
  <svg class="axes" viewBox="-24 -24 48 48" aria-hidden="true">
    {#each axes as { name, colour, x, y } (name)}
      <line x2={x} y2={y} stroke={colour} stroke-width="1.6" />
      <text x={1.32 * x} y={1.32 * y + 3} fill={colour} text-anchor="middle">{name}</text>
    {/each}
  </svg>
</div>

<style>
  .views {
    display: grid;
    grid-template: 34px 24px 24px / repeat(4, 26px);
    place-content: center;
    height: 100%;
  }
  button {
    border: 1px solid var(--edge);
    margin: 0 -1px -1px 0;
    padding: 0;
    background: color-mix(in srgb, var(--cobalt) calc(55% * var(--facing)), var(--panel));
    color: inherit;
    font: inherit;
    font-size: 9px;
    letter-spacing: -0.02em;
    cursor: pointer;
    overflow: hidden;
  }
  button:hover {
    border-color: var(--sea);
    z-index: 1;
  }
  .axes {
    grid-area: 1 / 3 / 2 / 5;
    width: 38px;
    height: 34px;
    place-self: center;
    overflow: visible;
  }
  text {
    font-size: 9px;
  }
</style>
