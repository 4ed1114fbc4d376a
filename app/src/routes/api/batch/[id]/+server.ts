import { zipFiles } from '@ulvrin/core';
import type { RequestHandler } from '@sveltejs/kit';
import { withQueue } from '$lib/server/batch/own-queue.ts';
import { refuseOtherSites } from '$lib/server/own-page.ts';

/** All that was made of a batch until now, in a zip. */
export const GET: RequestHandler = async ({ params, request }) => {
  refuseOtherSites(request);
  const files = await withQueue((queue) => queue.made(params.id!));
  return new Response(zipFiles(files), { headers: { 'content-type': 'application/zip', 'cache-control': 'no-store' } });
};

/** Takes a batch out, with all that was made of it. */
export const DELETE: RequestHandler = async ({ params, request }) => {
  refuseOtherSites(request);
  await withQueue((queue) => queue.remove(params.id!));
  return new Response(undefined, { status: 204 });
};
