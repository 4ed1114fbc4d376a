import { expect, test } from '@playwright/test';
import { bringIn, obj, writeMesh, usda, assertValid, Cage, genus, marshNewt } from '../../core/src/index.ts';
import { card, dialog, dropFile, logbook, reading, saved, selection, settled, standMiddle } from './workshop.ts';

test('a sculpt dropped on the page becomes quads, is looked at smooth, changed, kept through a reload, and taken away', async ({ page }) => {
  test.setTimeout(300_000);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Your jobs' })).toBeVisible();
  await dropFile(page, 'newt.obj', writeMesh(marshNewt(0.6), obj));
  await expect(dialog(page)).toContainText('triangles');
  await expect(dialog(page)).toContainText('1 island, genus 0');
  await expect(dialog(page).getByRole('radio', { name: /reference/ })).toBeChecked();
  await dialog(page).getByRole('button', { name: 'As a new job' }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);

  await page.keyboard.press('KeyZ');
  await card(page).getByLabel('Count', { exact: true }).fill('2500');
  await card(page).getByLabel('Count', { exact: true }).press('Tab');
  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await expect(card(page).getByRole('button', { name: 'Stop' })).toBeVisible();
  // edges of the quads are on the stand while these are evened out, and go when the quads are there
  const coming = page.locator('[data-coming]');
  await expect(coming).toHaveAttribute('data-coming', /^[1-9]\d{3}$/, { timeout: 100_000 });
  await expect(card(page).getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(card(page).getByRole('button', { name: 'Lay again' })).toBeVisible({ timeout: 200_000 });
  await expect(coming).toHaveAttribute('data-coming', '0');
  await expect(reading(page, 'Quads')).toContainText('(100 %)');
  await expect(reading(page, 'Smooth surface')).toContainText('mm');

  await page.keyboard.press('KeyT');
  await settled(page);
  await expect(page.getByRole('button', { name: 'smooth', exact: true })).toHaveAttribute('aria-pressed', 'true');

  // a vertex somewhere in the middle of the view, moved by a number
  await page.keyboard.press('KeyQ');
  const { x, y } = await standMiddle(page);
  await page.mouse.click(x, y + 30);
  await expect(selection(page)).toContainText('1 vertex');
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyZ');
  await card(page).getByLabel('Y', { exact: true }).fill('4');
  await card(page).getByLabel('Y', { exact: true }).press('Enter');
  await expect(logbook(page)).toHaveCount(3);
  await settled(page);

  await page.reload();
  await settled(page);
  await expect(logbook(page)).toHaveCount(3);
  await expect(page.getByRole('button', { name: 'smooth', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('button', { name: 'vertices', exact: true })).toHaveAttribute('aria-pressed', 'true');

  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  await dialog(page).getByLabel('Format').selectOption({ label: 'OBJ' });
  const cageFile = await saved(page, () => dialog(page).getByRole('button', { name: 'Save OBJ file' }).click());
  const back = bringIn(cageFile.bytes, cageFile.name);
  expect(back.notes).toEqual([]);
  expect([back.facts.quads, back.facts.borders, back.facts.islands, back.facts.genus]).toEqual([back.facts.faces, 0, 1, 0]);
  expect(Math.abs(back.facts.quads / 2500 - 1)).toBeLessThan(0.06);

  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  await dialog(page).getByLabel('Format').selectOption({ label: 'usda (OpenUSD text)' });
  await dialog(page).getByText('Subdivided', { exact: true }).click();
  await dialog(page).getByLabel('Level', { exact: true }).selectOption('1');
  const fineFile = await saved(page, () => dialog(page).getByRole('button', { name: 'Save USDA file' }).click());
  const fine = usda.read(fineFile.bytes);
  const cage = Cage.fromPolygons(fine.mesh);
  assertValid(cage);
  expect([cage.faceCount, genus(cage)]).toEqual([4 * back.facts.quads, 0]);
});

test('auto quads can be stopped, and nothing is changed then', async ({ page }) => {
  await page.goto('/');
  await dropFile(page, 'newt.obj', writeMesh(marshNewt(0.6), obj));
  await dialog(page).getByRole('button', { name: 'As a new job' }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);
  await page.keyboard.press('KeyZ');
  await card(page).getByRole('button', { name: 'Lay quads' }).click();
  await expect(card(page)).toContainText(/Directions|Map|Rounding/);
  await card(page).getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('Auto quads was stopped; nothing was changed.')).toBeVisible();
  await expect(logbook(page)).toHaveCount(1);
  await expect(card(page).getByRole('button', { name: 'Lay quads' })).toBeVisible();
});
