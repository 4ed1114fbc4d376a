import { expect, type Locator, type Page } from '@playwright/test';
import { readFileSync, writeFileSync } from 'node:fs';

/** Things a person does, used by all browser tests. */

type Point = [x: number, y: number, z: number];

/** Drops a file on whatever page is open. */
export async function dropFile(page: Page, name: string, content: Uint8Array | string): Promise<void> {
  const bytes = Buffer.from(content).toString('base64');
  // the page listens only once its scripts run
  await page.waitForLoadState('networkidle');
  const transfer = await page.evaluateHandle(
    ([fileName, data]) => {
      const carried = new DataTransfer();
      carried.items.add(new File([Uint8Array.from(atob(data), (c) => c.charCodeAt(0))], fileName));
      return carried;
    },
    [name, bytes] as const
  );
  await page.dispatchEvent('body', 'drop', { dataTransfer: transfer });
}

export const dialog = (page: Page) => page.getByRole('dialog');
export const card = (page: Page) => page.getByRole('region', { name: 'Card' });
export const readings = (page: Page) => page.getByRole('region', { name: 'Readings' });
export const logbook = (page: Page) => page.getByRole('list', { name: 'Logbook' }).getByRole('listitem');
/** What a card foretells. */
export const told = (page: Page) => page.getByTestId('forecast');
export const selection = (page: Page) => page.getByTestId('selection');

/** The value of one reading, as text. */
export const reading = (page: Page, label: string) =>
  readings(page)
    .getByRole('row')
    .filter({ has: page.getByText(label, { exact: true }) })
    .getByRole('cell');

/** Waits until the stand has drawn and every change is saved. */
export async function settled(page: Page): Promise<void> {
  await expect(page.getByTestId('stand')).toHaveAttribute('data-frames', /\d/);
  await expect(page.getByTestId('saved')).toHaveText('saved');
  let before = '';
  await expect
    .poll(
      async () => {
        const frames = (await page.getByTestId('stand').getAttribute('data-frames')) ?? '';
        const still = frames !== '' && frames === before;
        before = frames;
        return still;
      },
      { intervals: [200] }
    )
    .toBe(true);
}

export async function openDemo(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name, exact: true }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);
}

/** A file of some lines, brought in as a new job. */
export async function openFile(
  page: Page,
  path: string,
  lines: string[],
  as: 'a cage (to work on)' | 'a reference (to lay quads over)'
): Promise<void> {
  writeFileSync(path, lines.join('\n'));
  await page.goto('/');
  await page.getByLabel('File to bring in').setInputFiles(path);
  await dialog(page).getByText(as).click();
  await dialog(page).getByRole('button', { name: 'As a new job' }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);
}

/** An empty job with a start shape in it. */
export async function startShape(page: Page, shape: string, fields: Record<string, number> = {}): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New job', exact: true }).click();
  await page.waitForURL(/\/job\//);
  await page.getByRole('button', { name: /Start shape/ }).click();
  await card(page).getByLabel('Shape').selectOption({ label: shape });
  for (const [label, value] of Object.entries(fields)) {
    await card(page).getByLabel(label, { exact: true }).fill(String(value));
    await card(page).getByLabel(label, { exact: true }).press('Tab');
  }
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await settled(page);
  await page.getByRole('button', { name: 'frame all' }).click();
  await settled(page);
}

type Side = 'front' | 'right' | 'top';

/** Looks from a side, orthographically, and tells where places in mm are seen, in page pixels. */
export async function lookFrom(page: Page, side: Side): Promise<(x: number, y: number, z: number) => [number, number]> {
  await page.getByRole('button', { name: side, exact: true }).click();
  await settled(page);
  const stand = page.getByTestId('stand');
  const scale = Number(await stand.getAttribute('data-pixels-per-mm'));
  const target = (await stand.getAttribute('data-target'))!.split(' ').map(Number);
  const box = (await stand.boundingBox())!;
  return (...p) => {
    const [x, y, z] = p.map((c, k) => (c - target[k]) * scale);
    const [across, up] = { front: [x, y], right: [-z, y], top: [x, -z] }[side];
    return [box.x + box.width / 2 + across, box.y + box.height / 2 - up];
  };
}

/** Fills a field of the card. */
export async function fill(page: Page, label: string, value: number | string): Promise<void> {
  const field = card(page).getByLabel(label, { exact: true });
  await field.fill(String(value));
  await field.press('Tab');
}

/** Starts an operation from the rack's list. */
export const operation = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();
export const apply = async (page: Page): Promise<void> => {
  await card(page).getByRole('button', { name: 'Apply' }).click();
  await settled(page);
};

/** Switches a mark over the part on or off, in the list of the title block. @returns its switch, with the list open */
export async function marks(page: Page, ...names: string[]): Promise<Locator> {
  const list = page.getByRole('group', { name: 'Overlays' });
  if (!(await list.isVisible())) await page.getByRole('button', { name: /^marks/ }).click();
  for (const name of names) await list.getByRole('button', { name, exact: true }).click();
  return list;
}

/** Does something with a job from its menu on the wall. */
export async function fromMenu(tile: Locator, act: string): Promise<void> {
  await tile.getByRole('button', { name: /^Menu of/ }).click();
  await tile.page().getByRole('menuitem', { name: act }).click();
}

