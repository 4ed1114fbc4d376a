import { Cage, type Part, type PolygonMesh, plane } from '@ulvrin/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

const asked: { name: string; mesh: PolygonMesh; answer: (found?: unknown) => void }[] = [];
const later = (name: string) => (mesh: PolygonMesh) => new Promise((answer) => asked.push({ name, mesh, answer }));
/** workers made so far, how each fails, and whether it was ended */
const made: { fail: (reason: Error) => void; ended: boolean }[] = [];

vi.mock('$lib/tasks/task-runner.svelte.ts', () => ({
  measuringWorker: () => {
    const worker = { fail: (_: Error) => {}, ended: false };
    made.push(worker);
    const failed = new Promise<never>((_, reject) => (worker.fail = reject));
    failed.catch(() => undefined);
    return { tasks: { setReference: later('reference'), deviations: later('deviations') }, failed, end: () => (worker.ended = true) };
  }
}));

const { DeviationMeter } = await import('./deviation-meter.svelte.ts');

const reference = plane(4, 4, 1, 1);
const part = (size: number): Part => ({
  id: 'p1',
  name: 'Horn',
  kind: 'cage',
  cage: Cage.fromPolygons(plane(size, size, 1, 1)),
  scheme: 'catmull-clark',
  borderCorners: 'sharp'
});
const soon = () => new Promise((resolve) => setTimeout(resolve));

beforeEach(() => {
  asked.length = 0;
  made.length = 0;
});
afterEach(() => void vi.useRealTimers());

describe('a deviation meter', () => {
  it('hands a reference over once, and measures every cage against it', async () => {
    const meter = new DeviationMeter();
    for (const size of [1, 2]) {
      const measured = meter.measure(reference, part(size));
      if (size === 1) asked.shift()!.answer();
      await soon();
      expect(asked.map(({ name }) => name)).toEqual(['deviations']);
      expect(asked[0].mesh.positions[0]).toBe(-size / 2);
      asked.shift()!.answer({ most: size });
      await measured;
      expect(meter.found).toEqual({ most: size });
    }
    const other = plane(9, 9, 1, 1);
    void meter.measure(other, part(2));
    expect(asked[0]).toMatchObject({ name: 'reference', mesh: other });
  });

  it('measures the last of calls that come while it measures, and none of those between', async () => {
    const meter = new DeviationMeter();
    const measured = meter.measure(reference, part(1));
    asked.shift()!.answer();
    await soon();
    void meter.measure(reference, part(2));
    void meter.measure(reference, part(3));
    expect(asked).toHaveLength(1);
    asked.shift()!.answer({ most: 1 });
    await soon();
    expect([meter.found, asked.map(({ mesh }) => mesh.positions[0])]).toEqual([undefined, [-1.5]]);
    asked.shift()!.answer({ most: 3 });
    await measured;
    expect(meter.found).toEqual({ most: 3 });
  });

  it('has found nothing where there is no reference or no cage, whatever is still on its way', async () => {
    const meter = new DeviationMeter();
    const measured = meter.measure(reference, part(1));
    asked.shift()!.answer();
    await soon();
    void meter.measure(undefined, part(1));
    asked.shift()!.answer({ most: 1 });
    await measured;
    expect(meter.found).toBeUndefined();
    await meter.measure(reference, { ...part(1), cage: undefined });
    expect([meter.found, asked.length]).toEqual([undefined, 0]);
    meter.end();
    expect(made.map(({ ended }) => ended)).toEqual([true]);
  });

  it('replaces a worker that fails or goes silent, says so, and measures again', async () => {
    const meter = new DeviationMeter();
    const failing = meter.measure(reference, part(1));
    made[0].fail(new Error('out of memory'));
    await failing;
    expect([meter.found, meter.problem, made[0].ended]).toEqual([undefined, expect.stringContaining('out of memory'), true]);
    vi.useFakeTimers();
    asked.length = 0;
    const silent = meter.measure(reference, part(1));
    await vi.advanceTimersByTimeAsync(61_000);
    await silent;
    expect([meter.problem, made[1].ended]).toEqual([expect.stringContaining('no answer'), true]);
    vi.useRealTimers();
    asked.length = 0;
    const again = meter.measure(reference, part(1));
    asked.shift()!.answer();
    await soon();
    asked.shift()!.answer({ most: 1 });
    await again;
    expect([meter.found, meter.problem, made.length]).toEqual([{ most: 1 }, undefined, 3]);
  });
});
