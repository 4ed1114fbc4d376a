import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { gzipSync } from 'node:zlib';
import { ply, writeMesh, quadSphere } from '../../core/src/index.ts';
import { card, dialog, dropFile, fromMenu, logbook, lookFrom, marks, openDemo, reading, saved, settled } from './workshop.ts';

const tile = (page: Page, name: string) => page.getByRole('article').filter({ has: page.getByRole('link', { name: `Open ${name}`, exact: true }) });

test('the jobs page needs under 600 kB of compressed script and nothing from outside', async ({ page }) => {
  const scripts: Promise<Buffer>[] = [];
  const outside: string[] = [];
  page.on('request', (request) => !/^(http:\/\/localhost:4821|data:|blob:)/.test(request.url()) && outside.push(request.url()));
  page.on('response', (response) => response.request().resourceType() === 'script' && scripts.push(response.body()));
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Marsh newt' })).toBeVisible();
  const bytes = (await Promise.all(scripts)).reduce((sum, body) => sum + gzipSync(body).length, 0);
  expect(bytes).toBeGreaterThan(10_000);
  expect(bytes).toBeLessThan(600_000);
  expect(outside).toEqual([]);
});

test('demo jobs open as copies with their brief, keep what was done, and can be reset', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  await expect(page.getByText('A plain cage of the cleat')).toBeVisible();
  const quads = await reading(page, 'Quads').innerText();
  await page.keyboard.press('KeyE');
  const box = (await page.getByTestId('stand').boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height * 0.48);
  await page.keyboard.press('Delete');
  await expect(logbook(page)).toHaveCount(2);
  await expect(reading(page, 'Quads')).not.toHaveText(quads);
  await settled(page);
  await page.getByRole('link', { name: 'Ulvrin' }).click();
  await expect(tile(page, 'Mooring cleat').locator('img')).toBeVisible();

  await page.getByRole('button', { name: 'Mooring cleat', exact: true }).click();
  await page.waitForURL(/\/job\//);
  await expect(logbook(page)).toHaveCount(1);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Open Mooring cleat' })).toHaveCount(2);

  const changed = page
    .getByRole('article')
    .filter({ has: page.getByRole('link', { name: 'Open Mooring cleat' }) })
    .last();
  await fromMenu(changed, 'Reset');
  await expect(page.getByText('Mooring cleat was reset.')).toBeVisible();
  const trashed = page.getByRole('list', { name: 'Trash' }).getByRole('listitem');
  await expect(trashed).toHaveText(/Mooring cleat before the reset/);
  await trashed.getByRole('button', { name: 'Restore' }).click();
  await page.getByRole('link', { name: 'Open Mooring cleat before the reset' }).click();
  await page.waitForURL(/\/job\//);
  await expect(logbook(page)).toHaveCount(2);
});

test('jobs are renamed, duplicated, deleted, and brought back', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  await page.goto('/');
  await fromMenu(tile(page, 'Mooring cleat'), 'Rename');
  await dialog(page).getByRole('textbox', { name: 'Name' }).fill('Cleat for the landing stage');
  await dialog(page).getByRole('button', { name: 'Rename' }).click();
  await fromMenu(tile(page, 'Cleat for the landing stage'), 'Duplicate');
  await expect(tile(page, 'Cleat for the landing stage copy')).toBeVisible();
  await fromMenu(tile(page, 'Cleat for the landing stage copy'), 'Keep as a template');
  await page.getByRole('button', { name: 'Start a job from Cleat for the landing stage copy' }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);
  await page.goto('/');
  await fromMenu(tile(page, 'Cleat for the landing stage'), 'Delete');
  await expect(tile(page, 'Cleat for the landing stage')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(tile(page, 'Cleat for the landing stage')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('article').filter({ hasText: 'Cleat for the landing stage' })).toHaveCount(4);
});

test('a job goes into one file and comes back; a damaged one is refused and changes nothing', async ({ page }) => {
  await openDemo(page, 'Channel buoy');
  await page.keyboard.press('KeyR');
  await marks(page, 'poles');
  await settled(page);
  const counts = await reading(page, 'Quads').innerText();
  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  const file = await saved(page, () => dialog(page).getByRole('button', { name: 'Export the job' }).click());
  expect(file.name).toBe('channel-buoy.ulvrin');

  await page.goto('/');
  await dropFile(page, 'half.ulvrin', file.bytes.subarray(0, 3000));
  await expect(dialog(page)).toContainText(/damaged|cut off/);
  await dialog(page).getByRole('button', { name: /close/i }).click();
  await expect(page.getByRole('link', { name: 'Open Channel buoy' })).toHaveCount(1);

  await dropFile(page, file.name, file.bytes);
  await page.waitForURL(/\/job\//);
  await expect(reading(page, 'Quads')).toHaveText(counts);
  await expect((await marks(page)).getByRole('button', { name: 'poles', exact: true })).toHaveAttribute('aria-pressed', 'true');
});

test('a file that cannot be read is refused with the reason, and the open job is untouched', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  for (const [name, content, reason] of [
    ['empty.obj', '', 'empty.obj is empty'],
    ['letter.txt', 'Dear keeper', 'neither the name nor the first bytes'],
    ['cut.obj', 'v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 9\n', 'line 4: vertex 9 is used, but only 3 are there'],
    ['flat.off', 'OFF\n3 1 0\n0 0 0\n1 0 0\n2 0 0\n3 0 1 2\n', 'without area']
  ]) {
    await dropFile(page, name, content);
    await expect(dialog(page)).toContainText(reason);
    await expect(dialog(page)).toContainText('Nothing was changed.');
    await dialog(page).getByRole('button', { name: /close/i }).click();
    await expect(logbook(page)).toHaveCount(1);
  }
  await dropFile(page, 'ball.ply', writeMesh(quadSphere(10, 4), ply));
  await dialog(page).getByRole('button', { name: 'Into this job' }).click();
  await expect(logbook(page)).toHaveCount(2);
  await expect(reading(page, 'Quads')).toContainText('96');
});

test('units and the up axis are asked for', async ({ page }) => {
  await page.goto('/');
  await dropFile(page, 'tower.obj', 'v 0 0 0\nv 1 0 0\nv 0 0 5\nf 1 2 3\n');
  await expect(dialog(page)).toContainText('1.00 × 0.00 × 5.00 mm');
  await dialog(page).getByLabel('A unit of the file is').selectOption({ label: '1 cm' });
  await dialog(page).getByLabel('Up in the file is').selectOption('Z');
  await expect(dialog(page)).toContainText('10.0 × 50.0 × 0.0 mm');
});

test('a small scan without a unit is asked about, and framed as large as others', async ({ page }) => {
  await page.goto('/');
  const small = quadSphere(0.075, 6);
  await dropFile(page, 'scan.ply', writeMesh(small, ply));
  await expect(dialog(page)).toContainText('0.15 × 0.15 × 0.15 mm');
  await expect(dialog(page).getByRole('note')).toContainText('If a unit is a metre, it is 150 mm long.');
  await dialog(page).getByRole('button', { name: 'As a new job' }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);
  await expect(reading(page, 'Edge length')).toContainText(/0\.0\d+ – 0\.0\d+ mm/);
  await lookFrom(page, 'front');
  await page.getByRole('button', { name: 'frame all' }).click();
  await settled(page);
  const tiny = Number(await page.getByTestId('stand').getAttribute('data-pixels-per-mm'));
  await page.goto('/');
  await dropFile(page, 'scan.ply', writeMesh(small, ply));
  await dialog(page).getByRole('button', { name: 'Use metres' }).click();
  await expect(dialog(page)).toContainText('150 × 150 × 150 mm');
  await dialog(page).getByRole('button', { name: 'As a new job' }).click();
  await page.waitForURL(/\/job\//);
  await settled(page);
  await lookFrom(page, 'front');
  await page.getByRole('button', { name: 'frame all' }).click();
  await settled(page);
  const large = Number(await page.getByTestId('stand').getAttribute('data-pixels-per-mm'));
  expect(tiny / large).toBeGreaterThan(990);
  expect(tiny / large).toBeLessThan(1010);
});

test('every screen can be used with a screen reader and keys, by day and by night', async ({ page }) => {
  const sound = async (what: string) => {
    // colours of another theme fade in
    await page.evaluate(() => Promise.allSettled(document.getAnimations().map(({ finished }) => finished)));
    const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
    expect(
      violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`),
      what
    ).toEqual([]);
  };
  await openDemo(page, 'Mooring cleat');
  await expect(card(page)).toBeVisible();
  for (const theme of ['day', 'night']) {
    await sound(`the workshop by ${theme}`);
    await page.keyboard.press('KeyX');
    await page.keyboard.press('Digit1');
    await page.getByRole('button', { name: /Start shape/ }).click();
    await marks(page);
    await sound(`a card and the marks by ${theme}`);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+KeyK');
    await sound(`the lookup by ${theme}`);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Deliver', exact: true }).click();
    await expect(dialog(page)).toBeVisible();
    await sound(`the delivery by ${theme}`);
    await dialog(page).getByRole('button', { name: /close/i }).click();
    if (theme === 'day') await page.getByRole('button', { name: 'Night theme' }).click();
  }
  await page.goto('/');
  await expect(page.getByText(/Mooring cleat/).first()).toBeVisible();
  await sound('the wall of jobs by night');
  await page.getByRole('button', { name: 'Light theme' }).click();
  await sound('the wall of jobs by day');
});
