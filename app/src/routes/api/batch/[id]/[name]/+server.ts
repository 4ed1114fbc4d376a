import { error, type RequestHandler } from '@sveltejs/kit';
import { withQueue } from '$lib/server/batch/own-queue.ts';
import { bodyOf } from '$lib/server/body.ts';
import { limits } from '$lib/server/limits.ts';
import { refuseOtherSites } from '$lib/server/own-page.ts';

/** Takes the bytes of one file of a batch, and puts it in the queue. */
export const PUT: RequestHandler = async ({ params, request }) => {
  refuseOtherSites(request);
  // a body of no kind does not come through
  if (request.headers.get('content-type') !== 'application/octet-stream') error(415, 'A file must be sent as application/octet-stream.');
  const name = params.name!;
  const bytes = await bodyOf(request, limits.bytes, 1000 * limits.idle, name);
  await withQueue((queue) => queue.take(params.id!, { name, bytes }));
  return new Response(undefined, { status: 204 });
};
