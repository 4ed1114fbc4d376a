import { expect, test, type Page } from '@playwright/test';
import {
  apply,
  askewTube,
  middleOf,
  card,
  choose,
  clear,
  drag,
  fill,
  logbook,
  lookFrom,
  openDemo,
  openFile,
  operation,
  reading,
  selection,
  settled,
  startShape,
  told
} from '../workshop.ts';
import { briefIsDone, deliver, wholeJob } from './whole-job.ts';

/** Benches 6 and 7: what is lumpy or askew is evened out, what bulges is found and mended. */

const message = (page: Page) => page.locator('.message');
const spreadOf = async (page: Page) => Number(await reading(page, 'Spread').innerText());

// the demo (1), its bench (1), plain smoothing (3), undo (1), relaxing (3), deliver (2)
wholeJob('a lumpy foot is relaxed with its volume kept, beside what plain smoothing makes of it', { shortest: 12, always: true }, async (page) => {
  await openDemo(page, 'Newt foot');
  await expect(page.getByRole('region', { name: 'Brief' })).toContainText('Spread of edge lengths 0.21 or less');
  await page.keyboard.press('Digit6');
  await operation(page, 'Relax area');
  await choose(page, 'By', 'Plain smoothing');
  await apply(page);
  const percent = async () => Number(/Volume ([+-][\d.]+) %/.exec(await message(page).innerText())![1]);
  await expect(message(page)).toContainText('Volume -');
  expect(await percent()).toBeLessThan(-15);
  await page.keyboard.press('Control+KeyZ');
  await operation(page, 'Relax area');
  await choose(page, 'By', 'Relaxing (volume kept)');
  // the slider previews to and fro
  const slider = card(page).getByLabel('Strength, dragged');
  await slider.fill('80');
  await slider.fill('50');
  await apply(page);
  await expect(message(page)).toContainText(/Volume [+-]0\.00 %/);
  const file = await deliver(page);
  await briefIsDone(page);
  return file;
});

// a shape with a field (5), masks by the brush through the part (5), by a region (6), by a colour (6), relaxed (2), deliver (2)
wholeJob('a masked part is left alone: masked by the brush to the other side, by a region, and by a colour', { shortest: 28 }, async (page) => {
  await startShape(page, 'Box', { 'Faces across': 8, 'Faces up': 8, 'Faces deep': 8 });
  await page.keyboard.press('Digit6');
  const front = await lookFrom(page, 'front');
  // the lid is a region
  await page.keyboard.press('KeyE');
  await page.mouse.click(...front(12, 12, 20));
  await operation(page, 'Set region');
  await choose(page, 'Region of', 'All from the picks up to sharp edges');
  await apply(page);
  await operation(page, 'Set mask');
  await choose(page, 'Mask', 'Regions of the picks');
  await apply(page);
  await expect(message(page)).toContainText('Masked: 81 of');
  // what is painted through the part is added on both sides
  await clear(page);
  const top = await lookFrom(page, 'top');
  await page.keyboard.press('KeyB');
  await fill(page, 'Radius', 6);
  await card(page)
    .getByRole('button', { name: /more setting/ })
    .click();
  await card(page).getByText('Through the part').click();
  await drag(page, top(-5, 20, -5), top(5, 20, -5));
  await expect(message(page)).toContainText(/Masked: 1\d\d of/);
  // and what is painted in a colour
  await page.keyboard.press('Escape');
  await operation(page, 'Paint colour');
  await fill(page, 'Radius', 4);
  await drag(page, top(-8, 20, 8), top(8, 20, 8));
  await expect(message(page)).toContainText('Coloured');
  await clear(page);
  await page.keyboard.press('KeyQ');
  await page.mouse.click(...top(0, 20, 10));
  await operation(page, 'Set mask');
  await choose(page, 'Mask', 'Colours of the picks');
  await choose(page, 'Goes', 'To the mask');
  await apply(page);
  await expect(message(page)).toContainText(/Masked: 1\d\d of/);
  await clear(page);
  await operation(page, 'Relax area');
  await apply(page);
  await expect(message(page)).toContainText('vertices moved');
  const file = await deliver(page);
  // the lid is as flat as it was
  let lid = 0;
  for (let i = 2; i < file.mesh.positions.length; i += 3) if (Math.abs(file.mesh.positions[i] - 20) < 1e-9) lid++;
  expect(lid).toBeGreaterThanOrEqual(81);
  return file;
});

