#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../dist/ulvrin.mjs', import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  process.stderr.write('The command is not built yet: run "npm start" or "npm test" once, or "node scripts/setup.mjs".\n');
  process.exitCode = 1;
}
