import { expect, test, type Page } from '@playwright/test';
import { apply, card, fill, fromAbove, logbook, reading, told } from './workshop.ts';

const over = (page: Page) => page.getByTestId('lay-marks').getAttribute('data-over');

test('quads are laid on the newt by clicks and drags, a step back each, on both sides, and are one entry', async ({ page }) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyX');
  await expect(card(page)).toContainText('Click on the reference: four vertices make a quad.');
  for (const [x, z] of [
    [-6, -10],
    [-6, -4],
    [-1, -4],
    [-1, -10]
  ])
    await page.mouse.click(...at(x, z));
  await expect(told(page)).toHaveText('+1 face, +4 vertices.');
  // beside an edge: a quad from it to the pointer
  await page.mouse.move(...at(-3.5, 0));
  await expect.poll(() => over(page)).toBe('beside');
  await page.mouse.click(...at(-3.5, 0));
  await expect(told(page)).toHaveText('+2 faces, +6 vertices.');
  // an edge is dragged out
  await page.mouse.move(...at(-3.5, -10));
  await expect.poll(() => over(page)).toBe('edge');
  await page.mouse.down();
  await page.mouse.move(...at(-3.5, -16), { steps: 6 });
  await page.mouse.up();
  await expect(told(page)).toHaveText('+3 faces, +8 vertices.');
  // with Shift all edges that follow it
  await page.mouse.move(...at(-1, -7));
  await page.keyboard.down('Shift');
  await page.mouse.down();
  await page.mouse.move(...at(3, -7), { steps: 6 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(told(page)).toHaveText('+6 faces, +12 vertices.');
  await page.keyboard.press('Control+KeyZ');
  await expect(told(page)).toHaveText('+3 faces, +8 vertices.');
  // Ctrl and a click erase the face under the pointer
  await page.keyboard.down('Control');
  await page.mouse.click(...at(-3.5, -13));
  await page.keyboard.up('Control');
  await expect(told(page)).toContainText('+2 faces');
  // a quad apart from them, near by: begun with Alt, ended corner by corner
  await page.keyboard.down('Alt');
  await page.mouse.click(...at(2, -10));
  await page.keyboard.up('Alt');
  for (const [x, z] of [
    [2, -4],
    [6, -4],
    [6, -10]
  ])
    await page.mouse.click(...at(x, z));
  await expect(told(page)).toHaveText('+3 faces, +10 vertices.');
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('Control+KeyZ');
  await page.keyboard.press('Control+KeyZ');
  // Esc ends it, and keeps what was laid
  await page.keyboard.press('Escape');
  await expect(logbook(page).last()).toContainText('Lay by hand');
  await expect(reading(page, 'Quads')).toHaveText(/^2 /);
  await page.keyboard.press('Control+KeyZ');
  await expect(logbook(page).filter({ hasText: 'Lay by hand' })).toHaveClass(/undone/);
});

test('a band follows a stroke, its counts are typed, it welds to the one beside it, and is held to the sculpt', async ({ page }) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyC');
  await expect(card(page)).toContainText('A band needs a stroke: drag over the reference, or click its points.');
  await fill(page, 'Width', 5);
  await fill(page, 'Weld within', 1.5);
  const draw = async (x: number) => {
    await page.mouse.move(...at(x, -12));
    await page.mouse.down();
    await page.mouse.move(...at(x, 12), { steps: 12 });
    await page.mouse.up();
  };
  await draw(-3);
  await fill(page, 'Quads along', 4);
  await expect(told(page)).toContainText('A band of 4 quads, 4 along.');
  await apply(page);
  await page.keyboard.press('KeyC');
  await draw(2);
  // the crest lies between them: what just misses is told, and welded by another distance
  await expect(told(page)).toContainText(/5 vertices miss by 3\.\d+ mm at most: weld within 3\.\d+ mm takes them\./);
  await fill(page, 'Weld within', 3.6);
  await expect(told(page)).toContainText('5 vertices weld to what is there.');
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/^8 /);
  await expect(reading(page, 'Islands')).toHaveText('1');
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyB');
  await card(page).getByLabel('Lies on it', { exact: true }).selectOption({ label: 'The smooth surface' });
  await apply(page);
  await expect(page.locator('.message')).toContainText(/Smooth surface to reference after \d passes: /);
});

test('clicks along a leg of the newt become a tube on both sides, a click back at a time', async ({ page }) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyV');
  await expect(card(page)).toContainText('Click on a limb for a loop round it.');
  await card(page).getByLabel('Symmetric across', { exact: true }).selectOption({ label: 'X = 0' });
  await fill(page, 'Vertices round', 10);
  // the right hind leg, from the knee down
  const leg = [
    [19, -18],
    [20.5, -16.5],
    [21.5, -15]
  ] as const;
  await page.mouse.click(...at(...leg[0]));
  await expect(card(page)).toContainText('One more click: loops become a tube.');
  for (const [x, z] of leg.slice(1)) await page.mouse.click(...at(x, z));
  await expect(told(page)).toContainText(/^A tube of 20 quads through 3 loops, /);
  await page.keyboard.press('Backspace');
  await expect(told(page)).toContainText(/^A tube of 10 quads through 2 loops, /);
  await page.mouse.click(...at(...leg[2]));
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/^40 /);
  await expect(reading(page, 'Islands')).toHaveText('2');
});

test('laying is told what is wrong: a click beside the sculpt, and no reference at all', async ({ page }) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyX');
  await page.mouse.click(...at(30, -40));
  await expect(page.locator('.message')).toContainText('The pointer is not over the reference.');
  await page.goto('/');
  await page.getByRole('button', { name: 'New job', exact: true }).click();
  await page.waitForURL(/\/job\//);
  await expect(card(page)).toContainText('An empty job');
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyX');
  await expect(page.locator('.message')).toContainText('Lay by hand: Needs a reference to lay on.');
});
