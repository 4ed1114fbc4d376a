// npm run bench [-- NAME ...]: builds and runs the benchmarks of core/bench, and those of the page (`page`, and `day` for a day's work), which start a browser.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { bundle, root, setUp } from './setup.mjs';

const asked = process.argv.slice(2);
const pageBenches = ['page', 'day'];
const inPage = asked.length === 0 || asked.some((name) => pageBenches.includes(name));
const inCore = asked.filter((name) => !pageBenches.includes(name));
setUp({ application: inPage });
if (asked.length === 0 || inCore.length > 0) {
  bundle('core/bench/run.ts', 'core/dist/bench.mjs');
  execFileSync(process.execPath, [join(root, 'core/dist/bench.mjs'), ...inCore], { stdio: 'inherit' });
}
if (inPage)
  execFileSync(process.execPath, [join(root, 'app/bench/page.bench.mjs'), ...asked.filter((name) => pageBenches.includes(name))], {
    stdio: 'inherit'
  });
