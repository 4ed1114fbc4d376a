// Makes a clone ready: packages, the command line, demo files, the built application, and (with --browser) Chromium.
// Each step is skipped when what it depends on has not changed since the last time.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const marks = join(root, '.setup');

function filesIn(path) {
  if (!existsSync(path)) return [];
  if (statSync(path).isFile()) return [path];
  return readdirSync(path)
    .filter((name) => !/^(node_modules|dist|\.svelte-kit|demo|e2e)$/.test(name) && join(path, name) !== join(root, 'app/build'))
    .sort()
    .flatMap((name) => filesIn(join(path, name)));
}

function stampOf(paths) {
  const hash = createHash('sha256').update(process.version);
  for (const path of paths) for (const file of filesIn(join(root, path))) hash.update(file).update(readFileSync(file));
  return hash.digest('hex');
}

/** Runs a step unless the files it depends on are as they were and what it makes is there. */
function step(name, { from, makes, run }) {
  const mark = join(marks, name.replace(/\W+/g, '-'));
  const stamp = stampOf(from);
  const done = makes.every((path) => existsSync(join(root, path)));
  if (done && existsSync(mark) && readFileSync(mark, 'utf8') === stamp) return;
  process.stdout.write(`${name} ...\n`);
  run();
  mkdirSync(marks, { recursive: true });
  writeFileSync(mark, stamp);
}

const npm = (...args) => execFileSync('npm', args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });

export function setUp({ application = true } = {}) {
  step('Installing packages', {
    from: ['package-lock.json'],
    makes: ['node_modules/three', 'node_modules/@ulvrin/core'],
    run: () => npm('ci', '--no-audit', '--no-fund', '--loglevel=error')
  });
  step('Building the command line', {
    from: ['core/src', 'core/cli', 'package-lock.json'],
    makes: ['core/dist/ulvrin.mjs', 'core/dist/quads-task.mjs', 'core/dist/batch-task.mjs'],
    run: () => {
      bundle('core/cli/ulvrin.ts', 'core/dist/ulvrin.mjs');
      bundle('core/cli/quads-task.ts', 'core/dist/quads-task.mjs');
      bundle('core/cli/batch-task.ts', 'core/dist/batch-task.mjs');
    }
  });
  step('Making the demo files', {
    from: ['core/src/shapes', 'core/src/mesh', 'core/src/formats', 'scripts/make-demo-files.ts'],
    makes: ['app/static/demo/index.json'],
    run: () => {
      bundle('scripts/make-demo-files.ts', 'core/dist/make-demo-files.mjs');
      execFileSync(process.execPath, [join(root, 'core/dist/make-demo-files.mjs'), join(root, 'app/static/demo')], { stdio: 'inherit' });
    }
  });
  if (application)
    step('Building the application', {
      from: ['core/src', 'app', 'package-lock.json', 'app/static/demo'],
      makes: ['app/build/handler.js'],
      run: () => npm('run', 'build', '-w', 'app', '--loglevel=error')
    });
}

/** Packages in the older module format ask for Node's modules by `require`, which a module has to make for itself. */
const requireBanner = "--banner:js=import { createRequire as requireOf } from 'node:module'; const require = requireOf(import.meta.url);";

export function bundle(entry, out) {
  execFileSync(
    join(root, 'node_modules/.bin/esbuild'),
    [join(root, entry), '--bundle', '--platform=node', '--format=esm', `--outfile=${join(root, out)}`, '--log-level=error', requireBanner],
    { stdio: 'inherit' }
  );
}

/** Installs a package of Debian's through apt. @returns whether this user may, and it was done */
function installed(name) {
  process.stdout.write(`Installing ${name} ...\n`);
  const apt = (...args) =>
    spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  return process.getuid?.() === 0 && apt('update').status === 0 && apt('install', '-y', '--no-install-recommends', name).status === 0;
}

/** Debian's Chromium for the browser tests; installed through apt where it is missing and this user may. */
export function ensureChromium() {
  if (existsSync('/usr/bin/chromium') || installed('chromium')) return;
  throw new Error(
    'The browser tests need Debian\'s Chromium at /usr/bin/chromium. Run "apt-get update && apt-get install chromium" as root, then npm test again.'
  );
}

/** Debian's Redis for the long test of the queue; where it cannot be installed that test is left out, and says so. */
export function ensureRedis() {
  if (!existsSync('/usr/bin/redis-server')) installed('redis-server');
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  setUp();
  if (process.argv.includes('--browser')) ensureChromium();
}
