import { error } from '@sveltejs/kit';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { env } from 'node:process';
import { limits } from '../limits.ts';
import { FolderQueue } from './folder-queue.ts';
import { NotInBatch, QueueAway, type BatchQueue } from './queue.ts';
import { RedisQueue } from './redis-queue.ts';
import { fileThreads } from './threads.ts';

let queue: BatchQueue | undefined;

/** The queue of this server, made when it is first asked for: in Redis where `REDIS_URL` is set, in a folder where not. */
export function ownQueue(): BatchQueue {
  if (queue) return queue;
  const doFile = fileThreads();
  const at = { once: limits.tasks };
  if (env.REDIS_URL) return (queue = new RedisQueue(env.REDIS_URL, doFile, at));
  const own = new FolderQueue(env.ULVRIN_BATCHES || join(homedir(), '.ulvrin', 'batches'), doFile, at);
  void own.resume().catch((reason: Error) => process.stderr.write(`Batches that wait could not be read: ${reason.message}\n`));
  return (queue = own);
}

/** Does something with the queue; what it refuses is answered as such. @throws HttpError 404, 503 */
export async function withQueue<T>(work: (queue: BatchQueue) => Promise<T>): Promise<T> {
  try {
    return await work(ownQueue());
  } catch (reason) {
    if (reason instanceof NotInBatch) error(404, reason.message);
    if (reason instanceof QueueAway) error(503, reason.message);
    if ((reason as NodeJS.ErrnoException).code === 'ENOSPC') error(507, 'The disk of the server is full: free some, and start again.');
    throw reason;
  }
}
