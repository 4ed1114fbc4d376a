/** What pages that have the same job open tell each other. */
export type Told = { is: 'changed' } | { is: 'renamed'; name: string } | { is: 'deleted' | 'restored' } | { is: 'asked for' };

const channelName = (id: string) => `ulvrin job ${id}`;

/** Tells the pages that have a job open what was done to it from outside. */
export function tellOpenPages(id: string, told: Told): void {
  const channel = new BroadcastChannel(channelName(id));
  channel.postMessage(told);
  channel.close();
}

/** How long the page that holds a job has to hand it over before it is taken, in ms. */
const PATIENCE = 3000;

/**
 * Which page may change a job: the one that holds its lock. Others look on, hear of changes, and can take it over. A page that
 * goes away lets go by itself. Where the browser has no locks, every page holds, and revisions tell collisions.
 */
export class JobLock {
  private readonly channel: BroadcastChannel | undefined;
  private release: (() => void) | undefined;
  private ended = false;
  holds = false;

  /**
   * @param changed is called when this page begins or ceases to hold the job
   * @param heard is called with what another page tells
   * @param handOver brings everything to an end that must be written before another page may go on
   */
  constructor(
    private readonly id: string,
    private readonly changed: (holds: boolean) => void,
    private readonly heard: (told: Told) => void,
    private readonly handOver: () => Promise<void>,
    private readonly locks: LockManager | undefined = globalThis.navigator?.locks
  ) {
    this.channel = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel(channelName(id));
    if (this.channel) this.channel.onmessage = (event: MessageEvent<Told>) => void this.hear(event.data);
  }

  /** Takes the job if nobody holds it. @returns whether this page holds it now */
  async begin(): Promise<boolean> {
    if (!this.locks) return this.become(true);
    return this.request({ ifAvailable: true });
  }

  /** Asks the page that holds the job to hand it over, and takes it where there is no answer. */
  async takeOver(): Promise<void> {
    if (this.holds || !this.locks) return;
    this.tell({ is: 'asked for' });
    const patience = new AbortController();
    const timer = setTimeout(() => patience.abort(), PATIENCE);
    const got = await this.request({ signal: patience.signal });
    clearTimeout(timer);
    if (!got) await this.request({ steal: true });
  }

  tell(told: Told): void {
    this.channel?.postMessage(told);
  }

  end(): void {
    this.ended = true;
    this.release?.();
    this.channel?.close();
  }

  private async hear(told: Told): Promise<void> {
    if (told.is !== 'asked for') return this.heard(told);
    if (!this.holds) return;
    await this.handOver();
    this.release?.();
  }

  /** Waits for the lock as asked, then keeps it until it is released, taken away, or the page goes. */
  private request(options: LockOptions): Promise<boolean> {
    return new Promise((decided) => {
      this.locks!.request(channelName(this.id), options, (lock) => {
        decided(this.become(lock !== null && !this.ended));
        if (lock && !this.ended) return new Promise<void>((release) => (this.release = release)).then(() => void this.become(false));
      }).catch(() => {
        // taken by another page, or waited for in vain
        decided(false);
        if (this.holds) this.become(false);
      });
    });
  }

  private become(holds: boolean): boolean {
    if (!this.ended && holds !== this.holds) {
      this.holds = holds;
      this.changed(holds);
    }
    return holds;
  }
}
