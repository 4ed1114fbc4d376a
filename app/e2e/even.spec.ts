import { expect, test, type Page } from '@playwright/test';
import {
  apply,
  askewTube,
  middleOf,
  card,
  fill,
  logbook,
  lookFrom,
  openDemo,
  openFile,
  operation,
  reading,
  selection,
  settled,
  standMiddle,
  startShape
} from './workshop.ts';

/** Drags a brush from the middle of the stand by some pixels. */
async function stroke(page: Page, dx: number, dy: number, key?: string) {
  const { x, y } = await standMiddle(page);
  await page.mouse.move(x, y);
  if (key) await page.keyboard.down(key);
  await page.mouse.down();
  await page.mouse.move(x + dx, y + dy, { steps: 10 });
  await page.mouse.up();
  if (key) await page.keyboard.up(key);
}

test('each stroke of a brush is an entry with what it did, taken back at once; the wheel changes its size, and Space swaps it', async ({ page }) => {
  await startShape(page, 'Sphere of quads', { 'Faces across': 10 });
  await settled(page);
  await page.keyboard.press('Digit6');
  await page.keyboard.press('KeyZ');
  await expect(card(page)).toContainText('Drag over the surface: each stroke is an entry of its own.');
  const { x, y } = await standMiddle(page);
  await page.mouse.move(x, y);
  await expect(page.getByTestId('brush-ring')).toBeVisible();
  await page.keyboard.down('Alt');
  await page.mouse.wheel(0, -100);
  await page.keyboard.up('Alt');
  await expect(card(page).getByLabel('Radius', { exact: true })).toHaveValue('6.05');
  // its own key held does the same, and with Shift it is the strength
  await page.keyboard.down('KeyZ');
  await page.mouse.wheel(0, 100);
  await expect(card(page).getByLabel('Radius', { exact: true })).toHaveValue('5.5');
  await page.mouse.wheel(0, -100);
  await page.keyboard.down('Shift');
  await page.mouse.wheel(0, -100);
  await page.keyboard.up('Shift');
  await page.keyboard.up('KeyZ');
  await expect(card(page).getByLabel('Strength', { exact: true })).toHaveValue('55');
  await stroke(page, 60, 20);
  await expect(logbook(page)).toHaveCount(2);
  await expect(page.locator('.message')).toContainText(/Moved by .* mm at most; spread 0\.\d\d to 0\.\d\d; volume \+0\.000 %\./);
  // the brush stays in hand, with its size
  await expect(card(page).getByLabel('Radius', { exact: true })).toHaveValue('6.05');
  await stroke(page, -60, 10);
  await expect(logbook(page)).toHaveCount(3);
  const spread = await reading(page, 'Spread').innerText();
  await page.keyboard.press('Space');
  await expect(card(page)).toContainText('Smooth');
  await stroke(page, 50, -30);
  await expect(page.locator('.message')).toContainText(/volume -0\.\d+ %\./);
  await page.keyboard.press('Control+KeyZ');
  await expect(logbook(page).filter({ hasText: 'Smooth' })).toHaveClass(/undone/);
  await expect(reading(page, 'Spread')).toHaveText(spread);
  // raising, and lowering with Ctrl
  await page.getByRole('button', { name: 'Raise', exact: true }).click();
  await stroke(page, 30, 0);
  await expect(page.locator('.message')).toContainText(/volume \+\d/);
  await stroke(page, 30, 0, 'Control');
  await expect(page.locator('.message')).toContainText(/volume -\d/);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('brush-ring')).toHaveCount(0);
});

const spreadNow = async (page: Page) => Number(await reading(page, 'Spread').innerText());

