import { expect, test } from '@playwright/test';
import { card, drag, logbook, lookFrom, marks, openDemo, reading, selection, settled, standMiddle, startShape } from './workshop.ts';

test('picking: click, Shift-click, box, loop by double-click, island by triple-click, Esc', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 4, 'Faces up': 4, 'Faces deep': 4 });
  const front = await lookFrom(page, 'front');
  const [x, y] = front(0, 0, 20);
  await page.keyboard.press('KeyQ');
  await page.mouse.click(x, y);
  await expect(selection(page)).toHaveText('1 vertex, valence 4');
  await page.keyboard.press('KeyE');
  await page.mouse.click(x + 20, y + 20);
  await page.keyboard.down('Shift');
  await page.mouse.click(x - 20, y + 20);
  await page.keyboard.up('Shift');
  await expect(selection(page)).toHaveText('2 faces');
  await page.keyboard.press('KeyW');
  await page.mouse.dblclick(x, y + 25);
  await expect(selection(page)).toHaveText('16 edges, closed loop, 160.0 mm');
  await page.keyboard.press('Escape');
  await expect(selection(page)).toHaveText('nothing picked');

  await page.keyboard.press('KeyE');
  await drag(page, front(-21, 21, 20), front(21, -21, 20), 6);
  await expect(selection(page)).toHaveText('16 faces');
  await page.mouse.click(x + 20, y + 20, { clickCount: 3 });
  await expect(selection(page)).toHaveText('96 faces');
});

test('moving by handles and by numbers, undo and redo, the last card stays open', async ({ page }) => {
  await startShape(page, 'Sphere of quads', { 'Faces across': 4 });
  await page.keyboard.press('Digit3');
  await page.getByRole('button', { name: 'front' }).click();
  await page.keyboard.press('KeyT');
  await settled(page);
  const { x, y } = await standMiddle(page);
  await page.keyboard.press('KeyQ');
  await page.mouse.click(x, y);
  await page.keyboard.press('KeyZ');
  await expect(page.getByTestId('stand')).toHaveAttribute('data-handle', 'move');
  await settled(page);
  const field = (axis: string) => card(page).getByLabel(axis, { exact: true });
  // the X arrow runs to the right of the picked vertex
  await page.mouse.move(x + 45, y, { steps: 4 });
  await page.mouse.down();
  await page.mouse.move(x + 120, y, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => Math.abs(Number(await field('X').inputValue()))).toBeGreaterThan(0.5);
  await field('X').fill('0');
  await field('Z').fill('12.5');
  await field('Z').press('Enter');
  await expect(logbook(page)).toHaveCount(2);
  await expect(card(page)).toContainText('applied, still open');
  await field('Z').fill('2');
  await field('Z').press('Tab');
  await expect(logbook(page)).toHaveCount(2);
  await page.keyboard.press('Control+KeyZ');
  await expect(logbook(page).nth(1)).toHaveClass(/undone/);
  await page.keyboard.press('Control+Shift+KeyZ');
  await expect(logbook(page).nth(1)).not.toHaveClass(/undone/);
});

test('numbers that make no sense are refused with the field', async ({ page }) => {
  await startShape(page, 'Torus');
  const sides = card(page).getByLabel('Sides', { exact: true });
  const quads = await reading(page, 'Quads').innerText();
  await sides.fill('2');
  await sides.press('Tab');
  await expect(page.getByText('Sides must lie between 3 and 500; it is 2.')).toBeVisible();
  await expect(reading(page, 'Quads')).toHaveText(quads);
  await expect(sides).toHaveAttribute('aria-invalid', 'true');
  await expect(sides).toHaveValue('2');
  await sides.fill('20');
  await sides.press('Tab');
  await expect(reading(page, 'Quads')).toContainText('160');
});

