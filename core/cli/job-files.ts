import { readFileSync } from 'node:fs';
import {
  documentSettings,
  JobFileError,
  loadSolids,
  Logbook,
  operationById,
  readJobFile,
  replayAhead,
  type JobFile,
  type Part
} from '../src/index.ts';
import { Complaint } from './complaint.ts';

/** What `info` and `replay` tell of a job. */
export interface JobFacts {
  entries: { id: number; operation: string; flag: string | null }[];
  parts: { name: string; faces: number }[];
}

/** Whether a path names a job, by its extension. */
export const isJobFile = (path: string | undefined): boolean => /\.ulvrin$/i.test(path ?? '');

/** A job from a file, not replayed yet. @throws Complaint where it cannot be read, saying what of it is whole */
export async function openJob(path: string): Promise<{ file: JobFile; logbook: Logbook }> {
  let file: JobFile;
  try {
    file = readJobFile(readFileSync(path));
  } catch (error) {
    if (!(error instanceof JobFileError)) throw new Complaint(`${path} cannot be read: ${(error as Error).message}`);
    const rest = error.whole
      ? ` ${error.whole.job.entries.length} of ${error.whole.of} entries are whole; the application opens these as a new job.`
      : '';
    throw new Complaint(`${path}: ${error.message}${rest}`);
  }
  if (file.entries.some((e) => operationById(e.operation)?.kind === 'parts')) await loadSolids();
  return { file, logbook: new Logbook(file.entries, file.cursor, documentSettings(file)) };
}

const facesOf = ({ cage, mesh }: Part): number => cage?.faceCount ?? mesh!.faceStart.length - 1;

function factsOf(logbook: Logbook): JobFacts {
  const parts = logbook.state.parts.map((part) => ({ name: part.name, faces: facesOf(part) }));
  return { entries: logbook.entries.map(({ id, operation, problem }) => ({ id, operation, flag: problem ?? null })), parts };
}

/** Replays a job, telling on standard error which entry is at work. */
export const replayed = (logbook: Logbook): Promise<void> =>
  replayAhead(logbook, { tell: (title, index, of) => void process.stderr.write(`entry ${index + 1} of ${of}: ${title}\n`) });

/** Prints what a job holds, and sets the exit code to 2 where an entry is flagged. */
export function tell(path: string, logbook: Logbook, json: boolean): void {
  const facts = factsOf(logbook);
  const flagged = facts.entries.filter((e) => e.flag !== null);
  if (json) process.stdout.write(`${JSON.stringify(facts)}\n`);
  else {
    const lines = [
      `${path} (job): ${facts.entries.length} entries, ${logbook.cursor} in force, ${flagged.length} flagged`,
      ...flagged.map(({ id, operation, flag }) => `entry ${id} (${operation}): ${flag}`),
      ...facts.parts.map(({ name, faces }) => `${name}: ${faces} faces`)
    ];
    process.stdout.write(`${lines.join('\n')}\n`);
  }
  if (flagged.length > 0) process.exitCode = 2;
}

/** `ulvrin info FILE.ulvrin`: replays a job and tells its entries and parts. */
export async function jobInfo(path: string, json: boolean): Promise<void> {
  const { logbook } = await openJob(path);
  await replayed(logbook);
  tell(path, logbook, json);
}
