import { expect, test } from '@playwright/test';
import { bringIn } from '../../core/src/index.ts';
import { apply, card, fill, logbook, lookFrom, openDemo, operation, reading, saved, selection, settled, startShape } from './workshop.ts';

// Whole jobs, as somebody at the Saltmarsh station would do them.

test('a notch is drawn into a block of 4 x 4 x 4 faces', async ({ page }) => {
  await startShape(page, 'Box', { Width: 40, Height: 40, Depth: 40, 'Faces across': 4, 'Faces up': 4, 'Faces deep': 4 });
  await page.keyboard.press('Digit3');
  // the two middle faces of the upper row in front go, and the two of the top beside them
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('KeyE');
  await page.mouse.click(...front(-5, 15, 20));
  await page.keyboard.down('Shift');
  await page.mouse.click(...front(5, 15, 20));
  await page.keyboard.up('Shift');
  const top = await lookFrom(page, 'top');
  await page.keyboard.down('Shift');
  await page.mouse.click(...top(-5, 20, 15));
  await page.mouse.click(...top(5, 20, 15));
  await page.keyboard.up('Shift');
  await expect(selection(page)).toContainText('4 faces');
  await page.keyboard.press('Delete');
  await settled(page);
  await expect(reading(page, 'Borders')).toHaveText('1');
  // three corners of a wall are picked on the rim, the fourth is drawn inside the block, at the depth of the last one
  await page.keyboard.press('KeyQ');
  const pick = async (at: [number, number], count: string) => {
    await page.keyboard.down('Shift');
    await page.mouse.click(...at);
    await page.keyboard.up('Shift');
    await expect(selection(page)).toContainText(count);
  };
  await lookFrom(page, 'front');
  await pick(front(10, 10, 20), '1 vertex');
  await pick(front(10, 20, 20), '2 vertices');
  await lookFrom(page, 'top');
  await pick(top(10, 20, 10), '3 vertices');
  const right = await lookFrom(page, 'right');
  await operation(page, 'Draw face');
  await page.keyboard.down('Alt');
  await page.mouse.click(...right(10, 10, 10));
  await page.keyboard.up('Alt');
  await expect(card(page)).toContainText('1 point so far');
  await apply(page);
  await expect(logbook(page).last()).toContainText('Draw face');
  await expect(reading(page, 'Quads')).toContainText('93 (100 %)');
  // a point in the middle of an edge, moved by typed numbers
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const again = await lookFrom(page, 'front');
  await page.keyboard.press('KeyW');
  await page.mouse.click(...again(-15, 20, 20));
  await operation(page, 'Point on edge');
  await apply(page);
  await page.keyboard.press('KeyZ');
  await fill(page, 'Y', 3);
  await apply(page);
  await expect(reading(page, 'N-gons')).not.toHaveText('0');
});

test('one loop is led into another with cut, dissolve and swing', async ({ page }) => {
  await startShape(page, 'Plane', { Width: 60, Depth: 60, 'Faces across': 6, 'Faces deep': 6 });
  await page.keyboard.press('Digit3');
  const top = await lookFrom(page, 'top');
  // a cut from corner to corner of a face leads the way over
  await page.keyboard.press('KeyG');
  await page.mouse.click(...top(0, 0, 0));
  await page.mouse.click(...top(10, 0, 10));
  await expect(card(page)).toContainText('2 points so far');
  await apply(page);
  await expect(reading(page, 'Triangles')).toHaveText('2');
  // the edges on either side of it go: two triangles and two quads become two quads
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyW');
  await page.mouse.click(...top(5, 0, 0));
  await page.keyboard.down('Shift');
  await page.mouse.click(...top(5, 0, 10));
  await page.keyboard.up('Shift');
  await expect(selection(page)).toContainText('2 edges');
  await page.keyboard.press('KeyD');
  await settled(page);
  await expect(reading(page, 'Triangles')).toHaveText('0');
  await expect(reading(page, 'N-gons')).toHaveText('2');
  await page.keyboard.press('Control+KeyZ');
  // swinging the diagonal turns the way round
  await page.mouse.click(...top(5, 0, 5));
  await operation(page, 'Swing edge');
  await expect(page.getByTestId('forecast')).toContainText('poles');
  await apply(page);
  await expect(reading(page, 'Triangles')).toHaveText('2');
  await expect(logbook(page)).toHaveCount(3);
});

