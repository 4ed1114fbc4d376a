// npm run bench [-- NAME ...]: builds and runs the benchmarks of core/bench.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { bundle, root, setUp } from './setup.mjs';

setUp({ application: false });
bundle('core/bench/run.ts', 'core/dist/bench.mjs');
execFileSync(process.execPath, [join(root, 'core/dist/bench.mjs'), ...process.argv.slice(2)], { stdio: 'inherit' });
