import { expect } from '@playwright/test';
import {
  addClick,
  apply,
  card,
  choose,
  clear,
  fill,
  lookFrom,
  openDemo,
  operation,
  reading,
  readings,
  selection,
  settled,
  startShape,
  told
} from '../workshop.ts';
import { briefIsDone, deliver, wholeJob } from './whole-job.ts';

/** Benches 4 and 5: edges are kept sharp, holes filled, what is apart bridged. */

// a box with three fields (6), all its edges (3), the brace (3), a second row (1), undone (1), creases (3), its corners (5), deliver (2)
wholeJob('a block is kept sharp by loops, sharper by a second row, and then the same by creases and corners', { shortest: 26 }, async (page) => {
  await startShape(page, 'Box', { 'Faces across': 1, 'Faces up': 1, 'Faces deep': 1 });
  await page.keyboard.press('Digit4');
  await page.keyboard.press('KeyT');
  await page.keyboard.press('KeyW');
  await page.keyboard.press('Control+KeyA');
  await expect(selection(page)).toContainText('12 edges');
  await page.keyboard.press('KeyX');
  await fill(page, 'Brace width', 2);
  await expect(told(page)).toContainText('the smooth surface moves by up to');
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/^54 \(100 %\)/);
  // the last card is live: a second row without doing it again
  await choose(page, 'Loops a side', 'Two, the second half as wide');
  await expect(reading(page, 'Quads')).toHaveText(/^150 \(100 %\)/);
  await settled(page);
  const looped = await deliver(page);
  expect([looped.facts.quads, looped.mesh.creaseSharpness?.length ?? 0]).toEqual([150, 0]);
  await page.keyboard.press('Control+KeyZ');
  await expect(reading(page, 'Quads')).toHaveText(/^6 /);
  await clear(page);
  await page.keyboard.press('Control+KeyA');
  await page.keyboard.press('KeyZ');
  await fill(page, 'Sharpness', 6);
  await apply(page);
  await clear(page);
  await page.keyboard.press('KeyQ');
  await page.keyboard.press('Control+KeyA');
  await page.keyboard.press('KeyZ');
  await apply(page);
  const file = await deliver(page);
  expect([file.facts.quads, file.mesh.creaseSharpness?.length, file.mesh.cornerSharpness?.length]).toEqual([6, 12, 8]);
  return file;
});

// the demo (1), its bench (1), both borders (2), the bridge with three fields (6), deliver (2)
wholeJob('a round horn is put on a square flange, counts matched, one rim braced', { shortest: 12 }, async (page) => {
  await openDemo(page, 'Horn throat');
  await page.keyboard.press('Digit5');
  const borders = page.getByRole('list', { name: 'Borders' });
  await borders.getByRole('button', { name: '12 edges, 200.0 mm, even, 4 corners', exact: true }).click();
  await borders.getByRole('button', { name: '20 edges, 112.6 mm, even, round', exact: true }).click({ modifiers: ['Shift'] });
  await expect(selection(page)).toContainText('32 edges');
  await page.keyboard.press('KeyX');
  await card(page)
    .getByRole('button', { name: /more settings/ })
    .click();
  await fill(page, 'Rows', 3);
  await fill(page, 'Tension', 1);
  await fill(page, 'Brace the squarer rim', 1.5);
  await apply(page);
  await expect(card(page)).toContainText('12 edges braced at 1.5 mm');
  const file = await deliver(page);
  await briefIsDone(page);
  const { facts } = file;
  expect([facts.triangles, facts.ngons, facts.borders, facts.islands]).toEqual([0, 0, 2, 1]);
  return file;
});

