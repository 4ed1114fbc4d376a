import { expect, test } from '@playwright/test';
import { card, dialog, logbook, lookFrom, openDemo, panes, selection, settled, standMiddle, startShape } from './workshop.ts';

/** The screen as a whole: panes, section, paints, settings, checklists. */

test('four panes look from three sides; what is placed in one is picked in all, and drawn in all', async ({ page }) => {
  await startShape(page, 'Box');
  await panes(page, 'and three sides');
  for (const side of ['top', 'front', 'right']) await expect(page.getByTestId(`stand-${side}`)).toHaveAttribute('data-frames', /\d/);
  await page.keyboard.press('KeyE');
  const front = (await page.getByTestId('stand-front').boundingBox())!;
  await page.mouse.click(front.x + front.width / 2, front.y + front.height / 2);
  await expect(selection(page)).toHaveText('1 face');
  const top = page.getByTestId('stand-top');
  const before = await top.getAttribute('data-frames');
  await page.keyboard.press('Delete');
  await expect(logbook(page)).toHaveCount(2);
  await expect(top).not.toHaveAttribute('data-frames', before!);
  // a straight pane stays straight: a right-drag moves it, and does not turn it
  const target = () => page.getByTestId('stand-front').getAttribute('data-target');
  const at = await target();
  await page.mouse.move(front.x + 60, front.y + 60);
  await page.mouse.down({ button: 'right' });
  await page.mouse.move(front.x + 110, front.y + 80, { steps: 3 });
  await page.mouse.up({ button: 'right' });
  await expect.poll(target).not.toBe(at);
  expect(Number((await target())!.split(' ')[2])).toBeCloseTo(Number(at!.split(' ')[2]), 6);
  await panes(page, 'one view');
  await expect(page.getByTestId('stand-front')).toHaveCount(0);
});

test('a section fills what it cuts with hatching, an x-ray shows what lies behind, a panel is looked at squarely', async ({ page }) => {
  await startShape(page, 'Box');
  await lookFrom(page, 'front');
  // the part alone: what lies over the stand may be drawn anew with edges a shade different
  const { x, y, width } = (await page.getByTestId('stand').boundingBox())!;
  const seen = () => page.screenshot({ clip: { x: x + 60, y: y + 40, width: width - 120, height: 480 } });
  await page.keyboard.press('KeyY');
  await page.keyboard.press('KeyT');
  await settled(page);
  const whole = await seen();
  await page.keyboard.press('Shift+Backquote');
  await settled(page);
  expect((await seen()).equals(whole)).toBe(false);
  await page.keyboard.press('Shift+Backquote');
  await settled(page);
  await expect.poll(async () => (await seen()).equals(whole)).toBe(true);
  await page.keyboard.press('Shift+KeyX');
  await expect(page.getByRole('button', { name: 'x-ray' })).toHaveAttribute('aria-pressed', 'true');
  await settled(page);
  expect((await seen()).equals(whole)).toBe(false);
  await page.keyboard.press('Shift+KeyX');

  await page.keyboard.press('KeyY');
  await page.keyboard.press('Shift+KeyD');
  await expect(page.getByText('Pick faces, edges or vertices to look at squarely.')).toBeVisible();
  const right = await lookFrom(page, 'right');
  await page.keyboard.press('KeyE');
  await page.mouse.click(...right(20, 2, 2));
  await expect(selection(page)).toHaveText('1 face');
  await lookFrom(page, 'front');
  await page.keyboard.press('Shift+KeyD');
  await expect(page.getByRole('button', { name: 'right', exact: true })).toHaveAttribute('style', /--facing: ?1\.00/);
});

test('the range of a paint is typed, taken from a share of the values, and reset', async ({ page }) => {
  await openDemo(page, 'Channel buoy');
  await page.getByLabel('Paint', { exact: true }).selectOption({ label: 'density' });
  const legend = page.getByRole('note', { name: 'Legend of the paint' });
  await expect(legend).toContainText('per cm²');
  const ends = legend.getByRole('button').first();
  const measured = await ends.innerText();
  await legend.getByRole('button').first().click();
  const range = page.getByRole('group', { name: 'Range of the paint' });
  await range.getByLabel('To, per cm²', { exact: true }).fill('5');
  await range.getByLabel('To, per cm²', { exact: true }).press('Tab');
  await expect(ends).toContainText('5.0');
  // ends that cross are not taken
  await range.getByLabel('From, per cm²', { exact: true }).fill('9');
  await range.getByLabel('From, per cm²', { exact: true }).press('Tab');
  await expect(ends).toContainText(/^0\.78/);
  await range.getByRole('button', { name: '90 % of them' }).click();
  await expect(ends).not.toContainText('5.0');
  await range.getByRole('button', { name: 'Reset' }).click();
  await page.keyboard.press('Escape');
  await expect(ends).toHaveText(measured, { useInnerText: true });
});