test('a start shape stays editable from the logbook, and what came after is done again', async ({ page }) => {
  await startShape(page, 'Box', { 'Faces across': 2, 'Faces up': 2, 'Faces deep': 2 });
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyQ');
  await page.mouse.click(...front(0, 0, 20));
  await expect(selection(page)).toHaveText('1 vertex, valence 4');
  await page.keyboard.press('KeyZ');
  await card(page).getByLabel('Z', { exact: true }).fill('8');
  await card(page).getByLabel('Z', { exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Edit entry 1' }).click();
  await card(page).getByLabel('Faces deep', { exact: true }).fill('6');
  await card(page).getByLabel('Faces deep', { exact: true }).press('Tab');
  await expect(reading(page, 'Quads')).toContainText('56');
  await expect(logbook(page)).toHaveCount(2);
  await expect(page.getByText('not there any more')).toHaveCount(0);
});

test('what an operation needs is said before and after it is tried', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  const dissolve = page.getByRole('button', { name: /Dissolve/ });
  await expect(dissolve).toHaveAttribute('aria-disabled', 'true');
  await page.keyboard.press('KeyD');
  await expect(page.getByText(/Dissolve: Nothing is picked/)).toBeVisible();
});

test('readings select what they count, overlays and views switch, isolate and section have their keys', async ({ page }) => {
  await openDemo(page, 'Channel buoy');
  await reading(page, 'N-gons').getByRole('button').click();
  await expect(selection(page)).toContainText('faces');
  const picked = await selection(page).innerText();
  await page.keyboard.press('Backquote');
  await expect(page.getByText(/isolated: /)).toContainText(picked.replace(/ faces.*/, ''));
  await page.keyboard.press('Backquote');
  await expect(page.getByText(/isolated: /)).toHaveCount(0);
  await page.keyboard.press('Shift+Backquote');
  await expect(page.getByText('Section')).toBeVisible();
  await page.keyboard.press('Shift+Backquote');
  await expect(page.getByText('Section')).toHaveCount(0);
  for (const name of ['perspective', 'smooth']) await page.getByRole('button', { name, exact: true }).click();
  await marks(page, 'triangles', 'n-gons', 'poles', 'borders');
  await settled(page);
  await expect(page.getByRole('button', { name: 'straight', exact: true })).toBeVisible();
  await page.reload();
  await settled(page);
  await expect(page.getByRole('button', { name: 'straight', exact: true })).toBeVisible();
  const list = await marks(page);
  await expect(list.getByRole('button', { name: 'poles', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(list.getByRole('button', { name: 'borders', exact: true })).toHaveAttribute('aria-pressed', 'false');
});

test('the lookup finds by name and purpose, the key sheet changes keys and switches letters off', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  await page.keyboard.press('Control+KeyK');
  await page.getByRole('dialog').getByPlaceholder(/./).fill('symmetric');
  await page.keyboard.press('Enter');
  await expect(card(page)).toContainText('Mirror');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+Slash');
  const sheet = page.getByRole('dialog');
  await sheet
    .getByRole('row', { name: /Cage on or off/ })
    .getByRole('button')
    .click();
  await page.keyboard.press('KeyT');
  await expect(sheet.getByRole('alert')).toContainText('taken by "Smooth surface on or off"');
  await sheet
    .getByRole('row', { name: /Cage on or off/ })
    .getByRole('button')
    .click();
  await page.keyboard.press('KeyP');
  await sheet.getByRole('button', { name: /close/i }).click();
  await page.keyboard.press('KeyP');
  await expect(page.getByRole('button', { name: 'cage', exact: true })).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('Shift+Slash');
  await sheet.getByText('Single-letter keys').click();
  await sheet.getByRole('button', { name: /close/i }).click();
  await page.keyboard.press('KeyP');
  await expect(page.getByRole('button', { name: 'cage', exact: true })).toHaveAttribute('aria-pressed', 'false');
});

test('hovering and dragging a vertex link no program, make no buffer and no texture', async ({ page }) => {
  await page.addInitScript(() => {
    const made: Record<string, number> = {};
    const context = WebGL2RenderingContext.prototype as unknown as Record<string, (...rest: unknown[]) => unknown>;
    for (const what of ['createBuffer', 'createVertexArray', 'linkProgram', 'createShader', 'createTexture']) {
      const own = context[what];
      context[what] = function (this: unknown, ...rest: unknown[]) {
        made[what] = (made[what] ?? 0) + 1;
        return own.apply(this, rest);
      };
    }
    Object.assign(window, { made });
  });
  const made = () => page.evaluate(() => ({ ...(window as unknown as { made: Record<string, number> }).made }));
  await startShape(page, 'Plane', { Width: 40, Depth: 40, 'Faces across': 8, 'Faces deep': 8 });
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyT');
  await marks(page, 'poles');
  const top = await lookFrom(page, 'top');
  await page.keyboard.press('KeyR');
  // each kind of mark is made when it is first seen
  const hoverOver = async (places: [number, number][]) => {
    for (const [x, z] of places) {
      await page.mouse.move(...top(x, 0, z));
      await settled(page);
    }
  };
  await hoverOver([
    [0, 0],
    [2.5, 0],
    [2.5, 2.5]
  ]);
  const hovered = await made();
  await hoverOver([
    [5, 5],
    [7.5, 5],
    [7.5, 7.5],
    [-5, 0],
    [0, -2.5]
  ]);
  expect(await made()).toEqual(hovered);

  await page.keyboard.press('KeyQ');
  await page.mouse.click(...top(0, 0, 0));
  await page.keyboard.press('KeyZ');
  await expect(page.getByTestId('stand')).toHaveAttribute('data-handle', 'move');
  const middle = top(0, 0, 0);
  await page.mouse.move(middle[0] + 1, middle[1]);
  await page.mouse.move(...middle);
  await settled(page);
  await page.mouse.down();
  await page.mouse.move(middle[0] + 6, middle[1] + 6);
  await settled(page);
  const begun = await made();
  for (let i = 1; i <= 5; i++) {
    await page.mouse.move(middle[0] + 6 + 4 * i, middle[1] + 6 + 2 * i);
    await settled(page);
  }
  expect(await made()).toEqual(begun);
  await page.mouse.up();
  expect(Number(await card(page).getByLabel('X', { exact: true }).inputValue())).toBeGreaterThan(1);
});
