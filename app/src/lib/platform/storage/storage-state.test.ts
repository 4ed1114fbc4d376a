import { beforeEach, describe, expect, it, vi } from 'vitest';
import { askToKeep, describeClosed, describeRoom, dueForExport, isNearlyFull, noteExport, roomLeft } from './storage-state.ts';

const kept = new Map<string, string>();
vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v) });
beforeEach(() => kept.clear());
const storage = (usage: number, quota: number, persisted: boolean) =>
  ({ estimate: async () => ({ usage, quota }), persisted: async () => persisted, persist: async () => true }) as unknown as StorageManager;

describe('the room for jobs', () => {
  it('is told with what may become of them', async () => {
    const room = (await roomLeft(storage(300 * 2 ** 20, 2 * 2 ** 30, false)))!;
    expect(describeRoom(room)).toBe('300 MB of 2.0 GB used. The browser may clear your jobs when it runs short of room: export those that matter.');
    expect(describeRoom({ ...room, kept: true })).toContain('keeps your jobs until you delete them');
    expect([isNearlyFull(room), isNearlyFull({ ...room, used: 1.9 * 2 ** 30 })]).toEqual([false, true]);
    expect(await askToKeep(storage(0, 1, false))).toBe(true);
  });

  it('is not told where the browser does not say, and a storage that is closed has ways out', async () => {
    expect([await roomLeft(undefined), await askToKeep(undefined)]).toEqual([undefined, false]);
    expect(describeClosed(new Error('blocked by settings.\nstack'))).toMatch(/\(blocked by settings\).*not lost.*reload/);
  });
});

describe('reminders to export', () => {
  const day = 24 * 3600 * 1000;
  const at = (days: number) => new Date(Date.now() - days * day).toISOString();
  it('name jobs that changed since their last export, once that is long enough ago', () => {
    const jobs = [
      { id: 'a', changed: at(1) },
      { id: 'b', changed: at(20) }
    ];
    noteExport('a');
    noteExport('b');
    expect(dueForExport(jobs, 7)).toEqual([]);
    kept.set('ulvrin-exports', JSON.stringify({ a: at(10), b: at(10) }));
    expect(dueForExport(jobs, 7).map((j) => j.id)).toEqual(['a']);
    expect([dueForExport(jobs, 30), dueForExport(jobs, 0)]).toEqual([[], []]);
    kept.set('ulvrin-exports', 'no JSON');
    expect(dueForExport(jobs, 7).map((j) => j.id)).toEqual(['a', 'b']);
  });
});
