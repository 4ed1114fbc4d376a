import { expect, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { apply, card, dialog, fill, openDemo, operation, saved, settled, startShape, told } from './workshop.ts';

/** What arrives at the other end, seen before it is sent. */

test('the cleat, creased, for a place that ignores creases: what is lost is seen, advice taken, and the file is what was told', async ({
  page
}, info) => {
  await openDemo(page, 'Mooring cleat');
  await page.keyboard.press('Digit4');
  await operation(page, 'Crease by angle');
  await fill(page, 'Sharper than', 40);
  await apply(page);
  await page.getByRole('button', { name: 'Deliver', exact: true }).last().click();
  await dialog(page).getByLabel('Format').selectOption({ label: 'usda (OpenUSD text)' });
  await dialog(page).getByLabel('What arrives at').selectOption({ label: 'Pattern shop' });
  await dialog(page).getByRole('button', { name: 'Look at what arrives' }).click();
  await expect(dialog(page)).toContainText('It looks the same there.');
  await dialog(page).getByLabel('What arrives at').selectOption({ label: 'Model room' });
  await dialog(page).getByRole('button', { name: 'Look at what arrives' }).click();
  const found = dialog(page).getByLabel('What arrives', { exact: true });
  await expect(found).toContainText(/\d+ creases are lost: Model room knows none\./, { timeout: 90_000 });
  await expect(found).toContainText(/Up to \d+\.\d+ mm off, the most at/);
  const [best] = await dialog(page).getByLabel('What would help').getByRole('listitem').all();
  await expect(best).toContainText(/divided \d times/);
  await best.getByRole('button', { name: 'Take it' }).click();
  await expect(best.getByRole('button')).toHaveText('Taken');
  const faces = Number(/([\d,]+) faces/.exec((await best.textContent())!)![1].replace(',', ''));
  const { name, bytes } = await saved(page, () =>
    dialog(page)
      .getByRole('button', { name: /^Save USDA/ })
      .click()
  );
  expect(name).toBe('mooring-cleat.usda');
  const text = new TextDecoder().decode(bytes);
  expect(/faceVertexCounts = \[([^\]]*)\]/.exec(text)![1].split(',')).toHaveLength(faces);
  expect(text).not.toContain('creaseIndices');
  writeFileSync(info.outputPath(name), bytes);
  // both side by side
  await settled(page);
  await page.getByRole('button', { name: 'Deliver', exact: true }).last().click();
  await dialog(page).getByLabel('What arrives at').selectOption({ label: 'Print house' });
  await dialog(page).getByRole('button', { name: 'Look at what arrives' }).click();
  await expect(dialog(page)).toContainText('Nothing is smoothed', { timeout: 90_000 });
  await dialog(page).getByRole('button', { name: 'See both side by side' }).click();
  await expect(page.getByTestId('compare')).toContainText('what Print house got');
  // painted with how far apart both are
  await expect(page.getByLabel('Paint', { exact: true })).toHaveValue('difference');
  // in two formats at once, with what each of them carries
  await page.getByRole('button', { name: 'Deliver', exact: true }).last().click();
  await dialog(page).getByText('What each format carries').click();
  await expect(dialog(page).getByRole('table', { name: 'What is carried' })).toContainText(/\d+ creases and corners/);
  await expect(dialog(page).getByRole('row', { name: /^STL/ })).toContainText('lost');
  await dialog(page).getByRole('group', { name: 'Also as' }).getByText('OBJ', { exact: true }).click();
  const both = await saved(page, () => dialog(page).getByRole('button', { name: 'Save ZIP file' }).click());
  expect(Object.keys(unzipSync(both.bytes))).toEqual(['mooring-cleat.usda', 'mooring-cleat.obj']);
});

