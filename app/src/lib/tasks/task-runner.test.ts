import type { Shown } from '@ulvrin/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';

interface FakeWorker {
  ended: boolean;
  onerror?: (event: { message: string }) => void;
  onmessageerror?: () => void;
}
const made: FakeWorker[] = [];

// a browser's worker and the calls to it; what tasks compute is tested in the core
vi.mock('./task.worker.ts?worker', () => ({
  default: class implements FakeWorker {
    ended = false;
    constructor() {
      made.push(this);
    }
    terminate() {
      this.ended = true;
    }
  }
}));
vi.mock('comlink', () => ({ proxy: <T>(x: T) => x, wrap: (worker: FakeWorker) => ({ worker }) }));

const { measuringWorker, RunningTask, TaskStopped, workAhead } = await import('./task-runner.svelte.ts');

/** A task that ends when it is told to. */
function begun(name = 'Auto quads') {
  let end!: (result: number) => void;
  let fail!: (reason: Error) => void;
  let tell!: (phase: string, fraction: number, shown?: Shown) => void;
  const task = new RunningTask<number>(name, (_, told) => {
    tell = told;
    return new Promise((resolve, reject) => ([end, fail] = [resolve, reject]));
  });
  return { task, end, fail, tell };
}
const alive = () => made.filter((worker) => !worker.ended).length;

beforeEach(async () => {
  // an idle worker of the test before goes with the next task that fails
  const { task } = begun();
  task.stop();
  await expect(task.result).rejects.toThrow(TaskStopped);
  made.length = 0;
});

describe('a running task', () => {
  it('tells its phase, how far it is, and what can be shown as soon as it is there', async () => {
    const { task, tell, end } = begun();
    expect([task.phase, task.fraction, task.shown]).toEqual(['Starting', 0, {}]);
    tell('Directions', 0.35, { poles: [] });
    tell('Map', 0.5);
    expect([task.phase, task.fraction, task.shown]).toEqual(['Map', 0.5, { poles: [] }]);
    const edges = new Float32Array(6);
    tell('Rounding', 0.65, { edges });
    expect(task.shown).toEqual({ poles: [], edges });
    end(7);
    expect(await task.result).toBe(7);
  });

  it('leaves its worker to the next one, which finds there what it kept', async () => {
    for (const result of [1, 2, 3]) {
      const { task, end } = begun();
      end(result);
      expect(await task.result).toBe(result);
    }
    expect([made.length, alive()]).toEqual([1, 1]);
  });

  it('ends at once when it is stopped, worker and all, and says that nothing was changed', async () => {
    const { task } = begun('Auto quads');
    task.stop();
    await expect(task.result).rejects.toThrow('Auto quads was stopped; nothing was changed.');
    expect(alive()).toBe(0);
    const next = begun();
    next.end(1);
    await next.task.result;
    expect([made.length, alive()]).toEqual([2, 1]);
  });

  it('has a worker of its own beside another, and only one of both stays', async () => {
    const [one, two] = [begun('One'), begun('Two')];
    expect(made).toHaveLength(2);
    one.end(1);
    two.end(2);
    expect(await Promise.all([one.task.result, two.task.result])).toEqual([1, 2]);
    expect(alive()).toBe(1);
  });

  it('fails with what its computation says, and keeps the worker; with a worker that breaks, it does not', async () => {
    const refused = begun();
    refused.fail(new Error('No area was found.'));
    await expect(refused.task.result).rejects.toThrow('No area was found.');
    expect(alive()).toBe(1);
    const broken = begun();
    made[0].onerror!({ message: 'out of memory' });
    await expect(broken.task.result).rejects.toThrow('out of memory');
    expect(alive()).toBe(0);
    const unnamed = begun();
    made[1].onerror!({ message: '' });
    await expect(unnamed.task.result).rejects.toThrow('The worker could not be started.');
  });

  it('counts its seconds until it ends', async () => {
    vi.useFakeTimers();
    const { task, end } = begun();
    vi.advanceTimersByTime(1500);
    expect(task.seconds).toBeCloseTo(1.5, 6);
    end(1);
    await task.result;
    vi.advanceTimersByTime(5000);
    expect(task.seconds).toBeCloseTo(1.5, 6);
    vi.useRealTimers();
  });
});

describe('work ahead', () => {
  it('is done by the worker that the next task gets', async () => {
    expect(await workAhead(async () => 3)).toBe(3);
    const { task, end } = begun();
    end(1);
    await task.result;
    expect([made.length, alive()]).toEqual([1, 1]);
  });

  it('is not begun beside a task, and ends unheard with the task that waits for it', async () => {
    const ahead = workAhead(() => new Promise(() => undefined));
    const { task } = begun();
    const start = vi.fn(async () => 3);
    expect(await workAhead(start)).toBeUndefined();
    expect(start).not.toHaveBeenCalled();
    task.stop();
    await expect(task.result).rejects.toThrow(TaskStopped);
    expect([await ahead, made.length, alive()]).toEqual([undefined, 1, 0]);
  });

  it('fails with what it says', async () => {
    await expect(workAhead(() => Promise.reject(new Error('No area was found.')))).rejects.toThrow('No area was found.');
  });
});

it('a worker for measuring stays apart from those of tasks', async () => {
  const measuring = measuringWorker();
  const { task, end } = begun();
  end(1);
  await task.result;
  expect(made).toHaveLength(2);
  measuring.end();
  expect(made.map(({ ended }) => ended)).toEqual([true, false]);
});
