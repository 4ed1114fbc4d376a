import { expect, test, type BrowserContext, type Page } from '@playwright/test';
import { randomNumbers } from '../../core/src/index.ts';
import { amount } from '../../core/testing/amount.ts';
import { settled, startShape } from './workshop.ts';

/** How often the page is killed; the whole run is `npm run soak killed`. */
const KILLS = amount(3, 60);

/** After so many another job is begun. */
const KILLS_A_JOB = 8;

const random = randomNumbers(amount(7, 60));
const below = (n: number) => Math.floor(random() * n);

/** What is done on the walk, by the names the lookup knows; what does not suit the pick is refused, as for anybody. */
const OPERATIONS = [
  ...['Extrude', 'Inset', 'Bevel', 'Move', 'Rotate', 'Scale', 'Add loop', 'Slide', 'Crease', 'Brace', 'Divide once', 'Duplicate', 'Delete'],
  ...['Flatten', 'Make round', 'Align', 'Twist', 'Taper', 'Inflate', 'Connect', 'Point on edge', 'Dissolve', 'Quad grid', 'Level plan', 'Auto quads']
];

/** Has the page tell the test what its logbook lists, each time its footer says that this is saved. */
async function watched(context: BrowserContext): Promise<{ last: string[] }> {
  const shown: { last: string[] } = { last: [] };
  await context.exposeFunction('tellSaved', (entries: string[]) => (shown.last = entries));
  await context.addInitScript(() => {
    const told = () => {
      if (document.querySelector('[data-testid=saved]')?.textContent !== 'saved') return;
      const entries = [...document.querySelectorAll<HTMLElement>('ol[aria-label=Logbook] li button:first-child')].map((b) => b.innerText.trim());
      (window as unknown as { tellSaved: (entries: string[]) => void }).tellSaved(entries);
    };
    new MutationObserver(told).observe(document, { subtree: true, childList: true, characterData: true });
  });
  return shown;
}

/** Picks something about the middle of the stand, and does something with it. */
async function step(page: Page): Promise<void> {
  const box = (await page.getByTestId('stand').boundingBox())!;
  await page.keyboard.press('Escape');
  await page.keyboard.press(['KeyQ', 'KeyW', 'KeyE'][below(3)]);
  await page.mouse.click(box.x + box.width * (0.35 + 0.3 * random()), box.y + box.height * (0.35 + 0.3 * random()));
  const name = OPERATIONS[below(OPERATIONS.length)];
  await page.keyboard.press('Control+KeyK');
  await page.keyboard.type(name);
  await page.keyboard.press('Enter');
  const applied = page.getByRole('region', { name: 'Card' }).getByRole('button', { name: /^(Apply|Lay quads)$/ });
  if (name === 'Auto quads') await page.getByRole('region', { name: 'Card' }).getByLabel('Count', { exact: true }).fill('100', { timeout: 1500 }).catch(() => undefined); // prettier-ignore
  // without a number these would change nothing, and make no entry
  if (['Move', 'Rotate', 'Scale'].includes(name)) await page.getByRole('region', { name: 'Card' }).getByLabel('X', { exact: true }).fill('7', { timeout: 1500 }).catch(() => undefined); // prettier-ignore
  // what is refused has no button, or a dimmed one; what is not is clicked, however slow the machine is
  if (await applied.isEnabled({ timeout: 1500 }).catch(() => false)) await applied.click({ timeout: 10_000 }).catch(() => undefined);
  // what was undone is always done again: entries are never replaced
  if (below(6) === 0) for (const key of ['Control+KeyZ', 'Control+Shift+KeyZ']) await page.keyboard.press(key);
}

/** Ends the page's process, as a crash does: nothing is asked, nothing is finished. */
async function kill(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const crashed = page.waitForEvent('crash', { timeout: 20_000 });
  void session.send('Page.crash').catch(() => undefined);
  await crashed;
  await page.close();
}

test('a page that is killed at any moment has every entry that was shown as saved', async ({ context, page }) => {
  test.setTimeout(amount(240_000, 3_600_000));
  const shown = await watched(context);
  let now = page;
  let [kills, most] = [0, 0];
  // a part of some thousand faces slows the walk down: another job takes its place
  while (kills < KILLS) {
    await startShape(now, 'Box', { 'Faces across': 3, 'Faces up': 3, 'Faces deep': 3 });
    const address = now.url();
    for (let round = 0; round < KILLS_A_JOB && kills < KILLS; round++, kills++) {
      for (let steps = 2 + below(4); steps > 0; steps--) await step(now);
      // the last one is cut short
      await Promise.race([step(now).catch(() => undefined), now.waitForTimeout(below(1500))]);
      await kill(now);
      const saved = shown.last;
      most = Math.max(most, saved.length);
      now = await context.newPage();
      await now.goto(address);
      await settled(now);
      const entries = now.locator('ol[aria-label=Logbook] li button:first-child');
      const listed = await entries.evaluateAll((all) => all.map((b) => (b as HTMLElement).innerText.trim()));
      expect(listed.slice(0, saved.length), `kill ${kills + 1}`).toEqual(saved);
      expect(await now.locator('.problem .why').count()).toBe(0);
    }
  }
  test.info().annotations.push({ type: 'walk', description: `${kills} kills, ${most} entries at most` });
  expect(most).toBeGreaterThan(amount(2, 10));
});
