import { readBatch, type BatchFile } from '@ulvrin/core';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import PQueue from 'p-queue';
import type { BatchState, FileState } from '$lib/batch/state.ts';
import { endingOf, fileState, isId, madeFiles, newId, NotInBatch, type BatchQueue, type DoFile, type Ending, type NewBatch } from './queue.ts';

/**
 * Batches in a folder, done by threads of this server. Every batch has a folder of its own: `batch.json`, what came in `in`, what was made in `out`,
 * and how each file ended in `ended`, written last. What a server that was killed has not ended, the next one does.
 */
export class FolderQueue implements BatchQueue {
  readonly where = 'on this server';
  /** what is being done, by batch and name, and what ends it */
  private readonly running = new Map<string, AbortController>();
  /** how files ended, as far as it was read: an ending stays what it is */
  private readonly endings = new Map<string, Ending>();
  private readonly lanes: PQueue;

  /** @param at once: files that are done at a time */
  constructor(
    private readonly folder: string,
    private readonly doFile: DoFile,
    at: { once: number }
  ) {
    this.lanes = new PQueue({ concurrency: at.once });
  }

  /** Takes up what was left undone. */
  async resume(): Promise<void> {
    for (const { id, files } of await this.list()) for (const { name, is } of files) if (is === 'waiting') this.queue(id, name);
  }

  async start(batch: NewBatch): Promise<string> {
    const id = newId();
    for (const room of ['in', 'out', 'ended']) await mkdir(join(this.folder, id, room), { recursive: true });
    await this.writeWhole(join(this.folder, id, 'batch.json'), JSON.stringify({ ...batch, at: new Date().toISOString() }));
    return id;
  }

  async take(id: string, { name, bytes }: BatchFile): Promise<void> {
    const { files } = await this.batch(id);
    if (!files.includes(name)) throw new NotInBatch(`${name} is not one of the files of this batch.`);
    if (existsSync(join(this.folder, id, 'in', name))) return;
    await this.writeWhole(join(this.folder, id, 'in', name), bytes);
    this.queue(id, name);
  }

  async list(): Promise<BatchState[]> {
    await mkdir(this.folder, { recursive: true });
    const ids = (await readdir(this.folder)).filter((id) => isId(id) && existsSync(join(this.folder, id, 'batch.json')));
    return Promise.all(
      ids
        .sort()
        .reverse()
        .map((id) => this.stateOf(id))
    );
  }

  async made(id: string): Promise<BatchFile[]> {
    const state = await this.stateOf(id);
    return madeFiles(state, async (name) => new Uint8Array(await readFile(join(this.folder, id, 'out', name))));
  }

  async remove(id: string): Promise<void> {
    if (!isId(id)) return;
    for (const [key, stop] of this.running) if (key.startsWith(`${id}/`)) stop.abort();
    for (const key of this.endings.keys()) if (key.startsWith(`${id}/`)) this.endings.delete(key);
    await rm(join(this.folder, id), { recursive: true, force: true });
  }

  private async batch(id: string): Promise<NewBatch & { at: string }> {
    const path = join(this.folder, id, 'batch.json');
    if (!isId(id) || !existsSync(path)) throw new NotInBatch('There is no such batch any more.');
    return JSON.parse(await readFile(path, 'utf8')) as NewBatch & { at: string };
  }

  private async stateOf(id: string): Promise<BatchState> {
    const { name, at, files } = await this.batch(id);
    return { id, name, at, files: await Promise.all(files.map((file) => this.stateOfFile(id, file))) };
  }

  private async stateOfFile(id: string, name: string): Promise<FileState> {
    const ending = await this.endingOf(id, name);
    const isHere = existsSync(join(this.folder, id, 'in', name));
    return fileState(name, ending, this.running.has(`${id}/${name}`) ? 'running' : isHere ? 'waiting' : 'awaited');
  }

  private async endingOf(id: string, name: string): Promise<Ending | undefined> {
    const [key, path] = [`${id}/${name}`, join(this.folder, id, 'ended', name)];
    if (!this.endings.has(key) && existsSync(path)) this.endings.set(key, JSON.parse(await readFile(path, 'utf8')) as Ending);
    return this.endings.get(key);
  }

  private queue(id: string, name: string): void {
    void this.lanes.add(() => this.one(id, name));
  }

  private async one(id: string, name: string): Promise<void> {
    const own = join(this.folder, id);
    // taken out while it waited
    if (!existsSync(own)) return;
    const stop = new AbortController();
    this.running.set(`${id}/${name}`, stop);
    try {
      const { settings } = await this.batch(id);
      const bytes = new Uint8Array(await readFile(join(own, 'in', name)));
      const outcome = await this.doFile({ name, bytes }, readBatch(settings), stop.signal);
      if (!existsSync(own)) return;
      const { made, ending } = endingOf(outcome);
      for (const file of made) await this.writeWhole(join(own, 'out', file.name), file.bytes);
      await this.writeWhole(join(own, 'ended', name), JSON.stringify(ending));
    } catch (reason) {
      // the batch was taken out under it, or the disk is full: the file waits until the server starts again
      if (existsSync(own)) process.stderr.write(`${name} of a batch could not be kept: ${(reason as Error).message}\n`);
    } finally {
      this.running.delete(`${id}/${name}`);
    }
  }

  /** Writes a file so that it is there as a whole or not at all. */
  private async writeWhole(path: string, content: Uint8Array | string): Promise<void> {
    await writeFile(`${path}.part`, content);
    await rename(`${path}.part`, path);
  }
}
