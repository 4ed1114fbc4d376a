import { expect, test, type Page } from '@playwright/test';
import { card, fill, logbook, lookFrom, openFile, reading, selection } from './workshop.ts';

/** An egg of 40 x 24 faces, brought in as the reference of a new job. */
async function openEgg(page: Page, path: string): Promise<void> {
  const [round, rows] = [40, 24];
  const lines = ['v 0 30 0', 'v 0 -30 0'];
  for (let r = 1; r < rows; r++)
    for (let i = 0; i < round; i++) {
      const [a, b] = [(Math.PI * r) / rows, (2 * Math.PI * i) / round];
      lines.push(`v ${14 * Math.sin(a) * Math.cos(b)} ${30 * Math.cos(a)} ${12 * Math.sin(a) * Math.sin(b)}`);
    }
  const at = (r: number, i: number) => 3 + (r - 1) * round + (i % round);
  for (let i = 0; i < round; i++) {
    lines.push(`f 1 ${at(1, i + 1)} ${at(1, i)}`, `f 2 ${at(rows - 1, i)} ${at(rows - 1, i + 1)}`);
    for (let r = 1; r < rows - 1; r++) lines.push(`f ${at(r, i)} ${at(r, i + 1)} ${at(r + 1, i + 1)} ${at(r + 1, i)}`);
  }
  await openReference(page, path, lines);
  await card(page).getByLabel('Count', { exact: true }).fill('500');
  await card(page).getByLabel('Count', { exact: true }).press('Tab');
}

/** A file brought in as the reference of a new job, with the card of auto quads open. */
async function openReference(page: Page, path: string, lines: string[]): Promise<void> {
  await openFile(page, path, lines, 'a reference (to lay quads over)');
  await page.keyboard.press('Digit2');
  await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
  await page.keyboard.press('KeyZ');
}

/** Drags over the stand, from place to place in page pixels. */
async function stroke(page: Page, places: [number, number][]): Promise<void> {
  await page.mouse.move(...places[0]);
  await page.mouse.down();
  for (const place of places.slice(1)) await page.mouse.move(...place);
  await page.mouse.up();
}

const strokes = (page: Page) => page.locator('svg.strokes');

test('auto quads is steered: a ring with a count, a touch of the size brush, poles before the quads, and mirrors', async ({ page }, info) => {
  await openEgg(page, info.outputPath('egg.obj'));
  const steer = card(page).getByRole('group', { name: 'Steer' });
  // what it is mirrored in is told before anything is laid, and follows the setting
  await expect(steer).toContainText(/Symmetric in X = 0.00, exact; in .*: one side is laid/, { timeout: 30_000 });
  await card(page).getByLabel('Symmetry').selectOption('z');
  await expect(steer).toContainText(/Symmetric in Z = 0.00, exact: one side is laid/, { timeout: 30_000 });
  await card(page).getByLabel('Symmetry').selectOption('auto');
  await steer.getByRole('button', { name: 'pole', exact: true }).click();
  await expect(steer).toContainText('8 poles: 8 of 3 edges', { timeout: 60_000 });
  await expect(strokes(page)).toHaveAttribute('data-poles', '8');

  const at = await lookFrom(page, 'front');
  // a pole dragged onto the front of the egg stays there, and can be taken back
  const marks = strokes(page).locator('polygon.pole');
  // half of them lie behind
  await expect(strokes(page).locator('polygon.pole.hidden')).toHaveCount(4);
  const middles = () =>
    marks.evaluateAll((found) =>
      found.map((mark) => {
        const { x, y, width, height } = mark.getBoundingClientRect();
        return [x + width / 2, y + height / 2] as [number, number];
      })
    );
  const goal = at(2, 4, 11);
  const off = async () => Math.min(...(await middles()).map(([x, y]) => Math.hypot(x - goal[0], y - goal[1])));
  expect(await off()).toBeGreaterThan(30);
  const [front] = (await middles()).sort((a, b) => Math.hypot(a[0] - goal[0], a[1] - goal[1]) - Math.hypot(b[0] - goal[0], b[1] - goal[1]));
  await stroke(page, [front, goal]);
  await expect(steer).toContainText('1 pole dragged');
  await expect(strokes(page)).toHaveAttribute('data-poles', '8', { timeout: 60_000 });
  await expect.poll(off).toBeLessThan(25);
  await steer.getByRole('button', { name: 'Clear' }).click();

  await steer.getByRole('button', { name: 'ring', exact: true }).click();
  await stroke(
    page,
    [-11, -7, -3, 0, 3, 7, 11].map((x) => at(x, 12, 11))
  );
  await expect(strokes(page)).toHaveAttribute('data-guides', '1');
  await steer.getByLabel('Quads of guide 1', { exact: true }).fill('18');
  await steer.getByLabel('Quads of guide 1', { exact: true }).press('Tab');
  await steer.getByRole('button', { name: 'size', exact: true }).click();
  await steer.getByLabel('Brush radius', { exact: true }).fill('10');
  await stroke(page, [at(0, -12, 11), at(0, -12, 11)]);
  await expect(steer).toContainText('1 touch of the size brush');
  // a stroke beside the surface says so
  await stroke(page, [at(30, 0, 0), at(36, 0, 0)]);
  await expect(page.getByText('The stroke does not lie on the surface.')).toBeVisible();

  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await expect(page.getByText(/quads laid in .*Guide 1: 18 quads round it/)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/Not mirrored: guide 1, which has a count, runs across the plane/).first()).toBeVisible();
  await expect(reading(page, 'Quads')).toContainText('(100 %)');

  // without the ring it is laid in one part and mirrored; the settings of the open card are used again
  await steer.getByRole('button', { name: 'Remove guide 1' }).click();
  await steer.getByRole('button', { name: 'Clear' }).click();
  await card(page).getByRole('button', { name: 'Lay again' }).click();
  await expect(page.getByText(/quads laid in .*Laid on one side of X = 0.00 and mirrored/)).toBeVisible({ timeout: 60_000 });
  // how far they are off is on the stand at once
  const legend = page.getByRole('note', { name: 'Legend of the paint' });
  await expect(legend).toContainText(/-(0\.\d+)\s*\1 mm/);
  await page.getByLabel('Paint', { exact: true }).selectOption({ label: 'spacing' });
  await expect(legend).toContainText('times');
  await page.getByLabel('Paint', { exact: true }).selectOption({ label: 'clay' });
  await expect(legend).toHaveText('no paint');
});

