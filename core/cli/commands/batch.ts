import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pool } from 'workerpool';
import { type BatchReport, doBatchFile, failureInWords, readBatch, reportInWords, twinsAmong } from '../../src/index.ts';
import { type Command, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, readJson } from '../files.ts';

/** MB of objects that the thread of one file may fill. */
const MOST_MEMORY = 4096;

type Done = ReturnType<typeof doBatchFile>;

const checksum = (...parts: (Uint8Array | string)[]): string => parts.reduce((hash, part) => hash.update(part), createHash('sha256')).digest('hex');

/** Writes a file so that it is there as a whole or not at all, whenever this is ended. */
function writeWhole(path: string, content: Uint8Array | string): void {
  writeFileSync(`${path}.part`, content);
  renameSync(`${path}.part`, path);
}

/** Whether a file was done before, with the same content and settings, and all that came of it is there still. */
function isDone(reportPath: string, stamp: string, out: string): boolean {
  if (!existsSync(reportPath)) return false;
  try {
    const { stamp: before, files } = JSON.parse(readFileSync(reportPath, 'utf8')) as { stamp: string } & BatchReport;
    return before === stamp && files.every((name) => existsSync(join(out, name)));
  } catch {
    return false;
  }
}

/** Does the same with many files in some threads; what is done already is not done again. */
export const batch: Command = {
  name: 'batch',
  usage: 'SETTINGS.json FILES... --out DIR [--workers N]',
  options: { out: text, workers: text },
  async run([settingsPath, ...files], values) {
    if (!settingsPath || files.length === 0) throw new Complaint('A file of settings and files to work on are needed.');
    if (typeof values.out !== 'string') throw new Complaint('--out must name a folder.');
    const out = values.out;
    const given = readJson(settingsPath);
    const settings = readBatch(given);
    const twins = twinsAmong(files.map((file) => basename(file)));
    if (twins) throw new Complaint(twins);
    mkdirSync(out, { recursive: true });
    const maxWorkers = number((values.workers as string | undefined) ?? String(availableParallelism()), 'workers', 1, 256);
    const workers = pool(fileURLToPath(new URL('./batch-task.mjs', import.meta.url)), {
      workerType: 'thread',
      maxWorkers,
      workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY } }
    });
    let [done, failed] = [0, 0];
    const [began, cpuBefore] = [performance.now(), process.cpuUsage()];
    const tell = (file: string, what: string): void => {
      process.stderr.write(`${++done} of ${files.length}: ${basename(file)}: ${what}\n`);
    };
    const one = async (file: string): Promise<void> => {
      const name = basename(file);
      const reportPath = join(out, `${name}.json`);
      try {
        const bytes = new Uint8Array(readFileSync(file));
        const stamp = checksum(bytes, JSON.stringify(given));
        if (isDone(reportPath, stamp, out)) return tell(file, 'done before');
        const { files: made, report } = (await workers.exec('file', [{ name, bytes }, settings])) as Done;
        for (const part of made) writeWhole(join(out, part.name), part.bytes);
        // the report comes last: with it all is there
        writeWhole(reportPath, JSON.stringify({ stamp, ...report }, undefined, 1));
        tell(file, reportInWords(report));
      } catch (error) {
        failed++;
        tell(file, `failed: ${failureInWords(error, MOST_MEMORY)}`);
      }
    };
    try {
      // one file more than there are threads is at hand: no thread waits, and not all of them are held in memory
      const waiting = files.values();
      const lane = async (): Promise<void> => {
        for (const file of waiting) await one(file);
      };
      await Promise.all(Array.from({ length: maxWorkers + 1 }, lane));
    } finally {
      await workers.terminate(true);
    }
    const seconds = (performance.now() - began) / 1000;
    const { user, system } = process.cpuUsage(cpuBefore);
    process.stderr.write(`${seconds.toFixed(1)} s, ${((user + system) / 1e6 / seconds).toFixed(2)} cores busy on average.\n`);
    process.stdout.write(`${files.length - failed} of ${files.length} done, in ${out}.\n`);
    if (failed > 0) process.exitCode = 1;
  }
};
