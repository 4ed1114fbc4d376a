import { expect, test } from '@playwright/test';
import { apply, card, fill, lookFrom, operation, reading, selection, settled, startShape } from './workshop.ts';

// Picking many at once, by what they are and by name, and what is done with more than one part.

test('dragging picks by box, lasso and brush, what is seen or through the model; Ctrl takes away', async ({ page }) => {
  await startShape(page, 'Box', { Width: 40, Height: 40, Depth: 40, 'Faces across': 4, 'Faces up': 4, 'Faces deep': 4 });
  await page.keyboard.press('Escape');
  const front = await lookFrom(page, 'front');
  const drag = async (...points: [number, number][]) => {
    await page.mouse.move(...points[0]);
    await page.mouse.down();
    for (const p of points.slice(1)) await page.mouse.move(...p, { steps: 4 });
    await page.mouse.up();
  };
  await page.keyboard.press('KeyE');
  await drag(front(-22, 12, 20), front(22, -22, 20));
  await expect(selection(page)).toHaveText('12 faces');
  await page.keyboard.down('Control');
  await drag(front(-22, -8, 20), front(22, -22, 20));
  await page.keyboard.up('Control');
  await expect(selection(page)).toHaveText('8 faces');
  await page.getByRole('button', { name: 'visible only' }).click();
  await drag(front(-22, 12, 20), front(22, -22, 20));
  // front and back, three rows of both sides, and the bottom
  await expect(selection(page)).toHaveText(`${12 + 12 + 24 + 16} faces`);
  await page.getByRole('button', { name: 'through the model' }).click();
  await page.getByRole('button', { name: 'lasso' }).click();
  await drag(front(-1, 21, 20), front(21, 21, 20), front(21, -1, 20), front(-1, -1, 20));
  await expect(selection(page)).toHaveText('4 faces');
  await page.getByRole('button', { name: 'paint' }).click();
  await drag(front(-15, -15, 20), front(15, -15, 20));
  await expect(selection(page)).toHaveText('4 faces');
});

test('finding and picking with a number, sets kept under a name, loops that stop at corners', async ({ page }) => {
  await startShape(page, 'Box', { Width: 40, Height: 40, Depth: 40, 'Faces across': 2, 'Faces up': 2, 'Faces deep': 2 });
  await page.keyboard.press('Escape');
  await page.getByText('Find and pick').click();
  await card(page).getByLabel('What to find').selectOption({ label: 'Edges sharper than' });
  await card(page).getByRole('button', { name: 'Pick', exact: true }).click();
  await expect(selection(page)).toContainText('24 edges');
  await card(page).getByLabel('Name of the set').fill('rim of the box');
  await card(page).getByRole('button', { name: 'Keep the selection' }).click();
  await page.keyboard.press('Escape');
  await expect(selection(page)).toHaveText('nothing picked');
  await settled(page);
  await page.reload();
  await settled(page);
  await page.getByText('Find and pick').click();
  await card(page).getByRole('button', { name: 'rim of the box', exact: true }).click();
  await expect(selection(page)).toContainText('24 edges');
  await card(page).getByLabel('What to find').selectOption({ label: 'Creased edges' });
  await card(page).getByRole('button', { name: 'Pick', exact: true }).click();
  await expect(page.getByText('Creased edges: this part has none.')).toBeVisible();
  // a loop round the box turns at its edges
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('KeyW');
  await page.mouse.dblclick(...front(10, 0, 20));
  await expect(selection(page)).toContainText('8 edges, closed loop');
  await card(page).getByLabel('Loops stop at turns over', { exact: true }).fill('45');
  await card(page).getByLabel('Loops stop at turns over', { exact: true }).press('Tab');
  await page.mouse.dblclick(...front(10, 0, 20));
  await expect(selection(page)).toContainText('2 edges, open chain');
});

test('one part is cut out of another, and parts are separated and combined', async ({ page }) => {
  await startShape(page, 'Cylinder', { Radius: 8, Height: 60 });
  await page.keyboard.press('Digit1');
  await page.getByRole('button', { name: 'X Start shape' }).click();
  await card(page).getByLabel('Shape').selectOption({ label: 'Box' });
  await fill(page, 'Height', 40);
  await apply(page);
  await page.keyboard.press('Digit3');
  await operation(page, 'Subtract');
  await expect(card(page).getByTestId('forecast')).toContainText('faces stayed as they were');
  await apply(page);
  await expect(reading(page, 'Borders')).toHaveText('0');
  await expect(reading(page, 'Islands')).toHaveText('1');
  await page.keyboard.press('Escape');
  await operation(page, 'Duplicate');
  await fill(page, 'Each further by X', 60);
  await apply(page);
  await expect(reading(page, 'Islands')).toHaveText('2');
  await page.keyboard.press('Escape');
  await operation(page, 'Split off');
  await apply(page);
  await expect(reading(page, 'Islands')).toHaveText('1');
  await page.getByRole('tab', { name: 'Parts' }).click();
  await expect(page.getByText('Box 2', { exact: true })).toBeVisible();
  await operation(page, 'Merge parts');
  await apply(page);
  await expect(reading(page, 'Islands')).toHaveText('2');
  await page.keyboard.press('Control+KeyZ');
  await expect(reading(page, 'Islands')).toHaveText('1');
  await settled(page);
  await page.reload();
  await settled(page);
  await expect(reading(page, 'Islands')).toHaveText('1');
});

