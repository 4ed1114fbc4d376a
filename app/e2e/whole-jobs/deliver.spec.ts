import { expect } from '@playwright/test';
import { bringIn } from '../../../core/src/index.ts';
import { apply, card, clear, dialog, drag, fill, lookFrom, operation, saved, selection, settled, startShape } from '../workshop.ts';
import { briefIsDone, deliver, wholeJob } from './whole-job.ts';

/** Bench 8, and the whole way through. */

// a shape with a field (5), one half (3), drawn out (3), creased (4), ways compared (4), each of them sent (6)
wholeJob(
  'a prism with rounded ends is sent out plain, divided first, and creased; density and sharpness are compared',
  { shortest: 26, seconds: 180 },
  async (page) => {
    await startShape(page, 'Cylinder', { Sides: 12 });
    await page.keyboard.press('Digit3');
    await page.keyboard.press('KeyQ');
    await page.getByRole('button', { name: 'visible only' }).click();
    const front = await lookFrom(page, 'front');
    await drag(page, front(1, 23, 0), front(23, -23, 0));
    await page.keyboard.press('KeyZ');
    await fill(page, 'X', 30);
    await apply(page);
    await clear(page);
    const plain = await deliver(page);
    await page.keyboard.press('Digit4');
    await operation(page, 'Crease by angle');
    await fill(page, 'Sharper than', 60);
    await apply(page);
    await clear(page);
    await page.keyboard.press('Digit8');
    await page.keyboard.press('KeyC');
    await page.getByLabel('Sculpted at').selectOption({ label: 'Pattern shop' });
    await page.getByRole('button', { name: 'Compare ways to send it' }).click();
    const table = page.getByRole('table', { name: 'Density' });
    await expect(table).toContainText('Divided 2 times first', { timeout: 90_000 });
    const off = async (way: string) => table.getByRole('row').filter({ hasText: way }).getByRole('cell').last().innerText();
    expect(await off('Creases')).toBe('the same');
    expect(Number.parseFloat(await off('Divided 2 times first'))).toBeLessThan(Number.parseFloat(await off('Plain, without creases')));
    await page.keyboard.press('Escape');
    const creased = await deliver(page);
    expect([plain.mesh.creaseSharpness?.length ?? 0, creased.mesh.creaseSharpness?.length]).toEqual([0, 24]);
    return creased;
  }
);

// the newt (1), auto quads (1), laid (1), deliver (2)
wholeJob(
  'the first five minutes: an empty browser, a sculpt, quads, and the delivered file',
  { shortest: 5, always: true, seconds: 240 },
  async (page) => {
    await page.goto('/');
    await page.getByRole('button', { name: 'Open the newt' }).click();
    await page.waitForURL(/\/job\//);
    await settled(page);
    const brief = page.getByRole('region', { name: 'Brief' });
    await expect(brief).toBeVisible();
    await page.keyboard.press('KeyZ');
    await card(page).getByRole('button', { name: 'Lay quads' }).click();
    await card(page).getByRole('button', { name: 'Lay again' }).waitFor({ timeout: 200_000 });
    const file = await deliver(page);
    const { facts } = file;
    expect([facts.quads, facts.borders, facts.islands]).toEqual([facts.faces, 0, 1]);
    expect(Math.abs(facts.quads / 4000 - 1)).toBeLessThan(0.05);
    return file;
  }
);

// keys alone: focus by Tab counts for nothing, each press does
wholeJob('keys alone: a box is made, picked, drawn out and delivered', { shortest: 16 }, async (page) => {
  await page.goto('/');
  const focus = async (name: string | RegExp) => page.getByRole('button', { name }).first().focus();
  await focus('New job');
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/job\//);
  await expect(card(page)).toContainText('An empty job');
  await settled(page);
  await page.keyboard.press('Digit1');
  await page.keyboard.press('KeyX');
  await expect(card(page)).toContainText('Start shape');
  await page.keyboard.press('Enter');
  await expect(card(page)).toContainText('still open');
  await settled(page);
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyE');
  await page.keyboard.press('Control+KeyA');
  await expect(selection(page)).toContainText('96 faces');
  await page.keyboard.press('Control+KeyK');
  await page.keyboard.type('inset');
  await page.keyboard.press('Enter');
  await expect(card(page)).toContainText('Inset');
  await page.keyboard.press('Enter');
  await settled(page);
  await page.keyboard.press('Control+KeyK');
  await page.keyboard.type('Deliver');
  await page.keyboard.press('Enter');
  await expect(dialog(page)).toBeVisible();
  const { name, bytes } = await saved(page, async () => {
    await dialog(page).getByRole('button', { name: 'Save USDA file' }).focus();
    await page.keyboard.press('Enter');
  });
  const file = { ...bringIn(bytes, name), file: name };
  expect([file.facts.quads, file.facts.borders]).toEqual([96, 0]);
  return file;
});

// night (1), the demo (1), the crease found and applied (4), deliver (2)
wholeJob('by night and at twice the size: the cleat is creased and delivered', { shortest: 8 }, async (page) => {
  // 1280 x 800 at 200 %
  await page.setViewportSize({ width: 640, height: 400 });
  await page.goto('/');
  await page.getByRole('button', { name: 'Night theme' }).click();
  await page.getByRole('button', { name: 'Mooring cleat', exact: true }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);
  await page.keyboard.press('Control+KeyK');
  await page.keyboard.type('crease by angle');
  await page.keyboard.press('Enter');
  await expect(card(page)).toContainText('Crease by angle');
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(card(page)).toContainText('104 edges creased.');
  const file = await deliver(page);
  await briefIsDone(page);
  expect([file.facts.quads, file.mesh.creaseSharpness?.length]).toEqual([104, 104]);
  return file;
});
