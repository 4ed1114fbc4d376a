// npm run soak [-- NAME ...]: the long tests in full: random walks, mutated files, killed pages, whole jobs. NAME chooses test files by a part of their names.
import { spawnSync } from 'node:child_process';
import { ensureChromium, ensureRedis, root, setUp } from './setup.mjs';

/** Test files whose numbers `amount` raises, by how they are run. */
const suites = {
  core: ['damaged-files', 'element-places', 'logbook.test', 'forecast', 'surface-walk', 'cut-polygon', 'operations.test'],
  browser: ['killed', 'whole-jobs']
};
const only = process.argv.slice(2);
const chosen = (names) => (only.length === 0 ? names : names.filter((name) => only.some((part) => name.includes(part))));
const env = { ...process.env, ULVRIN_SOAK: '1' };
const run = (command, args) => spawnSync(command, args, { cwd: root, stdio: 'inherit', env }).status === 0;

setUp();
let sound = true;
const core = chosen(suites.core);
if (core.length > 0) sound = run('npx', ['vitest', 'run', '--project', 'core', ...core]) && sound;
const browser = chosen(suites.browser);
if (browser.length > 0) {
  ensureChromium();
  ensureRedis();
  sound = run('npx', ['playwright', 'test', '-c', 'app/playwright.config.ts', ...browser]) && sound;
}
process.exit(sound ? 0 : 1);