test('sharp edges are seen before the quads, and follow the angle', async ({ page }, info) => {
  const corners = [-1, 1].flatMap((x) => [-1, 1].flatMap((y) => [-1, 1].map((z) => `v ${20 * x} ${10 * y} ${15 * z}`)));
  const path = info.outputPath('block.obj');
  await openReference(page, path, [...corners, 'f 1 2 4 3', 'f 5 7 8 6', 'f 1 5 6 2', 'f 3 4 8 7', 'f 1 3 7 5', 'f 2 6 8 4']);
  const steer = card(page).getByRole('group', { name: 'Steer' });
  await steer.getByRole('button', { name: 'Show the sharp edges' }).click();
  await expect(steer).toContainText('12 edges will be kept');
  // those along a stroke are taken out, and one is picked again
  const at = await lookFrom(page, 'front');
  await steer.getByRole('button', { name: 'release edge', exact: true }).click();
  await stroke(page, [at(-18, 9.8, 15), at(0, 9.8, 15), at(18, 9.8, 15)]);
  // with their images, where it is to be mirrored
  await expect(steer).toContainText('8 edges will be kept');
  await card(page).getByLabel('Symmetry').selectOption('none');
  await expect(steer).toContainText('11 edges will be kept');
  await steer.getByRole('button', { name: 'keep edge', exact: true }).click();
  await stroke(page, [at(3, 9.8, 15), at(3, 9.8, 15)]);
  await expect(steer).toContainText('12 edges will be kept');
  await steer.getByRole('button', { name: 'Clear' }).click();
  await card(page)
    .getByRole('button', { name: /more settings/ })
    .click();
  await card(page).getByLabel('Sharp edges from', { exact: true }).fill('100');
  await card(page).getByLabel('Sharp edges from', { exact: true }).press('Tab');
  await expect(steer).toContainText('0 edges will be kept');
});

test('an area is laid again with more quads: the rest stays, and the seam is all quads', async ({ page }, info) => {
  await openEgg(page, info.outputPath('egg.obj'));
  // a count that cannot be taken stays in its field, and nothing is laid before it is mended
  const count = card(page).getByLabel('Count', { exact: true });
  await count.fill('3');
  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await expect(page.getByText(/Count must lie between 24 and/)).toBeVisible();
  await expect(count).toHaveValue('3');
  await expect(card(page).getByRole('button', { name: 'Lay quads' })).toBeVisible();
  // of a range any count will do, and one the wrong way round is none
  await card(page).getByLabel('Density by').selectOption('range');
  await fill(page, 'At least', 700);
  await fill(page, 'At most', 450);
  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await expect(page.getByText('The most quads must not be below the fewest; they are 700 and 450.').first()).toBeVisible({ timeout: 60_000 });
  await fill(page, 'At most', 900);
  await fill(page, 'At least', 450);
  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await expect(page.getByText(/quads laid in/)).toBeVisible({ timeout: 60_000 });
  // from a thousand on with a comma
  const quads = async () => Number((await reading(page, 'Quads').innerText()).match(/[0-9][0-9,]*/)![0].replace(',', ''));
  const before = await quads();
  expect(before).toBeGreaterThanOrEqual(450);
  expect(before).toBeLessThanOrEqual(900);
  // nothing picked: it says so, and nothing is laid
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyZ');
  await card(page).getByLabel('Lay over').selectOption('picked');
  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await expect(page.getByText('Pick the faces to lay again first.')).toBeVisible();
  await card(page).getByRole('button', { name: 'Discard' }).click();

  const at = await lookFrom(page, 'front');
  await page.getByRole('button', { name: 'faces', exact: true }).click();
  await stroke(page, [at(-20, 0, 0), at(-10, 20, 0), at(30, 40, 0)]);
  const picked = Number((await selection(page).innerText()).match(/([0-9]+) faces/)![1]);
  expect(picked).toBeGreaterThan(40);
  await page.keyboard.press('KeyZ');
  await card(page).getByLabel('Lay over').selectOption('picked');
  await expect(card(page).getByLabel('Count', { exact: true })).toHaveValue(String(picked));
  await fill(page, 'Count', 2 * picked);
  // the server lays areas too
  await card(page)
    .getByRole('button', { name: /more settings/ })
    .click();
  await card(page).getByLabel('Compute in').selectOption('server');
  const asked = page.waitForRequest((sent) => sent.url().endsWith('/api/auto-quads'));
  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await asked;
  await expect(logbook(page)).toHaveCount(3, { timeout: 60_000 });
  await expect(reading(page, 'Quads')).toContainText('(100 %)');
  await expect(reading(page, 'Borders')).toContainText('0');
  expect(await quads()).toBeGreaterThan(before + 0.5 * picked);
  await page.keyboard.press('Control+z');
  await expect.poll(quads).toBe(before);
});