test('a row that is off comes back into line with the rows beside it, picked as a loop; relaxing and a bow do theirs', async ({ page }) => {
  const { lines, at } = askewTube();
  await openFile(page, '/tmp/ulvrin-tube.obj', lines, 'a cage (to work on)');
  await page.keyboard.press('Digit6');
  const place = await lookFrom(page, 'front');
  const middle = (...ends: Parameters<typeof middleOf>) => place(...middleOf(...ends));
  const before = await spreadNow(page);
  await page.keyboard.press('KeyW');
  await page.mouse.dblclick(...middle(at(4, 0), at(4, 1)));
  await expect(selection(page)).toContainText('24 edges, closed loop');
  await page.keyboard.press('KeyC');
  await expect(page.getByTestId('forecast')).toContainText('the smooth surface moves by up to');
  await apply(page);
  await expect.poll(() => spreadNow(page)).toBeLessThan(before - 0.02);
  // with nothing picked the whole part is relaxed: that cannot make what is even much less so
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await operation(page, 'Relax area');
  await fill(page, 'Passes', 40);
  await apply(page);
  await expect(page.locator('.message')).toContainText(/Spread 0\.\d+ to 0\.\d+; 168 vertices moved, by .* mm at most\./);
  await expect.poll(() => spreadNow(page)).toBeLessThan(before);
  await page.keyboard.press('Control+KeyZ');
  // a chain along the tube, bowed outwards and inwards
  await page.keyboard.press('Escape');
  await page.mouse.click(...middle(at(2, 0), at(3, 0)));
  await page.keyboard.down('Shift');
  for (const row of [3, 4, 5]) await page.mouse.click(...middle(at(row, 0), at(row + 1, 0)));
  await page.keyboard.up('Shift');
  await page.keyboard.press('KeyV');
  await fill(page, 'Bow', 1.5);
  await expect(page.getByTestId('forecast')).toContainText('moves by up to');
  await fill(page, 'Bow', -1.5);
  await apply(page);
  await expect(logbook(page).last()).toContainText('Shape a chain');
});

test('what is masked through the part stays where the rest is relaxed; nothing moves where all is masked', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 8, 'Faces up': 8, 'Faces deep': 8 });
  await page.keyboard.press('Digit6');
  await page.getByRole('button', { name: 'front', exact: true }).click();
  await settled(page);
  await page.keyboard.press('KeyB');
  await fill(page, 'Radius', 6);
  const masked = async () => Number(/Masked: (\d+) of/.exec(await page.locator('.message').innerText())![1]);
  await stroke(page, 12, 0);
  await expect(page.locator('.message')).toContainText('Masked:');
  const near = await masked();
  // the brush stays in hand when a stroke is taken back
  await page.keyboard.press('Control+KeyZ');
  await card(page)
    .getByRole('button', { name: /more setting/ })
    .click();
  await card(page).getByText('Through the part').click();
  await stroke(page, 12, 0);
  await expect.poll(masked).toBe(2 * near);
  await page.keyboard.press('Escape');
  await operation(page, 'Set mask');
  await card(page).getByLabel('Mask', { exact: true }).selectOption({ label: 'Invert' });
  await apply(page);
  await operation(page, 'Relax area');
  await apply(page);
  await expect(page.locator('.message')).toContainText('vertices moved');
  await operation(page, 'Set mask');
  await card(page).getByLabel('Mask', { exact: true }).selectOption({ label: 'What lies high' });
  await fill(page, 'From', -500);
  await fill(page, 'Wholly from', -500);
  await apply(page);
  await expect(page.locator('.message')).toContainText('All of them: nothing moves until some are free.');
  await operation(page, 'Relax area');
  await expect(card(page)).toContainText('All of these vertices are held: they are masked');
});

