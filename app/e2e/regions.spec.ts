import { expect, test } from '@playwright/test';
import { apply, card, openDemo, reading, startShape, told } from './workshop.ts';

/** Triangulated parts read by their surfaces. */

test('regions of a triangulated cage are named by what they are, and those that can be no face are picked and explained', async ({ page }) => {
  await openDemo(page, 'Bellows');
  await page.keyboard.press('Digit2');
  await page.getByRole('button', { name: 'Find regions', exact: true }).click();
  await expect(page.getByTestId('forecast')).toContainText(/\d+ regions: .*cone.*can be no face of a cage: .*It runs round as a ring/);
  await apply(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit6');
  await page.getByRole('tab', { name: 'Groups' }).click();
  await expect(page.getByRole('list', { name: 'Regions' })).toContainText(/cone/);
  // a cage of these regions beside them, as they are set; and the other scheme beside this one
  await page.getByRole('button', { name: 'panes', exact: true }).click();
  await page.getByRole('button', { name: 'compare versions' }).click();
  await page.getByLabel('Compare with').selectOption({ label: 'a cage of its regions' });
  await expect(page.getByTestId('compare')).toHaveAttribute('data-frames', /\d/);
});

test('a ring says why it can be no face, and is split by as many cuts as are typed', async ({ page }) => {
  await startShape(page, 'Cylinder');
  await page.keyboard.press('Digit2');
  await page.getByRole('button', { name: 'Find regions', exact: true }).click();
  await apply(page);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Cage from regions', exact: true }).click();
  await card(page).getByLabel('Regions', { exact: true }).selectOption({ label: 'As they are set' });
  const corners = card(page).getByRole('spinbutton', { name: 'Corners of round borders' });
  await corners.fill('0');
  await corners.press('Tab');
  await expect(card(page)).toContainText('It runs round as a ring: two cuts across it make faces of it.');
  await corners.fill('6');
  await corners.press('Tab');
  await expect(told(page)).toContainText(/A cage of \d+ faces\./);
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/100 %/);
});
