import { Cage, type Part, type PolygonMesh } from '@ulvrin/core';
import { plane } from '@ulvrin/core/shapes/start-shapes';
import { beforeEach, describe, expect, it, vi } from 'vitest';

const asked: { name: string; mesh: PolygonMesh; answer: (found?: unknown) => void }[] = [];
const later = (name: string) => (mesh: PolygonMesh) => new Promise((answer) => asked.push({ name, mesh, answer }));
const end = vi.fn();

vi.mock('$lib/tasks/task-runner.svelte.ts', () => ({
  measuringWorker: () => ({ tasks: { setReference: later('reference'), deviations: later('deviations') }, end })
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

beforeEach(() => (asked.length = 0));

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

  it('takes the last of calls that overtake each other', async () => {
    const meter = new DeviationMeter();
    const first = meter.measure(reference, part(1));
    asked.shift()!.answer();
    await soon();
    const second = meter.measure(reference, part(2));
    const [early, late] = asked;
    late.answer({ most: 2 });
    await second;
    early.answer({ most: 1 });
    await first;
    expect(meter.found).toEqual({ most: 2 });
  });

  it('has found nothing where there is no reference or no cage, whatever is still on its way', async () => {
    const meter = new DeviationMeter();
    const measured = meter.measure(reference, part(1));
    asked.shift()!.answer();
    await soon();
    await meter.measure(undefined, part(1));
    asked.shift()!.answer({ most: 1 });
    await measured;
    expect(meter.found).toBeUndefined();
    await meter.measure(reference, { ...part(1), cage: undefined });
    expect([meter.found, asked.length]).toEqual([undefined, 0]);
    meter.end();
    expect(end).toHaveBeenCalledOnce();
  });
});
