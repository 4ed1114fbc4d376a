import { expect, test, type Page } from '@playwright/test';
import { apply, card, fill, logbook, lookFrom, operation, panes, reading, selection, settled, standMiddle, startShape } from './workshop.ts';

// What the page tells before and after an act is what is so.

const forecast = (page: Page) => page.getByTestId('forecast');
const dragOver = async (page: Page, [ax, ay]: [number, number], [bx, by]: [number, number]) => {
  await page.mouse.move(ax, ay);
  await page.mouse.down();
  await page.mouse.move((ax + bx) / 2, (ay + by) / 2);
  await page.mouse.move(bx, by);
  await page.mouse.up();
  await settled(page);
};
/** Looks from a side. @returns places there that lie round a box of 40 mm, from its upper left on */
const roundBox = async (page: Page, side: 'front' | 'top'): Promise<[number, number][]> => {
  const place = await lookFrom(page, side);
  return [
    [-21, 21],
    [21, 21],
    [21, -21],
    [-21, -21]
  ].map(([across, up]) => (side === 'top' ? place(across, 20, -up) : place(across, up, 20)));
};

test('a crease is forecast with how far the smooth surface really moves, set by its grip, and compared with all levels smooth', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 2, 'Faces up': 2, 'Faces deep': 2 });
  await page.keyboard.press('Digit4');
  await page.keyboard.press('KeyE');
  const [from, , to] = await roundBox(page, 'top');
  await dragOver(page, from, to);
  await expect(selection(page)).toHaveText('4 faces');
  await page.keyboard.press('KeyZ');
  // 5.114 mm where both surfaces are measured seven levels deep
  await expect(forecast(page)).toContainText('the smooth surface moves by up to 5.12 mm');
  const front = await lookFrom(page, 'front');
  const grip = page.getByRole('slider', { name: 'Sharpness', exact: true });
  await expect(grip).toHaveAttribute('aria-valuetext', '10');
  const at = (await grip.boundingBox())!;
  await page.mouse.move(at.x + 8, at.y + 8);
  await page.mouse.down();
  await page.mouse.move(...front(0, 22, 0), { steps: 4 });
  await page.mouse.up();
  const low = Number(await grip.getAttribute('aria-valuetext'));
  expect(low).toBeLessThan(6);
  expect(await card(page).getByLabel('Sharpness', { exact: true }).inputValue()).toBe(String(low));
  await fill(page, 'Sharpness', 10);
  await apply(page);
  await expect(logbook(page)).toHaveCount(2);

  // the same once more would change nothing: no entry is made of it
  await page.keyboard.press('KeyZ');
  await expect(forecast(page)).toContainText('the smooth surface stays where it is');
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText(/Crease would change nothing here, so nothing was done/)).toBeVisible();
  await expect(logbook(page)).toHaveCount(2);
  await page.keyboard.press('Escape');

  await page.keyboard.press('KeyT');
  await panes(page, 'compare versions');
  await expect(page.getByTestId('compare')).toContainText(/Left:.*the same as with all levels smooth.*Right:.*the same as with all levels smooth/s);
});

test('a box drag takes what is seen and no more: not the sides seen edge-on, all of those seen in perspective', async ({ page }) => {
  await startShape(page, 'Box');
  await page.keyboard.press('KeyE');
  const [first, ...others] = await roundBox(page, 'front');
  await dragOver(page, first, others[1]);
  await expect(selection(page)).toHaveText('16 faces');
  await page.getByRole('button', { name: 'lasso', exact: true }).click();
  await page.mouse.move(...first);
  await page.mouse.down();
  for (const at of [...others, first]) await page.mouse.move(...at, { steps: 5 });
  await page.mouse.up();
  await expect(selection(page)).toHaveText('16 faces');
  // what was not seen is not deleted
  await page.keyboard.press('Delete');
  await settled(page);
  await expect(reading(page, 'Quads')).toContainText('80 (100 %)');
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('KeyE');
  await page.keyboard.press('Control+KeyA');
  await expect(selection(page)).toHaveText('96 faces');
  await page.keyboard.press('Control+KeyA');
  await expect(selection(page)).toHaveText('nothing picked');
});