test('what a job has to meet is set, refused where it makes no sense, ticked, and taken back by undo', async ({ page }) => {
  await startShape(page, 'Box');
  await page.getByRole('button', { name: 'Job menu' }).click();
  await page.getByRole('menuitem', { name: 'Done when' }).click();
  const add = dialog(page).getByRole('button', { name: 'Add to the list' });
  await add.click();
  await add.click();
  await expect(dialog(page).getByRole('alert')).toHaveText('This is on the list already.');
  await dialog(page).getByLabel('Add', { exact: true }).selectOption({ label: 'Number of faces' });
  await dialog(page).getByLabel('From', { exact: true }).fill('90');
  await dialog(page).getByLabel('To', { exact: true }).fill('10');
  await add.click();
  await expect(dialog(page).getByRole('alert')).toHaveText('From must not be more than To.');
  await dialog(page).getByLabel('To', { exact: true }).fill('');
  await add.click();
  await expect(dialog(page).getByRole('alert')).toHaveText('To: a number of 0 or more is needed.');
  await dialog(page).getByLabel('To', { exact: true }).fill('900');
  await add.click();
  await dialog(page).getByRole('button', { name: 'Keep', exact: true }).click();
  const brief = page.getByRole('region', { name: 'Brief' });
  await expect(brief.getByRole('listitem')).toHaveText([/Quads only/, /90 to 900 faces/]);
  await expect(brief.getByTestId('brief-done')).toHaveText(/\d of 2/);
  await settled(page);
  await page.reload();
  await settled(page);
  await expect(brief.getByRole('listitem')).toHaveCount(2);
  await page.keyboard.press('Control+KeyZ');
  await expect(brief).toHaveCount(0);
});

test('one part is shown in its own way; what is picked is walked one by one', async ({ page }) => {
  await startShape(page, 'Box');
  await page.getByRole('tab', { name: 'Parts' }).click();
  await page.getByRole('button', { name: /How .* is shown/ }).click();
  await page.getByRole('menuitem', { name: 'Smooth at level 3' }).click();
  await expect(page.getByText('(own look)')).toBeVisible();
  await page.getByRole('button', { name: /How .* is shown/ }).click();
  await page.getByRole('menuitem', { name: 'As all others' }).click();
  await expect(page.getByText('(own look)')).toHaveCount(0);

  await page.keyboard.press('KeyE');
  await page.keyboard.press('Control+KeyA');
  await page.getByText('What is picked, one by one').click();
  const list = page.getByRole('list', { name: 'Picked elements' });
  const many = Number((await selection(page).innerText()).match(/\d+/)![0]);
  await expect(list.getByRole('listitem').first()).toContainText('face of 4 corners');
  await list
    .getByRole('button', { name: /^Take off/ })
    .first()
    .click();
  await expect(selection(page)).toHaveText(`${many - 1} faces`);
  await list
    .getByRole('button', { name: /^Pick alone/ })
    .first()
    .click();
  await expect(selection(page)).toHaveText('1 face');
});

test('a drag orbits round what is under the pointer by choice, and the lookup finds that setting and keys', async ({ page }) => {
  await startShape(page, 'Box');
  const target = () => page.getByTestId('stand').getAttribute('data-target');
  const { x, y } = await standMiddle(page);
  const orbit = async () => {
    await page.mouse.move(x + 50, y + 10);
    await page.mouse.down({ button: 'right' });
    await page.mouse.move(x + 120, y + 30, { steps: 4 });
    await page.mouse.up({ button: 'right' });
    await settled(page);
  };
  const before = await target();
  await orbit();
  expect(await target()).toBe(before);
  await page.keyboard.press('Control+KeyK');
  await page.getByRole('textbox', { name: 'Lookup' }).fill('orbit pointer');
  await expect(page.getByRole('listbox', { name: 'Found' }).getByRole('option').first()).toContainText('Orbit round what is under the pointer');
  await page.keyboard.press('Enter');
  await orbit();
  expect(await target()).not.toBe(before);
  await page.keyboard.press('Control+KeyK');
  await page.getByRole('textbox', { name: 'Lookup' }).fill('settings');
  await page.keyboard.press('Enter');
  await expect(dialog(page).getByText('A right-drag orbits round')).toBeVisible();
  await expect(dialog(page).getByLabel('what is under the pointer')).toBeChecked();
});

test('an operation of another bench is found in the rack', async ({ page }) => {
  await startShape(page, 'Box');
  const rack = page.getByRole('complementary', { name: 'Rack' });
  await rack.getByRole('searchbox', { name: 'Find an operation' }).fill('creas');
  await expect(rack.getByRole('button', { name: 'Crease', exact: true })).toBeVisible();
  await rack.getByRole('searchbox', { name: 'Find an operation' }).fill('zzz');
  await expect(rack.getByText('No matches.')).toBeVisible();
  await expect(card(page)).toBeVisible();
});
