// A day's work: 300 operations over eight demo jobs in one page. What it holds in memory after the first job and at the end, how fast the same ten
// operations are at both times, and what is stored.
import { pageTools } from './page-tools.mjs';

const JOBS = ['Mooring cleat', 'Vent elbow', 'Channel buoy', 'Horn throat', 'Bellows', 'Deck grating', 'Newt foot', 'Lamp housing'];
const OPERATIONS = 300;
/** Bars: memory at the end over that after the first job, and scripting of the last ten operations over that of the first ten. */
const BARS = { memory: 1.5, speed: 1.5 };
const MOST = 15_000;

/** One round of operations on whatever cage is open, each one an entry, or a step of the journal. */
const rounds = [
  { name: 'move', pick: 'KeyQ', bench: 3, key: 'KeyZ', field: 'Y', value: 0.5 },
  { name: 'undo', key: 'Control+KeyZ' },
  { name: 'redo', key: 'Control+Shift+KeyZ' },
  { name: 'crease', pick: 'KeyW', bench: 4, key: 'KeyZ', field: 'Sharpness', value: 2 },
  { name: 'undo', key: 'Control+KeyZ' },
  { name: 'extrude', pick: 'KeyE', bench: 3, key: 'KeyF', field: 'Distance', value: 1 },
  { name: 'scale', key: 'KeyC', field: 'All three', value: 90 },
  { name: 'relax', bench: 6, list: 'Relax area', field: 'Passes', value: 3 },
  { name: 'undo', key: 'Control+KeyZ' },
  { name: 'add loop', pick: 'KeyW', bench: 3, key: 'KeyA', field: 'Fraction', value: 0.4 }
];

const fromMiddle = ([x, y]) => Math.hypot(x - 0.5, y - 0.5);

/** @param browser that is running @param home address of the application */
export async function dayBench(browser, home) {
  const context = await browser.newContext({ reducedMotion: 'reduce', viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  page.setDefaultTimeout(MOST);
  const { stand, card, rest, scripting } = await pageTools(page);
  const cdp = await context.newCDPSession(page);
  const memory = async () => {
    await cdp.send('HeapProfiler.collectGarbage');
    return (await page.evaluate(() => performance.memory.usedJSHeapSize)) / 2 ** 20;
  };
  const open = async (name) => {
    await page.goto(home);
    await page.getByRole('button', { name, exact: true }).click();
    await page.waitForURL(/\/job\//);
    await rest();
    if (name === 'Lamp housing') {
      await page.keyboard.press('Digit2');
      await page.getByRole('button', { name: 'Cage from regions', exact: true }).click();
      await card.getByRole('button', { name: 'Apply' }).click();
      await rest();
    }
  };
  /** where the part was hovered last, as shares of the stand */
  let seen = [0.5, 0.5];
  /** A place of the page where the pointer is over the part: where it was last, or the next one of a grid, from the middle on. */
  const onPart = async () => {
    const box = await stand.boundingBox();
    const shares = Array.from({ length: 15 }, (_, i) => 0.15 + 0.05 * i);
    const grid = shares.flatMap((x) => shares.map((y) => [x, y])).sort((a, b) => fromMiddle(a) - fromMiddle(b));
    for (const share of [seen, ...grid]) {
      const at = [box.x + share[0] * box.width, box.y + share[1] * box.height];
      await page.mouse.move(...at);
      await page.waitForTimeout(60);
      if (!(await page.getByTestId('hint').innerText()).includes('Click picks')) continue;
      seen = share;
      return at;
    }
    throw new Error('The part is nowhere on the stand.');
  };
  let [done, refused] = [0, 0];
  /** whether the last operation was done: only then is there something of it to undo */
  let applied = false;
  const isThere = (locator) => locator.isVisible().catch(() => false);
  /** Does one operation, and tells its scripting in ms; what is refused counts as well, an undo of what was not done does not. */
  const operate = async ({ pick, bench, key, list, field, value }) => {
    if (!field && !applied) return 0;
    done++;
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    if (pick) {
      await page.keyboard.press(pick);
      await page.mouse.click(...(await onPart()));
    }
    if (bench) await page.keyboard.press(`Digit${bench}`);
    await rest();
    const before = await scripting();
    if (list) await page.getByRole('button', { name: list, exact: true }).click({ force: true });
    else await page.keyboard.press(key);
    if (field) {
      const input = card.getByLabel(field, { exact: true });
      applied = await isThere(input);
      if (applied) {
        await input.fill(String(value));
        await input.press('Enter');
        applied = await card
          .getByText('still open')
          .waitFor({ timeout: 5000 })
          .then(
            () => true,
            () => false
          );
      }
      if (!applied) refused++;
    }
    await rest();
    return (await scripting()) - before;
  };
  const ten = async () => {
    let sum = 0;
    for (const round of rounds) sum += await operate(round);
    return sum;
  };
  const storage = () => page.evaluate(async () => (await navigator.storage.estimate()).usage / 2 ** 20);

  await open(JOBS[0]);
  const first = await ten();
  await ten();
  const afterFirst = { memory: await memory(), storage: await storage() };
  const [sofar, others] = [done, JOBS.slice(1)];
  for (const [i, name] of others.entries()) {
    await open(name);
    while (done < sofar + ((OPERATIONS - sofar - rounds.length) * (i + 1)) / others.length) await ten();
  }
  await open(JOBS[0]);
  const last = await ten();
  const atEnd = { memory: await memory(), storage: await storage() };
  const told = (value, bar) => `${value.toFixed(2)}, bar ${bar}: ${value <= bar ? 'kept' : 'MISSED'}`;
  process.stdout.write(`\nA day's work: ${done} operations over ${JOBS.length} jobs, ${refused} of them refused\n`);
  process.stdout.write(
    `  memory after the first job ${afterFirst.memory.toFixed(0)} MB, at the end ${atEnd.memory.toFixed(0)} MB: ${told(atEnd.memory / afterFirst.memory, BARS.memory)}\n`
  );
  process.stdout.write(
    `  ten operations on the cleat: scripting ${first.toFixed(0)} ms first, ${last.toFixed(0)} ms at the end: ${told(last / first, BARS.speed)}\n`
  );
  process.stdout.write(`  stored: ${afterFirst.storage.toFixed(1)} MB after the first job, ${atEnd.storage.toFixed(1)} MB at the end\n`);
  await context.close();
}