test('one edge: a bevel says that it has no room, a loop over this span ends at corners on both sides', async ({ page }) => {
  await startShape(page, 'Plane');
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyW');
  const top = await lookFrom(page, 'top');
  await page.mouse.click(...top(0, 0, 5));
  await expect(selection(page)).toContainText('1 edge');
  await operation(page, 'Bevel');
  await expect(card(page).getByRole('alert')).toContainText('a strip there would come to a point twice, and have no width');
  await expect(card(page).getByRole('button', { name: 'Apply' })).toBeDisabled();
  await fill(page, 'Width', 0);
  await expect(page.getByText('Width must be more than 0.')).toBeVisible();
  await fill(page, 'Width', 1);
  await fill(page, 'Segments', 2.5);
  await expect(page.getByText('Segments: a whole number is needed; it is 2.5.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyA');
  await card(page).getByLabel('Runs', { exact: true }).selectOption({ label: 'This span' });
  await expect(forecast(page)).toContainText('2 ends led to a corner');
  await apply(page);
  await expect(reading(page, 'Triangles')).toHaveText('2');
});

test('a cut runs out at both ends, each as far as it can, and says where', async ({ page }) => {
  await startShape(page, 'Torus', { Sides: 16, 'Sides of the tube': 8 });
  await page.keyboard.press('Digit3');
  const top = await lookFrom(page, 'top');
  await page.keyboard.press('KeyG');
  // on the edges along the ring that lie on its top, and beside it outwards
  const a = Math.PI / 16;
  for (const r of [20, 20 + 7 * Math.SQRT1_2]) await page.mouse.click(...top(r * Math.cos(a) ** 2, 7, r * Math.cos(a) * Math.sin(a)));
  await expect(card(page)).toContainText('2 points so far');
  await card(page).getByText('Run out at both ends').click();
  await expect(forecast(page)).toContainText(/Cut through \d+ points, 8 edges\. It runs all the way round and closes\./);
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText('136 (100 %)');
});

test('whole cells divide a panel that their size does not; a twisted bridge is told; a face begins at a single vertex', async ({ page }) => {
  await startShape(page, 'Plane', { Width: 360, Depth: 90, 'Faces across': 1, 'Faces deep': 1 });
  await page.keyboard.press('Digit3');
  await operation(page, 'Slice set');
  await card(page).getByLabel('Along', { exact: true }).selectOption({ label: "The panel's own frame, whole cells" });
  await fill(page, 'Cell size', 20);
  await apply(page);
  // 18 x 5 cells, right to the border
  await expect(reading(page, 'Quads')).toContainText('90 (100 %)');
  await expect(reading(page, 'Corner angles')).toHaveText('90° – 90°');

  await startShape(page, 'Box', { 'Faces across': 1, 'Faces up': 3, 'Faces deep': 1 });
  await page.keyboard.press('KeyE');
  const front = await lookFrom(page, 'front');
  const whole = await standMiddle(page);
  await page.getByRole('button', { name: 'visible only', exact: true }).click();
  await dragOver(page, [whole.x - 250, front(0, 12, 0)[1]], [whole.x + 250, front(0, -12, 0)[1]]);
  await expect(selection(page)).toHaveText('4 faces');
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('Digit5');
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyX');
  await expect(forecast(page)).not.toContainText('folded');
  await fill(page, 'Start offset', 2);
  await expect(forecast(page)).toContainText('folded faces: 4');

  await startShape(page, 'Single vertex');
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyQ');
  await page.keyboard.press('Control+KeyA');
  await expect(selection(page)).toContainText('1 vertex');
  await page.keyboard.press('KeyF');
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText('1 (100 %)');
});

test('what would be too much for the page runs beside it, and can be stopped', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New job', exact: true }).click();
  await page.waitForURL(/\/job\//);
  await page.getByRole('button', { name: /Start shape/ }).click();
  for (const label of ['Faces across', 'Faces up', 'Faces deep']) await fill(page, label, 300);
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await card(page).getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('Start shape was stopped; nothing was changed.')).toBeVisible();
  await expect(logbook(page)).toHaveText('Nothing done yet.');
});

test('moves make no graphics program anew, and a typed digit scrolls nothing at 1024 px', async ({ page }) => {
  await page.addInitScript(() => {
    const counted = window as unknown as { links: number };
    counted.links = 0;
    const { linkProgram } = WebGL2RenderingContext.prototype;
    WebGL2RenderingContext.prototype.linkProgram = function (program) {
      counted.links++;
      linkProgram.call(this, program);
    };
  });
  const links = () => page.evaluate(() => (window as unknown as { links: number }).links);
  await page.setViewportSize({ width: 1024, height: 700 });
  await startShape(page, 'Box');
  await page.keyboard.press('KeyT');
  await page.keyboard.press('KeyE');
  const { x, y } = await standMiddle(page);
  await page.mouse.click(x, y);
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyZ');
  await settled(page);
  await page.keyboard.press('Digit1');
  expect(await page.evaluate(() => [scrollX, scrollY, document.body.scrollLeft])).toEqual([0, 0, 0]);
  await settled(page);
  const before = await links();
  for (const n of [1, 2, 3, 4, 5]) {
    await fill(page, 'X', n);
    await settled(page);
  }
  expect(await links()).toBe(before);
});
