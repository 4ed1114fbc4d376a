import { expect, test } from '@playwright/test';
import { decodeMesh, encodeMesh, Subdivision, type PolygonMesh } from '@ulvrin/core';
import { card, logbook, openFile, reading } from './workshop.ts';

// the server takes two tasks at a time
test.describe.configure({ mode: 'serial' });

const PATH = '/api/auto-quads';
const BYTES = { 'content-type': 'application/octet-stream' };
/** A cube rounded by so many levels. */
function pebble(levels: number): PolygonMesh {
  const cube: PolygonMesh = {
    positions: Float64Array.from([0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [0, 1, 2].map((k) => ((i >> k) & 1 ? 20 : -20)))),
    faceStart: Int32Array.of(0, 4, 8, 12, 16, 20, 24),
    faceVertices: Int32Array.of(0, 2, 3, 1, 4, 5, 7, 6, 0, 1, 5, 4, 2, 6, 7, 3, 0, 4, 6, 2, 1, 3, 7, 5)
  };
  return new Subdivision(cube, { levels }).toPolygons(cube);
}
const linesOf = (text: string) =>
  text
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as { phase?: string; result?: string; error?: string });

test('the server lays quads, tells its phases, and refuses what it cannot take', async ({ request }) => {
  const stone = pebble(4);
  const laid = await request.post(PATH, { headers: BYTES, data: Buffer.from(encodeMesh(stone, { count: 300 })) });
  expect(laid.status()).toBe(200);
  const lines = linesOf(await laid.text());
  expect(lines.flatMap(({ phase }) => phase ?? [])).toEqual(expect.arrayContaining(['Preparing', 'Map', 'Done']));
  const { mesh } = decodeMesh(Buffer.from(lines.at(-1)!.result!, 'base64'));
  expect(mesh.faceVertices.length / 4).toBeGreaterThan(250);

  const bad = await request.post(PATH, { headers: BYTES, data: Buffer.from(encodeMesh(stone, { count: 3 })) });
  expect([bad.status(), ((await bad.json()) as { message: string }).message]).toEqual([400, expect.stringContaining('Count')]);
  expect((await request.post(PATH, { headers: BYTES, data: Buffer.from('no mesh') })).status()).toBe(400);
  const flat = { ...stone, positions: stone.positions.map(() => 0) };
  const failed = await request.post(PATH, { headers: BYTES, data: Buffer.from(encodeMesh(flat, {})) });
  expect(linesOf(await failed.text()).at(-1)!.error).toMatch(/no area/);
});

test('the server refuses what comes from elsewhere, under another name, as another type, or is no surface', async ({ request, baseURL }) => {
  const body = Buffer.from(encodeMesh(pebble(2), { count: 100 }));
  const status = async (headers: Record<string, string>, data = body) =>
    (await request.post(PATH, { headers: { ...BYTES, ...headers }, data })).status();
  expect(await status({ origin: 'http://elsewhere.example' })).toBe(403);
  expect(await status({ origin: 'null' })).toBe(403);
  expect(await status({ 'sec-fetch-site': 'cross-site' })).toBe(403);
  expect(await status({ 'content-type': 'application/octet-stream; charset=utf-8' })).toBe(415);
  expect(await status({ 'content-type': 'application/json' })).toBe(415);
  expect(await status({ host: 'elsewhere.example' })).toBe(421);
  const { positions, faceStart, faceVertices } = pebble(2);
  const tripled = {
    positions,
    faceStart: Int32Array.from({ length: 3 * faceStart.length - 2 }, (_, f) => 4 * f),
    faceVertices: Int32Array.from([0, 1, 2].flatMap(() => [...faceVertices]))
  };
  const refused = await request.post(PATH, { headers: BYTES, data: Buffer.from(encodeMesh(tripled, { count: 100 })) });
  expect([refused.status(), ((await refused.json()) as { message: string }).message]).toEqual([400, expect.stringContaining('more than two faces')]);
  const longGuides = { guides: Array.from({ length: 501 }, () => ({ points: [[0, 0, 0], [1, 1, 1]], influence: 1 })) }; // prettier-ignore
  expect(await status({}, Buffer.from(encodeMesh(pebble(2), longGuides)))).toBe(400);
  expect(await status({ origin: baseURL!, 'sec-fetch-site': 'same-origin' })).toBe(200);
});

test('pages carry headers that keep others out, and no script that stands in them runs but its own', async ({ request }) => {
  const headers = (await request.get('/')).headers();
  const policy = headers['content-security-policy'];
  expect(policy).toContain("frame-ancestors 'none'");
  expect(policy).not.toMatch(/script-src[^;]*'unsafe-/);
  expect([headers['x-content-type-options'], headers['referrer-policy']]).toEqual(['nosniff', 'no-referrer']);
  expect((await request.get('/favicon.svg')).headers()['x-content-type-options']).toBe('nosniff');
  expect((await request.get('/', { headers: { host: 'elsewhere.example' } })).status()).toBe(421);
});

test('only so many tasks run at a time, and one ends when its caller goes', async ({ baseURL, request }) => {
  // long enough to be met while it runs
  const body = encodeMesh(pebble(7), { count: 20_000, symmetry: 'none' });
  const stop = new AbortController();
  const running = [1, 2].map(() =>
    fetch(baseURL + PATH, { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: Buffer.from(body), signal: stop.signal })
  );
  await Promise.all(running);
  const third = await request.post(PATH, { headers: BYTES, data: Buffer.from(body) });
  expect([third.status(), ((await third.json()) as { message: string }).message]).toEqual([503, expect.stringContaining('try again')]);
  stop.abort();
  const small = Buffer.from(encodeMesh(pebble(3), { count: 100 }));
  await expect.poll(async () => (await request.post(PATH, { headers: BYTES, data: small })).status()).toBe(200);
});

test('the card sends the surface to the server where that is asked for', async ({ page }, info) => {
  const corners = [-1, 1].flatMap((x) => [-1, 1].flatMap((y) => [-1, 1].map((z) => `v ${20 * x} ${10 * y} ${15 * z}`)));
  await openFile(
    page,
    info.outputPath('block.obj'),
    [...corners, 'f 1 2 4 3', 'f 5 7 8 6', 'f 1 5 6 2', 'f 3 4 8 7', 'f 1 3 7 5', 'f 2 6 8 4'],
    'a reference (to lay quads over)'
  );
  await page.keyboard.press('Digit2');
  await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
  await page.keyboard.press('KeyZ');
  await card(page)
    .getByRole('button', { name: /more settings/ })
    .click();
  await card(page).getByLabel('Compute in').selectOption('server');
  await card(page).getByLabel('Count', { exact: true }).fill('400');
  await card(page).getByLabel('Count', { exact: true }).press('Tab');
  const asked = page.waitForRequest((sent) => sent.url().endsWith(PATH));
  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await asked;
  await expect(logbook(page)).toHaveCount(2, { timeout: 60_000 });
  await expect(reading(page, 'Quads')).toContainText('(100 %)');
});
