import { expect, test, type Page } from '@playwright/test';
import {
  apply,
  card,
  logbook,
  lookFrom,
  openDemo,
  openFile,
  operation,
  reading,
  readings,
  selection,
  settled,
  standMiddle,
  startShape
} from './workshop.ts';

const borders = (page: Page) => page.getByRole('list', { name: 'Borders' });

/** An OBJ file brought in as the cage of a new job, at the Fill bench. */
async function openCage(page: Page, path: string, lines: string[]): Promise<void> {
  await openFile(page, path, lines, 'a cage (to work on)');
  await page.keyboard.press('Digit5');
}

/** A box of so many faces along each side, without those that do not stay. */
function box(n: number, stays: (centre: number[]) => boolean): string[] {
  const lines: string[] = [];
  const number = new Map<string, number>();
  const vertex = (p: number[]) => {
    const name = p.join(' ');
    if (!number.has(name)) {
      number.set(name, number.size + 1);
      lines.push(`v ${name}`);
    }
    return number.get(name)!;
  };
  for (let axis = 0; axis < 3; axis++)
    for (const end of [0, n])
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) {
          const at = (u: number, v: number) => {
            const p = [0, 0, 0];
            [p[axis], p[(axis + 1) % 3], p[(axis + 2) % 3]] = [end, u, v];
            return p;
          };
          const corners = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
          if (!stays([0, 1, 2].map((k) => corners.reduce((sum, p) => sum + p[k], 0) / 4))) continue;
          const face = corners.map(vertex);
          lines.push(`f ${(end === n ? face : face.reverse()).join(' ')}`);
        }
  return lines;
}

/** Where a grip's middle is, in page pixels. */
async function middleOf(page: Page, name: string): Promise<[number, number]> {
  const r = (await page.getByRole('slider', { name }).boundingBox())!;
  return [r.x + r.width / 2, r.y + r.height / 2];
}

/** Drags a grip to a place in page pixels. */
async function dragGrip(page: Page, name: string, [x, y]: [number, number]): Promise<void> {
  await page.mouse.move(...(await middleOf(page, name)));
  await page.mouse.down();
  await page.mouse.move(x + 3, y + 3);
  await page.mouse.move(x, y);
  await page.mouse.up();
}

test('a row is laid between two borders and drawn back by its end; a link of a bridge is dragged along the rim', async ({ page }, info) => {
  // two sheets of eight quads, their long sides facing each other
  const lines = [0, 6].flatMap((z) => Array.from({ length: 18 }, (_, i) => `v ${2 * (i % 9)} 0 ${z + 2 * Math.floor(i / 9)}`));
  for (const s of [0, 18]) for (let i = 1; i < 9; i++) lines.push(`f ${[i, i + 9, i + 10, i + 1].map((v) => v + s).join(' ')}`);
  await openCage(page, info.outputPath('sheets.obj'), lines);
  const at = await lookFrom(page, 'top');
  await page.mouse.click(...at(15, 0, 2));
  await page.keyboard.down('Shift');
  await page.mouse.click(...at(15, 0, 6));
  await page.keyboard.up('Shift');
  await expect(selection(page)).toContainText('2 edges');
  await operation(page, 'Lay along');
  await expect(card(page)).toContainText('8 quads laid');
  await dragGrip(page, 'End of the row', at(8.3, 0, 4.5));
  await expect(card(page).getByLabel('Quads', { exact: true })).toHaveValue('4');
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText('20');
  await page.keyboard.press('Control+z');
  await expect(reading(page, 'Borders')).toHaveText('2');

  await readings(page).getByRole('row').filter({ hasText: 'Borders' }).getByRole('button').click();
  await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
  await page.keyboard.press('KeyX');
  const offset = card(page).getByLabel('Start offset', { exact: true });
  await expect(offset).toHaveValue('0');
  const best = await middleOf(page, 'End of the first link');
  await page.getByRole('slider', { name: 'End of the first link' }).press('ArrowRight');
  await expect(offset).toHaveValue('1');
  await dragGrip(page, 'End of the first link', best);
  await expect(offset).toHaveValue('0');
});

