import { defineConfig } from '@playwright/test';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const PORT = 4821;

/** Browser tests drive the built application in Debian's Chromium, without a network and without a monitor. */
export default defineConfig({
  testDir: './e2e',
  timeout: 120_000,
  expect: { timeout: 20_000 },
  workers: 2,
  fullyParallel: true,
  retries: process.env.CI ? 1 : 0,
  reporter: [['list']],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // views change at once: what a test points at stays where it was measured
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        '--ignore-gpu-blocklist',
        // without a graphics card, pages are put together sooner without its programs; the stand still draws with them
        '--disable-gpu-compositing',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync'
      ]
    }
  },
  webServer: {
    command: 'node server.mjs',
    port: PORT,
    env: { PORT: String(PORT), ULVRIN_BATCHES: join(tmpdir(), `ulvrin-test-batches-${process.pid}`) },
    reuseExistingServer: false
  }
});