/** Middle of the stand, in page pixels. */
export async function standMiddle(page: Page): Promise<{ x: number; y: number; width: number; height: number }> {
  const box = (await page.getByTestId('stand').boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2, width: box.width, height: box.height };
}

/** Runs something that saves a file, and reads it. */
export async function saved(page: Page, act: () => Promise<void>): Promise<{ name: string; bytes: Uint8Array }> {
  const [download] = await Promise.all([page.waitForEvent('download'), act()]);
  return { name: download.suggestedFilename(), bytes: readFileSync((await download.path())!) };
}

/** Divides the stand: `one view`, `compare versions`, `and three sides` ... */
export async function panes(page: Page, label: string): Promise<void> {
  await page.getByRole('button', { name: 'panes', exact: true }).click();
  await page.getByRole('group', { name: 'Panes' }).getByRole('button', { name: label, exact: true }).click();
}

/** The newt from above, with a place in mm on its back as a pixel. */
export async function fromAbove(page: Page) {
  await openDemo(page, 'Marsh newt');
  const place = await lookFrom(page, 'top');
  return (x: number, z: number) => place(x, 20, z);
}

/** Clicks with Shift held: what is clicked is picked as well. */
export async function addClick(page: Page, at: [number, number]): Promise<void> {
  await page.keyboard.down('Shift');
  await page.mouse.click(...at);
  await page.keyboard.up('Shift');
}

/** Clears what is picked; a card that was applied needs no closing. */
export async function clear(page: Page): Promise<void> {
  await page.keyboard.press('Escape');
}

/** Chooses an entry of a list of the card. */
export const choose = (page: Page, field: string, entry: string) => card(page).getByLabel(field, { exact: true }).selectOption({ label: entry });

/** Drags from one place to another, in page pixels. */
export async function drag(page: Page, from: [number, number], to: [number, number], steps = 10): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move(...to, { steps });
  await page.mouse.up();
}

/** Something of the job's own menu. */
export async function jobMenu(page: Page, act: string): Promise<void> {
  await page.getByRole('button', { name: 'Job menu' }).click();
  await page.getByRole('menuitem', { name: act }).click();
}

/**
 * An open tube along Y of radius 5 in 24 sides and 8 rows of 2 mm, whose middle row is off, as lines of a file; and its vertices by row and side.
 * @param bend degrees by which it is bent about Z, its middle row staying in the plane of X and Z
 * @param [first=1] number of its first vertex in the file
 * @param x mm by which it is moved along X
 */
export function askewTube({ bend = 0, first = 1, x = 0 } = {}): { lines: string[]; at: (row: number, side: number) => Point } {
  const radius = bend ? 16 / ((bend * Math.PI) / 180) : Infinity;
  const bent = ([px, py, pz]: Point): Point => {
    const angle = py / radius;
    return bend ? [(radius + px) * Math.cos(angle) - radius + x, (radius + px) * Math.sin(angle), pz] : [px + x, py, pz];
  };
  const places = Array.from({ length: 9 * 24 }, (_, i): Point => {
    const [row, side] = [Math.floor(i / 24), i % 24];
    const off = row === 4 ? 0.7 * Math.sin(5 * side + 1) : 0;
    const angle = (2 * Math.PI * side) / 24;
    return bent([(5 + off) * Math.sin(angle), 2 * (row - 4) + off, (5 + off) * Math.cos(angle)]);
  });
  const face = (row: number, side: number) =>
    [
      [0, 0],
      [0, 1],
      [1, 1],
      [1, 0]
    ].map(([up, on]) => 24 * (row + up) + ((side + on) % 24) + first);
  const faces = Array.from({ length: 8 * 24 }, (_, i) => `f ${face(Math.floor(i / 24), i % 24).join(' ')}`);
  return { lines: [...places.map((p) => `v ${p.join(' ')}`), ...faces], at: (row, side) => places[24 * row + (side % 24)] };
}

/** Opens the bellows at bench 3, and Thin out for an edge lengthwise, with the rims kept. @returns where places are seen from the front */
export async function thinBellows(page: Page): Promise<Awaited<ReturnType<typeof lookFrom>>> {
  await openDemo(page, 'Bellows');
  await page.keyboard.press('Digit3');
  const front = await lookFrom(page, 'front');
  await page.keyboard.press('KeyW');
  // an edge lengthwise on the upper rim, in the middle of the view
  await page.mouse.click(...front(0.6, 61, 34));
  await expect(page.getByTestId('selection')).toContainText('10.0 mm');
  await operation(page, 'Thin out');
  await card(page).getByText('Rims keep all their vertices').click();
  return front;
}

/** Picks a ridge of the bellows as a loop, with another one, and bevels both. @param front where places are seen from there */
export async function bevelRidges(page: Page, front: (x: number, y: number, z: number) => [number, number]): Promise<void> {
  await page.keyboard.press('Escape');
  const ridge = (i: number) => -56 + (112 * (i + 0.5)) / 13;
  await page.mouse.dblclick(...front(1, ridge(5), 40));
  await page.keyboard.down('Shift');
  await page.mouse.dblclick(...front(1, ridge(7), 40));
  await page.keyboard.up('Shift');
  await expect(page.getByTestId('selection')).toContainText('84 edges');
  await operation(page, 'Bevel');
  await fill(page, 'Width', 2);
  await fill(page, 'Segments', 4);
  await apply(page);
}

/** The middle between two places, mm. */
export const middleOf = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];
