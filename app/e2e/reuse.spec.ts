import { expect, test, type Page } from '@playwright/test';
import { apply, card, dialog, fill, logbook, openDemo, operation, reading, saved, settled, startShape } from './workshop.ts';

/** What was done is used again: routines, versions, locked parts. */

const jobMenu = async (page: Page, act: string) => {
  await page.getByRole('button', { name: 'Job menu' }).click();
  await page.getByRole('menuitem', { name: act }).click();
};

test('a routine made of entries on a box is exported, and played on the buoy, whose own edges it finds', async ({ page }) => {
  await startShape(page, 'Box');
  await page.keyboard.press('Escape');
  await page.getByText('Find and pick').click();
  await card(page).getByLabel('What to find').selectOption({ label: 'Edges sharper than' });
  await card(page).getByRole('button', { name: 'Pick', exact: true }).click();
  await page.keyboard.press('Digit4');
  await page.keyboard.press('KeyZ');
  await fill(page, 'Sharpness', 3);
  await apply(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit3');
  await operation(page, 'Divide once');
  await apply(page);
  await page.keyboard.press('Escape');
  await jobMenu(page, 'Routines');
  const form = dialog(page).getByRole('form', { name: 'Make a routine of entries' });
  await form.getByLabel('Make one of entries, under the name').fill('Firm and fine');
  await form.getByRole('button', { name: 'Make it' }).click();
  await expect(dialog(page).getByRole('region', { name: 'The routine' })).toContainText('Divide once');
  const { name } = await saved(page, () => dialog(page).getByRole('button', { name: 'Export' }).click());
  expect(name).toBe('firm-and-fine.json');
  await openDemo(page, 'Channel buoy');
  const before = Number(((await reading(page, 'Quads').textContent()) ?? '').split(' ')[0].replace(',', ''));
  await jobMenu(page, 'Routines');
  await dialog(page).getByRole('button', { name: 'Firm and fine' }).click();
  await dialog(page)
    .getByRole('button', { name: /^Play on/ })
    .click();
  await expect(dialog(page)).toHaveCount(0);
  await settled(page);
  await expect(logbook(page)).toHaveCount(3);
  expect(Number(((await reading(page, 'Quads').textContent()) ?? '').split(' ')[0].replace(',', ''))).toBeGreaterThan(3 * before);
  // a routine that finds nothing says which step, and does nothing
  await jobMenu(page, 'Routines');
  await dialog(page).getByRole('button', { name: 'Firm edges' }).click();
  const sharper = dialog(page).getByRole('spinbutton', { name: 'Sharper than' });
  await sharper.fill('179');
  await sharper.press('Tab');
  await dialog(page)
    .getByRole('button', { name: /^Play on/ })
    .click();
  await expect(dialog(page).getByRole('alert')).toContainText('Step 1, Crease on nothing picked: it finds nothing to work on.');
});

test('a version is kept and opened beside the job; a locked part is changed by nothing; parts are shown alone', async ({ page }) => {
  await startShape(page, 'Box');
  await page.keyboard.press('Escape');
  await jobMenu(page, 'Versions');
  await dialog(page).getByLabel('Name of a version').fill('before the cut');
  await dialog(page).getByRole('button', { name: 'Keep this version' }).click();
  await expect(page.getByRole('list', { name: 'Versions' })).toContainText('before the cut');
  await dialog(page).getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('Digit3');
  await operation(page, 'Divide once');
  await apply(page);
  await page.keyboard.press('Escape');
  await expect(reading(page, 'Quads')).toHaveText(/^384 /);
  // locked
  await page.getByRole('tab', { name: 'Parts' }).click();
  const part = page.getByRole('list', { name: 'Parts' }).getByRole('listitem').first();
  await part.getByRole('button', { name: /^How .* is shown/ }).click();
  await page.getByRole('menuitem', { name: 'Lock', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Divide once', exact: true })).toHaveAttribute(
    'title',
    'Box is locked. Unlock it in the list of parts.'
  );
  await page.getByRole('tab', { name: 'Logbook' }).click();
  await page.getByRole('button', { name: 'Menu of entry 2' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await expect(page.getByText('Box is locked.').first()).toBeVisible();
  await expect(reading(page, 'Quads')).toHaveText(/^384 /);
  await page.keyboard.press('Control+KeyZ');
  await settled(page);
  await jobMenu(page, 'Versions');
  await page.getByRole('list', { name: 'Versions' }).getByRole('button', { name: 'Open as a job' }).click();
  await expect(page.getByRole('banner')).toContainText('before the cut');
  await settled(page);
  await expect(reading(page, 'Quads')).toHaveText(/^96 /);
});
