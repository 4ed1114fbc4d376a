// What the page's own thread takes for everyday acts on a torus of 5,000 quads at level 2, and what dragging a vertex takes from event to
// picture, in the built application.
import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { brushBench } from './brush.bench.mjs';
import { dayBench } from './day.bench.mjs';
import { pageTools } from './page-tools.mjs';

const PORT = 4830;
const ROUNDS = 3;
const FLAGS = ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--disable-background-networking'];
/** Bar of scripting for one act, in ms; that of a move is for pointer to picture. */
const BAR = 60;

/** A drag that is measured: a torus, its level, and the bars of event to picture in unchanged frames, and of scripting in ms. */
const DRAGS = [
  { quads: '5,000', sides: 96, tube: 52, level: 2, frames: 1.5, script: 4 },
  { quads: '20,000', sides: 200, tube: 100, level: 2, frames: 2, script: 12 },
  { quads: '100,000', sides: 500, tube: 200, level: 1, frames: 2, script: 12 }
];
const MOVES = 20;
/** ms of scripting that no move may take more of */
const MOST_SCRIPT = 100;

const server = spawn(process.execPath, [fileURLToPath(new URL('../server.mjs', import.meta.url))], { env: { ...process.env, PORT: String(PORT) } });
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: FLAGS });
try {
  const home = `http://localhost:${PORT}/`;
  while (!(await fetch(home).catch(() => undefined))) await new Promise((later) => setTimeout(later, 200));
  const asked = process.argv.slice(2);
  if (asked.length === 0 || asked.includes('page')) {
    await measure();
    await measureDrags();
    await brushBench(browser, home);
  }
  if (asked.length === 0 || asked.includes('day')) await dayBench(browser, home);
} finally {
  await browser.close();
  server.kill();
}

/** A page with a torus in a new job, told of what is asked for in it before it loads. */
async function torusPage(script, sides, tube) {
  const page = await browser.newPage({ reducedMotion: 'reduce', viewport: { width: 1280, height: 800 } });
  await page.addInitScript(script);
  const { stand, card, rest, scripting } = await pageTools(page);
  await page.goto(`http://localhost:${PORT}/`);
  await page.getByRole('button', { name: 'New job' }).click();
  await page.waitForURL(/\/job\//);
  await page.getByRole('button', { name: /Start shape/ }).click();
  await card.getByLabel('Shape').selectOption({ label: 'Torus' });
  for (const [label, value] of [
    ['Sides', sides],
    ['Sides of the tube', tube]
  ]) {
    await card.getByLabel(label, { exact: true }).fill(String(value));
    await card.getByLabel(label, { exact: true }).press('Tab');
  }
  await card.getByRole('button', { name: 'Apply' }).click();
  return { page, card, stand, rest, scripting };
}

/** In the page: counts programs that are linked. */
function countLinks() {
  window.links = 0;
  const { linkProgram } = WebGL2RenderingContext.prototype;
  WebGL2RenderingContext.prototype.linkProgram = function (program) {
    window.links++;
    linkProgram.call(this, program);
  };
}

async function measure() {
  const { page, card, stand, rest, scripting } = await torusPage(countLinks, 100, 50);
  /** least scripting of each act over the rounds, and programs linked in the last round */
  const acts = new Map();
  const act = async (name, work, times = 1) => {
    const [before, links] = [await scripting(), await page.evaluate(() => window.links)];
    await work();
    await rest();
    const took = ((await scripting()) - before) / times;
    const linked = (await page.evaluate(() => window.links)) - links;
    acts.set(name, { took: Math.min(took, acts.get(name)?.took ?? Infinity), linked });
  };
  const key = (code) => () => page.keyboard.press(code);

  await page.getByRole('button', { name: 'frame all' }).click();
  await page.keyboard.press('KeyT');
  await page.keyboard.press('Digit3');
  await rest();
  const box = await stand.boundingBox();
  const place = [box.x + box.width / 2 + 70, box.y + box.height / 2 + 40];
  const pick = async (kind) => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await page.keyboard.press(kind);
    await page.mouse.click(...place);
    await page.waitForTimeout(400);
  };
  for (let round = 0; round < ROUNDS; round++) {
    await pick('KeyW');
    await act('add loop: preview', key('KeyA'));
    await page.waitForTimeout(1200);
    await act('add loop: apply', key('Enter'));
    await act('undo', key('Control+KeyZ'));
    await act('redo', key('Control+Shift+KeyZ'));
    await act('undo again', key('Control+KeyZ'));
    await pick('KeyE');
    await act('extrude: preview', key('KeyF'));
    await page.waitForTimeout(1200);
    await act('extrude: apply', async () => card.getByRole('button', { name: 'Apply' }).click());
    await page.keyboard.press('Control+KeyZ');
    await pick('KeyQ');
    await act('move: begin', key('KeyZ'));
    const field = card.getByLabel('X', { exact: true });
    const moves = async () => {
      for (let i = 0; i < 20; i++) {
        await field.fill(String(1 + i / 10));
        await field.dispatchEvent('change');
        await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))));
      }
    };
    await act('one of 20 moves', moves, 20);
    await page.keyboard.press('Escape');
    await page.waitForTimeout(1800);
  }
  const reference = await page.evaluate(() => {
    const start = performance.now();
    let x = 1;
    for (let i = 0; i < 2e7; i++) x = x * 1.0000001 + 1e-9;
    return [performance.now() - start, x][0];
  });
  process.stdout.write('\nThe page, torus of 5,000 quads at level 2: scripting of the page thread, least of three rounds\n');
  process.stdout.write(`  ${'reference loop, 20 million multiplications'.padEnd(46)} ${reference.toFixed(0).padStart(6)} ms\n`);
  for (const [name, { took, linked }] of acts) {
    const verdict = took <= BAR ? 'kept' : 'MISSED';
    process.stdout.write(`  ${name.padEnd(46)} ${took.toFixed(0).padStart(6)} ms   bar ${BAR} ms: ${verdict}; programs linked: ${linked}\n`);
  }
  await page.close();
}

