import { expect, test, type Page } from '@playwright/test';
import { emptySelection, writeJobFile, type Entry } from '../../core/src/index.ts';
import { card, dropFile, fill, logbook, openDemo, settled } from './workshop.ts';

const DEMOS = ['Mooring cleat', 'Channel buoy', 'Marsh newt', 'Bellows', 'Deck grating', 'Horn throat'];
const SIZES = [
  { width: 1280, height: 800 },
  { width: 1024, height: 700 }
];

/** What is wrong with how controls lie: outside the window, cut off by what holds them, or one panel over another. */
const faults = (page: Page) =>
  page.evaluate(() => {
    const wrong: string[] = [];
    const called = (e: Element) => e.getAttribute('aria-label') ?? e.textContent?.trim().slice(0, 30) ?? e.tagName;
    const root = document.scrollingElement!;
    if (root.scrollWidth > innerWidth || root.scrollHeight > innerHeight) wrong.push(`the page scrolls: ${root.scrollWidth} x ${root.scrollHeight}`);
    const isShown = (e: Element) => {
      const style = getComputedStyle(e);
      return style.visibility !== 'hidden' && style.display !== 'none' && Number(style.opacity) > 0 && e.getClientRects().length > 0;
    };
    /** the nearest box that scrolls or hides what does not fit */
    const holder = (e: Element): Element => {
      for (let p = e.parentElement; p; p = p.parentElement) if (getComputedStyle(p).overflowY !== 'visible') return p;
      return root;
    };
    for (const e of document.querySelectorAll('.workshop :is(button, select, input:not([type=file]), a, [role=tab])')) {
      if (!isShown(e) || e.closest('.bx--overflow-menu-options, [hidden]')) continue;
      const r = e.getBoundingClientRect();
      const held = holder(e);
      const h = held === root ? new DOMRect(0, 0, innerWidth, innerHeight) : held.getBoundingClientRect();
      const scrolls = ['auto', 'scroll'].includes(getComputedStyle(held).overflowY);
      if (r.left < h.left - 1 || r.right > h.right + 1) wrong.push(`${called(e)} is cut off at the side`);
      if (!scrolls && (r.top < h.top - 1 || r.bottom > h.bottom + 1)) wrong.push(`${called(e)} is cut off`);
    }
    const over = ['.strip', '.block', '.over section', '.over .message', '.over .sheet'].flatMap((s) => [
      ...document.querySelectorAll(`.stand ${s}`)
    ]);
    over.forEach((a, i) =>
      over.slice(i + 1).forEach((b) => {
        const [p, q] = [a.getBoundingClientRect(), b.getBoundingClientRect()];
        if (p.left < q.right - 1 && q.left < p.right - 1 && p.top < q.bottom - 1 && q.top < p.bottom - 1)
          wrong.push(`${a.className} lies over ${b.className}`);
      })
    );
    return wrong;
  });

for (const name of DEMOS)
  test(`nothing is cut off or covered on any bench: ${name}`, async ({ page }) => {
    await openDemo(page, name);
    for (const size of SIZES) {
      await page.setViewportSize(size);
      await settled(page);
      for (let bench = 1; bench <= 8; bench++) {
        await page
          .getByRole('navigation', { name: 'Benches' })
          .getByRole('button')
          .nth(bench - 1)
          .click();
        expect(await faults(page), `bench ${bench} at ${size.width} x ${size.height}`).toEqual([]);
      }
      // a running operation, and a note of something refused
      await page.getByRole('navigation', { name: 'Benches' }).getByRole('button').nth(0).click();
      await page.keyboard.press('KeyX');
      expect(await faults(page), `a card at ${size.width} x ${size.height}`).toEqual([]);
      await page.keyboard.press('Escape');
      await page.keyboard.press('KeyD');
      expect(await faults(page), `a note at ${size.width} x ${size.height}`).toEqual([]);
    }
  });

test('a small window, or a page zoomed to twice its size, says so and stays usable', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  for (const size of [
    { width: 800, height: 600 },
    { width: 640, height: 400 }
  ]) {
    await page.setViewportSize(size);
    await settled(page);
    await expect(page.getByText(/This window is small/)).toBeVisible();
    expect(await faults(page)).toEqual([]);
    await page.keyboard.press('KeyE');
    await page.keyboard.press('Control+KeyA');
    await expect(page.getByTestId('selection')).toHaveText('104 faces');
    await page.keyboard.press('Escape');
  }
  await page.getByRole('button', { name: 'Unfold the title block' }).click();
  await expect(page.getByRole('button', { name: 'frame all' })).toBeVisible();
});

test('why a card cannot be applied is in view, however many fields it has', async ({ page }) => {
  await openDemo(page, 'Mooring cleat');
  await page.setViewportSize(SIZES[1]);
  await page.keyboard.press('Digit3');
  await page.keyboard.press('KeyE');
  await page.keyboard.press('Control+KeyA');
  await page.keyboard.press('KeyC');
  await fill(page, 'All three', 0);
  const why = card(page).getByRole('alert');
  await expect(why).toContainText('0 % would make a point of the whole part.');
  await expect(why).toBeInViewport({ ratio: 1 });
  await expect(card(page).getByRole('button', { name: 'Apply' })).toBeDisabled();
});

test('forty parts, three hundred entries, a very long name and large letters leave everything in reach', async ({ page }) => {
  const at = new Date().toISOString();
  const shape = (n: number): Entry => ({
    id: n,
    operation: 'start-shape',
    part: `part-${n}`,
    params: { shape: 'box' },
    selection: emptySelection(),
    notes: [],
    at,
    makes: { name: `Bracket of the landing stage, number ${n}, as it was measured in autumn`, kind: 'cage', scheme: 'catmull-clark' }
  });
  const moved = (n: number): Entry => ({
    id: n,
    operation: 'move',
    part: 'part-1',
    params: { x: 0.1 },
    selection: { ...emptySelection(), vertices: [0] },
    notes: [],
    at
  });
  const entries = [...Array.from({ length: 40 }, (_, i) => shape(i + 1)), ...Array.from({ length: 260 }, (_, i) => moved(i + 41))];
  const name = 'Everything of the landing stage that was measured, drawn, mended and cast since the storm '.repeat(2).trim();
  await page.goto('/');
  await dropFile(page, 'stage.ulvrin', writeJobFile({ name, cursor: entries.length, entries, sets: [], hidden: [], view: {} }));
  await page.waitForURL(/\/job\//);
  await settled(page);
  await expect(logbook(page)).toHaveCount(300);
  for (const size of SIZES) {
    await page.setViewportSize(size);
    await settled(page);
    expect(await faults(page), `${size.width} x ${size.height}`).toEqual([]);
  }
  await page.getByRole('tab', { name: 'Parts' }).click();
  await expect(page.getByRole('list', { name: 'Parts' }).getByRole('listitem')).toHaveCount(40);
  expect(await faults(page), 'forty parts').toEqual([]);
  // the same note again and again is one note; others stack, and none is out of reach
  await page.keyboard.press('Escape');
  for (const key of ['KeyD', 'KeyF', 'KeyS', 'KeyA', 'KeyD', 'KeyF', 'KeyS', 'KeyA', 'KeyD', 'KeyF', 'KeyS', 'KeyA']) await page.keyboard.press(key);
  expect(await faults(page), 'twelve notes').toEqual([]);
  await page.evaluate(() => (document.documentElement.style.fontSize = '200%'));
  await page.setViewportSize(SIZES[0]);
  expect(await faults(page), 'letters twice as large').toEqual([]);
});
