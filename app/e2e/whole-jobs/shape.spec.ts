import { expect, test } from '@playwright/test';
import {
  addClick,
  apply,
  bevelRidges,
  card,
  clear,
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
  thinBellows
} from '../workshop.ts';
import { briefIsDone, deliver, wholeJob } from './whole-job.ts';

/** Bench 3: cages are cut, sliced, thinned out and led elsewhere. */

// a box (3), its bench, faces from three sides (8), delete (1), corners from two sides (5), the face and its new point (6), the grid (4), deliver (3)
wholeJob('a square notch is cut out of a corner, its walls drawn from picked and new points', { shortest: 30 }, async (page) => {
  await startShape(page, 'Box', { Width: 40, Height: 40, Depth: 40, 'Faces across': 4, 'Faces up': 4, 'Faces deep': 4 });
  await page.keyboard.press('Digit3');
  // the outermost face of three sides goes
  await page.keyboard.press('KeyE');
  const front = await lookFrom(page, 'front');
  await page.mouse.click(...front(15, 15, 20));
  const top = await lookFrom(page, 'top');
  await addClick(page, top(15, 20, 15));
  const right = await lookFrom(page, 'right');
  await addClick(page, right(20, 15, 15));
  await expect(selection(page)).toContainText('3 faces');
  await page.keyboard.press('Delete');
  await settled(page);
  await expect(reading(page, 'Borders')).toHaveText('1');
  // its floor: three corners are picked, the fourth is new, inside the block
  await page.keyboard.press('KeyQ');
  await page.mouse.click(...right(20, 10, 10));
  await lookFrom(page, 'front');
  await addClick(page, front(20, 10, 20));
  await addClick(page, front(10, 10, 20));
  await expect(selection(page)).toContainText('3 vertices');
  await operation(page, 'Draw face');
  await card(page).getByLabel('New points on', { exact: true }).selectOption({ label: 'The plane of three corners' });
  await lookFrom(page, 'top');
  await page.keyboard.down('Alt');
  await page.mouse.click(...top(10, 10, 10));
  await page.keyboard.up('Alt');
  await expect(card(page)).toContainText('1 point so far');
  await apply(page);
  await clear(page);
  // both walls at once, from the border that is left
  await page.keyboard.press('Digit5');
  await page.keyboard.press('KeyZ');
  await card(page).getByLabel('Continues').selectOption({ label: 'Panel corner, panels as planes' });
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText('96 (100 %)');
  await expect(reading(page, 'Corner angles')).toHaveText(/^(89|90)° – (90|91)°$/);
  const file = await deliver(page, 'OBJ');
  expect([file.facts.quads, file.facts.borders]).toEqual([96, 0]);
  return file;
});

// a plane with four fields (8), four faces (5), inset (2), delete (1), two edges (3), swing twice (4), deliver (2)
wholeJob('a loop round an opening is joined with one that runs past it', { shortest: 28 }, async (page) => {
  await startShape(page, 'Plane', { Width: 60, Depth: 60, 'Faces across': 6, 'Faces deep': 6 });
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyE');
  const top = await lookFrom(page, 'top');
  await page.mouse.click(...top(-5, 0, -5));
  for (const [x, z] of [
    [5, -5],
    [5, 5],
    [-5, 5]
  ])
    await addClick(page, top(x, 0, z));
  await operation(page, 'Inset');
  await fill(page, 'Width', 4);
  await apply(page);
  await page.keyboard.press('Delete');
  await settled(page);
  // a loop is added round the opening
  await page.keyboard.press('KeyW');
  await page.mouse.click(...top(0, 0, -8));
  await page.keyboard.press('KeyA');
  await apply(page);
  await clear(page);
  await page.mouse.dblclick(...top(-4, 0, -8));
  await expect(selection(page)).toContainText('8 edges, closed loop');
  await clear(page);
  // an edge between it and the loop that runs past is swung: it leaves the ring there
  await page.mouse.click(...top(0, 0, -9));
  await operation(page, 'Swing edge');
  await expect(page.getByTestId('forecast')).toContainText('poles');
  await apply(page);
  await clear(page);
  await page.mouse.dblclick(...top(-9, 0, 0));
  await expect(selection(page)).not.toContainText('closed loop');
  const file = await deliver(page);
  expect([file.facts.triangles, file.facts.ngons, file.facts.borders]).toEqual([0, 0, 2]);
  return file;
});

