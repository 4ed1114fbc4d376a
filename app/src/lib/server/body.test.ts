import { afterEach, expect, it, vi } from 'vitest';
import { bodyOf } from './body.ts';

const request = (body: ReadableStream<Uint8Array> | Uint8Array, headers: Record<string, string> = {}) =>
  new Request('http://localhost/', { method: 'POST', body: body as BodyInit, headers, duplex: 'half' } as RequestInit);
afterEach(() => void vi.unstubAllEnvs());

it('a body is read whole, refused where it is too long, told beforehand or not', async () => {
  const bytes = Uint8Array.from({ length: 3000 }, (_, i) => i % 256);
  expect(await bodyOf(request(bytes), 4000, 1000)).toEqual(bytes);
  await expect(bodyOf(request(bytes), 2000, 1000)).rejects.toMatchObject({ status: 413 });
  await expect(bodyOf(request(bytes, { 'content-length': '99999' }), 4000, 1000)).rejects.toMatchObject({ status: 413 });
});

it('an upload that stops coming is cut, and its caller told so', async () => {
  let cut = false;
  const idle = new ReadableStream<Uint8Array>({
    start: (controller) => controller.enqueue(new Uint8Array(10)),
    cancel: () => void (cut = true)
  });
  await expect(bodyOf(request(idle), 4000, 30)).rejects.toMatchObject({ status: 408 });
  expect(cut).toBe(true);
});

it('numbers of the environment are checked when the server starts', async () => {
  for (const [name, value] of [
    ['ULVRIN_MOST_TASKS', '0'],
    ['ULVRIN_MOST_BYTES', 'many'],
    ['ULVRIN_MOST_SECONDS', '1.5']
  ]) {
    vi.resetModules();
    vi.stubEnv(name, value);
    await expect(import('./limits.ts')).rejects.toThrow(new RegExp(`${name} must be a whole number .*"${value}"`));
    vi.unstubAllEnvs();
  }
});
