import { expect, type Page } from '@playwright/test';
import { bringIn, Cage, loopThrough, marshNewt, obj, ply, quadSphere, writeMesh, type PolygonMesh } from '../../../core/src/index.ts';
import { readFileSync } from 'node:fs';
import {
  addClick,
  apply,
  card,
  choose,
  clear,
  dialog,
  drag,
  dropFile,
  fill,
  fromAbove,
  jobMenu,
  logbook,
  lookFrom,
  openDemo,
  operation,
  reading,
  selection,
  settled,
  startShape,
  told
} from '../workshop.ts';
import { briefIsDone, deliver, wholeJob } from './whole-job.ts';

/** Benches 1 and 2: exports and sculpts become cages, by hand and by themselves. */

const demoFile = (name: string): PolygonMesh => bringIn(readFileSync(new URL(`../../static/demo/${name}`, import.meta.url)), name).mesh;

/** Clicks several places, one after the other. */
async function clicks(page: Page, places: readonly [number, number][]): Promise<void> {
  for (const place of places) await page.mouse.click(...place);
}

// the file (1), its unit (1), a new job (1), the bench (1), eight corners by hand (10), the gap filled (5), an edge kept (4), held (4), deliver (2)
wholeJob(
  'an engineer’s export in metres is laid over by hand, filled between, and held in several passes with one kept edge',
  { shortest: 30 },
  async (page) => {
    const housing = demoFile('lamp-housing.ply');
    await page.goto('/');
    await dropFile(page, 'housing.obj', writeMesh({ ...housing, positions: housing.positions.map((x) => x / 1000) }, obj));
    await dialog(page).getByRole('button', { name: 'Use metres' }).click();
    await expect(dialog(page)).toContainText('64.0 × 48.0 × 40.0 mm');
    await dialog(page).getByRole('button', { name: 'As a new job' }).click();
    await page.waitForURL(/\/job\//);
    await settled(page);
    await page.keyboard.press('Digit2');
    const front = await lookFrom(page, 'front');
    await page.keyboard.press('KeyX');
    const at = (x: number, y: number) => front(x, y, 20);
    await clicks(page, [at(-24, -5), at(-15, -5), at(-15, 5), at(-24, 5)]);
    await expect(told(page)).toContainText('+1 face');
    await clicks(page, [at(15, -5), at(24, -5), at(24, 5), at(15, 5)]);
    await expect(told(page)).toContainText('+2 faces');
    await page.keyboard.press('Escape');
    await expect(reading(page, 'Islands')).toHaveText('2');
    await page.keyboard.press('KeyW');
    await page.mouse.click(...at(-15, 0));
    await addClick(page, at(15, 0));
    await page.keyboard.press('Digit5');
    await operation(page, 'Fill between');
    await apply(page);
    await expect(reading(page, 'Islands')).toHaveText('1');
    await clear(page);
    await page.keyboard.press('Digit2');
    await page.mouse.click(...at(-24, 0));
    await operation(page, 'Keep edges');
    await apply(page);
    await clear(page);
    await page.keyboard.press('KeyB');
    await fill(page, 'Passes', 8);
    await fill(page, 'Over it by', 1);
    await apply(page);
    await expect(card(page)).toContainText('2 vertices of kept edges stayed');
    const file = await deliver(page);
    const { facts } = file;
    expect([facts.quads, facts.faces, facts.borders]).toEqual([facts.faces, facts.faces, 1]);
    expect(Math.abs(facts.bounds.max[2] - 21)).toBeLessThan(0.05);
    return file;
  }
);

// the demo (1), the bench (1), two bands with their numbers (9), the weld (2), a third band (4), the row between (5), deliver (2)
wholeJob('two bands over a ridge that just miss are welded, and a row is laid between counts that differ by one', { shortest: 26 }, async (page) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyC');
  await fill(page, 'Width', 5);
  await fill(page, 'Weld within', 1.5);
  await drag(page, at(-3, -12), at(-3, 12), 12);
  await fill(page, 'Quads along', 4);
  await expect(told(page)).toContainText('A band of 4 quads, 4 along.');
  await apply(page);
  await page.keyboard.press('KeyC');
  await drag(page, at(2, -12), at(2, 12), 12);
  await expect(told(page)).toContainText(/5 vertices miss by 3\.\d+ mm at most: weld within 3\.\d+ mm takes them\./);
  await fill(page, 'Weld within', 3.6);
  await apply(page);
  await expect(reading(page, 'Islands')).toHaveText('1');
  await page.keyboard.press('KeyC');
  await fill(page, 'Weld within', 0.5);
  await fill(page, 'Width', 3);
  await drag(page, at(9, -12), at(9, 12), 12);
  await fill(page, 'Quads along', 5);
  await apply(page);
  await expect(reading(page, 'Islands')).toHaveText('2');
  await clear(page);
  await page.keyboard.press('KeyW');
  await page.mouse.click(...at(4.6, 3));
  await addClick(page, at(7.4, 2.4));
  await expect(selection(page)).toContainText('2 edges');
  await page.keyboard.press('Digit5');
  await operation(page, 'Fill between');
  await apply(page);
  await expect(reading(page, 'Islands')).toHaveText('1');
  return deliver(page);
});

