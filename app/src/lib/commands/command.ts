import type { Bench, Operation } from '@ulvrin/core';
import type { Component } from 'svelte';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import type { Stand } from '$lib/stand/stand.ts';

/** Windows over the workshop. */
export type Dialog = 'lookup' | 'keys' | 'settings' | 'done-when' | 'deliver' | 'destinations' | 'density' | 'routines' | 'spares' | 'versions';

/** What a command works on: the open job, the stand once it is there, and the page round them. */
export interface Workshop {
  job: OpenJob;
  stand: Stand | undefined;
  /** begins an operation, or asks for the file it needs */
  start(operation: Operation): void;
  show(dialog: Dialog): void;
  /** leaves the workshop for the page of batches */
  toBatches(): void;
}

/** One thing that can be called by a key, from the lookup or by a button. */
export interface Command {
  id: string;
  /** as the key sheet and the lookup name it */
  name: string;
  /** what it is for, for the lookup; left out: a view, picking or a setting */
  purpose?: string;
  /** its key as it is at first: the physical one, with what is held, like `Control+Shift+KeyZ` */
  code?: string;
  /** the lookup does not list it: it means another thing on each bench, or is listed as an operation */
  unlisted?: boolean;
  /** its place in the lower row of the rack at a bench, where no operation has that key */
  rack?: { bench: Bench; letter: string; icon: Component };
  /** why it cannot be called now; nothing where it can */
  why?(workshop: Pick<Workshop, 'job'>): string | undefined;
  run(workshop: Workshop): void;
}
