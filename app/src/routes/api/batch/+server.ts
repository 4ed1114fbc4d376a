import { json, error, type RequestHandler } from '@sveltejs/kit';
import type { QueueState } from '$lib/batch/state.ts';
import { withQueue } from '$lib/server/batch/own-queue.ts';
import { newBatch } from '$lib/server/batch/queue.ts';
import { bodyOf } from '$lib/server/body.ts';
import { limits } from '$lib/server/limits.ts';
import { refuseOtherSites } from '$lib/server/own-page.ts';

/** Bytes that settings and names may fill. */
const MOST_SETTINGS = 4 * 2 ** 20;

/** What the server has under way: a `QueueState`. */
export const GET: RequestHandler = async ({ request }) => {
  refuseOtherSites(request);
  return json(await withQueue(async (queue): Promise<QueueState> => ({ where: queue.where, batches: await queue.list() })));
};

/** Begins a batch: { name, settings, files: names }. @returns { id }; its files are sent to `/api/batch/ID/NAME` */
export const POST: RequestHandler = async ({ request }) => {
  refuseOtherSites(request);
  const text = new TextDecoder().decode(await bodyOf(request, MOST_SETTINGS, 1000 * limits.idle, 'The batch'));
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    error(400, 'This is no batch: it cannot be read as JSON.');
  }
  const batch = newBatch(data);
  return json({ id: await withQueue((queue) => queue.start(batch)) });
};