// the demo (1), the bench (1), a tube round a leg (8), a row of its rim drawn on (4), quads on the back (7), held (2), deliver (2)
wholeJob('a sculpt with hollows is laid by hand, rings right round its legs included', { shortest: 25 }, async (page) => {
  const at = await fromAbove(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyV');
  await choose(page, 'Symmetric across', 'X = 0');
  await fill(page, 'Vertices round', 10);
  await clicks(page, [at(19, -18), at(20.5, -16.5), at(21.5, -15)]);
  await expect(told(page)).toContainText(/^A tube of 20 quads through 3 loops, /);
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/^40 /);
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyX');
  await clicks(page, [at(-6, -10), at(-6, -4), at(-1, -4), at(-1, -10)]);
  await page.mouse.move(...at(-3.5, 0));
  await expect.poll(() => page.getByTestId('lay-marks').getAttribute('data-over')).toBe('beside');
  await page.mouse.click(...at(-3.5, 0));
  await expect(told(page)).toContainText('+2 faces');
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyB');
  await apply(page);
  const file = await deliver(page);
  const { facts } = file;
  expect([facts.quads, facts.islands]).toEqual([facts.faces, 3]);
  return file;
});

// the demo (1), the bench (1), the strokes (4), its thickness (3), the rim drawn in twice (6), kept (4), another job (3), put on its side (5), deliver (2)
wholeJob(
  'a shaped plate from cross strokes, its rim drawn in several times, is kept as a spare and put into another job',
  { shortest: 30 },
  async (page) => {
    const at = await fromAbove(page);
    await page.keyboard.press('Digit2');
    await operation(page, 'Sections');
    for (const z of [-10, 0, 10]) await drag(page, at(0.5, z), at(5.5, z), 12);
    await fill(page, 'Quads along each', 4);
    await fill(page, 'Quads between two', 3);
    await apply(page);
    await expect(reading(page, 'Quads')).toHaveText(/^24 /);
    await clear(page);
    await page.keyboard.press('Digit3');
    await page.keyboard.press('KeyE');
    await page.keyboard.press('Control+KeyA');
    for (const raise of [0.3, 0.2]) {
      await operation(page, 'Inset');
      await fill(page, 'Width', 0.5);
      await fill(page, 'Raise by', raise);
      await apply(page);
    }
    await expect(reading(page, 'Quads')).toHaveText(/^64 /);
    await clear(page);
    await jobMenu(page, 'Spares');
    const form = dialog(page).getByRole('form', { name: 'Keep a spare' });
    await form.getByLabel('Keep the whole part, under the name').fill('Shoulder plate');
    await form.getByRole('button', { name: 'Keep it' }).click();
    await expect(dialog(page).getByRole('list', { name: 'Spares' })).toContainText('Shoulder plate');
    await startShape(page, 'Box');
    await clear(page);
    await page.keyboard.press('KeyE');
    const top = await lookFrom(page, 'top');
    await page.mouse.click(...top(-5, 20, -5));
    await jobMenu(page, 'Spares');
    await dialog(page).getByRole('button', { name: 'Place it' }).click();
    await expect(dialog(page)).toHaveCount(0);
    await settled(page);
    await page.getByRole('tab', { name: 'Parts' }).click();
    await page.getByRole('list', { name: 'Parts' }).getByRole('button', { name: 'Shoulder plate', exact: true }).click();
    await expect(reading(page, 'Quads')).toHaveText(/^64 /);
    const file = await deliver(page);
    expect([file.facts.quads, file.facts.borders]).toEqual([64, 1]);
    return file;
  }
);

