import { expect, test, type Page } from '@playwright/test';
import { dialog, dropFile, fromMenu, logbook, panes, reading, saved, settled, startShape } from './workshop.ts';

const footer = (page: Page) => page.getByTestId('saved');

test('one tab holds a job; another looks on, follows, takes over, and hears that it was deleted', async ({ page, context }) => {
  await startShape(page, 'Box');
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(footer(other)).toHaveText('view only');
  await expect(logbook(other)).toHaveCount(1);
  await other.keyboard.press('KeyR');
  await other.keyboard.press('Control+KeyA');
  await other.keyboard.press('KeyF');
  await expect(other.getByText('take it over to change it here')).toBeVisible();

  await page.keyboard.press('KeyR');
  await page.keyboard.press('Shift+KeyQ');
  await page
    .getByRole('button', { name: 'Remove Box' })
    .or(page.getByRole('tab', { name: 'Parts' }))
    .first()
    .click();
  await page.getByRole('button', { name: 'Hide Box' }).click();
  await settled(page);
  await other.getByRole('tab', { name: 'Parts' }).click();
  await expect(other.getByRole('button', { name: 'Show Box' })).toBeVisible();

  await other.getByRole('button', { name: 'Take over' }).click();
  await expect(footer(other)).toHaveText('saved');
  await expect(footer(page)).toHaveText('view only');
  await other.getByRole('button', { name: 'Show Box' }).click();
  await settled(other);
  await expect(page.getByRole('button', { name: 'Hide Box' })).toBeVisible();

  const jobs = await context.newPage();
  await jobs.goto('/');
  await fromMenu(jobs.getByRole('article').first(), 'Delete');
  for (const tab of [page, other]) await expect(tab.getByText('This job was deleted.')).toBeVisible();
  await other.getByRole('button', { name: 'Restore it' }).click();
  await expect(footer(other)).toHaveText('saved');
  await jobs.reload();
  await expect(jobs.getByRole('link', { name: 'Open New job' })).toBeVisible();
});

test('a job file dropped into an open job opens under its own address, and what is done there goes to it', async ({ page }) => {
  await startShape(page, 'Box');
  const first = page.url();
  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  const file = await saved(page, () => dialog(page).getByRole('button', { name: 'Export the job' }).click());
  await page.getByRole('button', { name: 'X Start shape' }).click();
  await page.getByRole('region', { name: 'Card' }).getByRole('button', { name: 'Apply' }).click();
  await settled(page);
  await expect(logbook(page)).toHaveCount(2);
  await dropFile(page, file.name, file.bytes);
  await page.waitForURL((url) => url.href !== first);
  await expect(logbook(page)).toHaveCount(1);
  await page.getByRole('tab', { name: 'Parts' }).click();
  await page.getByRole('button', { name: 'Remove Box' }).click();
  await settled(page);
  await page.goto(first);
  await expect(logbook(page)).toHaveCount(2);

  await dropFile(page, 'flag.obj', 'v 0 0 0\nv 9 0 0\nv 0 9 0\nf 1 2 3\n');
  await dialog(page).getByRole('button', { name: 'As a new job' }).click();
  await page.waitForURL((url) => url.href !== first);
  await expect(logbook(page)).toHaveCount(1);
  await expect(page.getByRole('banner')).toContainText('flag');

  const damaged = file.bytes.slice();
  damaged[Math.floor(damaged.length / 4)] ^= 4;
  await dropFile(page, 'damaged.ulvrin', damaged);
  await expect(dialog(page)).toContainText('This job file is damaged');
});

/** Makes every write of jobs fail, or none. */
const breakStorage = (page: Page, on: boolean) =>
  page.evaluate((broken) => {
    const proto = IDBObjectStore.prototype as IDBObjectStore & { sound?: IDBObjectStore['put'] };
    proto.sound ??= proto.put;
    proto.put = broken
      ? function () {
          throw new DOMException('There is no room.', 'QuotaExceededError');
        }
      : proto.sound;
  }, on);