test('loops go beside a loop on both sides at a typed fraction, are slid, and moved together by a typed distance', async ({ page }) => {
  await startShape(page, 'Cylinder', { Sides: 12, 'Faces up': 4 });
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyW');
  const front = await lookFrom(page, 'front');
  await page.mouse.dblclick(...front(2, 0, 0));
  await expect(selection(page)).toContainText('closed loop');
  const edges = Number((await selection(page).innerText()).match(/^(\d+) edges/)![1]);
  await page.keyboard.press('KeyA');
  await card(page).getByLabel('Where', { exact: true }).selectOption('both');
  await fill(page, 'Fraction', 0.25);
  await apply(page);
  await expect(selection(page)).toContainText(`${2 * edges} edges`);
  await page.keyboard.press('KeyS');
  await fill(page, 'Fraction', 0.2);
  await apply(page);
  await page.keyboard.press('KeyZ');
  await fill(page, 'Y', 1.5);
  await expect(card(page).getByRole('button', { name: 'Apply' })).toBeEnabled();
  await apply(page);
  await expect(reading(page, 'N-gons')).toHaveText(/^[02]$/);
  await expect(logbook(page)).toHaveCount(4);
});

test('the bellows are thinned out to 42 sides with their rims kept, and the ridges bevelled with a profile', async ({ page }) => {
  await openDemo(page, 'Bellows');
  await page.keyboard.press('Digit3');
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('KeyW');
  // an edge lengthwise on the upper rim, in the middle of the view
  await page.mouse.click(...front(0.6, 61, 34));
  await expect(selection(page)).toContainText('10.0 mm');
  await operation(page, 'Thin out');
  await card(page).getByText('Rims keep all their vertices').click();
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText(`${42 * 14}`);
  await expect(reading(page, 'N-gons')).toHaveText('84');
  // one ridge is picked as a loop, with two others
  await page.keyboard.press('Escape');
  const ridge = (i: number) => -56 + (112 * (i + 0.5)) / 13;
  await page.mouse.dblclick(...front(1, ridge(5), 40));
  await page.keyboard.down('Shift');
  await page.mouse.dblclick(...front(1, ridge(7), 40));
  await page.keyboard.up('Shift');
  await expect(selection(page)).toContainText('84 edges');
  await operation(page, 'Bevel');
  await fill(page, 'Width', 2);
  await fill(page, 'Segments', 4);
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText(`${42 * (14 + 8)}`);
  await expect(logbook(page).last()).toContainText('Bevel');
});

test('the deck grating is sliced in its own frame, opened, twisted, bent along a drawn curve, and taken away', async ({ page }) => {
  await openDemo(page, 'Deck grating');
  await page.keyboard.press('Digit3');
  await operation(page, 'Slice set');
  await card(page).getByLabel('Along', { exact: true }).selectOption('panel');
  await fill(page, 'Planes', 15);
  await fill(page, 'Planes across', 3);
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText('64 (100 %)');
  await expect(reading(page, 'Edge length')).toContainText('22.5 – 22.5 mm');
  await page.keyboard.press('Control+KeyK');
  await page.getByRole('dialog').getByPlaceholder(/./).fill('Pick all quads');
  await page.keyboard.press('Enter');
  await operation(page, 'Inset');
  await card(page).getByLabel('Faces', { exact: true }).selectOption('each');
  await fill(page, 'Width', 3);
  await apply(page);
  await page.keyboard.press('Delete');
  await settled(page);
  await expect(reading(page, 'Borders')).toHaveText('65');
  await operation(page, 'Twist');
  await card(page).getByLabel('Along', { exact: true }).selectOption('own');
  await fill(page, 'Angle', 40);
  await apply(page);
  const top = await lookFrom(page, 'top');
  await operation(page, 'Bend along a curve');
  await card(page).getByLabel('Along', { exact: true }).selectOption('own');
  for (const [x, z] of [
    [-150, 60],
    [-50, -20],
    [50, -20],
    [150, 60]
  ])
    await page.mouse.click(...top(x, 0, z));
  await expect(card(page)).toContainText('4 points so far');
  await apply(page);
  await expect(logbook(page)).toHaveCount(6);
  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  const file = await saved(page, () => page.getByRole('dialog').getByRole('button', { name: /save/i }).first().click());
  // a frame of four quads round each of 64 holes, twisted and laid along the curve, none turned over
  const { facts } = bringIn(file.bytes, file.name);
  expect([facts.quads, facts.triangles, facts.ngons, facts.borders, facts.islands]).toEqual([256, 0, 0, 65, 1]);
  expect(facts.bounds.max[0] - facts.bounds.min[0]).toBeGreaterThan(250);
  expect(facts.bounds.max[2] - facts.bounds.min[2]).toBeGreaterThan(60);
});
