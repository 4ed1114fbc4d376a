import { readFileSync, writeFileSync } from 'node:fs';
import { writeMesh, formatByName, formats } from '../src/formats/registry.ts';
import { losses } from '../src/formats/format.ts';
import { type Part } from '../src/logbook/entry.ts';
import { JobFileError, readJobFile, writeJobFile, type JobFile } from '../src/logbook/job-file.ts';
import { Logbook } from '../src/logbook/logbook.ts';
import { replayAhead } from '../src/logbook/replay-ahead.ts';
import { operationById } from '../src/operations/registry.ts';
import { loadSolids } from '../src/solids/engine.ts';
import { Complaint } from './complaint.ts';

/** What `info` and `replay` tell of a job. */
export interface JobFacts {
  entries: { id: number; operation: string; flag: string | null }[];
  parts: { name: string; faces: number }[];
}

export const isJobFile = (path: string | undefined): boolean => /\.ulvrin$/i.test(path ?? '');

async function open(path: string): Promise<{ file: JobFile; logbook: Logbook }> {
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
  const { name, sets = [], hidden = [] } = file;
  return { file, logbook: new Logbook(file.entries, file.cursor, { name, sets, hidden }) };
}

const facesOf = ({ cage, mesh }: Part): number => cage?.faceCount ?? mesh!.faceStart.length - 1;

function factsOf(logbook: Logbook): JobFacts {
  const parts = logbook.state.parts.map((part) => ({ name: part.name, faces: facesOf(part) }));
  return { entries: logbook.entries.map(({ id, operation, problem }) => ({ id, operation, flag: problem ?? null })), parts };
}

/** Replays a job, telling on standard error which entry is at work. */
const replayed = (logbook: Logbook): Promise<void> =>
  replayAhead(logbook, { tell: (title, index, of) => void process.stderr.write(`entry ${index + 1} of ${of}: ${title}\n`) });

/** Prints what a job holds, and sets the exit code to 2 where an entry is flagged. */
function tell(path: string, logbook: Logbook, json: boolean): void {
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
  const { logbook } = await open(path);
  await replayed(logbook);
  tell(path, logbook, json);
}

/** ENTRY.FIELD=VALUE: the entry's number, a field of its card, and a value as JSON or plain text. */
function setting(text: string): { id: number; field: string; value: unknown } {
  const found = /^(\d+)\.([A-Za-z]\w*)=(.*)$/s.exec(text);
  if (!found) throw new Complaint(`--set takes ENTRY.FIELD=VALUE, as in 1.across=5; it is "${text}".`);
  let value: unknown = found[3];
  try {
    value = JSON.parse(found[3]);
  } catch {
    // plain text
  }
  return { id: Number(found[1]), field: found[2], value };
}

/** `ulvrin replay FILE.ulvrin OUT`: replays a job, with fields of entries changed, and writes the job or its last cage. */
export async function replayJob(path: string | undefined, out: string | undefined, sets: readonly string[], json: boolean): Promise<void> {
  if (!path || !isJobFile(path)) throw new Complaint('replay takes a job file (.ulvrin) and a file to write.');
  if (!out) throw new Complaint('An output file is missing.');
  const { file, logbook } = await open(path);
  for (const { id, field, value } of sets.map(setting)) {
    const index = logbook.entries.findIndex((e) => e.id === id);
    if (index < 0) throw new Complaint(`The job has no entry ${id}; its entries are ${logbook.entries.map((e) => e.id).join(', ')}.`);
    logbook.edit(index, { ...logbook.entries[index].params, [field]: value });
  }
  await replayed(logbook);
  if (isJobFile(out)) writeFileSync(out, writeJobFile({ ...file, ...logbook.settings, cursor: logbook.cursor, entries: logbook.entries }));
  else writePart(out, logbook);
  tell(path, logbook, json);
}

function writePart(out: string, logbook: Logbook): void {
  const format = formatByName(out);
  if (!format)
    throw new Complaint(`${out}: the extension names no format that is written (${formats.map((f) => f.extensions[0]).join(', ')}, ulvrin).`);
  const part = logbook.state.parts.findLast((p) => p.cage);
  if (!part) throw new Complaint('The job has no cage to write.');
  const mesh = part.cage!.toPolygons();
  for (const sentence of losses(format, mesh)) process.stderr.write(`${sentence}\n`);
  writeFileSync(out, writeMesh(mesh, format, { name: part.name, scheme: part.scheme, borderCorners: part.borderCorners }));
}
