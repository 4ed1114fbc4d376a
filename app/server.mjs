// Serves the built application on a fixed local port, with the headers that isolate its pages.
import { existsSync } from 'node:fs';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';

const port = Number(process.env.PORT ?? 4820);
if (!Number.isInteger(port) || port < 1 || port > 65535) {
  process.stderr.write(`PORT must be a whole number from 1 to 65535; it is "${process.env.PORT}".\n`);
  process.exit(1);
}
const host = process.env.HOST ?? '127.0.0.1';
process.env.PORT ??= String(port);
process.env.ORIGIN ??= `http://localhost:${port}`;
// the threads in which tasks of the server, and files of batches, are done
process.env.ULVRIN_QUADS_TASK ??= fileURLToPath(new URL('../core/dist/quads-task.mjs', import.meta.url));
process.env.ULVRIN_BATCH_TASK ??= fileURLToPath(new URL('../core/dist/batch-task.mjs', import.meta.url));
process.env.BODY_SIZE_LIMIT ??= 'Infinity';
const handlerFile = new URL('./build/handler.js', import.meta.url);
if (!existsSync(handlerFile)) {
  process.stderr.write('The application is not built yet: run "npm start".\n');
  process.exit(1);
}
// settings that the environment has wrong are told before anything is served
const { handler } = await import(handlerFile.href).catch((error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
const server = createServer((request, response) => {
  response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
  response.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
  response.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
  response.setHeader('X-Content-Type-Options', 'nosniff');
  response.setHeader('Referrer-Policy', 'no-referrer');
  handler(request, response);
});
server.on('error', (error) => {
  const what = error.code === 'EADDRINUSE' ? `Port ${port} is in use: stop what runs there, or set PORT to another one.` : error.message;
  process.stderr.write(`${what}\n`);
  process.exit(1);
});
server.listen(port, host, () => process.stdout.write(`Ulvrin is ready at http://localhost:${port}\n`));
