// npm start: sets up what is missing, then serves the built application with its demo jobs.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root, setUp } from './setup.mjs';

setUp();
const server = spawn(process.execPath, [join(root, 'app/server.mjs')], { stdio: 'inherit', env: process.env });
server.on('exit', (code) => process.exit(code ?? 0));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
