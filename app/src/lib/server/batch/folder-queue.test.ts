import { doBatchFile, obj, quadSphere, writeMesh } from '@ulvrin/core';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { isOver } from '$lib/batch/state.ts';
import { FolderQueue } from './folder-queue.ts';
import { newBatch, type DoFile } from './queue.ts';

const folder = mkdtempSync(join(tmpdir(), 'ulvrin-queue-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const ball = (size: number) => ({ name: `ball-${size}.obj`, bytes: writeMesh(quadSphere(size, 2), obj) });
const names = [2, 3, 4].map((size) => ball(size).name);
const batch = newBatch({ name: 'Balls', settings: { format: 'ulvrin-batch', version: 1, as: 'off' }, files: names });
const work: DoFile = async (file, settings) => {
  try {
    return doBatchFile(file, settings);
  } catch (error) {
    return { problem: (error as Error).message };
  }
};
const ended = (queue: FolderQueue) => vi.waitFor(async () => expect((await queue.list())[0].files.every(isOver)).toBe(true), 20_000);

describe('a queue in a folder', () => {
  it('does what it is given, tells of each file, and gives out what was made', async () => {
    const queue = new FolderQueue(join(folder, 'done'), work, { once: 2 });
    const id = await queue.start(batch);
    await queue.take(id, ball(2));
    await queue.take(id, { name: names[1], bytes: new TextEncoder().encode('v 1 2 x\n') });
    expect((await queue.list())[0].files[2]).toEqual({ name: names[2], is: 'awaited' });
    await queue.take(id, ball(4));
    await ended(queue);
    const [{ name, files }] = await queue.list();
    expect(name).toBe('Balls');
    expect(files.map((f) => f.is)).toEqual(['done', 'failed', 'done']);
    expect(files[1]).toMatchObject({ problem: expect.stringContaining('line 1') as string });
    expect((await queue.made(id)).map((f) => f.name)).toEqual(['ball-2.off', 'ball-4.off', 'ball-2.obj.json', 'ball-4.obj.json']);
    await queue.remove(id);
    expect(await queue.list()).toEqual([]);
    await expect(queue.take(id, ball(2))).rejects.toThrow('no such batch');
  });

  it('what a server left undone, the next one does, and nothing twice', async () => {
    const own = join(folder, 'killed');
    const done: string[] = [];
    const counted: DoFile = (file, settings) => (done.push(file.name), work(file, settings));
    // the first one is killed over its second file: that file never ends
    const first = new FolderQueue(own, (file, settings) => (file.name === names[1] ? new Promise(() => undefined) : counted(file, settings)), {
      once: 1
    });
    const id = await first.start(batch);
    for (const size of [2, 3, 4]) await first.take(id, ball(size));
    await vi.waitFor(async () => expect((await first.list())[0].files.map((f) => f.is)).toEqual(['done', 'running', 'waiting']), 20_000);
    const second = new FolderQueue(own, counted, { once: 1 });
    await second.resume();
    await ended(second);
    expect(done.sort()).toEqual(names);
    expect((await second.made(id)).filter((f) => f.name.endsWith('.off'))).toHaveLength(3);
    expect(readdirSync(join(own, id, 'out')).filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it('ends what is under way when its batch is taken out', async () => {
    let [begun, stopped] = [false, false];
    const endless: DoFile = (_file, _settings, stop) =>
      new Promise((done) => ((begun = true), stop!.addEventListener('abort', () => ((stopped = true), done({ problem: 'stopped' })))));
    const queue = new FolderQueue(join(folder, 'stopped'), endless, { once: 1 });
    const id = await queue.start(batch);
    await queue.take(id, ball(2));
    await vi.waitFor(() => expect(begun).toBe(true), 20_000);
    await queue.remove(id);
    expect([stopped, await queue.list()]).toEqual([true, []]);
  });

  it('refuses what is no batch in a sentence, and names that lead elsewhere', async () => {
    const refusal = (given: object) => {
      try {
        return newBatch({ ...batch, ...given });
      } catch (error) {
        return (error as { body: { message: string } }).body.message;
      }
    };
    expect(refusal({ files: [] })).toMatch(/^This is no batch: "files"/);
    expect(refusal({ files: ['../ball.obj'] })).toMatch(/a name without folders/);
    expect(refusal({ files: ['ball.obj', 'ball.ply'] })).toMatch(/^Two files are called ball/);
    expect(refusal({ settings: { format: 'ulvrin-batch', version: 1, to: 'nowhere' } })).toMatch(/no settings of a batch: "to"/);
    const queue = new FolderQueue(join(folder, 'wrong'), work, { once: 1 });
    const id = await queue.start(batch);
    await expect(queue.take(id, { name: 'other.obj', bytes: new Uint8Array(3) })).rejects.toThrow('other.obj is not one of the files');
    await expect(queue.made('../killed')).rejects.toThrow('no such batch');
  });
});