/** In the page: how long it takes from each move of the pointer to the finished picture; `window.waits` takes them up. */
function watchFrames() {
  window.waits = [];
  window.made = { buffers: 0, programs: 0, textures: 0 };
  const { createBuffer, linkProgram, createTexture } = WebGL2RenderingContext.prototype;
  const count = (what, own) =>
    function (...rest) {
      window.made[what]++;
      return own.apply(this, rest);
    };
  Object.assign(WebGL2RenderingContext.prototype, {
    createBuffer: count('buffers', createBuffer),
    linkProgram: count('programs', linkProgram),
    createTexture: count('textures', createTexture)
  });
  let moved = 0;
  addEventListener('pointermove', () => (moved ||= performance.now()), true);
  window.watchStand = () => {
    const stand = document.querySelector('[data-testid="stand"]');
    const gl = stand.querySelector('canvas').getContext('webgl2');
    new MutationObserver(() => {
      if (!stand.dataset.frames || !moved) return;
      // the picture is finished when a pixel of it can be read
      if (window.finishing) gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
      window.waits.push(performance.now() - moved);
      moved = 0;
    }).observe(stand, { attributeFilter: ['data-frames'] });
  };
}

async function measureDrags() {
  process.stdout.write('\nDragging one vertex: medians of 20 moves, event to picture beside an unchanged frame of the same scene\n');
  for (const { quads, sides, tube, level, frames, script } of DRAGS) {
    const { page, card, stand, rest, scripting } = await torusPage(watchFrames, sides, tube);
    await page.getByLabel('level').selectOption(String(level));
    await page.keyboard.press('KeyT');
    await page.getByRole('button', { name: 'frame all' }).click();
    await page.getByRole('button', { name: 'top', exact: true }).click();
    await page.keyboard.press('Digit3');
    await rest();
    const box = await stand.boundingBox();
    const perMm = Number(await stand.getAttribute('data-pixels-per-mm'));
    // the top of the tube, where a vertex lies
    const place = [box.x + box.width / 2 + 20 * perMm, box.y + box.height / 2];
    await page.keyboard.press('KeyQ');
    await page.mouse.click(...place);
    await page
      .getByTestId('selection')
      .getByText(/1 vertex/)
      .first()
      .waitFor();
    await page.keyboard.press('KeyZ');
    await page.waitForFunction(() => document.querySelector('[data-testid="stand"]').dataset.handle === 'move');
    await rest();
    await page.evaluate(() => window.watchStand());
    /** Drags from a place, a pixel at a time; what each move takes, and scripting per move. */
    const drag = async (from, button) => {
      await page.mouse.move(...from);
      await rest();
      await page.mouse.down({ button });
      await page.mouse.move(from[0] + 3, from[1] + 3);
      await rest();
      const made = await page.evaluate(() => ({ ...window.made }));
      let pause = 0;
      const moves = async (finishing) => {
        await page.evaluate((on) => Object.assign(window, { finishing: on, waits: [] }), finishing);
        const took = [];
        for (let i = 0; i < MOVES; i++) {
          const before = await scripting();
          await page.mouse.move(from[0] + 4 + i, from[1] + 4 + i);
          if (finishing) await page.waitForFunction((n) => window.waits.length > n, i);
          else await page.waitForTimeout(pause);
          took.push((await scripting()) - before);
        }
        const frames = await page.evaluate(() => window.waits.length);
        if (frames !== MOVES) throw new Error(`${frames} of ${MOVES} moves were drawn.`);
        return { mean: took.reduce((sum, ms) => sum + ms, 0) / MOVES, most: Math.max(...took) };
      };
      await moves(true);
      const waits = (await page.evaluate(() => window.waits)).sort((a, b) => a - b);
      // scripting: nothing else runs in the page while it is measured
      pause = 1.5 * waits[MOVES >> 1] + 100;
      const { mean: script, most } = await moves(false);
      const now = await page.evaluate(() => window.made);
      await page.mouse.up({ button });
      await rest();
      return { wait: waits[MOVES >> 1], script, most, made: Object.keys(now).map((k) => now[k] - made[k]) };
    };
    const still = await drag([box.x + 60, box.y + box.height - 60], 'right');
    await page.getByRole('button', { name: 'top', exact: true }).click();
    await rest();
    const moving = await drag(place, 'left');
    const moved = Number(await card.getByLabel('X', { exact: true }).inputValue());
    const ratio = moving.wait / still.wait;
    const verdict = (value, bar) => (value <= bar ? 'kept' : 'MISSED');
    process.stdout.write(`  ${quads} quads at level ${level} (vertex moved by ${moved} mm)\n`);
    process.stdout.write(`    unchanged frame ${still.wait.toFixed(0)} ms, scripting ${still.script.toFixed(1)} ms\n`);
    process.stdout.write(
      `    a move ${moving.wait.toFixed(0)} ms: ${ratio.toFixed(2)} unchanged frames, bar ${frames}: ${verdict(ratio, frames)}; ` +
        `scripting ${moving.script.toFixed(1)} ms, bar ${script}: ${verdict(moving.script, script)}, ${moving.most.toFixed(1)} at most, bar ${MOST_SCRIPT}: ${verdict(moving.most, MOST_SCRIPT)}; buffers, programs, textures made: ${moving.made.join(', ')}\n`
    );
    await page.close();
  }
}
