import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { newBatch, type DoFile } from './queue.ts';
import { RedisQueue } from './redis-queue.ts';

const REDIS = '/usr/bin/redis-server';
const PORT = 6398;
const folder = mkdtempSync(join(tmpdir(), 'ulvrin-redis-'));
let redis: ChildProcess | undefined;
afterAll(() => {
  redis?.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

describe.skipIf(!existsSync(REDIS))('a queue in Redis', () => {
  it('stops what another server does for a batch that is taken out', async () => {
    redis = spawn(REDIS, ['--port', String(PORT), '--dir', folder, '--bind', '127.0.0.1'], { stdio: 'ignore' });
    const [begun, stopped]: string[][] = [[], []];
    // it is never done, only stopped
    const doFile: DoFile = (file, _settings, stop) => {
      begun.push(file.name);
      return new Promise((end) => stop?.addEventListener('abort', () => (stopped.push(file.name), end({ problem: 'It was stopped.' }))));
    };
    const url = `redis://127.0.0.1:${PORT}`;
    const there = new RedisQueue(url, doFile, { once: 1 });
    const settings = { format: 'ulvrin-batch', version: 1, as: 'off' };
    const give = async (file: string) => {
      const id = await there.start(newBatch({ name: 'Castings', settings, files: [file] }));
      await there.take(id, { name: file, bytes: new Uint8Array(3) });
      return id;
    };
    const endless = await vi.waitFor(() => give('endless.obj'), 20_000);
    await vi.waitFor(() => expect(begun).toEqual(['endless.obj']), 20_000);
    const here = new RedisQueue(url, doFile, { once: 1 });
    await here.remove(endless);
    await vi.waitFor(() => expect(stopped).toEqual(['endless.obj']), 20_000);
  });
});
