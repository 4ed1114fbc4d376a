import { expect, test, type Page } from '@playwright/test';
import { apply, card, fill, logbook, lookFrom, openDemo, saved, selection, settled, startShape, told } from './workshop.ts';

/** Findings: what shows, why, and how it is mended. */

const shows = (page: Page) => page.getByRole('list', { name: 'Findings that show' }).getByRole('listitem');

test('a finding is left with a reason, which is kept, and taken up again', async ({ page }) => {
  await openDemo(page, 'Vent elbow');
  await page.keyboard.press('Digit7');
  // its number on the stand picks it too
  await page.getByRole('button', { name: /^Finding 1: / }).click();
  await shows(page).first().getByRole('button', { name: 'Leave it' }).click();
  await page.getByLabel('Why it is left').fill('the gasket hides it');
  await page.keyboard.press('Enter');
  await expect(shows(page)).toHaveCount(2);
  await settled(page);
  await page.reload();
  await settled(page);
  await expect(shows(page)).toHaveCount(2);
  await page.getByText('1 left as they are').click();
  await expect(page.getByRole('list', { name: 'Findings left as they are' })).toContainText('the gasket hides it');
  await page.getByRole('button', { name: 'Take up' }).click();
  await expect(shows(page)).toHaveCount(3);
});

test('of many findings one kind is listed, marked and gone through alone', async ({ page }) => {
  await openDemo(page, 'Channel buoy');
  await page.keyboard.press('Digit7');
  const kind = page.getByLabel('Kind of findings');
  await kind.selectOption({ label: 'N-gons: 3' });
  await expect(shows(page)).toHaveCount(3);
  const marks = page.getByRole('group', { name: 'Findings on the part' }).getByRole('button');
  await expect(marks).toHaveCount(3);
  for (const i of [0, 1, 2, 0]) {
    await page.keyboard.press('KeyZ');
    await expect(shows(page).nth(i)).toHaveClass(/now/);
  }
  await kind.selectOption('of all kinds');
  await expect(shows(page)).not.toHaveCount(3);
  // one that is clicked on the part is brought into view in the list
  await marks.nth(19).dispatchEvent('click');
  await expect(shows(page).nth(19)).toBeInViewport();
});

test('paints of the smooth surface, why poles are there, and a report that stands alone', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  await page.keyboard.press('KeyT');
  await page.keyboard.press('Digit7');
  await page.locator('.paint select').selectOption({ label: 'reflection' });
  await expect(page.getByLabel('Legend of the paint')).toContainText('line lights');
  await page.locator('.paint select').selectOption({ label: 'curvature' });
  await expect(page.getByLabel('Legend of the paint')).toContainText('per mm');
  await page.getByText('Why every pole is there').click();
  await expect(page.getByText(/Why every pole is there: \d+, \d+ free/)).toBeVisible();
  await page.getByRole('list', { name: 'Poles' }).getByRole('button').first().click();
  await expect(selection(page)).toContainText('1 vertex');
  const { name, bytes } = await saved(page, () => page.keyboard.press('KeyB'));
  const html = new TextDecoder().decode(bytes);
  expect(name).toBe('Mooring cleat.html');
  expect(html).toMatch(/<h2>Mooring cleat<\/h2>[^]*<img src="data:image[^]*findings? shows? on the smooth surface[^]*<svg/);
  // it asks nothing of anybody
  expect(html).not.toMatch(/(src|href)="https?:/);
});

test('a joint is tried: what a bend does is told, and nothing is kept', async ({ page }) => {
  await startShape(page, 'Cylinder', { Height: 60, Radius: 6, 'Faces up': 12 });
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit7');
  const at = await lookFrom(page, 'front');
  await page.mouse.dblclick(...at(6 * Math.sin(Math.PI / 16), 10, 6));
  await expect(selection(page)).toContainText('16 edges');
  await page.keyboard.press('KeyC');
  await fill(page, 'Angle', 30);
  await expect(told(page)).toContainText(/^No face turns over; edges in the bend go down to \d+ %/);
  await fill(page, 'Spread over', 3);
  await fill(page, 'Angle', 120);
  await expect(told(page)).toContainText(/go down to 53 % and up to 177 %.*Volume -6\.2 %\. Rows across the joint take it better/);
  await expect(card(page).getByRole('button', { name: 'Apply' })).toHaveCount(0);
  await page.keyboard.press('Enter');
  await expect(card(page)).not.toContainText('Spread over');
  await page.getByRole('tab', { name: 'Logbook' }).click();
  await expect(logbook(page)).toHaveCount(1);
});

test('two states are compared: a line to quote, a table, a wipe and an outline; a kind of findings is explained', async ({ page }) => {
  await openDemo(page, 'Vent elbow');
  await page.keyboard.press('Digit7');
  await page.keyboard.press('KeyZ');
  await page.keyboard.press('KeyX');
  await apply(page);
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Compare' }).click();
  await expect(page.getByText(/^Vent elbow: 227 faces became 259 faces, 99\.2 % quads, 2 poles, within \d\.\d+ mm\./)).toBeVisible();
  const row = (label: string) => page.getByRole('table', { name: 'Both compared' }).getByRole('row').filter({ hasText: label });
  await expect(row('Faces')).toContainText('227');
  await expect(row('Faces')).toContainText('+14.1 %');
  await page.getByRole('button', { name: 'Wipe', exact: true }).click();
  const border = page.getByRole('slider', { name: 'Wipe' });
  await expect(border).toHaveAttribute('aria-valuenow', '50');
  await border.focus();
  await page.keyboard.press('ArrowRight');
  await expect(border).toHaveAttribute('aria-valuenow', '55');
  await page.getByRole('button', { name: 'Its outline', exact: true }).click();
  await page.getByRole('button', { name: 'Now alone', exact: true }).click();
  await expect(page.getByTestId('compare')).toHaveCount(0);
  await page.getByRole('tab', { name: 'Findings' }).click();
  await shows(page).first().getByRole('button').first().click();
  await shows(page).first().getByRole('button', { name: 'What is this?' }).click();
  const help = page.getByRole('dialog');
  await expect(help).toContainText('Where it comes from');
  await help.getByLabel('Another kind').selectOption({ label: 'Cracks' });
  await expect(help).toContainText('Weld them: no face more; it is gone.');
  await help.getByRole('button', { name: 'Show the cage' }).click();
  await expect(help.getByTestId('example')).toHaveAttribute('data-frames', /\d/);
});