// a box (3), four faces (6), inset (3), drawn out (3), made round (2), deliver (2)
wholeJob('round on square by one extrusion that is made round', { shortest: 19 }, async (page) => {
  await startShape(page, 'Box');
  await page.keyboard.press('Digit3');
  const top = await lookFrom(page, 'top');
  await page.keyboard.press('KeyE');
  await page.mouse.click(...top(-5, 20, -5));
  for (const [x, z] of [
    [5, -5],
    [5, 5],
    [-5, 5]
  ])
    await addClick(page, top(x, 20, z));
  await operation(page, 'Make round');
  await apply(page);
  await page.keyboard.press('KeyF');
  await fill(page, 'Distance', 15);
  await apply(page);
  const file = await deliver(page);
  const { facts } = file;
  expect([facts.quads, facts.faces, facts.borders]).toEqual([104, 104, 0]);
  // the top lies on a circle
  const radii = new Set<string>();
  const { positions } = file.mesh;
  for (let i = 0; i < positions.length; i += 3)
    if (positions[i + 1] > 34.9 && Math.hypot(positions[i], positions[i + 2]) > 5) radii.add(Math.hypot(positions[i], positions[i + 2]).toFixed(2));
  expect(radii.size).toBe(1);
  return file;
});

// the demo (1), all its borders (2), the grids (3), its triangles and n-gons mended (10), deliver (2)
wholeJob('the buoy with holes even, odd and nested, is filled; what is no quad is led away', { shortest: 18 }, async (page) => {
  await openDemo(page, 'Channel buoy');
  await page.keyboard.press('Digit5');
  await readings(page).getByRole('row').filter({ hasText: 'Borders' }).getByRole('button').click();
  await expect(selection(page)).toContainText('44 edges');
  await page.keyboard.press('KeyZ');
  await fill(page, 'Swell', 0.8);
  await apply(page);
  await expect(reading(page, 'Borders')).toHaveText('0');
  await clear(page);
  await page.keyboard.press('Digit7');
  for (const kind of ['N-gons', 'Triangles']) {
    await operation(page, 'Fix all of a kind');
    await choose(page, 'Findings', kind);
    await expect(told(page)).toContainText('mended');
    await apply(page);
    await clear(page);
  }
  await expect(reading(page, 'Quads')).toContainText('(100 %)');
  const file = await deliver(page);
  await briefIsDone(page);
  expect([file.facts.borders, file.facts.islands, file.facts.quads]).toEqual([0, 1, file.facts.faces]);
  return file;
});

// a box (3), three holes (10), the grid (4), a point on the rim (3), the face (3), the cut (5), triangles (3), deliver (2)
wholeJob('an even hole gets a grid, an odd one a face that is cut by hand, a third one triangles', { shortest: 33 }, async (page) => {
  await startShape(page, 'Box');
  await page.keyboard.press('Digit5');
  await page.keyboard.press('KeyE');
  const front = await lookFrom(page, 'front');
  await page.mouse.click(...front(-5, -5, 20));
  for (const [x, y] of [
    [5, -5],
    [5, 5],
    [-5, 5]
  ])
    await addClick(page, front(x, y, 20));
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('KeyZ');
  await expect(told(page)).toContainText('faces');
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/^96 \(100 %\)/);
  await clear(page);
  const right = await lookFrom(page, 'right');
  await page.mouse.click(...right(20, 5, 5));
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('KeyW');
  await page.mouse.click(...right(20, 10, 5));
  await page.keyboard.press('Digit3');
  await operation(page, 'Point on edge');
  await apply(page);
  await clear(page);
  await page.keyboard.press('Digit5');
  await page.keyboard.press('KeyB');
  await apply(page);
  await clear(page);
  // from the new point straight through the face and the one beside it
  await page.keyboard.press('KeyG');
  await page.mouse.click(...right(20, 20, 5));
  await page.mouse.click(...right(20, 10, 5));
  await page.mouse.click(...right(20, 0, 5));
  await apply(page);
  await clear(page);
  await lookFrom(page, 'top');
  const top = await lookFrom(page, 'top');
  await page.keyboard.press('KeyE');
  await page.mouse.click(...top(-5, 20, -5));
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('KeyV');
  await apply(page);
  const file = await deliver(page);
  expect([file.facts.borders, file.facts.triangles]).toEqual([0, 2]);
  return file;
});
