import { readBatch, type BatchFile } from '@ulvrin/core';
import { Queue, Worker, type Job } from 'bullmq';
import { Redis } from 'ioredis';
import type { BatchState } from '$lib/batch/state.ts';
import { endingOf, fileState, madeFiles, newId, NotInBatch, QueueAway, type BatchQueue, type DoFile, type Ending, type NewBatch } from './queue.ts';

/** What a job of the queue names: a file of a batch. */
interface Named {
  id: string;
  name: string;
}

const QUEUE = 'ulvrin-batch';
const ALL = 'ulvrin:batches';
const keys = {
  batch: (id: string) => `ulvrin:batch:${id}`,
  in: (id: string) => `ulvrin:batch:${id}:in`,
  out: (id: string) => `ulvrin:batch:${id}:out`,
  ended: (id: string) => `ulvrin:batch:${id}:ended`
};
/** Milliseconds after which a file whose server says nothing any more is given to another one. */
const SILENCE = 15_000;
/** Times that one file is tried, and servers that it may take down, before it is told as failed. */
const MOST_ATTEMPTS = 3;
/** Milliseconds before it is tried again. */
const PAUSE = 2000;
/** Milliseconds after which a server looks whether the batch of what it does is still there. */
const LOOK = 1000;

const silent = () => undefined;

/**
 * Batches in Redis, with a queue of their files (BullMQ): every server that is given the same `REDIS_URL` takes work from it. A file that a server
 * was killed over goes to another one; how a file ended is set once, with all that was made of it, so that nothing is there twice.
 */
export class RedisQueue implements BatchQueue {
  readonly where: string;
  private readonly redis: Redis;
  private readonly queue: Queue<Named>;

  constructor(
    url: string,
    private readonly doFile: DoFile,
    at: { once: number }
  ) {
    const { host } = new URL(url);
    this.where = `by every server at the queue of ${host}`;
    this.redis = new Redis(url, { maxRetriesPerRequest: 1, connectTimeout: 3000 }).on('error', silent);
    this.queue = new Queue<Named>(QUEUE, { connection: this.redis }).on('error', silent) as Queue<Named>;
    const worker = new Worker<Named>(QUEUE, (job) => this.one(job), {
      connection: new Redis(url, { maxRetriesPerRequest: null }).on('error', silent),
      concurrency: at.once,
      lockDuration: SILENCE,
      stalledInterval: SILENCE / 3,
      maxStalledCount: MOST_ATTEMPTS - 1
    });
    worker.on('error', silent);
    worker.on('failed', (job, reason) => {
      // tried for the last time, or silent too often
      if (job && (job.finishedOn || /stalled/.test(reason.message)))
        void this.end(job.data, [], { problem: `It could not be done: ${reason.message}.` }).catch(silent);
    });
  }

  start(batch: NewBatch): Promise<string> {
    return this.reached(async () => {
      const id = newId();
      await this.redis
        .multi()
        .set(keys.batch(id), JSON.stringify({ ...batch, at: new Date().toISOString() }))
        .sadd(ALL, id)
        .exec();
      return id;
    });
  }

  take(id: string, { name, bytes }: BatchFile): Promise<void> {
    return this.reached(async () => {
      const { files } = await this.batch(id);
      const index = files.indexOf(name);
      if (index < 0) throw new NotInBatch(`${name} is not one of the files of this batch.`);
      await this.redis.hset(keys.in(id), name, Buffer.from(bytes));
      // a job of the same id is not taken a second time
      const retries = { attempts: MOST_ATTEMPTS, backoff: { type: 'fixed', delay: PAUSE } };
      await this.queue.add('file', { id, name }, { jobId: `${id}-${index}`, removeOnComplete: true, removeOnFail: true, ...retries });
    });
  }

  list(): Promise<BatchState[]> {
    return this.reached(async () => {
      const ids = await this.redis.smembers(ALL);
      const active = new Set((await this.queue.getActive()).map((job) => `${job.data.id}/${job.data.name}`));
      const states = await Promise.all(
        ids
          .sort()
          .reverse()
          .map((id) => this.stateOf(id, active).catch(unlessGone))
      );
      return states.filter((state) => state !== undefined);
    });
  }

  made(id: string): Promise<BatchFile[]> {
    return this.reached(async () => {
      const state = await this.stateOf(id, new Set());
      const out = await this.redis.hgetallBuffer(keys.out(id));
      return madeFiles(state, (name) => new Uint8Array(out[name]));
    });
  }

  remove(id: string): Promise<void> {
    return this.reached(async () => {
      await this.redis.srem(ALL, id);
      await this.redis.del(...Object.values(keys).map((key) => key(id)));
    });
  }

  private async batch(id: string): Promise<NewBatch & { at: string }> {
    const text = await this.redis.get(keys.batch(id));
    if (text === null) throw new NotInBatch('There is no such batch any more.');
    return JSON.parse(text) as NewBatch & { at: string };
  }

  private async stateOf(id: string, active: ReadonlySet<string>): Promise<BatchState> {
    const { name, at, files } = await this.batch(id);
    const [here, ended] = await Promise.all([this.redis.hkeys(keys.in(id)), this.redis.hgetall(keys.ended(id))]);
    const stateOfFile = (file: string) => {
      const ending = ended[file] ? (JSON.parse(ended[file]) as Ending) : undefined;
      return fileState(file, ending, active.has(`${id}/${file}`) ? 'running' : here.includes(file) ? 'waiting' : 'awaited');
    };
    return { id, name, at, files: files.map(stateOfFile) };
  }

  private async one({ data }: Job<Named>): Promise<void> {
    const { id, name } = data;
    const [text, bytes, ended] = await Promise.all([
      this.redis.get(keys.batch(id)),
      this.redis.hgetBuffer(keys.in(id), name),
      this.redis.hexists(keys.ended(id), name)
    ]);
    // taken out while it waited, or done by a server that was killed before it could say so
    if (text === null || bytes === null || ended === 1) return;
    const { settings } = JSON.parse(text) as NewBatch;
    const stop = new AbortController();
    const looks = setInterval(() => void this.redis.exists(keys.batch(id)).then((there) => there || stop.abort(), silent), LOOK);
    try {
      const { made, ending } = endingOf(await this.doFile({ name, bytes: new Uint8Array(bytes) }, readBatch(settings), stop.signal));
      await this.end(data, made, ending);
    } finally {
      clearInterval(looks);
    }
  }

  /** Sets how a file ended, with all that was made of it, at once; once it is set it stays. */
  private async end({ id, name }: Named, made: readonly BatchFile[], ending: Ending): Promise<void> {
    if (!(await this.redis.exists(keys.batch(id)))) return;
    const all = this.redis.multi();
    for (const file of made) all.hset(keys.out(id), file.name, Buffer.from(file.bytes));
    await all.hsetnx(keys.ended(id), name, JSON.stringify(ending)).exec();
  }

  private async reached<T>(work: () => Promise<T>): Promise<T> {
    try {
      return await work();
    } catch (reason) {
      if (reason instanceof NotInBatch) throw reason;
      throw new QueueAway(`The queue cannot be reached (${(reason as Error).message}). What is in it stays there: start Redis, and ask again.`);
    }
  }
}

const unlessGone = (reason: unknown): undefined => {
  if (!(reason instanceof NotInBatch)) throw reason;
};
