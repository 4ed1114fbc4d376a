import { Cage, emptySelection, plane, selectEdges, selectFaces, selectVertices, type Selection } from '@ulvrin/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import type { Stand } from '../stand.ts';
import { Pointer } from './pointer.svelte.ts';

const cage = Cage.fromPolygons(plane(40, 40, 4, 4));
/** What lies under the pointer, and in an area. */
let under: Selection | undefined;
let enclosed: Selection;
let painted: string | undefined;
let hovered: string[];

/** A job that notes what is picked. */
const fakeJob = (gesture = 'box') => {
  const job = {
    view: { pick: 'nearest', gesture, brush: 10, through: false, mostTurn: 180 },
    active: { cage },
    picked: { hovered: undefined as Selection | undefined },
    laying: {},
    selection: emptySelection(),
    running: undefined as object | undefined,
    pointing: undefined,
    pick: vi.fn(),
    pickMany: vi.fn(),
    tell: vi.fn()
  };
  return job;
};
const fakeHandle = () => {
  const drag = { move: vi.fn(), end: vi.fn() };
  return { isShown: false, label: undefined as string | undefined, hover: () => stand.handle.label, begin: () => drag, drag };
};
const fakeStand = () => ({
  handle: fakeHandle(),
  draw: vi.fn(),
  paintedAt: () => painted,
  pickAt: () => under,
  pickIn: vi.fn(() => enclosed),
  hover: vi.fn(),
  frame: vi.fn()
});
let job: ReturnType<typeof fakeJob>;
let stand: ReturnType<typeof fakeStand>;
let pointer: Pointer;

function begin(gesture?: string) {
  job = fakeJob(gesture);
  stand = fakeStand();
  pointer = new Pointer(job as unknown as OpenJob, stand as unknown as Stand, (what) => hovered.push(what));
}
beforeEach(() => {
  [under, enclosed, hovered, painted] = [undefined, emptySelection(), [], undefined];
  begin();
});

const event = (more: object = {}) =>
  ({ button: 0, shiftKey: false, ctrlKey: false, metaKey: false, altKey: false, detail: 1, ...more }) as PointerEvent;
function drag(from: [number, number], to: [number, number], more: object = {}) {
  pointer.down(event(more), from);
  pointer.at = to;
  pointer.move();
  const shown = pointer.drawn;
  pointer.up(event(more), to);
  return shown;
}
function click(at: [number, number], more: object = {}) {
  pointer.down(event(more), at);
  pointer.up(event(more), at);
  pointer.click(event(more));
}

describe('the pointer over the stand', () => {
  it('picks what is clicked, adds with Shift, and takes the loop with two clicks', () => {
    under = selectFaces([3]);
    click([10, 10]);
    click([10, 10], { shiftKey: true });
    expect(job.pick.mock.calls).toEqual([
      [under, false],
      [under, true]
    ]);
    const inner = [...cage.edges()].find((e) => !cage.isBorderEdge(e))!;
    under = selectEdges([inner]);
    click([10, 10], { detail: 2 });
    expect(job.selection.edges.length).toBe(4);
  });

  it('frames all where nothing is clicked twice', () => {
    click([10, 10], { detail: 2 });
    expect(stand.frame).toHaveBeenCalledOnce();
  });

  it('draws a box and picks what it encloses, as the keys say', () => {
    enclosed = selectVertices([1, 2]);
    expect(drag([10, 10], [60, 50])).toEqual([
      [10, 10],
      [60, 50]
    ]);
    drag([10, 10], [60, 50], { shiftKey: true });
    drag([10, 10], [60, 50], { ctrlKey: true });
    expect(job.pickMany.mock.calls.map(([, how]) => how)).toEqual(['instead', 'add', 'take']);
    expect([pointer.drawn, job.pick.mock.calls.length]).toEqual([[], 0]);
  });

  it('draws a line round with the lasso, and picks at once with the brush', () => {
    begin('lasso');
    pointer.down(event(), [10, 10]);
    for (const at of [
      [30, 10],
      [30, 30],
      [10, 30]
    ] as const) {
      pointer.at = [...at];
      pointer.move();
    }
    expect([pointer.drawn.length, pointer.drawnAs]).toEqual([4, 'outline']);
    begin('paint');
    enclosed = selectFaces([5]);
    pointer.down(event(), [10, 10]);
    expect(job.pickMany.mock.calls).toEqual([[enclosed, 'add']]);
  });

  it('tells the value that is painted there as well', () => {
    under = selectFaces([5]);
    painted = 'deviation 0.12 mm';
    pointer.move();
    expect(hovered).toEqual(['face of 4 corners; deviation 0.12 mm']);
  });

  it('drags the handle where it is over it, and picks nothing while an operation runs', () => {
    job.running = {};
    stand.handle.label = 'Move along X';
    enclosed = selectFaces([5]);
    drag([10, 10], [60, 50]);
    expect([stand.handle.drag.move.mock.calls, stand.handle.drag.end.mock.calls.length]).toEqual([[[60, 50]], 1]);
    expect(pointer.drawn).toEqual([]);
    stand.handle.label = undefined;
    drag([10, 10], [60, 50]);
    under = selectFaces([5]);
    click([10, 10]);
    expect([job.pickMany.mock.calls.length, job.pick.mock.calls.length]).toEqual([0, 0]);
  });

  it('tells what it is over, once', () => {
    under = selectFaces([5]);
    for (const at of [
      [10, 10],
      [11, 10]
    ] as const) {
      pointer.at = [...at];
      pointer.move();
    }
    expect([hovered, stand.hover.mock.calls.length]).toEqual([['face of 4 corners'], 1]);
    expect(job.picked.hovered).toEqual(under);
  });

  it('tells what a drag of the handle would do, until it is over it no more', () => {
    Object.assign(stand.handle, { isShown: true, label: 'Turn about Z' });
    job.running = {};
    pointer.move();
    pointer.move();
    expect([hovered, pointer.overHandle]).toEqual([['Turn about Z'], true]);
    stand.handle.label = undefined;
    pointer.move();
    expect([hovered, pointer.overHandle]).toEqual([['Turn about Z', ''], false]);
  });

  it('opens the short list of an element with a right click, not with a right drag', () => {
    under = selectFaces([5]);
    drag([10, 10], [60, 50], { button: 2 });
    expect(pointer.list).toBeUndefined();
    drag([10, 10], [11, 10], { button: 2 });
    expect(pointer.list).toEqual({ at: [11, 10], picked: under });
  });
});
