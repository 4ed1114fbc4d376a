import { Worker } from 'node:worker_threads';
import { decodeLayTask, InvalidParams, MeshBodyError, type LayTask } from '@ulvrin/core';
import { error, type RequestHandler } from '@sveltejs/kit';
import { env } from 'node:process';
import { bodyOf } from '$lib/server/body.ts';
import { limits, UPLOADS_A_TASK } from '$lib/server/limits.ts';
import { refuseOtherSites } from '$lib/server/own-page.ts';

let running = 0;
let uploads = 0;

const busy = () => error(503, `The server is busy with ${running} other tasks: try again later, or lay quads in the browser.`);

/**
 * Lays quads over a mesh, or beside quads that stay. The body is what `encodeLayTask` writes. The answer is NDJSON: what `encodeTold` writes
 * on the way, then what `encodeLaid` writes or {error}. When the caller goes, the task ends.
 */
export const POST: RequestHandler = async ({ request }) => {
  refuseOtherSites(request);
  if (request.headers.get('content-type') !== 'application/octet-stream') error(415, 'The body must be sent as application/octet-stream.');
  if (running >= limits.tasks || uploads >= UPLOADS_A_TASK * limits.tasks) busy();
  const task = taskOf(await uploaded(request));
  // a slot is taken by what is whole and sound, not by what is still coming
  if (running >= limits.tasks) busy();
  running++;
  return new Response(
    lines(task, () => running--),
    { headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' } }
  );
};

async function uploaded(request: Request): Promise<Uint8Array> {
  uploads++;
  try {
    return await bodyOf(request, limits.bytes, 1000 * limits.idle);
  } finally {
    uploads--;
  }
}

function taskOf(body: Uint8Array): LayTask {
  try {
    return decodeLayTask(body);
  } catch (reason) {
    if (reason instanceof MeshBodyError || reason instanceof InvalidParams) error(400, reason.message);
    throw reason;
  }
}

/** What a thread that ended by itself is told as. */
const endedAs = (reason: Error & { code?: string }): string =>
  reason.code === 'ERR_WORKER_OUT_OF_MEMORY'
    ? `The task needed more than the ${limits.megabytes.toLocaleString('en')} MB that the server gives it: ask for fewer quads, or thin the surface out.`
    : reason.message;

/** Runs the task in a thread and hands on its lines; `done` is called once, however it ends. */
function lines(task: LayTask, done: () => void): ReadableStream<Uint8Array> {
  // the arrays of a mesh that came as bytes share one buffer, which the thread takes over
  const worker = new Worker(env.ULVRIN_QUADS_TASK!, {
    workerData: task,
    transferList: [task.surface.positions.buffer as ArrayBuffer],
    resourceLimits: { maxOldGenerationSizeMb: limits.megabytes }
  });
  const encoder = new TextEncoder();
  let timer: ReturnType<typeof setTimeout> | undefined;
  worker.once('exit', () => {
    clearTimeout(timer);
    done();
  });
  return new ReadableStream({
    start(controller) {
      let open = true;
      const tell = (line: object, last: boolean) => {
        if (!open) return;
        controller.enqueue(encoder.encode(`${JSON.stringify(line)}\n`));
        if (!last) return;
        open = false;
        controller.close();
        void worker.terminate();
      };
      worker.on('message', (line: object) => tell(line, !('phase' in line)));
      worker.on('error', (reason) => tell({ error: endedAs(reason as Error) }, true));
      timer = setTimeout(
        () =>
          tell(
            { error: `The task took longer than the ${limits.seconds} s that the server gives it: ask for fewer quads, or lay them in the browser.` },
            true
          ),
        1000 * limits.seconds
      );
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
