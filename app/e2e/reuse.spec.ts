import { expect, test } from '@playwright/test';
import {
  apply,
  card,
  dialog,
  fill,
  logbook,
  openDemo,
  operation,
  reading,
  saved,
  selection,
  settled,
  standMiddle,
  startShape,
  jobMenu
} from './workshop.ts';

/** What was done is used again: routines, versions, locked parts. */

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
  // what it was comes back in place, and goes with an undo
  await jobMenu(page, 'Versions');
  await page.getByRole('list', { name: 'Versions' }).getByRole('button', { name: 'Restore' }).click();
  await settled(page);
  await expect(reading(page, 'Quads')).toHaveText(/^96 /);
  await page.keyboard.press('Control+KeyZ');
  await settled(page);
  await expect(reading(page, 'Quads')).toHaveText(/^384 /);
  await jobMenu(page, 'Versions');
  await page.getByRole('list', { name: 'Versions' }).getByRole('button', { name: 'Open as a job' }).click();
  await expect(page.getByRole('banner')).toContainText('before the cut');
  await settled(page);
  await expect(reading(page, 'Quads')).toHaveText(/^96 /);
});

test('a piece is kept as a spare in one job, found on the shelf in another, and joined there; it goes out and in as a file', async ({ page }) => {
  await startShape(page, 'Plane');
  await page.keyboard.press('Escape');
  const quads = Number(((await reading(page, 'Quads').textContent()) ?? '').split(' ')[0]);
  await jobMenu(page, 'Spares');
  await expect(dialog(page)).toContainText('The shelf is empty');
  const form = dialog(page).getByRole('form', { name: 'Keep a spare' });
  await form.getByLabel('Keep the whole part, under the name').fill('Hatch');
  await form.getByLabel('Tags').fill('lid, flat');
  await form.getByRole('button', { name: 'Keep it' }).click();
  await expect(dialog(page).getByRole('list', { name: 'Spares' })).toContainText('Hatch');
  const { name, bytes } = await saved(page, () => dialog(page).getByRole('button', { name: 'Export' }).click());
  expect(name).toBe('hatch-spare.json');
  await startShape(page, 'Box');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyE');
  const { x, y } = await standMiddle(page);
  await page.mouse.click(x, y);
  await expect(selection(page)).toContainText('1 face');
  await jobMenu(page, 'Spares');
  await dialog(page).getByRole('searchbox').fill('lid');
  await expect(dialog(page).getByRole('region', { name: 'Place it' })).toContainText('It is placed on the picked face.');
  await dialog(page).getByText('Join it').click();
  const scale = dialog(page).getByRole('spinbutton', { name: 'Scale' });
  await scale.fill('0.05');
  await scale.press('Tab');
  await dialog(page).getByRole('button', { name: 'Place it' }).click();
  await expect(dialog(page)).toHaveCount(0);
  await settled(page);
  // brought in, the face out, merged, bridged
  await expect(logbook(page)).toHaveCount(5);
  await expect(reading(page, 'Borders')).toHaveText('0');
  const joined = Number(((await reading(page, 'Quads').textContent()) ?? '').split(' ')[0]);
  expect(joined).toBeGreaterThan(95 + quads);
  // damaged, and from the future
  await jobMenu(page, 'Spares');
  const future = JSON.stringify({ ...(JSON.parse(new TextDecoder().decode(bytes)) as object), version: 7 });
  await dialog(page)
    .locator('input[type=file]')
    .setInputFiles({ name: 'future.json', mimeType: 'application/json', buffer: Buffer.from(future) });
  await expect(dialog(page).getByRole('alert')).toContainText('newer Ulvrin (version 7');
});