test('a save that fails is told as it is, nothing is forgotten, and it is made up for', async ({ page }) => {
  await startShape(page, 'Box');
  await breakStorage(page, true);
  await page.getByRole('tab', { name: 'Parts' }).click();
  await page.getByRole('button', { name: 'Hide Box' }).click();
  await expect(footer(page)).toHaveText('not saved: storage is full');
  await expect(page.getByText('your last changes are not saved')).toBeVisible();
  let asked = '';
  page.once('dialog', (question) => {
    asked = question.type();
    void question.dismiss();
  });
  await page.close({ runBeforeUnload: true });
  await expect.poll(() => asked).toBe('beforeunload');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(footer(page)).toHaveText('not saved: storage is full');
  await breakStorage(page, false);
  await expect(footer(page)).toHaveText('saved');
  await page.reload();
  await page.getByRole('tab', { name: 'Parts' }).click();
  await expect(page.getByRole('button', { name: 'Show Box' })).toBeVisible();
});

test('storage that does not open is told with the ways out, not as no jobs', async ({ page }) => {
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException('Site data is blocked.', 'SecurityError');
    };
  });
  await page.goto('/');
  await expect(page.getByRole('alert')).toContainText('could not be opened');
  await expect(page.getByText('No jobs yet')).toHaveCount(0);
});

test('undo takes back an edit in the logbook by itself', async ({ page }) => {
  await startShape(page, 'Box');
  const quads = await reading(page, 'Quads').innerText();
  await page.keyboard.press('KeyR');
  await page.keyboard.press('Control+KeyA');
  await page.getByRole('button', { name: 'X Start shape' }).click();
  await page.getByRole('region', { name: 'Card' }).getByRole('button', { name: 'Apply' }).click();
  await settled(page);
  await page.getByRole('button', { name: 'Edit entry 1' }).click();
  await page.getByRole('region', { name: 'Card' }).getByLabel('Faces across', { exact: true }).fill('7');
  await page.getByRole('region', { name: 'Card' }).getByLabel('Faces across', { exact: true }).press('Tab');
  await settled(page);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(logbook(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(reading(page, 'Quads')).toHaveText(quads);
});

test('two views are opened and closed twenty times, and a lost view comes back by itself', async ({ page }) => {
  await startShape(page, 'Box');
  const stand = page.getByTestId('stand');
  const lost = await page.evaluateHandle(() => {
    const told: string[] = [];
    document.querySelector('[data-testid=stand] canvas')!.addEventListener('webglcontextlost', () => told.push('lost'));
    return told;
  });
  for (let i = 0; i < 20; i++) {
    await panes(page, 'compare versions');
    await expect(page.getByTestId('compare').locator('canvas')).toBeVisible();
    await panes(page, 'one view');
    await expect(page.getByTestId('compare')).toHaveCount(0);
  }
  expect(await lost.jsonValue()).toEqual([]);
  await settled(page);
  const before = await stand.screenshot();
  await page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=stand] canvas')!;
    const extension = canvas.getContext('webgl2')!.getExtension('WEBGL_lose_context')!;
    extension.loseContext();
    setTimeout(() => extension.restoreContext(), 200);
  });
  await expect.poll(() => lost.jsonValue()).toEqual(['lost']);
  await settled(page);
  await expect.poll(async () => Buffer.compare(await stand.screenshot(), before)).toBe(0);
});

test('a stand that fails leaves the rest of the page, exports the job, and shows a report without anything of the user', async ({ page }) => {
  await startShape(page, 'Box');
  await page.addInitScript(() => {
    const sound = HTMLCanvasElement.prototype.getContext as (kind: string, ...rest: unknown[]) => unknown;
    HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, kind: string, ...rest: unknown[]) {
      return kind.startsWith('webgl') ? null : sound.call(this, kind, ...rest);
    } as typeof HTMLCanvasElement.prototype.getContext;
  });
  await page.reload();
  const note = page.getByRole('group', { name: 'The stand has failed.' });
  await expect(note).toBeVisible();
  await expect(logbook(page)).toHaveCount(1);
  const file = await saved(page, () => note.getByRole('button', { name: 'Export the job' }).click());
  expect(file.bytes.length).toBeGreaterThan(500);
  await note.locator('summary').click();
  await expect(note.locator('pre')).toContainText('Parts: cage of 96 faces');
  await expect(note.locator('pre')).not.toContainText('New job');
});

test('a storage that is nearly full is told while everything still fits', async ({ page }) => {
  await page.addInitScript(() => {
    navigator.storage.estimate = async () => ({ usage: 95 * 2 ** 20, quota: 100 * 2 ** 20 });
  });
  await startShape(page, 'Box');
  await page.reload();
  await expect(page.getByText('storage is nearly full: 95 MB of 100 MB used')).toBeVisible();
  await page.goto('/');
  await expect(page.getByText('95 MB of 100 MB used')).toBeVisible();
});
