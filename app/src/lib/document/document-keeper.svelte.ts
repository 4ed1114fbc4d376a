import { loadJob, saveJob, savePicture, saveView, type StoredJob } from '$lib/platform/storage/job-store.ts';
import { describeRoom, isNearlyFull, roomLeft } from '$lib/platform/storage/storage-state.ts';
import { JobLock } from './job-lock.ts';
import { SaveQueue, type SaveState, type Snapshot } from './save-queue.ts';

/** What a keeper asks of the document it keeps. */
export interface Kept {
  snapshot(): Snapshot;
  view(): Record<string, unknown>;
  /** a picture for the jobs page; nothing while there is no stand */
  picture(): Promise<string> | undefined;
  /** takes up what the storage has now: another page changed it */
  adopt(stored: StoredJob): void;
  /** the job was renamed on the jobs page */
  renamed(name: string): void;
  tell(kind: 'error' | 'info', text: string): void;
}

/** Milliseconds that the view and the picture wait for more of the same; a picture waits for the graphics card, so it comes once one rests. */
const VIEW_RESTS = 250;
const PICTURE_RESTS = 500;
/** Milliseconds between two looks at how full the storage is. */
const ROOM_RESTS = 60_000;

/** Keeps a document in the browser's storage as it changes, for the one page that may change it. */
export class DocumentKeeper {
  saving: SaveState = $state.raw({ is: 'saved' });
  /** whether this page may change the job; others look on */
  holds = $state(true);
  private queue: SaveQueue;
  private readonly lock: JobLock;
  private viewTimer: ReturnType<typeof setTimeout> | undefined;
  private pictureTimer: ReturnType<typeof setTimeout> | undefined;
  private roomAsked = 0;
  private roomTold = false;

  constructor(
    private readonly id: string,
    stored: StoredJob,
    private readonly kept: Kept
  ) {
    this.queue = this.queueFor(stored);
    this.lock = new JobLock(
      id,
      (holds) => void this.heldBy(holds),
      (told) => {
        if (told.is === 'changed' && !this.holds) void this.reload();
        else if (told.is === 'renamed' && this.holds) this.kept.renamed(told.name);
        else if (told.is === 'deleted') this.saving = { is: 'lost', to: 'the trash' };
        else if (told.is === 'restored') void this.reload();
      },
      () => this.save()
    );
  }

  /** Takes the job for this page if no other has it. */
  async begin(): Promise<void> {
    this.holds = await this.lock.begin();
    void this.tellRoom();
  }

  /** Tells once when the storage gets full, while everything still fits. */
  private async tellRoom(): Promise<void> {
    if (this.roomTold || Date.now() - this.roomAsked < ROOM_RESTS) return;
    this.roomAsked = Date.now();
    const room = await roomLeft();
    if (!room || !isNearlyFull(room)) return;
    this.roomTold = true;
    this.kept.tell(
      'info',
      `The browser’s storage is nearly full: ${describeRoom(room)} On the jobs page, empty the trash or delete jobs with large stored results.`
    );
  }

  takeOver(): Promise<void> {
    return this.lock.takeOver();
  }

  /** The footer's word on saving: what is there is committed, or it says why not. */
  get word(): string {
    if (this.saving.is === 'lost') return 'not saved: see the note above';
    if (!this.holds) return 'view only';
    if (this.saving.is === 'failed') return this.saving.full ? 'not saved: storage is full' : 'not saved: trying again';
    return this.saving.is === 'saved' ? 'saved' : 'saving ...';
  }

  /** Whether something is not in the storage yet. */
  get unsaved(): boolean {
    return this.holds && (this.saving.is === 'saving' || this.saving.is === 'failed');
  }

  /** Writes what has changed, the view included. @returns when it is committed, or could not be */
  async save(): Promise<void> {
    if (!this.holds) return;
    this.saveViewNow();
    await this.queue.save();
  }

  /** Saves the view soon; called with every move of the eye. */
  saveViewSoon(): void {
    clearTimeout(this.viewTimer);
    this.viewTimer = setTimeout(() => this.saveViewNow(), VIEW_RESTS);
  }

  /** A picture for the jobs page, once what changed has been drawn. */
  keepPictureSoon(): void {
    clearTimeout(this.pictureTimer);
    this.pictureTimer = setTimeout(() => {
      const picture = this.holds ? this.kept.picture() : undefined;
      // a job without a picture is no loss; one that cannot be written for lack of room is told by the queue
      picture?.then((data) => savePicture(this.id, data)).catch(() => undefined);
    }, PICTURE_RESTS);
  }

  /** Reads the job again as the storage has it. */
  async reload(): Promise<void> {
    const stored = await loadJob(this.id);
    if (!stored || stored.job.deleted) return void (this.saving = { is: 'lost', to: 'the trash' });
    this.queue.end();
    this.queue = this.queueFor(stored);
    this.saving = { is: 'saved' };
    this.kept.adopt(stored);
  }

  /** Goes on writing what is on the page: the job was restored from the trash. */
  async resume(): Promise<void> {
    const stored = await loadJob(this.id);
    if (!stored || stored.job.deleted) throw new Error('This job was deleted for good. Keep this as a new job.');
    this.queue.end();
    this.queue = this.queueFor(stored);
    this.saving = { is: 'saved' };
    await this.save();
  }

  /** Writes what is left, then lets go of the job. */
  end(): void {
    clearTimeout(this.pictureTimer);
    void this.save().finally(() => {
      this.queue.end();
      this.lock.end();
    });
  }

  private saveViewNow(): void {
    clearTimeout(this.viewTimer);
    if (this.holds && this.saving.is !== 'lost') saveView(this.id, this.kept.view()).catch(() => undefined);
  }

  private queueFor(stored: StoredJob): SaveQueue {
    return new SaveQueue(
      stored,
      stored.job.revision,
      () => this.kept.snapshot(),
      saveJob,
      (state) => this.told(state)
    );
  }

  private told(state: SaveState): void {
    this.saving = state;
    if (state.is === 'saved') {
      this.lock.tell({ is: 'changed' });
      void this.tellRoom();
    }
  }

  private async heldBy(holds: boolean): Promise<void> {
    this.holds = holds;
    // what the other page did in the meantime comes first
    if (holds && this.queue.isSaved) await this.reload();
  }
}
