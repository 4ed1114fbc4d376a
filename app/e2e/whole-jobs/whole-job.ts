import { expect, test, type Page } from '@playwright/test';
import { appendFileSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bringIn, describeRepair, type BroughtIn } from '../../../core/src/index.ts';
import { dialog, saved } from '../workshop.ts';

/** What came out of a job: the file as it was saved, read back. */
export type Delivered = BroughtIn & { file: string };

/** A job from the first click to the delivered file. */
interface Job {
  /** steps of the shortest way, counted by hand before it was written: presses, keys, and fields filled */
  shortest: number;
  /** it is one of the handful that `npm test` does as well; the others are done by `npm run soak` */
  always?: boolean;
  /** seconds, at most */
  seconds?: number;
}

/** Where files and figures of jobs are kept, for those who look at them; nothing where they are not. */
const KEPT = process.env.ULVRIN_JOBS;

/** In the page: counts what a person does. Keys typed into a field are one step together, when its value changes. */
function countSteps(): void {
  const count = () => sessionStorage.setItem('steps', String(Number(sessionStorage.getItem('steps') ?? 0) + 1));
  const isField = (target: EventTarget | null) =>
    target instanceof HTMLElement && target.matches('input:not([type=checkbox], [type=radio]), textarea, select');
  addEventListener('pointerdown', count, true);
  addEventListener('change', ({ target }) => isField(target) && count(), true);
  addEventListener(
    'keydown',
    ({ key, target, repeat }) => !repeat && !isField(target) && !['Shift', 'Control', 'Alt', 'Meta', 'Tab'].includes(key) && count(),
    true
  );
}

/** Does a job as a new user would, counts the steps, and judges what was delivered: whole, of the counts it must have, nothing damaged. */
export function wholeJob(name: string, { shortest, always, seconds = 120 }: Job, work: (page: Page) => Promise<Delivered>): void {
  test(name, async ({ page }) => {
    test.skip(!always && !process.env.ULVRIN_SOAK, 'npm run soak');
    test.setTimeout(1000 * seconds);
    await page.addInitScript(countSteps);
    const { file, facts, report } = await work(page);
    // nothing had to be mended as it was read
    expect(describeRepair(report)).toEqual([]);
    const steps = Number(await page.evaluate(() => sessionStorage.getItem('steps')));
    if (KEPT) appendFileSync(join(KEPT, 'figures.jsonl'), `${JSON.stringify({ name, shortest, steps, file, ...facts })}\n`);
    expect(steps, `steps of ${name}`).toBeLessThanOrEqual(2 * shortest);
  });
}

/** Delivers the active part, and reads the file back. */
export async function deliver(page: Page, format = 'USDA', before?: () => Promise<unknown>): Promise<Delivered> {
  await page.getByRole('button', { name: 'Deliver', exact: true }).first().click();
  if (format !== 'USDA') await dialog(page).getByLabel('Format').selectOption({ label: format });
  await before?.();
  const { name, bytes } = await saved(page, () =>
    dialog(page)
      .getByRole('button', { name: `Save ${format} file` })
      .click()
  );
  if (KEPT) {
    mkdirSync(KEPT, { recursive: true });
    writeFileSync(join(KEPT, `${test.info().title.replace(/\W+/g, '-').slice(0, 60)}-${name}`), bytes);
  }
  return { ...bringIn(bytes, name), file: name };
}

/** All that the brief of the demo job asks for is done. */
export const briefIsDone = (page: Page): Promise<void> =>
  expect(page.getByRole('region', { name: 'Brief' }).getByTestId('brief-done')).toHaveText(/^(\d) of \1$/);
