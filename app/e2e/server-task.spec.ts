import { expect, test } from '@playwright/test';
import { decodeMesh, encodeMesh, Subdivision, type PolygonMesh } from '@ulvrin/core';
import { card, logbook, openFile, reading } from './workshop.ts';

// the server takes two tasks at a time
test.describe.configure({ mode: 'serial' });

const PATH = '/api/auto-quads';
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
  const laid = await request.post(PATH, { data: Buffer.from(encodeMesh(stone, { count: 300 })) });
  expect(laid.status()).toBe(200);
  const lines = linesOf(await laid.text());
  expect(lines.flatMap(({ phase }) => phase ?? [])).toEqual(expect.arrayContaining(['Preparing', 'Map', 'Done']));
  const { mesh } = decodeMesh(Buffer.from(lines.at(-1)!.result!, 'base64'));
  expect(mesh.faceVertices.length / 4).toBeGreaterThan(250);

  const bad = await request.post(PATH, { data: Buffer.from(encodeMesh(stone, { count: 3 })) });
  expect([bad.status(), ((await bad.json()) as { message: string }).message]).toEqual([400, expect.stringContaining('Count')]);
  expect((await request.post(PATH, { data: Buffer.from('no mesh') })).status()).toBe(400);
  const flat = { ...stone, positions: stone.positions.map(() => 0) };
  const failed = await request.post(PATH, { data: Buffer.from(encodeMesh(flat, {})) });
  expect(linesOf(await failed.text()).at(-1)!.error).toMatch(/no area/);
});

test('only so many tasks run at a time, and one ends when its caller goes', async ({ baseURL, request }) => {
  // long enough to be met while it runs
  const body = encodeMesh(pebble(7), { count: 20_000, symmetry: 'none' });
  const stop = new AbortController();
  const running = [1, 2].map(() =>
    fetch(baseURL + PATH, { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: Buffer.from(body), signal: stop.signal })
  );
  await Promise.all(running);
  const third = await request.post(PATH, { data: Buffer.from(body) });
  expect([third.status(), ((await third.json()) as { message: string }).message]).toEqual([503, expect.stringContaining('try again')]);
  stop.abort();
  const small = Buffer.from(encodeMesh(pebble(3), { count: 100 }));
  await expect.poll(async () => (await request.post(PATH, { data: small })).status()).toBe(200);
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
  await expect(reading(page, 'Quads')).toContainText('(100.0 %)');
});
