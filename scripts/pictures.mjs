// npm run pictures: takes the pictures of docs/screenshots from demo data, in Debian's Chromium, at 1280 x 800.
// npm run pictures demos: takes those of the demo jobs instead, which are shipped with the application.
import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureChromium, root, setUp } from './setup.mjs';

const PORT = 4822;
const folder = join(root, 'docs/screenshots');

/** Where each picture is taken; each step goes on from the one before. */
const views = {
  async jobs(page) {
    await page.goto('/');
    for (const name of ['Channel buoy', 'Mooring cleat', 'Marsh newt']) {
      await openDemo(page, name);
      // a picture is kept a while after the view has changed
      await page.waitForTimeout(3000);
      await page.goto('/');
      await page.getByRole('button', { name, exact: true }).waitFor();
    }
    for (const name of ['Channel buoy', 'Mooring cleat', 'Marsh newt'])
      await page
        .getByRole('article')
        .filter({ has: page.getByRole('link', { name: `Open ${name}` }) })
        .locator('img')
        .waitFor();
    // one in the trash, as it is found there
    await openDemo(page, 'Bellows');
    await page.waitForTimeout(3000);
    await page.goto('/');
    const bellows = page.getByRole('article').filter({ has: page.getByRole('link', { name: 'Open Bellows' }) });
    await bellows.locator('img').waitFor();
    await bellows.getByRole('button', { name: 'Menu of Bellows' }).click();
    await page.getByRole('menuitem', { name: 'Delete' }).click();
    await page.getByRole('list', { name: 'Trash' }).waitFor();
    await page.getByRole('button', { name: /close/i }).first().click();
  },
  async 'bring-in'(page) {
    const file = join(root, 'app/static/demo/channel-buoy.obj');
    await page.getByLabel('File to bring in').setInputFiles(file);
    await page.getByText('Use it as').waitFor();
  },
  async steer(page) {
    await page.keyboard.press('Escape');
    await page.goto('/');
    await openDemo(page, 'Marsh newt');
    await page.getByRole('button', { name: 'Close the brief' }).click();
    await page.keyboard.press('KeyZ');
    await page.getByRole('button', { name: 'top', exact: true }).click();
    await still(page);
    const steer = page.getByRole('region', { name: 'Card' }).getByRole('group', { name: 'Steer' });
    const stand = page.getByTestId('stand');
    const scale = Number(await stand.getAttribute('data-pixels-per-mm'));
    const target = (await stand.getAttribute('data-target')).split(' ').map(Number);
    const box = await stand.boundingBox();
    const at = (x, z) => [box.x + box.width / 2 + (x - target[0]) * scale, box.y + box.height / 2 + (z - target[2]) * scale];
    const stroke = async (from, to) => {
      await page.mouse.move(...at(...from));
      // the first ray builds the tree of the reference, where no worker has yet
      await still(page);
      await page.mouse.down();
      for (let k = 1; k <= 8; k++) await page.mouse.move(...at(...from.map((x, i) => x + ((to[i] - x) * k) / 8)));
      await page.mouse.up();
    };
    await steer.getByRole('button', { name: 'ring', exact: true }).click();
    await stroke([13, 17], [11.5, 26]);
    await stroke([11, -22], [13, -14.5]);
    for (const guide of [1, 2]) {
      await steer.getByLabel(`Quads of guide ${guide}`, { exact: true }).fill('14');
      await steer.getByLabel(`Quads of guide ${guide}`, { exact: true }).press('Tab');
    }
    await steer.getByRole('button', { name: 'Show the poles' }).click();
    await steer.getByText(/poles: /).waitFor({ timeout: 60_000 });
    await still(page);
  },
  async lay(page) {
    await page.keyboard.press('Escape');
    await page.goto('/');
    await openDemo(page, 'Marsh newt');
    await page.keyboard.press('KeyZ');
    await page.getByRole('button', { name: 'Lay quads' }).click();
    await page.getByRole('button', { name: 'Lay again' }).waitFor({ timeout: 120_000 });
    await page.getByText('Off the reference, mean / max').waitFor();
    await mark(page, 'poles');
    await still(page);
  },
  async smooth(page) {
    await page.keyboard.press('KeyT');
    await page.keyboard.press('KeyY');
    await mark(page, 'poles');
    await still(page);
  },
  async even(page) {
    // the cage again, part of its back masked, and the brush that relaxes in hand
    await page.keyboard.press('KeyY');
    await page.keyboard.press('KeyT');
    await page.keyboard.press('Digit6');
    await page.getByRole('button', { name: 'Close the brief' }).click();
    const box = await page.getByTestId('stand').boundingBox();
    const at = (x, y) => [box.x + box.width * x, box.y + box.height * y];
    const stroke = async (key, from, to) => {
      await page.keyboard.press(key);
      await page.getByRole('region', { name: 'Card' }).getByLabel('Radius', { exact: true }).fill('9');
      await page.getByRole('region', { name: 'Card' }).getByLabel('Radius', { exact: true }).press('Tab');
      await page.mouse.move(...at(...from));
      await page.mouse.down();
      await page.mouse.move(...at(...to), { steps: 12 });
      await page.mouse.up();
    };
    await stroke('KeyB', [0.45, 0.56], [0.56, 0.49]);
    await page.keyboard.press('Escape');
    await stroke('KeyZ', [0.3, 0.6], [0.36, 0.6]);
    await still(page);
  },
  async shape(page) {
    await page.goto('/');
    await openDemo(page, 'Mooring cleat');
    await page.keyboard.press('KeyT');
    await page.keyboard.press('KeyW');
    const box = await page.getByTestId('stand').boundingBox();
    await page.mouse.dblclick(box.x + box.width * 0.5, box.y + box.height * 0.395);
    await page.keyboard.press('KeyZ');
    await still(page);
  },
  async forecast(page) {
    await page.keyboard.press('Escape');
    await page.keyboard.press('KeyT');
    await page.keyboard.press('KeyE');
    const box = await page.getByTestId('stand').boundingBox();
    await page.mouse.click(box.x + box.width * 0.3, box.y + box.height * 0.62);
    await page.keyboard.press('KeyF');
    await page.getByTestId('forecast').waitFor();
    await still(page);
  },
  async falloff(page) {
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await page.goto('/');
    await openDemo(page, 'Bellows');
    await page.keyboard.press('Digit3');
    await page.keyboard.press('KeyE');
    const box = await page.getByTestId('stand').boundingBox();
    await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.5);
    await page.keyboard.press('KeyZ');
    const card = page.getByRole('region', { name: 'Card' });
    await card.getByLabel('Along', { exact: true }).selectOption('selection');
    await card.getByLabel('Falloff').selectOption('surface');
    await card.getByLabel('Radius', { exact: true }).fill('40');
    await card.getByLabel('Y', { exact: true }).fill('12');
    await card.getByLabel('Y', { exact: true }).press('Tab');
    await still(page);
  },
  async batch(page) {
    await page.goto('/batch');
    const form = page.getByRole('form', { name: 'New batch' });
    const files = ['mooring-cleat', 'vent-elbow', 'horn-throat', 'channel-buoy'].map((name) => join(root, `app/static/demo/${name}.obj`));
    await form.locator('input[type=file]').setInputFiles(files);
    await form.getByLabel('Name').fill('Castings for the landing stage');
    await form.getByLabel('Save as').selectOption({ label: 'PLY' });
    await form.getByLabel('Tell what arrives at').selectOption({ label: 'Model room' });
    await form.getByRole('button', { name: 'Start' }).click();
    await page.getByText('4 of 4 done').waitFor({ timeout: 90_000 });
  },
  async hand(page) {
    // a patch of quads on the newt's back, and the next one where the pointer is
    await page.goto('/');
    await openDemo(page, 'Marsh newt');
    await page.keyboard.press('Digit2');
    await page.getByRole('button', { name: 'Close the brief' }).click();
    const box = await page.getByTestId('stand').boundingBox();
    const at = (x, y) => [box.x + box.width * x, box.y + box.height * y];
    await page.mouse.move(...at(0.5, 0.5));
    for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -240);
    await still(page);
    await page.keyboard.press('KeyC');
    const card = page.getByRole('region', { name: 'Card' });
    await card.getByLabel('Quads across', { exact: true }).fill('3');
    await card.getByLabel('Quads across', { exact: true }).press('Tab');
    await page.mouse.move(...at(0.3, 0.58));
    await page.mouse.down();
    await page.mouse.move(...at(0.6, 0.42), { steps: 20 });
    await page.mouse.up();
    await card.getByRole('button', { name: 'Apply' }).click();
    await page.keyboard.press('KeyX');
    await page.mouse.move(...at(0.66, 0.385));
    await still(page);
  },
  async brace(page) {
    await page.goto('/');
    await openDemo(page, 'Mooring cleat');
    await page.keyboard.press('Digit4');
    const card = page.getByRole('region', { name: 'Card' });
    for (const key of ['KeyT', 'KeyY']) await page.keyboard.press(key);
    await page.getByRole('button', { name: 'Crease by angle', exact: true }).click();
    await card.getByRole('button', { name: 'Apply' }).click();
    await pickNothing(page);
    await page.getByRole('button', { name: 'Creases to support loops', exact: true }).click();
    await card.getByLabel('Width', { exact: true }).selectOption('typed');
    await card.getByLabel('Brace width', { exact: true }).fill('1');
    await card.getByRole('button', { name: 'Apply' }).click();
    await pickNothing(page);
    await page.getByRole('button', { name: 'Close the brief' }).first().click();
    await mark(page, 'subdivided edges');
    await divide(page, 'compare versions');
    await page.getByLabel('Compare with').selectOption('before');
    await page.getByRole('button', { name: 'frame all' }).click();
    await still(page);
  },
  async check(page) {
    // the elbow in line lights, the cut that ends in its bend framed
    await page.goto('/');
    await openDemo(page, 'Vent elbow');
    await page.getByRole('button', { name: 'Close the brief' }).first().click();
    for (const key of ['KeyT', 'Digit7', 'KeyZ', 'KeyZ']) await page.keyboard.press(key);
    await page.locator('.paint select').selectOption({ label: 'reflection' });
    await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
    await still(page);
  },
  async fill(page) {
    await page.goto('/');
    await openDemo(page, 'Channel buoy');
    await page.keyboard.press('Digit5');
    await page.getByRole('region', { name: 'Readings' }).getByRole('row').filter({ hasText: 'Borders' }).getByRole('button').click();
    await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
    await page.keyboard.press('KeyZ');
    await still(page);
  },
  async borders(page) {
    await page.goto('/');
    await openDemo(page, 'Horn throat');
    await page.keyboard.press('Digit5');
    await still(page);
  },
  async overlays(page) {
    await page.goto('/');
    await openDemo(page, 'Channel buoy');
    await mark(page, 'poles');
    await still(page);
  },
  async deliver(page) {
    await page.getByRole('button', { name: 'Deliver', exact: true }).click();
    await page.getByLabel('What arrives at').selectOption({ label: 'Print house' });
    await page.getByRole('button', { name: 'Look at what arrives' }).click();
    await page.getByText('Nothing is smoothed').waitFor({ timeout: 90_000 });
  },
  async lookup(page) {
    await page.getByRole('dialog').getByRole('button', { name: /close/i }).click();
    await page.keyboard.press('Control+KeyK');
    await page.getByRole('dialog').getByPlaceholder(/./).fill('s');
  },
  async night(page) {
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Night theme' }).click();
    await still(page);
  }
};

