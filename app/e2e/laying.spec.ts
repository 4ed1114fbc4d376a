import { expect, test } from '@playwright/test';
import { apply, card, drag, fill, fromAbove, marks, operation, reading, selection, told } from './workshop.ts';

/** Whole jobs of laying by hand, as somebody with a pointer does them. */

test('strokes across the back become a skin, then a plate on both sides of the middle', async ({ page }) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.getByRole('button', { name: 'Sections', exact: true }).click();
  await expect(card(page)).toContainText('Draw strokes across the shape, one after the other.');
  await card(page).getByLabel('Symmetric across', { exact: true }).selectOption({ label: 'X = 0' });
  await fill(page, 'Weld within', 1);
  await drag(page, at(0.2, -10), at(5, -10));
  await expect(card(page)).toContainText('One more stroke: strokes become a skin.');
  // drawn from the other end
  await drag(page, at(5, 0), at(0.2, 0), 25);
  await expect(told(page)).toContainText(/^A skin of \d+ quads through 2 strokes\./);
  await drag(page, at(0.2, 10), at(5, 10));
  await page.keyboard.press('Backspace');
  await expect(told(page)).toContainText('through 2 strokes.');
  await drag(page, at(0.2, 10), at(5, 10));
  await fill(page, 'Quads along each', 4);
  await fill(page, 'Quads between two', 3);
  await card(page).getByLabel('They become', { exact: true }).selectOption({ label: 'A plate' });
  await fill(page, 'Thickness', 1.5);
  await fill(page, 'Outer side drawn in', 0.4);
  // two halves: 24 outside and inside each, walls on three sides
  await expect(told(page)).toContainText('A plate of 62 quads through 3 strokes.');
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/^124 /);
  await expect(reading(page, 'Islands')).toHaveText('1');
});

test('a band goes through clicked points, which are dragged, bent, widened and taken out; whole rows slide', async ({ page }) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyC');
  await fill(page, 'Width', 3);
  for (const [x, z] of [
    [-4, -12],
    [-4, 0],
    [4, 0],
    [-4, 14]
  ])
    await page.mouse.click(...at(x, z));
  await expect(told(page)).toContainText(/^A band of \d+ quads/);
  await page.keyboard.down('Control');
  await page.mouse.click(...at(4, 0));
  await page.keyboard.up('Control');
  await drag(page, at(-4, 14), at(-4, 12));
  await page.keyboard.down('Shift');
  await page.mouse.click(...at(-4, 0));
  await page.keyboard.up('Shift');
  await expect(page.locator('.lay rect')).toHaveCount(1);
  await page.mouse.move(...at(-4, 0));
  await page.keyboard.down('Alt');
  await page.mouse.wheel(0, -100);
  await page.keyboard.up('Alt');
  await fill(page, 'Quads along', 6);
  await fill(page, 'Quads across', 2);
  await expect(told(page)).toContainText('A band of 12 quads, 6 along.');
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/^12 /);
  // a whole row of what is laid slides over the back, and a loop is cut across
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyX');
  await page.mouse.move(...at(-4, 4));
  await expect.poll(() => page.getByTestId('lay-marks').getAttribute('data-over')).toBe('vertex');
  await page.keyboard.down('Shift');
  await drag(page, at(-4, 4), at(-4, 5.5));
  await page.keyboard.up('Shift');
  await page.keyboard.down('Alt');
  await page.mouse.click(...at(-4.02, 9.6));
  await page.keyboard.up('Alt');
  await expect(told(page)).toContainText(/^\+(2|6) faces/);
});