/** The newt in fine triangles, with buttons sunk into its back: 250,000 triangles that run through each other. */
function mess(): PolygonMesh {
  const newt = demoFile('marsh-newt.ply');
  const button = quadSphere(3, 40);
  const meshes = [newt, ...[-9, 0, 9].map((z) => ({ ...button, positions: button.positions.map((x, i) => x + [0, 8, z][i % 3]) }))];
  const positions: number[] = [];
  const [faceStart, faceVertices] = [[0], [] as number[]];
  for (const mesh of meshes) {
    const base = positions.length / 3;
    for (const x of mesh.positions) positions.push(x);
    for (let f = 0; f + 1 < mesh.faceStart.length; f++) {
      const corners = [...mesh.faceVertices.slice(mesh.faceStart[f], mesh.faceStart[f + 1])].map((v) => v + base);
      for (let k = 1; k + 1 < corners.length; k++) {
        faceVertices.push(corners[0], corners[k], corners[k + 1]);
        faceStart.push(faceVertices.length);
      }
    }
  }
  return { positions: Float64Array.from(positions), faceStart: Int32Array.from(faceStart), faceVertices: Int32Array.from(faceVertices) };
}

/** Where a loop must run right round the newt, mm: behind its head, round belly and tail, and above and below the knee of each leg. */
const ROUND: [number, number, number][] = [
  [0, 12, 30],
  [0, 12, -3],
  [0, 10, -58],
  ...[1, -1].flatMap((side): [number, number, number][] => [
    [15 * side, 9, 22],
    [22 * side, 5, 27],
    [14 * side, 9, -18],
    [21 * side, 5, -15]
  ])
];

/** Loops of a mesh that close without crossing themselves, as the means of their vertices, mm. */
function ringsOf(mesh: PolygonMesh): [number, number, number][] {
  const cage = Cage.fromPolygons(mesh);
  const [seen, rings] = [new Set<number>(), [] as [number, number, number][]];
  for (const e of cage.edges()) {
    if (seen.has(e)) continue;
    const { halves, closed, crossings, spiral } = loopThrough(cage, 2 * e);
    for (const h of halves) seen.add(h >> 1);
    const mean = (k: number) => halves.reduce((sum, h) => sum + cage.position(cage.origin[h])[k], 0) / halves.length;
    if (closed && !spiral && crossings.length === 0) rings.push([mean(0), mean(1), mean(2)]);
  }
  return rings;
}

