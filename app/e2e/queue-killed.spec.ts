import { expect, test } from '@playwright/test';
import { obj, quadSphere, writeMesh } from '@ulvrin/core';
import { unzipSync } from 'fflate';
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Two servers at one queue in Redis: one is killed in the middle, then the queue itself is away for a while. */

const REDIS = '/usr/bin/redis-server';
const [REDIS_PORT, FIRST, SECOND] = [6399, 4841, 4842];
const folder = mkdtempSync(join(tmpdir(), 'ulvrin-redis-'));
const started: ChildProcess[] = [];
test.afterAll(() => {
  for (const child of started) child.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

const run = (command: string, args: string[], env: NodeJS.ProcessEnv = {}) => {
  const child = spawn(command, args, { stdio: 'ignore', env: { ...process.env, ...env } });
  started.push(child);
  return child;
};
const redis = () => run(REDIS, ['--port', String(REDIS_PORT), '--dir', folder, '--appendonly', 'yes', '--bind', '127.0.0.1']);
const server = (port: number) =>
  run(process.execPath, [fileURLToPath(new URL('../server.mjs', import.meta.url))], {
    PORT: String(port),
    ORIGIN: `http://localhost:${port}`,
    REDIS_URL: `redis://127.0.0.1:${REDIS_PORT}`,
    ULVRIN_MOST_TASKS: '1'
  });
const ask = (port: number, path = '', init?: RequestInit) => fetch(`http://localhost:${port}/api/batch${path}`, init);
interface Told {
  batches: { id: string; files: { name: string; is: string; problem?: string }[] }[];
}
const files = async (port: number) => ((await (await ask(port)).json()) as Told).batches[0].files.map((f) => (f.is === 'failed' ? f.problem : f.is));
const bytes = { 'content-type': 'application/octet-stream' };
const ready = (port: number) => expect.poll(async () => (await ask(port).catch(() => undefined))?.status, { timeout: 30_000 }).toBe(200);
const ended = (child: ChildProcess) => new Promise((resolve) => child.once('exit', resolve));

test('nothing is lost and nothing there twice when a worker is killed, and what waits is kept while Redis is away', async () => {
  test.skip(!existsSync(REDIS), 'needs redis-server from Debian’s packages: npm run soak installs it');
  test.setTimeout(300_000);
  const queue = redis();
  const [first] = [server(FIRST), server(SECOND)];
  await Promise.all([ready(FIRST), ready(SECOND)]);
  const names = Array.from({ length: 8 }, (_, i) => `ball-${i}.obj`);
  const body = JSON.stringify({ name: 'Balls', settings: { format: 'ulvrin-batch', version: 1, as: 'off', to: 'model-room' }, files: names });
  const { id } = (await (await ask(FIRST, '', { method: 'POST', headers: { 'content-type': 'application/json' }, body })).json()) as { id: string };
  for (const [i, name] of names.entries())
    expect((await ask(FIRST, `/${id}/${name}`, { method: 'PUT', headers: bytes, body: writeMesh(quadSphere(5 + i, 20), obj) })).status).toBe(204);
  // both have something under way: one of them is killed
  await expect.poll(async () => (await files(SECOND)).filter((is) => is === 'running').length, { timeout: 60_000, intervals: [50] }).toBe(2);
  first.kill('SIGKILL');
  await expect.poll(() => files(SECOND), { timeout: 150_000 }).toEqual(names.map(() => 'done'));
  const made = unzipSync(new Uint8Array(await (await ask(SECOND, `/${id}`)).arrayBuffer()));
  expect(Object.keys(made).sort()).toEqual(names.flatMap((name) => [name.replace('.obj', '.off'), `${name}.json`]).sort());
  queue.kill('SIGTERM');
  await ended(queue);
  const away = await ask(SECOND, '', { headers: { accept: 'application/json' } });
  expect(away.status).toBe(503);
  expect(((await away.json()) as { message: string }).message).toMatch(/^The queue cannot be reached .* What is in it stays there/);
  redis();
  await ready(SECOND);
  expect(await files(SECOND)).toEqual(names.map(() => 'done'));
});
