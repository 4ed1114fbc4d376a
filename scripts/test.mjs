// npm test: set-up, lint, types, core tests, browser tests; stops at the first that fails.
import { spawnSync } from 'node:child_process';
import { ensureChromium, root, setUp } from './setup.mjs';

const only = process.argv[2];
setUp();
const stages = { lint: ['run', 'lint'], check: ['run', 'check'], core: ['run', 'test:core'], browser: ['run', 'test:browser'] };
for (const [name, args] of Object.entries(stages)) {
  if (only && only !== name) continue;
  if (name === 'browser') ensureChromium();
  const started = Date.now();
  process.stdout.write(`\n== ${name}\n`);
  const { status } = spawnSync('npm', [...args, '--loglevel=error'], { cwd: root, stdio: 'inherit' });
  process.stdout.write(`== ${name}: ${status === 0 ? 'passed' : 'FAILED'} in ${((Date.now() - started) / 1000).toFixed(0)} s\n`);
  if (status !== 0) process.exit(1);
}
