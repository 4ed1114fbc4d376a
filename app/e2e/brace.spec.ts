import { expect, test } from '@playwright/test';
import { obj, usda } from '../../core/src/index.ts';
import { apply, card, dialog, fill, logbook, openDemo, operation, panes, reading, saved, selection, settled, standMiddle } from './workshop.ts';

test("the cleat's edges, braced once by creases and once by support loops, compared, baked, and delivered with their creases", async ({ page }) => {
  test.setTimeout(180_000);
  await openDemo(page, 'Mooring cleat');
  await page.keyboard.press('Digit4');
  await page.keyboard.press('KeyT');
  await operation(page, 'Crease by angle');
  await apply(page);
  await expect(card(page)).toContainText('104 edges creased.');
  await expect(page.getByRole('navigation', { name: 'Benches' })).toContainText('104 creased');

  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  const creasedFile = await saved(page, () => dialog(page).getByRole('button', { name: 'Save USDA file' }).click());
  const { mesh } = usda.read(creasedFile.bytes);
  expect([mesh.creaseSharpness!.length, new Set(mesh.creaseSharpness)]).toEqual([104, new Set([10])]);

  // the card of the last entry is closed first, then its selection: all creases are meant
  await page.getByTestId('stand').hover({ position: { x: 20, y: 400 } });
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await operation(page, 'Creases to support loops');
  await card(page).getByLabel('Width', { exact: true }).selectOption('typed');
  await fill(page, 'Brace width', 0.6);
  await expect(page.getByTestId('forecast')).toContainText('104 creases became support loops at 0.6 mm; the surfaces are');
  await expect(page.getByTestId('forecast')).toContainText(/Forecast: poles of 3: \d+ appear/);
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText('392 (100 %)');

  await panes(page, 'compare versions');
  await page.getByLabel('Compare with').selectOption('before');
  await expect(page.getByTestId('compare')).toContainText(/Left: Level 2: 6,272 faces.*Right: Level 2: 1,664 faces/s);
  // one eye for both
  await page.getByRole('button', { name: 'front', exact: true }).click();
  await settled(page);
  expect(await page.getByTestId('compare').getAttribute('data-target')).toBe(await page.getByTestId('stand').getAttribute('data-target'));
  await panes(page, 'one view');

  await page.getByTestId('stand').hover({ position: { x: 20, y: 400 } });
  await page.keyboard.press('KeyC');
  await fill(page, 'Brace width', 1);
  await apply(page);
  await page.getByTestId('stand').hover({ position: { x: 20, y: 400 } });
  await page.keyboard.press('KeyV');
  await expect(reading(page, 'Quads')).toContainText('104 (100 %)');

  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+KeyZ');
  await settled(page);
  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  await dialog(page).getByLabel('Format').selectOption({ label: 'OBJ' });
  await dialog(page).getByText('Baked, for receivers').click();
  await dialog(page).getByLabel('Tolerance', { exact: true }).fill('1');
  const baked = obj.read((await saved(page, () => dialog(page).getByRole('button', { name: 'Save OBJ file' }).click())).bytes);
  const levels = Math.log(baked.mesh.faceVertices.length / 4 / 104) / Math.log(4);
  expect(levels).toBeGreaterThan(1);
  expect(levels % 1).toBe(0);
});

test('a level plan is tried out, compared, kept and said to be lost; the surface is pulled where it is dragged', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  await page.keyboard.press('Digit4');
  await page.keyboard.press('KeyT');
  await operation(page, 'Level plan');
  await card(page).getByLabel('Level 1', { exact: true }).selectOption('divide');
  await card(page).getByLabel('Level 2', { exact: true }).selectOption('divide');
  await expect(page.getByTestId('forecast')).toContainText(
    /the smooth surface moves by up to .* Level 3: .* The smooth limit is up to .* mm from that of all levels smooth/
  );
  await apply(page);
  await expect(page.getByRole('navigation', { name: 'Benches' })).toContainText('plan');
  await page.getByLabel(/^level/).selectOption('3');
  await panes(page, 'compare versions');
  const plans =
    /Left: Level 3: 6,656 faces.* is up to [\d.]+ mm from that of all levels smooth.*Right: Level 3: 6,656 faces.* is the same as with all/s;
  await expect(page.getByTestId('compare')).toContainText(plans);
  await panes(page, 'one view');
  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  await expect(dialog(page)).toContainText('The level plan: no format carries one.');
  await dialog(page).getByText('The cage, divided as the level plan begins', { exact: true }).click();
  const divided = usda.read((await saved(page, () => dialog(page).getByRole('button', { name: 'Save USDA file' }).click())).bytes);
  expect(divided.mesh.faceVertices.length / 4).toBe(16 * 104);

  await page.getByTestId('stand').hover({ position: { x: 20, y: 400 } });
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('KeyB');
  await expect(card(page)).toContainText('No point of the surface is chosen');
  const { x, y } = await standMiddle(page);
  await page.mouse.move(x - 60, y - 10);
  await page.mouse.down();
  await page.mouse.move(x - 50, y - 40, { steps: 4 });
  await page.mouse.up();
  await expect(card(page).getByLabel('Y', { exact: true })).not.toHaveValue('0');
  await fill(page, 'Y', 5);
  await expect(page.getByTestId('forecast')).toBeVisible();
  await apply(page);
  await expect(card(page)).toContainText(/vertices of the cage moved; the surface passes/);
  await page.reload();
  await settled(page);
  await expect(logbook(page)).toHaveCount(2);
});

test('the smooth surface picks the cage element behind it, and no switch loses the selection', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  await page.keyboard.press('KeyE');
  for (const key of ['KeyT', 'KeyY']) await page.keyboard.press(key);
  await settled(page);
  const { x, y } = await standMiddle(page);
  await page.mouse.click(x - 60, y - 10);
  await expect(selection(page)).toContainText('1 face');
  const picked = await selection(page).textContent();
  for (const key of ['KeyY', 'KeyT', 'KeyT', 'KeyY']) {
    await page.keyboard.press(key);
    await expect(selection(page)).toHaveText(picked!);
  }
});
