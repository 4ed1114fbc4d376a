// npm run pictures: takes the pictures of docs/screenshots from demo data, in Debian's Chromium, at 1280 x 800.
import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
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
      await page.goto('/');
      await page.getByRole('button', { name, exact: true }).waitFor();
    }
    await page.locator('.tile img').nth(2).waitFor();
  },
  async 'bring-in'(page) {
    const file = join(root, 'app/static/demo/channel-buoy.obj');
    await page.getByLabel('File to bring in').setInputFiles(file);
    await page.getByText('Use it as').waitFor();
  },
  async lay(page) {
    await page.keyboard.press('Escape');
    await page.goto('/');
    await openDemo(page, 'Marsh newt');
    await page.keyboard.press('KeyZ');
    await page.getByRole('button', { name: 'Lay quads' }).click();
    await page.getByRole('button', { name: 'Lay again' }).waitFor({ timeout: 120_000 });
    await page.getByText('Smooth surface to reference').waitFor();
    await page.getByRole('button', { name: 'poles', exact: true }).click();
    await still(page);
  },
  async smooth(page) {
    await page.keyboard.press('KeyT');
    await page.keyboard.press('KeyY');
    await page.getByRole('button', { name: 'poles', exact: true }).click();
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
  async overlays(page) {
    await page.goto('/');
    await openDemo(page, 'Channel buoy');
    await page.getByRole('button', { name: 'poles', exact: true }).click();
    await still(page);
  },
  async 'take-away'(page) {
    await page.getByRole('button', { name: 'Take away' }).click();
    await page.getByLabel('Format').selectOption({ label: 'STL' });
  },
  async lookup(page) {
    await page.getByRole('dialog').getByRole('button', { name: /close/i }).click();
    await page.keyboard.press('Control+KeyK');
    await page.getByRole('dialog').getByRole('textbox').or(page.getByPlaceholder(/./)).first().fill('s');
  },
  async night(page) {
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'night' }).click();
    await still(page);
  }
};

async function openDemo(page, name) {
  await page.getByRole('button', { name, exact: true }).click();
  await page.waitForURL(/\/job\//);
  await still(page);
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

const only = process.argv.slice(2);
setUp();
ensureChromium();
const server = spawn(process.execPath, [join(root, 'app/server.mjs')], {
  env: { ...process.env, PORT: String(PORT) },
  stdio: ['ignore', 'pipe', 'inherit']
});
await new Promise((ready) => server.stdout.once('data', ready));
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--disable-background-networking']
});
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: `http://localhost:${PORT}` });
  for (const [name, show] of Object.entries(views)) {
    await show(page);
    await page.waitForTimeout(700);
    if (only.length === 0 || only.includes(name)) await page.screenshot({ path: join(folder, `${name}.png`) });
    process.stdout.write(`${name}\n`);
  }
} finally {
  await browser.close();
  server.kill();
}
