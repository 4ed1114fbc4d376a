import { operationById, validParams, REMOVE_PART, RENAME_PART, type Entry } from '../../src/index.ts';
import { type Command, flag } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { isJobFile, openJob, replayed } from '../job-files.ts';

/** What is wrong with a job file, and where. */
interface Fault {
  entry: number;
  what: string;
}

/** Why an entry is not as its operation has it; nothing where it is. */
function faultOf(entry: Entry, known: ReadonlySet<string>): string | undefined {
  if (entry.operation === REMOVE_PART || entry.operation === RENAME_PART) return undefined;
  const operation = operationById(entry.operation);
  if (!operation) return `the operation "${entry.operation}" is not known to this version`;
  if (!entry.makes && !known.has(entry.part)) return `it works on part "${entry.part}", which no entry before it makes`;
  try {
    validParams(operation, entry.params);
  } catch (error) {
    return (error as Error).message;
  }
  return undefined;
}

/** Checks a job file: the box, its schema, checksums, each entry's numbers, and whether all of it can be done again. */
export const verify: Command = {
  name: 'verify',
  usage: 'FILE.ulvrin [--json]',
  options: { json: flag },
  async run([path], { json }) {
    if (!path || !isJobFile(path)) throw new Complaint('verify takes a job file (.ulvrin).');
    const { logbook } = await openJob(path);
    const faults: Fault[] = [];
    const made = new Set<string>();
    for (const entry of logbook.entries) {
      const what = faultOf(entry, made);
      if (what) faults.push({ entry: entry.id, what });
      if (entry.makes) made.add(entry.part);
      // parts that it splits off are named after it
      else if (operationById(entry.operation)?.kind === 'parts') for (let i = 0; i < 1000; i++) made.add(`${entry.part}.${entry.id}.${i}`);
    }
    await replayed(logbook);
    const known = new Set(faults.map(({ entry }) => entry));
    for (const { id, problem } of logbook.entries)
      if (problem && !known.has(id)) faults.push({ entry: id, what: `it cannot be done again: ${problem}` });
    if (json) process.stdout.write(`${JSON.stringify({ entries: logbook.entries.length, inForce: logbook.cursor, faults })}\n`);
    else {
      const lines = faults.map(({ entry, what }) => `entry ${entry}: ${what}`);
      process.stdout.write(
        [`${path}: ${faults.length === 0 ? 'all is well' : `${faults.length} faults`}, ${logbook.entries.length} entries`, ...lines].join('\n') + '\n'
      );
    }
    if (faults.length > 0) process.exitCode = 2;
  }
};