test('a leg laid by hand on both sides joins the automatic body with quads alone', async ({ page }) => {
  test.setTimeout(240_000);
  const at = await fromAbove(page);
  await page.keyboard.press('KeyZ');
  await fill(page, 'Count', 2400);
  await page.getByRole('button', { name: 'Lay quads' }).click();
  await page.getByRole('button', { name: 'Lay again' }).waitFor({ timeout: 150_000 });
  await page.keyboard.press('Escape');
  await expect(reading(page, 'Islands')).toHaveText('1');
  // a stretch of both shins goes; the brief would lie over one
  const brief = page.getByRole('region', { name: 'Brief' });
  await brief.getByRole('button', { name: 'Hide what it is about' }).click();
  await page.keyboard.press('KeyE');
  await page.getByRole('button', { name: 'visible only' }).click();
  for (const side of [1, -1]) {
    if (side < 0) await page.keyboard.down('Shift');
    await drag(page, at(side * 15.8, -24), at(side * 22.8, -10));
    if (side < 0) await page.keyboard.up('Shift');
  }
  await expect(selection(page)).toContainText('faces');
  await page.keyboard.press('Delete');
  await expect(reading(page, 'Islands')).toHaveText('3');
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyV');
  await card(page).getByLabel('Symmetric across', { exact: true }).selectOption({ label: 'X = 0' });
  await fill(page, 'Vertices round', 14);
  // the rims are bridged: nothing is to weld
  await fill(page, 'Weld within', 0.1);
  for (const [x, z] of [
    [19, -17.2],
    [20.2, -16.2]
  ] as const)
    await page.mouse.click(...at(x, z));
  await expect(told(page)).toContainText('A tube of 14 quads through 2 loops');
  await apply(page);
  await expect(reading(page, 'Islands')).toHaveText('5');
  await page.keyboard.press('Escape');
  await reading(page, 'Borders').getByRole('button').click();
  await page.keyboard.press('Digit5');
  await page.keyboard.press('KeyX');
  await fill(page, 'Rows', 1);
  await apply(page);
  await expect(reading(page, 'Islands')).toHaveText('1');
  await expect(reading(page, 'Borders')).toHaveText('0');
  await expect(reading(page, 'Triangles')).toHaveText(/^0/);
  await expect(brief.getByRole('listitem').filter({ hasText: '24 faces laid by hand' })).toHaveClass(/done/);
});

test('an edge is kept while the part is held; landmarks take what is laid elsewhere', async ({ page }) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyX');
  const corners: [number, number][] = [
    [-4.5, -6],
    [-4.5, 0],
    [4.5, 0],
    [4.5, -6]
  ];
  for (const corner of corners) await page.mouse.click(...at(...corner));
  await expect(told(page)).toContainText('+1 face');
  // what lies inside the reference is seen as far as is typed; what is no depth is put back
  const list = await marks(page);
  const depth = list.getByLabel('seen inside it, mm');
  await depth.fill('-3');
  await depth.press('Tab');
  await expect(depth).toHaveValue('0');
  await depth.fill('4');
  await depth.press('Tab');
  await page.keyboard.press('Escape');
  await apply(page);
  await page.keyboard.press('Escape');
  await page.mouse.click(...at(0, 0));
  await expect(selection(page)).toContainText('1 e');
  await operation(page, 'Keep edges');
  await apply(page);
  await expect((await marks(page)).getByRole('button', { name: 'kept edges', exact: true })).toContainText('1');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyB');
  await fill(page, 'Over it by', 1);
  await apply(page);
  await expect(page.getByRole('region', { name: 'Card' })).toContainText('2 vertices of kept edges stayed: the reference lies');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.mouse.click(...at(...corners[0]));
  await page.keyboard.down('Shift');
  for (const corner of corners.slice(1, 3)) await page.mouse.click(...at(...corner));
  await page.keyboard.up('Shift');
  await operation(page, 'Fit by landmarks');
  await expect(card(page)).toContainText('Click where vertex 1 of 3 lies on the reference.');
  await page.mouse.click(...at(-4, 6));
  await page.mouse.click(...at(-4, 14));
  await expect(card(page)).toContainText('Click where vertex 3 of 3');
  await page.mouse.click(...at(4, 14));
  await apply(page);
  await expect(card(page)).toContainText('3 landmarks met; every vertex keeps its number.');
});
