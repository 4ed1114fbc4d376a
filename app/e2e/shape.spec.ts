import { expect, test } from '@playwright/test';
import {
  addClick,
  apply,
  bevelRidges,
  card,
  fill,
  logbook,
  lookFrom,
  operation,
  reading,
  selection,
  settled,
  standMiddle,
  startShape,
  thinBellows
} from './workshop.ts';

test('a loop is forecast, added at a typed fraction, slid, and taken out again', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 4, 'Faces up': 4, 'Faces deep': 4 });
  await page.getByRole('button', { name: 'front' }).click();
  await settled(page);
  const { x, y } = await standMiddle(page);
  await page.keyboard.press('KeyW');
  await page.mouse.move(x, y + 24);
  await expect(page.getByTestId('hint')).toContainText('its loop: 16 edges, closed');
  await page.mouse.click(x, y + 24);
  await page.keyboard.press('KeyA');
  await expect(page.getByTestId('forecast')).toContainText('poles unchanged; the smooth surface moves by up to');
  await card(page).getByLabel('Fraction', { exact: true }).fill('0.25');
  await card(page).getByLabel('Fraction', { exact: true }).press('Enter');
  await expect(reading(page, 'Quads')).toContainText('112');
  await expect(selection(page)).toContainText('16 edges, closed loop');
  await page.keyboard.press('KeyS');
  await card(page).getByLabel('Fraction', { exact: true }).fill('0.5');
  await card(page).getByLabel('Fraction', { exact: true }).press('Enter');
  await expect(logbook(page)).toHaveCount(3);
  await page.keyboard.press('KeyD');
  await expect(reading(page, 'Quads')).toContainText('96 (100 %)');
});

test('a cut is clicked from edge to edge and runs out', async ({ page }) => {
  await startShape(page, 'Plane', { 'Faces across': 4, 'Faces deep': 4 });
  const top = await lookFrom(page, 'top');
  const [x, y] = top(0, 0, 0);
  // the next edge lies a face on: the first place further down that the hint line calls one
  let below = 40;
  for (await page.mouse.move(x + 40, y + below); !(await page.getByTestId('hint').innerText()).startsWith('edge'); below += 6)
    await page.mouse.move(x + 40, y + below);
  await page.keyboard.press('KeyG');
  await expect(card(page)).toContainText('The cut has no points yet.');
  await page.mouse.click(x + 40, y);
  await expect(card(page)).toContainText('1 point so far');
  await page.mouse.click(x + 330, y + 320);
  await expect(card(page)).toContainText('1 point so far');
  await page.mouse.click(x + 40, y + below + 4);
  await expect(card(page)).toContainText('2 points so far');
  await card(page).getByText('Run out at both ends').click();
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await expect(reading(page, 'Quads')).toContainText('20 (100 %)');
});

test('Enter applies an extrusion and begins the next; a wrong pick is refused with the way out', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 3, 'Faces up': 3, 'Faces deep': 3 });
  await page.getByRole('button', { name: 'front' }).click();
  await settled(page);
  const { x, y } = await standMiddle(page);
  await page.keyboard.press('KeyE');
  await page.mouse.click(x, y);
  await page.keyboard.press('KeyF');
  await expect(page.getByTestId('forecast')).toContainText('poles of 3: 4 appear; poles of 5: 4 appear');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(logbook(page)).toHaveCount(3);
  await page.keyboard.press('Escape');
  await expect(reading(page, 'Quads')).toContainText('62');
  await page.keyboard.press('KeyW');
  await page.keyboard.press('Escape');
  await page.mouse.click(x + 90, y + 72);
  await page.keyboard.press('KeyF');
  await expect(page.getByText(/faces on both sides.*Pick border edges/)).toBeVisible();
});

test('a tube of 84 sides is thinned out to 42, its rims kept', async ({ page }) => {
  await startShape(page, 'Cylinder', { Sides: 84, 'Faces up': 6 });
  await card(page).getByText('Caps').click();
  await settled(page);
  await expect(reading(page, 'Quads')).toContainText('504');
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyW');
  await page.getByRole('button', { name: 'front' }).click();
  await settled(page);
  const { x, y } = await standMiddle(page);
  await page.mouse.click(x + 1, y + 12);
  await expect(selection(page)).toContainText('1 edge');
  await page.getByRole('button', { name: 'Thin out', exact: true }).click();
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await expect(reading(page, 'Quads')).toContainText('252 (100 %)');
});

test('a notch is drawn into a block of 4 x 4 x 4 faces', async ({ page }) => {
  await startShape(page, 'Box', { Width: 40, Height: 40, Depth: 40, 'Faces across': 4, 'Faces up': 4, 'Faces deep': 4 });
  await page.keyboard.press('Digit3');
  // the two middle faces of the upper row in front go, and the two of the top beside them
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('KeyE');
  await page.mouse.click(...front(-5, 15, 20));
  await addClick(page, front(5, 15, 20));
  const top = await lookFrom(page, 'top');
  await addClick(page, top(-5, 20, 15));
  await addClick(page, top(5, 20, 15));
  await expect(selection(page)).toContainText('4 faces');
  await page.keyboard.press('Delete');
  await settled(page);
  await expect(reading(page, 'Borders')).toHaveText('1');
  // three corners of a wall are picked on the rim, the fourth is drawn inside the block, at the depth of the last one
  await page.keyboard.press('KeyQ');
  const pick = async (at: [number, number], count: string) => {
    await addClick(page, at);
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
  await addClick(page, top(5, 0, 10));
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
  const front = await thinBellows(page);
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText(`${42 * 14}`);
  await expect(reading(page, 'N-gons')).toHaveText('84');
  await bevelRidges(page, front);
  await expect(reading(page, 'Quads')).toContainText(`${42 * (14 + 8)}`);
  await expect(logbook(page).last()).toContainText('Bevel');
});
