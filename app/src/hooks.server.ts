import { building } from '$app/environment';
import type { Handle } from '@sveltejs/kit';
import '$lib/server/limits.ts';
import { ownQueue } from '$lib/server/batch/own-queue.ts';
import { refuseForeignHost } from '$lib/server/own-page.ts';

/** Files of batches that wait are taken up when the server starts. */
if (!building) ownQueue();

/** Every answer the server makes itself; static files get the same headers in `server.mjs`. */
export const handle: Handle = async ({ event, resolve }) => {
  refuseForeignHost(event.request);
  const response = await resolve(event);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'no-referrer');
  return response;
};