test('a region flooded to sharp edges is named, relaxed with its outline still; a lock keeps what it holds flat', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 6, 'Faces up': 6, 'Faces deep': 6 });
  await page.keyboard.press('Digit6');
  await page.keyboard.press('KeyE');
  const { x, y } = await standMiddle(page);
  await page.mouse.click(x, y);
  await operation(page, 'Set region');
  await card(page).getByLabel('Region of', { exact: true }).selectOption({ label: 'All from the picks up to sharp edges' });
  await card(page).getByLabel('Name', { exact: true }).fill('lid');
  await card(page).getByLabel('Name', { exact: true }).blur();
  await apply(page);
  await expect(page.locator('.message')).toContainText('lid: 36 faces.');
  await page.getByRole('tab', { name: 'Groups' }).click();
  await expect(page.getByRole('list', { name: 'Regions' })).toContainText('lid 36 faces');
  // what is picked now is the region: it is locked flat, and stays so
  await operation(page, 'Lock');
  await apply(page);
  await expect(page.locator('.message')).toContainText('49 vertices locked flat');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await operation(page, 'Relax area');
  await apply(page);
  await expect(page.locator('.message')).toContainText('vertices moved');
  await page.getByRole('tab', { name: 'Groups' }).click();
  await expect(page.getByRole('list', { name: 'Locks' })).toContainText('held flat 49 vertices');
  await page.getByRole('button', { name: 'Unlock what is held flat' }).click();
  await apply(page);
  await expect(page.locator('.message')).toContainText('49 vertices unlocked.');
});

test('average toned down moves less, a colour is painted and taken from what is picked, a mask is saved and used again', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 4, 'Faces up': 4, 'Faces deep': 4 });
  await page.keyboard.press('Digit6');
  await page.keyboard.press('Control+KeyA');
  await operation(page, 'Average');
  const moved = async () => Number(/moved, by ([\d.]+) mm/.exec(await page.locator('.message').innerText())![1]);
  await apply(page);
  const whole = await moved();
  await fill(page, 'Amount', 25);
  await expect(logbook(page).last()).toContainText('Average');
  await expect.poll(async () => Number(/moved, by ([\d.]+) mm/.exec(await card(page).innerText())![1])).toBeCloseTo(whole / 4, 1);
  await operation(page, 'Set mask');
  await apply(page);
  await operation(page, 'Set mask');
  await card(page).getByLabel('Mask', { exact: true }).selectOption({ label: 'Save it under a name' });
  await card(page).getByLabel('Name', { exact: true }).fill('all');
  await card(page).getByLabel('Name', { exact: true }).blur();
  await apply(page);
  await expect(page.locator('.message')).toContainText('Mask saved as all.');
  await page.getByRole('tab', { name: 'Groups' }).click();
  await page.getByRole('button', { name: 'Use the mask all' }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Paint colour', exact: true }).click();
  await card(page).getByLabel('Colour', { exact: true }).fill('#2266aa');
  await stroke(page, 20, 0);
  await expect(page.locator('.message')).toContainText(/Coloured: \d+ vertices\./);
  await expect(page.getByRole('note', { name: 'Legend of the paint' })).toContainText('painted');
  await page.keyboard.press('Escape');
});

test('a brush works on the sculpt itself: a stroke is an entry, taken back at once, and the brush stays in hand', async ({ page }) => {
  await openDemo(page, 'Marsh newt');
  await page.keyboard.press('Digit6');
  await page.getByRole('button', { name: 'Raise', exact: true }).click();
  await expect(card(page)).toContainText('Drag over the surface: each stroke is an entry of its own.');
  await fill(page, 'Radius', 8);
  await stroke(page, 60, 20);
  await expect(page.locator('.message')).toContainText(/Moved by .* mm at most; spread .*; volume \+\d/);
  await expect(logbook(page).last()).toContainText('Raise');
  await page.keyboard.press('Control+KeyZ');
  await expect(logbook(page).filter({ hasText: 'Raise' })).toHaveClass(/undone/);
  await expect(card(page).getByLabel('Radius', { exact: true })).toHaveValue('8');
  await stroke(page, -60, 0, 'Control');
  await expect(page.locator('.message')).toContainText(/volume -\d/);
  // what needs a cage says so
  await expect(page.getByRole('button', { name: 'Relax area', exact: true })).toBeDisabled();
});