// the file (3), its bench (1), two loops (3), led back (2), deliver (2)
wholeJob('askew rows of a tube and of a bend go back into the flow', { shortest: 11 }, async (page) => {
  const [tube, bend] = [askewTube(), askewTube({ bend: 90, first: 1 + 9 * 24, x: 20 })];
  await openFile(page, test.info().outputPath('tubes.obj'), [...tube.lines, ...bend.lines], 'a cage (to work on)');
  await page.keyboard.press('Digit6');
  const before = await spreadOf(page);
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('KeyW');
  await page.mouse.dblclick(...front(...middleOf(tube.at(4, 0), tube.at(4, 1))));
  await expect(selection(page)).toContainText('24 edges, closed loop');
  await page.keyboard.down('Shift');
  await page.mouse.dblclick(...front(...middleOf(bend.at(4, 0), bend.at(4, 1))));
  await page.keyboard.up('Shift');
  await expect(selection(page)).toContainText('48 edges');
  await page.keyboard.press('KeyC');
  await apply(page);
  await expect.poll(() => spreadOf(page)).toBeLessThan(before);
  await clear(page);
  const file = await deliver(page);
  const { facts, mesh } = file;
  expect([facts.quads, facts.faces, facts.borders, facts.islands]).toEqual([384, 384, 4, 2]);
  // both rows, 0.7 mm off before, lie in their plane, and on their tubes to 0.15 mm
  for (const [first, x] of [
    [0, 0],
    [9 * 24, 20]
  ])
    for (let v = first + 4 * 24; v < first + 5 * 24; v++) {
      const [px, py, pz] = mesh.positions.slice(3 * v, 3 * v + 3);
      expect(Math.abs(py)).toBeLessThan(0.01);
      expect(Math.abs(Math.hypot(px - x, pz) - 5)).toBeLessThan(0.15);
    }
  return file;
});

// a shape with a field (5), a loop twisted (5), led back (2), undone picks (2), a chain of four (6), its bow (3), deliver (2)
wholeJob('a row of a ball that was turned goes back into the flow, and a bow is made between two vertices', { shortest: 24 }, async (page) => {
  await startShape(page, 'Sphere of quads', { 'Faces across': 8 });
  await page.keyboard.press('Digit3');
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('KeyW');
  await page.mouse.dblclick(...front(2, 0, 20));
  await expect(selection(page)).toContainText('32 edges, closed loop');
  const even = await spreadOf(page);
  await page.keyboard.press('KeyX');
  await fill(page, 'About Y', 12);
  await apply(page);
  const askew = await spreadOf(page);
  expect(askew).toBeGreaterThan(even);
  await page.keyboard.press('Digit6');
  await page.keyboard.press('KeyC');
  await apply(page);
  await expect.poll(() => spreadOf(page)).toBeLessThan(askew);
  await clear(page);
  // the shortest way between two vertices, bowed outwards
  await page.keyboard.press('KeyQ');
  await page.mouse.click(...front(-7.5, 13, 14));
  await expect(selection(page)).toContainText('1 vertex');
  await page.mouse.move(...front(7.5, 13, 14));
  await page.keyboard.press('Shift+KeyV');
  await expect(selection(page)).toContainText('6 edges');
  await page.keyboard.press('KeyV');
  await fill(page, 'Bow', 2);
  await apply(page);
  await expect(logbook(page).last()).toContainText('Shape a chain');
  const file = await deliver(page);
  expect([file.facts.quads, file.facts.borders]).toEqual([384, 0]);
  return file;
});

// the demo (1), smooth (1), the check (1), the cut run out (3), its partner (4), each of the braces (3 each), deliver (2)
wholeJob(
  'the bulges of a bent duct are traced to a face of five sides, a triangle and a corner without a brace, and cured',
  { shortest: 18, always: true },
  async (page) => {
    const shows = page.getByRole('list', { name: 'Findings that show' }).getByRole('listitem');
    const asked = (text: string) => page.getByRole('region', { name: 'Brief' }).getByRole('listitem').filter({ hasText: text });
    await openDemo(page, 'Vent elbow');
    await expect(asked('nothing that shows')).not.toHaveClass(/done/);
    await page.keyboard.press('KeyT');
    await page.keyboard.press('Digit7');
    await expect(shows).toHaveCount(3);
    await expect(shows.first()).toContainText(
      /^16 edges bend sharply with nothing to hold them: the smooth surface leaves the flats beside them by /
    );
    await page.keyboard.press('KeyZ');
    await page.keyboard.press('KeyZ');
    await expect(selection(page)).toContainText('1 face');
    await expect(shows.nth(1)).toContainText(/A face of five sides where a cut ends on a bend of 45°: the smooth surface bulges by 0\.\d+ mm\./);
    await expect(shows.nth(1)).toHaveClass(/now/);
    await settled(page);
    await page.keyboard.press('KeyX');
    await expect(card(page)).toContainText('Run cut out');
    await apply(page);
    await expect(shows).toHaveCount(2);
    await page.keyboard.press('Escape');
    await operation(page, 'Fix all of a kind');
    // all of a kind in one go, told before it is done
    await expect(told(page)).toContainText(/1 finding mended: \d+ faces more\..*1 cut that ends in a face before, 0 after\./);
    await apply(page);
    await expect(reading(page, 'N-gons')).toHaveText(/^0/);
    await page.keyboard.press('Escape');
    // the flange, edge by edge as the list has them
    for (let left = await shows.count(); left > 0; left--) {
      await shows.first().getByRole('button').first().click();
      await shows.first().getByRole('button', { name: 'Support loops there' }).click();
      await expect(card(page)).toContainText('Brace');
      await apply(page);
      await page.keyboard.press('Escape');
      await expect(shows).toHaveCount(left - 1);
    }
    await expect(page.getByText('Nothing that shows.')).toBeVisible();
    await expect(asked('nothing that shows')).toHaveClass(/done/);
    await expect(asked('creased or braced')).toHaveClass(/done/);
    const file = await deliver(page);
    await briefIsDone(page);
    expect([file.facts.quads, file.facts.ngons]).toEqual([file.facts.faces, 0]);
    return file;
  }
);
