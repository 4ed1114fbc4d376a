import { expect, test } from '@playwright/test';
import { writeFileSync } from 'node:fs';
import { apply, dialog, fill, openDemo, operation, saved, settled } from './workshop.ts';

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
});
