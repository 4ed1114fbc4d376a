import { expect, test, type Page } from '@playwright/test';
import { apply, card, fill, logbook, lookFrom, operation, reading, settled, startShape } from './workshop.ts';

/** What was done can be changed: entries disabled, moved, removed, picked again, named. */

const entryMenu = async (page: Page, entry: number, act: string) => {
  await page.getByRole('button', { name: `Menu of entry ${entry}` }).click();
  await page.getByRole('menuitem', { name: act }).click();
  await settled(page);
};

test('an entry is disabled, moved, named and removed; one that does not fit any more is flagged and picked again', async ({ page }) => {
  await startShape(page, 'Box');
  await page.keyboard.press('Escape');
  const at = await lookFrom(page, 'front');
  await page.mouse.click(...at(5, 5, 20));
  await page.keyboard.press('KeyF');
  await fill(page, 'Distance', 6);
  await apply(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.mouse.click(...at(-5, -5, 20));
  await page.keyboard.press('Digit3');
  await operation(page, 'Inset');
  await apply(page);
  await page.keyboard.press('Escape');
  await expect(logbook(page)).toHaveCount(3);
  await expect(reading(page, 'Quads')).toHaveText(/^104 /);
  await entryMenu(page, 2, 'Disable');
  await expect(reading(page, 'Quads')).toHaveText(/^100 /);
  await expect(logbook(page).nth(1)).toContainText('(disabled)');
  await entryMenu(page, 2, 'Enable');
  await entryMenu(page, 3, 'Move up');
  await expect(logbook(page).nth(1)).toContainText('Inset');
  await expect(reading(page, 'Quads')).toHaveText(/^104 /);
  await entryMenu(page, 2, 'Name, note, group');
  await page.getByRole('dialog').getByLabel('Name', { exact: true }).fill('The recess');
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click();
  await expect(logbook(page).nth(1)).toContainText('The recess');
  // what it worked on is taken away before it
  await page.getByRole('button', { name: 'Edit entry 1' }).click();
  await fill(page, 'Faces across', 3);
  await page.keyboard.press('Escape');
  const banner = page.getByRole('status').filter({ hasText: 'fit any more' });
  await expect(banner).toContainText('2 entries do not fit any more');
  await banner.getByRole('button', { name: 'Pick again for number 2' }).click();
  await settled(page);
  await page.mouse.click(...at(0, 5, 20));
  await page.getByRole('button', { name: 'Use what is picked' }).click();
  await settled(page);
  await expect(banner).toContainText('One entry does not fit any more');
  await entryMenu(page, 3, 'Remove');
  await expect(banner).toHaveCount(0);
  await expect(logbook(page)).toHaveCount(2);
  await expect(card(page)).toBeVisible();
  // all of it is undone step by step
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+KeyZ');
  await settled(page);
  await page.reload();
  await settled(page);
  await expect(logbook(page).nth(1)).toContainText('The recess');
});