test('a prism sent plain, creased, chamfered and divided first: density by number, levels of detail in a zip, and all on the sheet', async ({
  page
}) => {
  await startShape(page, 'Cylinder', { Sides: 12 });
  await page.keyboard.press('Digit4');
  await operation(page, 'Crease by angle');
  await fill(page, 'Sharper than', 20);
  await apply(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit8');
  await page.keyboard.press('KeyC');
  await page.getByLabel('Sculpted at').selectOption({ label: 'Pattern shop' });
  await page.getByRole('button', { name: 'Compare ways to send it' }).click();
  const table = page.getByRole('table', { name: 'Density' });
  await expect(table).toContainText('Divided 2 times first', { timeout: 90_000 });
  const spread = async (way: string) => Number(await table.getByRole('row').filter({ hasText: way }).getByRole('cell').first().textContent());
  expect(await spread('Divided 2 times first')).toBeLessThan(await spread('Chamfers'));
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyZ');
  await dialog(page).getByText('The cage with lower levels of detail, in a zip').click();
  const within = dialog(page).getByRole('spinbutton', { name: 'First one within' });
  await within.fill('3');
  await within.press('Tab');
  const { name, bytes } = await saved(page, () => dialog(page).getByRole('button', { name: 'Save ZIP file' }).click());
  expect(name).toMatch(/-levels\.zip$/);
  expect(Object.keys(unzipSync(bytes))[0]).toMatch(/\.usda$/);
  await page.getByRole('tab', { name: 'Sheet' }).click();
  await expect(page.getByRole('list', { name: 'Deliveries' })).toContainText(name);
  const sheet = await saved(page, () => page.keyboard.press('KeyB'));
  const hash = createHash('sha256').update(bytes).digest('hex');
  expect(new TextDecoder().decode(sheet.bytes)).toContain(hash);
});

test('a place of one’s own is described, kept, and looked at; a return under a mask takes what has moved', async ({ page }, info) => {
  await startShape(page, 'Sphere of quads');
  await page.getByRole('button', { name: 'Deliver', exact: true }).last().click();
  await dialog(page).getByRole('button', { name: 'Own destinations' }).click();
  const form = page.getByRole('form', { name: 'A destination' });
  await form.getByLabel('Name', { exact: true }).fill('Rope loft');
  await form.getByLabel('Faces', { exact: true }).selectOption({ label: 'triangles' });
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('list', { name: 'Own destinations' })).toContainText('Rope loft');
  await page.getByRole('dialog', { name: 'Own destinations' }).getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('What arrives at').selectOption({ label: 'Rope loft' });
  await page.getByRole('button', { name: 'Look at what arrives' }).click();
  await expect(page.getByLabel('What arrives', { exact: true })).toContainText('All faces are cut into triangles', { timeout: 90_000 });
  await page.getByLabel('Format').selectOption({ label: 'OBJ' });
  const { bytes } = await saved(page, () => page.getByRole('button', { name: 'Save OBJ file' }).click());
  // as somebody else has changed it: half as high again
  const text = new TextDecoder().decode(bytes).replace(/^v (\S+) (\S+)/gm, (_, x, y) => `v ${x} ${1.5 * Number(y)}`);
  const back = info.outputPath('back.obj');
  writeFileSync(back, text);
  await page.getByLabel('File to bring in').setInputFiles(back);
  await dialog(page).getByText('a cage (to work on)').click();
  await dialog(page).getByRole('button', { name: 'Into this job' }).click();
  await settled(page);
  await page.getByRole('tab', { name: 'Parts' }).click();
  const own = page.getByRole('list', { name: 'Parts' });
  await own.getByRole('button', { name: 'Sphere of quads', exact: true }).click();
  await page.keyboard.press('Digit6');
  await operation(page, 'Set mask');
  await card(page).getByLabel('Mask', { exact: true }).selectOption({ label: 'What lies high' });
  await apply(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit8');
  await operation(page, 'Take return');
  await expect(told(page)).toContainText(/\d+ vertices moved, by .* are masked, and stay\./);
  await apply(page);
  await page.getByRole('tab', { name: 'Parts' }).click();
  await expect(own.getByRole('listitem')).toHaveCount(1);
});