test('handles follow numbers, pin and pivot: a personal row, a falloff, a pivot at the origin', async ({ page }) => {
  await startShape(page, 'Plane', { Width: 40, Depth: 40, 'Faces across': 8, 'Faces deep': 8 });
  await page.keyboard.press('Digit3');
  await page.getByRole('button', { name: 'Pin Flatten' }).click();
  await expect(page.getByRole('group', { name: 'Personal row' })).toContainText('Flatten');
  const top = await lookFrom(page, 'top');
  await page.keyboard.press('KeyQ');
  await page.mouse.click(...top(0, 0, 0));
  await page.keyboard.press('KeyZ');
  await card(page).getByLabel('Falloff').selectOption('surface');
  await fill(page, 'Radius', 12);
  await fill(page, 'Y', 5);
  await card(page)
    .getByRole('button', { name: /more settings/ })
    .click();
  await card(page).getByLabel('Symmetric across').selectOption('X');
  await apply(page);
  await expect(reading(page, 'Edge length')).not.toContainText('5.00 – 5.00');
  await page.keyboard.press('Control+KeyK');
  await page.getByRole('dialog').getByPlaceholder(/./).fill('Selection to faces');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+KeyK');
  await page.getByRole('dialog').getByPlaceholder(/./).fill('Pick all quads');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+Digit1');
  await expect(card(page)).toContainText('Flatten');
  await apply(page);
  await expect(card(page)).toContainText('The largest distance to the plane was');
});

test('the handle is drawn to vertices and to steps, its knob draws out; cuts are drawn to thirds and along angles', async ({ page }) => {
  await startShape(page, 'Plane', { Width: 40, Depth: 40, 'Faces across': 8, 'Faces deep': 8 });
  await page.keyboard.press('Digit3');
  const top = await lookFrom(page, 'top');
  const drag = async (from: [number, number], to: [number, number]) => {
    await expect(page.getByTestId('stand')).toHaveAttribute('data-handle', 'move');
    await page.mouse.move(from[0] + 1, from[1]);
    await page.mouse.move(...from);
    await settled(page);
    await page.mouse.down();
    await page.mouse.move(...to, { steps: 6 });
    await page.mouse.up();
  };
  const number = async (label: string) => Number(await card(page).getByLabel(label, { exact: true }).inputValue());
  await page.keyboard.press('KeyQ');
  await page.mouse.click(...top(0, 0, 0));
  await page.keyboard.press('KeyZ');
  await card(page)
    .getByRole('button', { name: /more settings/ })
    .click();
  await card(page).getByLabel('Handle snaps to').selectOption({ label: 'Vertices' });
  await drag(top(0, 0, 0), top(10.2, 0, 5.2));
  expect([await number('X'), await number('Z')]).toEqual([10, 5]);
  await card(page).getByLabel('Handle snaps to').selectOption({ label: 'Steps' });
  await fill(page, 'Step', 4);
  await drag(top(10, 0, 5), top(2.8, 0, -7.1));
  expect([await number('X'), await number('Z')]).toEqual([4, -8]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  await page.keyboard.press('KeyE');
  await page.mouse.click(...top(2.5, 0, 2.5));
  await expect(selection(page)).toContainText('1 face');
  await page.keyboard.press('KeyZ');
  const front = await lookFrom(page, 'front');
  const [x, y] = front(2.5, 0, 2.5);
  await drag([x, y - 138], [x, front(0, 6, 0)[1] - 138]);
  // the card is that of the handle again, on what was drawn out
  await expect(card(page)).toContainText('Move');
  await expect(page.getByRole('list', { name: 'Logbook' })).toContainText('Extrude');
  await expect(reading(page, 'Quads')).toContainText('68');
  await drag([x, front(0, 6, 0)[1] - 138], [x, front(0, 8, 0)[1] - 138]);
  await expect(reading(page, 'Quads')).toContainText('72');
  await expect(reading(page, 'Edge length')).toContainText(/^(2.0|1.9).* – (6.0|5.9)/);
  await page.keyboard.press('Escape');
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
  await expect(reading(page, 'Quads')).toContainText('64');
  await lookFrom(page, 'top');

  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyG');
  await page.mouse.click(...top(11.75, 0, 0));
  await page.mouse.click(...top(11.6, 0, 5));
  await apply(page);
  await expect(reading(page, 'Edge length')).toContainText('1.67 – 5.00');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyG');
  await card(page).getByLabel('Angle steps').selectOption('45');
  await page.mouse.click(...top(12.5, 0, 0));
  await page.mouse.click(...top(13.3, 0, 5));
  await apply(page);
  await expect(reading(page, 'Edge length')).toContainText('2.50 – 5.00');
});