async function openDemo(page, name) {
  await page.getByRole('button', { name, exact: true }).click();
  await page.waitForURL(/\/job\//);
  await still(page);
}

/** Switches a mark on or off. */
async function divide(page, label) {
  await page.getByRole('button', { name: 'panes', exact: true }).click();
  await page.getByRole('group', { name: 'Panes' }).getByRole('button', { name: label, exact: true }).click();
}

async function mark(page, name) {
  await page.getByRole('button', { name: /^marks/ }).click();
  await page.getByRole('group', { name: 'Overlays' }).getByRole('button', { name, exact: true }).click();
  await page.keyboard.press('Escape');
}

/** Leaves the fields, then closes the last entry's card and clears the selection. */
async function pickNothing(page) {
  await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
  for (let i = 0; i < 2; i++) await page.keyboard.press('Escape');
}

/** Waits until nothing is drawn and everything is saved. */
async function still(page) {
  await page.waitForFunction(() => document.querySelector('[data-testid=saved]')?.textContent === 'saved');
  for (let before = -1, now = 0; now !== before;) {
    before = now;
    await page.waitForTimeout(900);
    now = Number(await page.getByTestId('stand').getAttribute('data-frames'));
  }
}

/** Pictures of the demo jobs, as the stand draws them: they are shipped, for the wall of jobs. */
async function demoPictures(page) {
  const shipped = join(root, 'app/static/pictures');
  mkdirSync(shipped, { recursive: true });
  const { demos } = await page.goto('/').then(() => page.evaluate(async () => ({ demos: await (await fetch('/demo/index.json')).json() })));
  for (const { id, name } of demos) {
    await page.goto('/');
    await openDemo(page, name);
    await page.getByRole('button', { name: 'frame all' }).click();
    // a picture is kept a while after the view has changed
    await page.waitForTimeout(3000);
    await page.getByRole('link', { name: 'Ulvrin' }).click();
    const picture = page
      .getByRole('article')
      .filter({ has: page.getByRole('link', { name: `Open ${name}` }) })
      .locator('img');
    const [, data] = (await picture.getAttribute('src')).split(',');
    writeFileSync(join(shipped, `${id}.jpg`), Buffer.from(data, 'base64'));
    process.stdout.write(`demo: ${id}\n`);
  }
}

const only = process.argv.slice(2);
setUp();
ensureChromium();
const server = spawn(process.execPath, [join(root, 'app/server.mjs')], {
  env: { ...process.env, PORT: String(PORT), ULVRIN_BATCHES: mkdtempSync(join(tmpdir(), 'ulvrin-pictures-')) },
  stdio: ['ignore', 'pipe', 'inherit']
});
await new Promise((ready) => server.stdout.once('data', ready));
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--disable-background-networking']
});
try {
  const page = await browser.newPage({ reducedMotion: 'reduce', viewport: { width: 1280, height: 800 }, baseURL: `http://localhost:${PORT}` });
  page.setDefaultTimeout(20_000);
  if (only.includes('demos')) await demoPictures(page);
  else
    for (const [name, show] of Object.entries(views)) {
      try {
        await show(page);
      } catch (error) {
        // the others are taken all the same
        process.exitCode = 1;
        process.stderr.write(`${name}: ${error.message}\n`);
        continue;
      }
      await page.waitForTimeout(700);
      if (only.length === 0 || only.includes(name)) await page.screenshot({ path: join(folder, `${name}.png`) });
      process.stdout.write(`${name}\n`);
    }
} finally {
  await browser.close();
  server.kill();
}
