// npm test [-- STAGE]: set-up, lint beside types, core tests, browser tests; stops after those that fail, and prints the counts.
import { spawn } from 'node:child_process';
import { ensureChromium, root, setUp } from './setup.mjs';

const stages = { lint: 'lint', check: 'check', core: 'test:core', browser: 'test:browser' };
// each of the first two keeps one core busy
const together = [['lint', 'check'], ['core'], ['browser']];
const only = process.argv[2];
if (only && !stages[only]) {
  process.stderr.write(`"${only}" is not a stage; there are ${Object.keys(stages).join(', ')}.\n`);
  process.exit(1);
}

/** Runs a stage's npm script, and reads the test counts out of what it prints. @param shows as it is printed, not when it ends */
function run(name, shows) {
  return new Promise((done) => {
    const started = Date.now();
    const child = spawn('npm', ['run', stages[name], '--loglevel=error'], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let printed = '';
    const take = (chunk) => {
      printed += chunk;
      if (shows) process.stdout.write(chunk);
    };
    const head = `\n== ${name}\n`;
    if (shows) process.stdout.write(head);
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.on('close', (status) => {
      if (!shows) process.stdout.write(head + printed);
      process.stdout.write(`\n== ${name}: ${status === 0 ? 'passed' : 'FAILED'} in ${((Date.now() - started) / 1000).toFixed(0)} s\n`);
      const plain = printed.replace(/\x1b\[[0-9;]*m/g, '');
      const sum = (word) => [...plain.matchAll(new RegExp(`^ *(?:Tests .*?)?(\\d+) ${word}`, 'gm'))].reduce((total, m) => total + Number(m[1]), 0);
      done({ failed: status !== 0, passes: sum('passed'), failures: sum('failed') });
    });
  });
}

setUp();
let results = [];
for (const group of together) {
  const names = group.filter((name) => !only || name === only);
  if (names.includes('browser')) ensureChromium();
  results = results.concat(await Promise.all(names.map((name) => run(name, names.length === 1))));
  if (results.some((result) => result.failed)) break;
}
const total = (of) => results.reduce((sum, result) => sum + result[of], 0);
process.stdout.write(`\n${total('passes')} passed, ${total('failures')} failed\n`);
process.exit(results.some((result) => result.failed) ? 1 : 0);
