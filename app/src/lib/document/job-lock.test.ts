import { afterEach, describe, expect, it, vi } from 'vitest';
import { JobLock, tellOpenPages, type Told } from './job-lock.ts';

/** Locks as browsers have them, for pages in one process. */
class Locks {
  private held: { lose: (reason: Error) => void; free: Promise<void> } | undefined;

  request(_name: string, { ifAvailable, steal, signal }: LockOptions, work: (lock: object | null) => Promise<void> | undefined): Promise<void> {
    if (this.held && steal) {
      this.held.lose(new Error('stolen'));
      this.held = undefined;
    }
    if (!this.held) return this.hold(work);
    if (ifAvailable) return Promise.resolve(work(null));
    const given = this.held.free.then(() => this.hold(work));
    return Promise.race([given, new Promise<never>((_, reject) => signal?.addEventListener('abort', () => reject(new Error('aborted'))))]);
  }

  private hold(work: (lock: object) => Promise<void> | undefined): Promise<void> {
    let free!: () => void;
    const lost = new Promise<never>((_, reject) => (this.held = { lose: reject, free: new Promise((r) => (free = r)) }));
    const mine = this.held;
    const done = Promise.resolve(work({})).then(() => {
      if (this.held === mine) this.held = undefined;
      free();
    });
    return Promise.race([done, lost]);
  }
}

const open: JobLock[] = [];
function page(locks: Locks, handOver = async () => {}) {
  const heard: Told[] = [];
  const held: boolean[] = [];
  const lock = new JobLock(
    'a',
    (holds) => held.push(holds),
    (told) => heard.push(told),
    handOver,
    locks as unknown as LockManager
  );
  open.push(lock);
  return { lock, heard, held };
}
afterEach(() => {
  vi.useRealTimers();
  for (const lock of open.splice(0)) lock.end();
});

describe('one job in several pages', () => {
  it('is held by one; others hear of its changes and of what was done from outside', async () => {
    const locks = new Locks();
    const [a, b] = [page(locks), page(locks)];
    expect([await a.lock.begin(), await b.lock.begin()]).toEqual([true, false]);
    a.lock.tell({ is: 'changed' });
    tellOpenPages('a', { is: 'renamed', name: 'Horn' });
    tellOpenPages('another', { is: 'deleted' });
    await vi.waitFor(() => expect(b.heard).toEqual([{ is: 'changed' }, { is: 'renamed', name: 'Horn' }]));
  });

  it('is handed over when asked for, once all is written', async () => {
    const locks = new Locks();
    let written = false;
    const a = page(locks, async () => void (written = true));
    const b = page(locks);
    await a.lock.begin();
    await b.lock.begin();
    await b.lock.takeOver();
    expect([written, a.lock.holds, b.lock.holds, a.held]).toEqual([true, false, true, [true, false]]);
  });

  it('is taken from a page that does not answer', async () => {
    const locks = new Locks();
    const a = page(locks, () => new Promise(() => undefined));
    const b = page(locks);
    await a.lock.begin();
    await b.lock.begin();
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    const taken = b.lock.takeOver();
    await vi.advanceTimersByTimeAsync(3100);
    await taken;
    expect([a.lock.holds, b.lock.holds]).toEqual([false, true]);
  });

  it('is free again when its page ends', async () => {
    const locks = new Locks();
    const [a, b] = [page(locks), page(locks)];
    await a.lock.begin();
    a.lock.end();
    await vi.waitFor(async () => expect(await b.lock.begin()).toBe(true));
  });
});