test('the holes of the channel buoy, even, odd and nested, are refused together with the reason, then filled without an n-gon more', async ({
  page
}) => {
  await openDemo(page, 'Channel buoy');
  await page.keyboard.press('Digit5');
  await page.keyboard.press('KeyZ');
  await expect(page.getByText(/Quad grid: No border is picked; there are 7: .*even.*odd/)).toBeVisible();
  await expect(reading(page, 'N-gons')).toHaveText('3');
  await readings(page).getByRole('row').filter({ hasText: 'Borders' }).getByRole('button').click();
  await expect(selection(page)).toContainText('44 edges');
  await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
  await page.keyboard.press('KeyZ');
  await expect(card(page).getByRole('heading', { name: 'Quad grid' })).toBeVisible();
  await card(page).getByLabel('Swell', { exact: true }).fill('0.8');
  await card(page).getByLabel('Swell', { exact: true }).press('Tab');
  await apply(page);
  await expect(page.getByRole('navigation', { name: 'Benches' })).toContainText('closed');
  await expect(card(page)).toContainText('an island of 4 edges in it: a ring of');
  await expect(reading(page, 'N-gons')).toHaveText('3');
});

test('a recessed box corner is closed as a grid, with the panels beside it going on as planes', async ({ page }, info) => {
  await openCage(
    page,
    info.outputPath('corner.obj'),
    box(4, (c) => c.some((x) => x < 2))
  );
  await expect(reading(page, 'Quads')).toContainText('84');
  await borders(page)
    .getByRole('button', { name: /^Fill: 12 edges/ })
    .click();
  await card(page).getByLabel('Continues').selectOption({ label: 'Panel corner, panels as planes' });
  await apply(page);
  await expect(reading(page, 'Quads')).toContainText('96 (100 %)');
  await expect(page.getByRole('navigation', { name: 'Benches' })).toContainText('closed');
  // a sharp corner: every face lies in one of the box's planes, and is square
  await expect(reading(page, 'Corner angles')).toHaveText(/^(89|90)° – (90|91)°$/);
});

test('an odd rim is told with three ways and their cost, and each of them closes it', async ({ page }, info) => {
  // a tube of nine sides, open at both ends
  const lines: string[] = [];
  for (const y of [0, 2, 4, 6])
    for (let i = 0; i < 9; i++) lines.push(`v ${5 * Math.cos((2 * Math.PI * i) / 9)} ${y} ${5 * Math.sin((2 * Math.PI * i) / 9)}`);
  for (let r = 0; r < 3; r++)
    for (let i = 1; i < 10; i++) lines.push(`f ${9 * r + i} ${9 * r + 9 + i} ${9 * r + 10 + (i % 9)} ${9 * r + 1 + (i % 9)}`);
  await openCage(page, info.outputPath('tube.obj'), lines);
  const triangles: Record<string, string> = {
    'Leave one triangle where it is flattest': '1',
    'Run a strip to its odd partner': '0',
    'Weld two neighbours': '1'
  };
  for (const [way, left] of Object.entries(triangles)) {
    await borders(page)
      .getByRole('button', { name: /^Fill: 9 edges/ })
      .first()
      .click();
    const ways = card(page).getByRole('list', { name: 'Ways' });
    await expect(ways).toContainText('across 3 faces to the border at');
    await ways.getByRole('button', { name: way }).click();
    await expect(ways.getByRole('button', { name: way })).toHaveAttribute('aria-pressed', 'true');
    await apply(page);
    await expect(reading(page, 'Borders')).toHaveText('1');
    await expect(reading(page, 'Triangles')).toHaveText(left);
    await page.keyboard.press('Control+z');
    await expect(reading(page, 'Borders')).toHaveText('2');
  }
});

test('the horn throat: both counts are seen, the square rim is bridged to the round one and braced alone', async ({ page }) => {
  await openDemo(page, 'Horn throat');
  await page.keyboard.press('Digit5');
  await expect(page.getByLabel('Edges of the borders')).toHaveText(/12.*12.*20.*20/);
  await borders(page).getByRole('button', { name: '12 edges, 200.0 mm, even, 4 corners', exact: true }).click();
  await expect(selection(page)).toContainText('12 edges, closed loop');
  await borders(page)
    .getByRole('button', { name: '20 edges, 112.6 mm, even, round', exact: true })
    .click({ modifiers: ['Shift'] });
  await expect(selection(page)).toContainText('32 edges');
  await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
  await page.keyboard.press('KeyX');
  await card(page).getByLabel('Unequal counts').selectOption({ label: 'Stop' });
  await expect(card(page).getByRole('alert')).toContainText('have 12 and 20 edges. Add 8 loops on the side with fewer edges');
  await card(page).getByLabel('Unequal counts').selectOption({ label: 'Quads that match the edge counts' });
  await card(page)
    .getByRole('button', { name: /more settings/ })
    .click();
  for (const [label, value] of [
    ['Rows', '3'],
    ['Tension', '1'],
    ['Brace the squarer rim', '1.5']
  ]) {
    await card(page).getByLabel(label, { exact: true }).fill(value);
    await card(page).getByLabel(label, { exact: true }).press('Tab');
  }
  await apply(page);
  await expect(reading(page, 'Borders')).toHaveText('2');
  await expect(reading(page, 'Triangles')).toHaveText('0');
  await expect(reading(page, 'N-gons')).toHaveText('0');
  await expect(card(page)).toContainText('12 edges braced at 1.5 mm');
});

