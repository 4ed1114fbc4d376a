import type { Handle } from '@sveltejs/kit';
import '$lib/server/limits.ts';
import { refuseForeignHost } from '$lib/server/own-page.ts';

/** Every answer the server makes itself; static files get the same headers in `server.mjs`. */
export const handle: Handle = async ({ event, resolve }) => {
  refuseForeignHost(event.request);
  const response = await resolve(event);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'no-referrer');
  return response;
};
