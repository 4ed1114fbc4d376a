import { expect, test } from '@playwright/test';
import { card, logbook, reading, selection, settled, standMiddle, startShape } from './workshop.ts';

test('a loop is forecast, added at a typed fraction, slid, and taken out again', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 4, 'Faces up': 4, 'Faces deep': 4 });
  await page.getByRole('button', { name: 'front' }).click();
  await settled(page);
  const { x, y } = await standMiddle(page);
  await page.keyboard.press('KeyW');
  await page.mouse.move(x, y + 24);
  await expect(page.getByTestId('hint')).toContainText('its loop: 16 edges, closed');
  await page.mouse.click(x, y + 24);
  await page.keyboard.press('KeyA');
  await expect(page.getByTestId('forecast')).toContainText('poles unchanged; the smooth surface moves by up to');
  await card(page).getByLabel('Fraction', { exact: true }).fill('0.25');
  await card(page).getByLabel('Fraction', { exact: true }).press('Enter');
  await expect(reading(page, 'Quads')).toContainText('112');
  await expect(selection(page)).toContainText('16 edges, closed loop');
  await page.keyboard.press('KeyS');
  await card(page).getByLabel('Fraction', { exact: true }).fill('0.5');
  await card(page).getByLabel('Fraction', { exact: true }).press('Enter');
  await expect(logbook(page)).toHaveCount(3);
  await page.keyboard.press('KeyD');
  await expect(reading(page, 'Quads')).toContainText('96 (100 %)');
});

test('a cut is clicked from edge to edge and runs out', async ({ page }) => {
  await startShape(page, 'Plane', { 'Faces across': 4, 'Faces deep': 4 });
  await page.getByRole('button', { name: 'top' }).click();
  await settled(page);
  const { x, y } = await standMiddle(page);
  // the next edge lies a face on: the first place further down that the hint line calls one
  let below = 40;
  for (await page.mouse.move(x + 40, y + below); !(await page.getByTestId('hint').innerText()).startsWith('edge'); below += 6)
    await page.mouse.move(x + 40, y + below);
  await page.keyboard.press('KeyG');
  await expect(card(page)).toContainText('The cut has no points yet.');
  await page.mouse.click(x + 40, y);
  await expect(card(page)).toContainText('1 point so far');
  await page.mouse.click(x + 330, y + 320);
  await expect(card(page)).toContainText('1 point so far');
  await page.mouse.click(x + 40, y + below + 4);
  await expect(card(page)).toContainText('2 points so far');
  await card(page).getByText('Run out at both ends').click();
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await expect(reading(page, 'Quads')).toContainText('20 (100 %)');
});

test('Enter applies an extrusion and begins the next; a wrong pick is refused with the way out', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 3, 'Faces up': 3, 'Faces deep': 3 });
  await page.getByRole('button', { name: 'front' }).click();
  await settled(page);
  const { x, y } = await standMiddle(page);
  await page.keyboard.press('KeyE');
  await page.mouse.click(x, y);
  await page.keyboard.press('KeyF');
  await expect(page.getByTestId('forecast')).toContainText('poles of 3: 4 appear; poles of 5: 4 appear');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(logbook(page)).toHaveCount(3);
  await page.keyboard.press('Escape');
  await expect(reading(page, 'Quads')).toContainText('62');
  await page.keyboard.press('KeyW');
  await page.keyboard.press('Escape');
  await page.mouse.click(x + 90, y + 72);
  await page.keyboard.press('KeyF');
  await expect(page.getByText(/faces on both sides.*Pick border edges/)).toBeVisible();
});

test('a tube of 84 sides is thinned out to 42, its rims kept', async ({ page }) => {
  await startShape(page, 'Cylinder', { Sides: 84, 'Faces up': 6 });
  await card(page).getByText('Caps').click();
  await settled(page);
  await expect(reading(page, 'Quads')).toContainText('504');
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyW');
  await page.getByRole('button', { name: 'front' }).click();
  await settled(page);
  const { x, y } = await standMiddle(page);
  await page.mouse.click(x + 1, y + 12);
  await expect(selection(page)).toContainText('1 edge');
  await page.getByRole('button', { name: 'Thin out', exact: true }).click();
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await expect(reading(page, 'Quads')).toContainText('252 (100 %)');
});
