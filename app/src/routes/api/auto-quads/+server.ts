import { Worker } from 'node:worker_threads';
import { decodeLayTask, InvalidParams, MeshBodyError, type LayTask } from '@ulvrin/core';
import { error, type RequestHandler } from '@sveltejs/kit';
import { env } from 'node:process';

/** Bytes that a request may bring: about four million triangles. */
const MOST_BYTES = Number(env.ULVRIN_MOST_BYTES ?? 256 * 2 ** 20);
/** Tasks at a time; each fills a core. */
const MOST_TASKS = Number(env.ULVRIN_MOST_TASKS ?? 2);
let running = 0;

/**
 * Lays quads over a mesh, or beside quads that stay. The body is what `encodeLayTask` writes. The answer is NDJSON: what `encodeTold` writes
 * on the way, then what `encodeLaid` writes or {error}. When the caller goes, the task ends.
 */
export const POST: RequestHandler = async ({ request }) => {
  if (running >= MOST_TASKS) error(503, `The server lays quads for ${running} others: try again in a while, or in the browser.`);
  running++;
  try {
    const task = taskOf(await bodyOf(request));
    return new Response(
      lines(task, () => running--),
      { headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' } }
    );
  } catch (reason) {
    running--;
    throw reason;
  }
};

/** The body, as long as it stays within its limit. */
async function bodyOf(request: Request): Promise<Uint8Array> {
  const tooLong = () =>
    error(413, `The surface is larger than the server takes (${Math.round(MOST_BYTES / 2 ** 20)} MB): thin it out, or lay quads in the browser.`);
  if (Number(request.headers.get('content-length') ?? 0) > MOST_BYTES) tooLong();
  const parts: Uint8Array[] = [];
  let length = 0;
  for await (const part of request.body ?? []) {
    length += part.length;
    if (length > MOST_BYTES) tooLong();
    parts.push(part);
  }
  const body = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    body.set(part, at);
    at += part.length;
  }
  return body;
}

function taskOf(body: Uint8Array): LayTask {
  try {
    return decodeLayTask(body);
  } catch (reason) {
    if (reason instanceof MeshBodyError || reason instanceof InvalidParams) error(400, reason.message);
    throw reason;
  }
}

/** Runs the task in a thread and hands on its lines; `done` is called once, however it ends. */
function lines(task: LayTask, done: () => void): ReadableStream<Uint8Array> {
  // the arrays of a mesh that came as bytes share one buffer, which the thread takes over
  const worker = new Worker(env.ULVRIN_QUADS_TASK!, { workerData: task, transferList: [task.surface.positions.buffer as ArrayBuffer] });
  const encoder = new TextEncoder();
  worker.once('exit', done);
  return new ReadableStream({
    start(controller) {
      const tell = (line: object) => controller.enqueue(encoder.encode(`${JSON.stringify(line)}\n`));
      worker.on('message', (line: object) => {
        tell(line);
        if ('phase' in line) return;
        controller.close();
        void worker.terminate();
      });
      worker.on('error', (reason) => {
        tell({ error: reason.message });
        controller.close();
      });
    },
    cancel() {
      // what is still under way has nobody to be told to
      worker
        .removeAllListeners('message')
        .removeAllListeners('error')
        .on('error', () => undefined);
      void worker.terminate();
    }
  });
}
