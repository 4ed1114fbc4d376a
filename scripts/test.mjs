// npm test [-- STAGE]: set-up, lint, types, core tests, browser tests; stops at the first that fails, and prints the counts.
import { spawn } from 'node:child_process';
import { ensureChromium, root, setUp } from './setup.mjs';

const stages = { lint: 'lint', check: 'check', core: 'test:core', browser: 'test:browser' };
const only = process.argv[2];
if (only && !stages[only]) {
  process.stderr.write(`"${only}" is not a stage; there are ${Object.keys(stages).join(', ')}.\n`);
  process.exit(1);
}

/** Runs an npm script, shows what it prints, and reads the test counts out of it. */
function run(script) {
  return new Promise((done) => {
    const child = spawn('npm', ['run', script, '--loglevel=error'], { cwd: root, stdio: ['ignore', 'pipe', 'inherit'] });
    let printed = '';
    child.stdout.on('data', (chunk) => {
      process.stdout.write(chunk);
      printed += chunk;
    });
    child.on('close', (status) => {
      const plain = printed.replace(/\x1b\[[0-9;]*m/g, '');
      const sum = (word) => [...plain.matchAll(new RegExp(`^ *(?:Tests .*?)?(\\d+) ${word}`, 'gm'))].reduce((total, m) => total + Number(m[1]), 0);
      done({ status, passed: sum('passed'), failed: sum('failed') });
    });
  });
}

setUp();
let passed = 0;
let failed = 0;
let broken = false;
for (const [name, script] of Object.entries(stages)) {
  if (only && only !== name) continue;
  if (name === 'browser') ensureChromium();
  const started = Date.now();
  process.stdout.write(`\n== ${name}\n`);
  const result = await run(script);
  passed += result.passed;
  failed += result.failed;
  process.stdout.write(`== ${name}: ${result.status === 0 ? 'passed' : 'FAILED'} in ${((Date.now() - started) / 1000).toFixed(0)} s\n`);
  broken = result.status !== 0;
  if (broken) break;
}
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(broken ? 1 : 0);
