import type { BatchReport } from '@ulvrin/core';

/** How far one file of a batch is: not here yet, in the queue, in a thread, or over, with what came of it or why nothing did. */
export type FileState = { name: string } & (
  { is: 'awaited' | 'waiting' | 'running' } | { is: 'done'; report: BatchReport } | { is: 'failed'; problem: string }
);

/** A batch that was given to the server. */
export interface BatchState {
  id: string;
  name: string;
  /** when, ISO */
  at: string;
  files: FileState[];
}

/** What the server has under way, and where that is done. */
export interface QueueState {
  where: string;
  batches: BatchState[];
}

export const isOver = ({ is }: FileState): boolean => is === 'done' || is === 'failed';
