import { expect, test, type Page } from '@playwright/test';
import { card, logbook, reading, settled, standMiddle, startShape } from './workshop.ts';

/** Drags a brush from the middle of the stand by some pixels. */
async function stroke(page: Page, dx: number, dy: number, key?: string) {
  const { x, y } = await standMiddle(page);
  await page.mouse.move(x, y);
  if (key) await page.keyboard.down(key);
  await page.mouse.down();
  await page.mouse.move(x + dx, y + dy, { steps: 10 });
  await page.mouse.up();
  if (key) await page.keyboard.up(key);
}

test('each stroke of a brush is an entry with what it did, taken back at once; the wheel changes its size, and Space swaps it', async ({ page }) => {
  await startShape(page, 'Sphere of quads', { 'Faces across': 10 });
  await settled(page);
  await page.keyboard.press('Digit6');
  await page.keyboard.press('KeyZ');
  await expect(card(page)).toContainText('Drag over the surface: each stroke is an entry of its own.');
  const { x, y } = await standMiddle(page);
  await page.mouse.move(x, y);
  await expect(page.getByTestId('brush-ring')).toBeVisible();
  await page.keyboard.down('Alt');
  await page.mouse.wheel(0, -100);
  await page.keyboard.up('Alt');
  await expect(card(page).getByLabel('Radius', { exact: true })).toHaveValue('11');
  await stroke(page, 60, 20);
  await expect(logbook(page)).toHaveCount(2);
  await expect(page.locator('.message')).toContainText(/Moved by .* mm at most; volume \+0\.000 %\./);
  // the brush stays in hand, with its size
  await expect(card(page).getByLabel('Radius', { exact: true })).toHaveValue('11');
  await stroke(page, -60, 10);
  await expect(logbook(page)).toHaveCount(3);
  const spread = await reading(page, 'Spread').innerText();
  await page.keyboard.press('Space');
  await expect(card(page)).toContainText('Smooth');
  await stroke(page, 50, -30);
  await expect(page.locator('.message')).toContainText(/volume -0\.\d+ %\./);
  await page.keyboard.press('Control+KeyZ');
  await expect(logbook(page).filter({ hasText: 'Smooth' })).toHaveClass(/undone/);
  await expect(reading(page, 'Spread')).toHaveText(spread);
  // raising, and lowering with Ctrl
  await page.getByRole('button', { name: 'Raise', exact: true }).click();
  await stroke(page, 30, 0);
  await expect(page.locator('.message')).toContainText(/volume \+\d/);
  await stroke(page, 30, 0, 'Control');
  await expect(page.locator('.message')).toContainText(/volume -\d/);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('brush-ring')).toHaveCount(0);
});