// the file (2), the quads with their count and shells merged (5), the page loaded again (1), deliver (2)
wholeJob('a mess of a quarter of a million triangles becomes 3,000 even quads in one go', { shortest: 10, seconds: 420 }, async (page) => {
  await page.goto('/');
  await dropFile(page, 'mess.ply', writeMesh(mess(), ply));
  await dialog(page).getByRole('button', { name: 'As a new job' }).click({ timeout: 60_000 });
  await page.waitForURL(/\/job\//);
  await settled(page);
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyZ');
  await fill(page, 'Count', 3000);
  await card(page)
    .getByRole('button', { name: /more setting/ })
    .click();
  await card(page).getByText('Merge overlapping shells').click();
  await page.getByRole('button', { name: 'Lay quads' }).click();
  await page.getByRole('button', { name: 'Lay again' }).waitFor({ timeout: 300_000 });
  await expect(reading(page, 'Quads')).toContainText('(100 %)');
  const quads = await reading(page, 'Quads').innerText();
  // what took long is kept, and not computed again
  await expect(logbook(page).last()).toContainText('(stored)');
  await settled(page);
  await page.reload();
  await expect(reading(page, 'Quads')).toHaveText(quads);
  await expect(page.getByRole('button', { name: 'Stop' })).toHaveCount(0);
  const file = await deliver(page);
  const { facts, mesh } = file;
  expect([facts.quads, facts.borders, facts.islands]).toEqual([facts.faces, 0, 1]);
  expect(Math.abs(facts.quads / 3000 - 1)).toBeLessThan(0.1);
  const rings = ringsOf(mesh);
  const without = ROUND.filter((place) => !rings.some((ring) => Math.hypot(...ring.map((x, k) => x - place[k])) < 4));
  expect(without, 'places without a loop right round').toEqual([]);
  return file;
});

// the demo (1), the bench (1), its cage (2), divided (3), held by its smooth surface (4), deliver (2)
wholeJob('a triangulated part is read by its regions, and held until the smooth surface lies on it', { shortest: 13, always: true }, async (page) => {
  await openDemo(page, 'Lamp housing');
  await page.keyboard.press('Digit2');
  await operation(page, 'Cage from regions');
  await expect(told(page)).toContainText('A cage of 96 faces.');
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/^96 /);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit3');
  await operation(page, 'Divide once');
  await apply(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Digit2');
  await page.keyboard.press('KeyB');
  await choose(page, 'Lies on it', 'The smooth surface');
  await apply(page);
  const brief = page.getByRole('region', { name: 'Brief' });
  await expect(brief.getByRole('listitem').filter({ hasText: 'Smooth surface within 0.1 mm' })).toHaveClass(/done/, { timeout: 40_000 });
  const file = await deliver(page);
  await briefIsDone(page);
  expect(file.facts.quads).toBe(file.facts.faces);
  return file;
});

// a shape (3), its regions (2), the cage with two fields (4), deliver (2)
wholeJob('a ring says why it can be no face, and is split', { shortest: 12 }, async (page) => {
  await startShape(page, 'Cylinder');
  await page.keyboard.press('Digit2');
  await operation(page, 'Find regions');
  await apply(page);
  await page.keyboard.press('Escape');
  await operation(page, 'Cage from regions');
  await choose(page, 'Regions', 'As they are set');
  await fill(page, 'Corners of round borders', 0);
  await expect(card(page)).toContainText('It runs round as a ring: two cuts across it make faces of it.');
  await fill(page, 'Corners of round borders', 6);
  await apply(page);
  await expect(reading(page, 'Quads')).toHaveText(/100 %/);
  const file = await deliver(page);
  expect([file.facts.quads, file.facts.borders]).toEqual([file.facts.faces, 0]);
  return file;
});

// the file (3), the bench (1), the scheme (4), deliver with a level (4)
wholeJob('triangles are smoothed as they are', { shortest: 12 }, async (page) => {
  await page.goto('/');
  await dropFile(page, 'newt.obj', writeMesh(marshNewt(0.9), obj));
  await dialog(page).getByText('a cage (to work on)').click();
  await dialog(page).getByRole('button', { name: 'As a new job' }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);
  await page.keyboard.press('Digit4');
  await operation(page, 'Level plan');
  await card(page)
    .getByRole('button', { name: /more setting/ })
    .click();
  await choose(page, 'Scheme', 'Loop (triangles)');
  await apply(page);
  const triangles = Number((await reading(page, 'Triangles').innerText()).replaceAll(',', ''));
  const file = await deliver(page, 'USDA', async () => {
    await dialog(page).getByText('Subdivided', { exact: true }).click();
    await dialog(page).getByLabel('Level', { exact: true }).selectOption('1');
  });
  expect([file.facts.triangles, file.facts.faces]).toEqual([4 * triangles, 4 * triangles]);
  return file;
});