test('another way is tried from an entry, compared and taken back; a result is stored and released', async ({ page }) => {
  await startShape(page, 'Box');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit3');
  await operation(page, 'Divide once');
  await apply(page);
  await page.keyboard.press('Escape');
  await expect(reading(page, 'Quads')).toHaveText(/^384 /);
  const menuOf = async (entry: number, act: string) => {
    await page.getByRole('button', { name: `Menu of entry ${entry}` }).click();
    await page.getByRole('menuitem', { name: act }).click();
  };
  await menuOf(2, 'Store its result');
  await expect(logbook(page).nth(1)).toContainText(/\(stored, 0\.\d MB\)/);
  await menuOf(2, 'Release its result');
  await expect(logbook(page).nth(1)).not.toContainText('stored');
  await menuOf(1, 'Try another way from here');
  await dialog(page).getByLabel('Name').fill('Creased');
  await dialog(page).getByRole('button', { name: 'Keep' }).click();
  const ways = page.getByRole('list', { name: 'Ways' });
  await expect(ways).toContainText('First way 1 entry');
  await expect(reading(page, 'Quads')).toHaveText(/^96 /);
  await ways.getByRole('button', { name: 'Compare' }).click();
  await expect(page.getByTestId('compare').getByLabel('Compare with')).toHaveValue('way First way');
  await ways.getByRole('button', { name: 'Take' }).click();
  await expect(reading(page, 'Quads')).toHaveText(/^384 /);
  // entries under a heading, which folds
  await menuOf(2, 'Name, note, group');
  await dialog(page).getByLabel('Group, with entries beside it').fill('Finer');
  await dialog(page).getByRole('button', { name: 'Keep' }).click();
  const heading = page.getByRole('list', { name: 'Logbook' }).getByRole('button', { name: 'Finer 1 entry' });
  await heading.click();
  await expect(page.getByRole('list', { name: 'Logbook' })).not.toContainText('Divide once');
  await heading.click();
  await expect(page.getByRole('list', { name: 'Logbook' })).toContainText('Divide once');
  await page.reload();
  await settled(page);
  await expect(ways).toContainText('Creased');
  await expect(reading(page, 'Quads')).toHaveText(/^384 /);
});

test('parts lie in layers: picked faces move to one, it is coloured, locked and shown alone, and parts are dragged between them', async ({
  page
}) => {
  await startShape(page, 'Box');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyE');
  await page.getByRole('tab', { name: 'Parts' }).click();
  await page.getByRole('button', { name: 'New layer' }).click();
  const { x, y } = await standMiddle(page);
  await page.mouse.click(x, y);
  await expect(selection(page)).toContainText('1 face');
  const menu = async (act: string) => {
    await page.getByRole('button', { name: 'Menu of Layer 1' }).click();
    await page.getByRole('menuitem', { name: act, exact: true }).click();
  };
  await menu('Move picked faces here');
  const inLayer = page.getByRole('list', { name: 'Layer 1' }).getByRole('listitem');
  const loose = page.getByRole('list', { name: 'Parts' }).getByRole('listitem');
  await expect(inLayer).toHaveCount(1);
  await expect(loose).toHaveCount(1);
  await page.getByLabel('Colour of Layer 1').fill('#b9cfae');
  await menu('Lock');
  await expect(inLayer.getByLabel('locked')).toBeVisible();
  await menu('Alone, or all');
  await expect(loose.getByRole('button', { name: /^Show / })).toBeVisible();
  await menu('Alone, or all');
  // renamed, and dragged in
  await loose.getByRole('button', { name: /^How .* is shown/ }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await dialog(page).getByRole('textbox', { name: 'Name' }).fill('Lid');
  await dialog(page).getByRole('button', { name: 'Rename' }).click();
  await expect(loose).toContainText('Lid');
  const from = (await loose.first().boundingBox())!;
  const to = (await inLayer.first().boundingBox())!;
  await page.mouse.move(from.x + 8, from.y + from.height / 2);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(from.x + 8, from.y + from.height / 2 + ((to.y + 4 - from.y - from.height / 2) * i) / 8);
  await page.waitForTimeout(400);
  await page.mouse.up();
  await expect(inLayer).toHaveCount(2);
  await settled(page);
  await page.reload();
  await settled(page);
  await page.getByRole('tab', { name: 'Parts' }).click();
  await expect(inLayer).toHaveCount(2);
  await expect(page.getByLabel('Colour of Layer 1')).toHaveValue('#b9cfae');
});