// a shape with two fields (6), a loop (3), loops beside it (3), a slide (3), every third of them found (6), the pull (3), the first entry again (3),
// what does not fit taken out (2), deliver (2)
wholeJob(
  'loops go beside a row at typed shares, one is slid, every third pulled in; an earlier entry is opened, later ones are mended',
  { shortest: 34 },
  async (page) => {
    await startShape(page, 'Cylinder', { Sides: 12, 'Faces up': 9 });
    await page.keyboard.press('Digit3');
    await page.keyboard.press('KeyW');
    const front = await lookFrom(page, 'front');
    await page.mouse.dblclick(...front(2, 2.22, 0));
    await expect(selection(page)).toContainText('closed loop');
    await page.keyboard.press('KeyA');
    await card(page).getByLabel('Where', { exact: true }).selectOption('both');
    await fill(page, 'Fraction', 0.3);
    await apply(page);
    await page.keyboard.press('KeyS');
    await fill(page, 'Fraction', 0.2);
    await apply(page);
    await clear(page);
    // every third loop round the tube: found from one edge along it
    await page.mouse.click(...front(0.2, -15.5, 0));
    await page.getByText('Find and pick').click();
    await card(page).getByLabel('What to find').selectOption({ label: 'Every N-th loop from the picked edge' });
    await card(page).getByRole('spinbutton').first().fill('3');
    await card(page).getByRole('button', { name: 'Pick', exact: true }).click();
    await expect(selection(page)).toContainText(/\d+ edges/);
    await page.keyboard.press('KeyC');
    await fill(page, 'X', 90);
    await fill(page, 'Z', 90);
    await apply(page);
    await clear(page);
    // a row more: the loop was beside one that is not there any more
    await page.getByRole('button', { name: 'Edit entry 1' }).click();
    await fill(page, 'Faces up', 10);
    await page.keyboard.press('Escape');
    const banner = page.getByRole('status').filter({ hasText: 'fit any more' });
    await expect(banner).toContainText('3 entries do not fit any more');
    const again = async (entry: number, pick: () => Promise<void>) => {
      await banner.getByRole('button', { name: `Pick again for number ${entry}` }).click();
      await settled(page);
      await pick();
      await page.getByRole('button', { name: 'Use what is picked' }).click();
      await settled(page);
    };
    await again(2, () => page.mouse.dblclick(...front(2, 4, 0)));
    await again(3, async () => {
      await page.mouse.dblclick(...front(2, 4 + 4 * 0.3, 0));
      await page.keyboard.down('Shift');
      await page.mouse.dblclick(...front(2, 4 - 4 * 0.3, 0));
      await page.keyboard.up('Shift');
    });
    await again(4, () => page.mouse.dblclick(...front(2, -12, 0)));
    await expect(banner).toHaveCount(0);
    await expect(logbook(page)).toHaveCount(4);
    const file = await deliver(page);
    expect([file.facts.quads, file.facts.ngons, file.facts.borders]).toEqual([12 * 12, 2, 0]);
    return file;
  }
);

// a shape with two fields (7), an edge (2), thin out (2), undo (1), the same with rims (4), deliver (2)
wholeJob('a tube of 96 sides is halved, once whole and once with its rims as they are', { shortest: 20 }, async (page) => {
  await startShape(page, 'Cylinder', { Sides: 96, 'Faces up': 6 });
  await page.keyboard.press('Digit3');
  // the caps go: a tube
  await page.keyboard.press('KeyE');
  const top = await lookFrom(page, 'top');
  await page.mouse.click(...top(0, 20, 0));
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('KeyW');
  const front = await lookFrom(page, 'front');
  await page.mouse.click(...front(0.6, 20, 20));
  await operation(page, 'Thin out');
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText(`${48 * 6}`);
  await page.keyboard.press('Control+KeyZ');
  await clear(page);
  await page.mouse.click(...front(0.6, 20, 20));
  await operation(page, 'Thin out');
  await card(page).getByText('Rims keep all their vertices').click();
  await card(page).getByText('Transition quads at the rims').click();
  await apply(page);
  const file = await deliver(page);
  expect([file.facts.triangles, file.facts.ngons, file.facts.borders]).toEqual([0, 1, 1]);
  return file;
});

/** Rows of quads 10 mm wide, one of which is cut into two triangles. */
function sheetWithTriangles(): string[] {
  const n = 6;
  const lines = Array.from({ length: (n + 1) ** 2 }, (_, i) => `v ${10 * (i % (n + 1))} ${i % 3 === 0 ? 1 : 0} ${10 * Math.floor(i / (n + 1))}`);
  for (let i = 0; i < n * n; i++) {
    const a = i + Math.floor(i / n) + 1;
    const [b, c, d] = [a + n + 1, a + n + 2, a + 1];
    lines.push(...(i === 14 ? [`f ${a} ${b} ${c}`, `f ${a} ${c} ${d}`] : [`f ${a} ${b} ${c} ${d}`]));
  }
  return lines;
}

