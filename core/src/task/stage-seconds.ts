import { type WayTried } from './steps.ts';

/** What a way of laying quads came to, and took. */
export type TimedWay = WayTried & { seconds: number };

/** Adds up what the stages of a task take, and its ways, while it reports. */
export class StageSeconds {
  readonly ways: TimedWay[] = [];
  private readonly byStage = new Map<string, number>();
  private stage = 'Starting';
  private since: number;
  private wayBegan: number;

  /** @param now seconds of a clock */
  constructor(private readonly now: () => number) {
    this.since = this.wayBegan = now();
  }

  /** A stage has begun, and the one before has ended. */
  phase = (stage: string): void => {
    const now = this.now();
    this.byStage.set(this.stage, (this.byStage.get(this.stage) ?? 0) + now - this.since);
    [this.stage, this.since] = [stage, now];
  };

  /** A way has come to its end. */
  tried = (way: WayTried): void => {
    const now = this.now();
    this.ways.push({ ...way, seconds: now - this.wayBegan });
    this.wayBegan = now;
  };

  /** @returns seconds by stage, in the order in which they began first, up to now */
  stages(): { phase: string; seconds: number }[] {
    this.phase(this.stage);
    return [...this.byStage].map(([phase, seconds]) => ({ phase, seconds })).filter(({ seconds }) => seconds > 0);
  }
}
