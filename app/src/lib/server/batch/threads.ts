import { failureInWords } from '@ulvrin/core';
import { env } from 'node:process';
import { pool, type Promise as Cancellable } from 'workerpool';
import { limits } from '../limits.ts';
import type { DoFile, Outcome } from './queue.ts';

/** Does files of batches in threads: as many as the server may run tasks. */
export function fileThreads(): DoFile {
  const threads = pool(env.ULVRIN_BATCH_TASK, {
    workerType: 'thread',
    maxWorkers: limits.tasks,
    workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: limits.megabytes } }
  });
  return async (file, settings, stop) => {
    try {
      const work = threads.exec('file', [file, settings]) as Cancellable<Outcome, Error>;
      stop?.addEventListener('abort', () => void work.cancel());
      return await work.timeout(1000 * limits.seconds);
    } catch (reason) {
      const isLate = reason instanceof Error && reason.name === 'TimeoutError';
      return { problem: isLate ? `It took longer than the ${limits.seconds} s that the server gives it.` : failureInWords(reason, limits.megabytes) };
    }
  };
}