// the file (3), the triangle (2), and each of six ways: the operation, the way, apply, undo (4); deliver (2)
wholeJob('a triangle is made a quad in every way there is', { shortest: 32 }, async (page) => {
  await openFile(page, test.info().outputPath('sheet.obj'), sheetWithTriangles(), 'a cage (to work on)');
  await page.keyboard.press('Digit3');
  const triangles = reading(page, 'Triangles');
  await expect(triangles).toHaveText(/^2/);
  const ways = ['run', 'dissolve', 'cutDissolve', 'double', 'collapse', 'divide', 'best'];
  const found: string[] = [];
  for (const way of ways) {
    await triangles.getByRole('button').click();
    await operation(page, 'Triangle to quad');
    await card(page).getByLabel('Way', { exact: true }).selectOption(way);
    const applying = card(page).getByRole('button', { name: 'Apply' });
    await applying.click();
    await settled(page);
    found.push(await triangles.innerText());
    if (way !== 'best') await page.keyboard.press('Control+KeyZ');
    await clear(page);
  }
  // what takes two triangles leaves none; what takes one leaves the other
  expect(found).toEqual(['1', '0', '1', '1', '0', '0', '0']);
  const file = await deliver(page);
  expect(file.facts.triangles).toBe(0);
  return file;
});

// the demo (1), slices with three fields (6), all quads (3), inset (4), delete (1), twist (4), the curve (8), deliver (2)
wholeJob(
  'a panel is sliced into square cells at its own angle, opened, twisted and laid along a curve',
  { shortest: 30, always: true },
  async (page) => {
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
    // a frame of four quads round each of 64 holes, twisted and laid along the curve, none turned over
    const file = await deliver(page);
    await briefIsDone(page);
    const { facts } = file;
    expect([facts.quads, facts.triangles, facts.ngons, facts.borders, facts.islands]).toEqual([256, 0, 0, 65, 1]);
    expect(facts.bounds.max[0] - facts.bounds.min[0]).toBeGreaterThan(250);
    expect(facts.bounds.max[2] - facts.bounds.min[2]).toBeGreaterThan(60);
    return file;
  }
);

// a shape with three fields (9), slices with a field (4), deliver (2)
wholeJob('a solid is sliced from all sides', { shortest: 15 }, async (page) => {
  await startShape(page, 'Box', { 'Faces across': 1, 'Faces up': 1, 'Faces deep': 1 });
  await page.keyboard.press('Digit3');
  await operation(page, 'Slice set');
  await card(page).getByLabel('Along', { exact: true }).selectOption('all');
  await fill(page, 'Planes', 4);
  await apply(page);
  const file = await deliver(page);
  expect([file.facts.quads, file.facts.faces, file.facts.borders]).toEqual([150, 150, 0]);
  return file;
});

// a shape (5), smooth on and cage off (2), a push (5), drawn out (5), scaled (4), cage on (1), deliver (2)
wholeJob('a smooth form is pushed, drawn out and scaled, in cage view and in smooth view', { shortest: 24 }, async (page) => {
  await startShape(page, 'Sphere of quads', { 'Faces across': 6 });
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyT');
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('KeyQ');
  await page.mouse.click(...front(0, 0, 20));
  await expect(selection(page)).toContainText('1 vertex');
  await page.keyboard.press('KeyZ');
  await card(page).getByLabel('Falloff', { exact: true }).selectOption({ label: 'Along the surface' });
  await fill(page, 'Radius', 14);
  await fill(page, 'Z', -5);
  await apply(page);
  await clear(page);
  // without the cage: faces are picked on the smooth surface
  await page.keyboard.press('KeyY');
  const top = await lookFrom(page, 'top');
  await page.keyboard.press('KeyE');
  await page.mouse.click(...top(2, 18, 2));
  await expect(selection(page)).toContainText('1 face');
  await page.keyboard.press('KeyF');
  await fill(page, 'Distance', 8);
  await apply(page);
  await page.keyboard.press('KeyC');
  await fill(page, 'All three', 60);
  await apply(page);
  await page.keyboard.press('KeyY');
  const file = await deliver(page);
  expect([file.facts.quads, file.facts.faces, file.facts.borders]).toEqual([220, 220, 0]);
  return file;
});

// the demo (1), its bench (1), an edge (3), thin out with its rims (4), three ridges (5), the bevel with two fields (4), deliver (2)
wholeJob('bellows are thinned out to 42 sides with their rims kept, and the ridges bevelled', { shortest: 20 }, async (page) => {
  const front = await thinBellows(page);
  await card(page).getByText('Transition quads at the rims').click();
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText('840 (100 %)');
  await bevelRidges(page, front);
  await expect(reading(page, 'Quads')).toContainText('1,176 (100 %)');
  await expect(logbook(page).last()).toContainText('Bevel');
  const file = await deliver(page);
  await briefIsDone(page);
  expect([file.facts.quads, file.facts.borders]).toEqual([1176, 2]);
  return file;
});