test('several pairs are bridged at once', async ({ page }, info) => {
  // two blocks with a square hole in each of two sides that face each other
  const hole = (c: number[], side: number) => c[0] === side && c[1] > 1 && c[1] < 3 && (c[2] < 1 || c[2] > 3);
  const one = box(4, (c) => !hole(c, 4));
  const other = box(4, (c) => !hole(c, 0));
  const count = one.filter((line) => line.startsWith('v')).length;
  const moved = other.map((line) => {
    const [kind, ...numbers] = line.split(' ');
    return kind === 'v' ? `v ${Number(numbers[0]) + 6} ${numbers[1]} ${numbers[2]}` : `f ${numbers.map((n) => Number(n) + count).join(' ')}`;
  });
  await openCage(page, info.outputPath('blocks.obj'), [...one, ...moved]);
  await expect(reading(page, 'Borders')).toHaveText('4');
  await readings(page).getByRole('row').filter({ hasText: 'Borders' }).getByRole('button').click();
  await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
  await page.keyboard.press('KeyX');
  await apply(page);
  await expect(page.getByRole('navigation', { name: 'Benches' })).toContainText('closed');
  await expect(reading(page, 'Quads')).toContainText('(100 %)');
  await expect(reading(page, 'Islands')).toHaveText('1');
});

test('what may take long is previewed and done in the background', async ({ page }) => {
  await startShape(page, 'Cylinder', { Sides: 64 });
  await page.keyboard.press('KeyE');
  const { x, y } = await standMiddle(page);
  const look = await lookFrom(page, 'top');
  await page.mouse.click(...look(0, 20, 5));
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('Digit5');
  await page.mouse.move(x, y);
  await page.keyboard.press('KeyZ');
  await expect(page.getByTestId('forecast')).toContainText('faces.');
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await page.getByRole('tab', { name: 'Logbook' }).click();
  await expect(logbook(page)).toHaveCount(3);
  await expect(page.getByText(/64 edges, .* faces\./).first()).toBeVisible();
  await settled(page);
});

test('the corners of a grid are dragged along the border, its counts typed on its sides', async ({ page }) => {
  await startShape(page, 'Cylinder', { Sides: 16 });
  await page.keyboard.press('KeyE');
  const look = await lookFrom(page, 'top');
  await page.mouse.click(...look(0, 20, 5));
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('Digit5');
  await page.keyboard.press('Escape');
  await page.keyboard.press('KeyZ');
  await expect(page.getByRole('slider', { name: /^Corner \d of the grid$/ })).toHaveCount(4);
  const first = page.getByRole('spinbutton', { name: 'Edges on the first side' });
  await expect(first).toHaveValue('4');
  await page.getByRole('slider', { name: 'Corner 2 of the grid' }).press('ArrowRight');
  await expect(first).toHaveValue('5');
  await expect(page.getByRole('spinbutton', { name: 'Edges on the second side' })).toHaveValue('3');
  await first.fill('2');
  await first.press('Tab');
  await expect(card(page).getByLabel('Edges on one side', { exact: true })).toHaveValue('2');
  await first.fill('99');
  await first.press('Tab');
  await expect(page.getByText('A whole number from 1 to 7 is needed here.')).toBeVisible();
  await expect(first).toHaveValue('2');
  await apply(page);
  await expect(reading(page, 'N-gons')).toHaveText('1');
});

test('a border on the far side is turned to and framed from the list, where views glide too', async ({ page }) => {
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  await openDemo(page, 'Channel buoy');
  await page.keyboard.press('Digit5');
  const count = (edges: number) => page.getByRole('group', { name: 'Edges of the borders' }).getByText(String(edges), { exact: true });
  await expect(count(10)).toHaveClass(/behind/);
  await page.getByRole('button', { name: /^10 edges/ }).click();
  await expect(selection(page)).toContainText('10 edges');
  await expect(count(10)).not.toHaveClass(/behind/);
  // from there the one that was seen before is hidden; its fill is shown where it is
  await page.getByRole('button', { name: /^Fill: 8 edges/ }).click();
  await expect(card(page)).toContainText('Quad grid');
  await page.keyboard.press('Escape');
  await expect(count(8)).not.toHaveClass(/behind/);
});
