import { entriesOf, type Branch, type Entry, type Journal, type Step } from '@ulvrin/core';
import type { JobRecord } from '$lib/platform/storage/database.ts';
import { branchRow, JobChangedElsewhere, JobDeleted, type Writing } from '$lib/platform/storage/job-store.ts';

/** What a document is now, to be written. */
export interface Snapshot {
  job: Omit<JobRecord, 'revision' | 'order' | 'position' | 'branches'>;
  entries: readonly Entry[];
  branches?: readonly Branch[];
  journal: Journal;
}

/** How far saving is. `lost`: the job is not this page's to write any more. */
export type SaveState = { is: 'saved' | 'saving' } | { is: 'failed'; why: string; full: boolean } | { is: 'lost'; to: 'another page' | 'the trash' };

/** The entries of a document, those of its other ways included. */
const allOf = ({ entries, branches = [] }: Pick<Snapshot, 'entries' | 'branches'>): Entry[] => [...entries, ...branches.flatMap((b) => b.entries)];

/** What the browser says when there is no room. */
const isFull = (error: unknown): boolean =>
  /quota/i.test(`${(error as Error)?.name} ${(error as { inner?: Error })?.inner?.name} ${(error as Error)?.message}`);

/** Seconds until a failed save is tried again, one after the other; the last one stays. */
const AGAIN = [1, 2, 5, 15, 30];

/**
 * Writes a document as it changes. What is written is known by what a committed transaction held, never by what was meant to be:
 * an entry stays to be written until it was. One transaction runs at a time; changes meanwhile go into the next.
 */
export class SaveQueue {
  private readonly entries = new Map<number, Entry>();
  /** steps as they are in the storage, by their numbers */
  private steps: { seq: number; step: Step }[] = [];
  private running: Promise<void> | undefined;
  private wanted = false;
  private tries = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  state: SaveState = { is: 'saved' };

  /**
   * @param stored what the storage holds: the document as it was read
   * @param read what the document is now; called when it is about to be written
   * @param write writes in one transaction, and gives the new revision
   * @param told is called whenever the state changes
   */
  constructor(
    stored: { entries: readonly Entry[]; branches?: readonly Branch[]; journal?: Journal },
    private revision: number,
    private readonly read: () => Snapshot,
    private readonly write: (writing: Writing, revision: number) => Promise<number>,
    private readonly told: (state: SaveState, revision: number) => void
  ) {
    for (const entry of allOf(stored)) this.entries.set(entry.id, entry);
    this.steps = (stored.journal?.steps ?? []).map((step, seq) => ({ seq, step }));
  }

  /** Whether all that was done here is in the storage. */
  get isSaved(): boolean {
    return this.state.is === 'saved';
  }

  /** Writes what has changed since the last time. @returns when it is committed, or was refused */
  save(): Promise<void> {
    if (this.state.is === 'lost') return Promise.resolve();
    this.wanted = true;
    this.running ??= this.run().finally(() => (this.running = undefined));
    return this.running;
  }

  /** Ends it: nothing is tried again. */
  end(): void {
    clearTimeout(this.timer);
    this.wanted = false;
  }

  private async run(): Promise<void> {
    clearTimeout(this.timer);
    while (this.wanted) {
      this.wanted = false;
      // one that failed stays told until it is made up for
      if (this.state.is !== 'failed') this.become({ is: 'saving' });
      const snapshot = this.read();
      const writing = this.writingOf(snapshot);
      try {
        this.revision = await this.write(writing, this.revision);
      } catch (error) {
        return this.failed(error);
      }
      this.committed(writing, snapshot);
      this.tries = 0;
    }
    this.become({ is: 'saved' });
  }

  private failed(error: unknown): void {
    if (error instanceof JobDeleted) return this.become({ is: 'lost', to: 'the trash' });
    if (error instanceof JobChangedElsewhere) return this.become({ is: 'lost', to: 'another page' });
    this.become({ is: 'failed', why: error instanceof Error ? error.message : String(error), full: isFull(error) });
    this.timer = setTimeout(() => void this.save(), 1000 * AGAIN[Math.min(this.tries++, AGAIN.length - 1)]);
  }

  /** What differs from what is stored. */
  private writingOf({ job, entries, branches, journal }: Snapshot): Writing {
    // entries that only steps know still are kept for their stored results
    const known = new Map<number, Entry>();
    for (const { changes } of journal.steps) for (const entry of changes.flatMap(entriesOf)) if (entry.cast) known.set(entry.id, entry);
    for (const entry of allOf({ entries, branches })) known.set(entry.id, entry);
    const numbered = this.numbered(journal.steps);
    const before = new Map(this.steps.map(({ seq, step }) => [seq, step]));
    const numbers = new Set(numbered.map(({ seq }) => seq));
    return {
      job: { ...job, revision: 0, order: entries.map((e) => e.id), branches: branches?.map(branchRow), position: journal.position },
      entries: [...known.values()].filter((e) => this.entries.get(e.id) !== e),
      gone: [...this.entries.keys()].filter((id) => !known.has(id)),
      steps: numbered.filter(({ seq, step }) => before.get(seq) !== step),
      goneSteps: [...before.keys()].filter((seq) => !numbers.has(seq))
    };
  }

  /** Steps keep their numbers; new ones go on from the last that stays. */
  private numbered(steps: readonly Step[]): { seq: number; step: Step }[] {
    const seqOf = new Map(this.steps.map(({ seq, step }) => [step, seq]));
    let last = -1;
    return steps.map((step) => ({ seq: (last = seqOf.get(step) ?? last + 1), step }));
  }

  private committed({ entries, gone }: Writing, { journal }: Snapshot): void {
    for (const entry of entries) this.entries.set(entry.id, entry);
    for (const id of gone) this.entries.delete(id);
    this.steps = this.numbered(journal.steps);
  }

  private become(state: SaveState): void {
    this.state = state;
    this.told(state, this.revision);
  }
}
