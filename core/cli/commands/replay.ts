import { writeFileSync } from 'node:fs';
import { emptySelection, writeJobFile, type Logbook, type NewEntry } from '../../src/index.ts';
import { type Command, flag, listOf, texts } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { formatOf, number, readJson, write } from '../files.ts';
import { isJobFile, openJob, replayed, tell } from '../job-files.ts';

export const replay: Command = {
  name: 'replay',
  usage: 'FILE.ulvrin OUT [--set ENTRY.FIELD=VALUE ...] [--disable ENTRY ...] [--remove ENTRY ...] [--insert FILE.json@ENTRY ...] [--json]',
  options: { set: texts, disable: texts, remove: texts, insert: texts, json: flag },
  run: (files, { set, disable, remove, insert, json }) =>
    replayJob(files, { sets: listOf(set), disabled: listOf(disable), removed: listOf(remove), inserted: listOf(insert) }, json === true)
};

/** What is changed before a job is replayed. */
interface Edits {
  sets: readonly string[];
  disabled: readonly string[];
  removed: readonly string[];
  inserted: readonly string[];
}

/** The place of an entry by its number. @throws Complaint */
function placeOf(logbook: Logbook, id: number): number {
  const index = logbook.entries.findIndex((e) => e.id === id);
  if (index < 0) throw new Complaint(`The job has no entry ${id}; its entries are ${logbook.entries.map((e) => e.id).join(', ')}.`);
  return index;
}

/** FILE.json@ENTRY: an entry as JSON, put before another one. @throws Complaint */
function inserted(logbook: Logbook, text: string): void {
  const found = /^(.+)@(\d+)$/s.exec(text);
  if (!found) throw new Complaint(`--insert takes FILE.json@ENTRY, as in move.json@3; it is "${text}".`);
  const given = readJson(found[1]) as Partial<NewEntry>;
  if (typeof given.operation !== 'string' || typeof given.part !== 'string')
    throw new Complaint(`${found[1]}: an entry has "operation" and "part", and "params" and "selection" where it needs them.`);
  const { operation, part, params = {}, selection } = given;
  logbook.insert(placeOf(logbook, Number(found[2])), { operation, part, params, selection: { ...emptySelection(), ...selection } });
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
async function replayJob([path, out]: readonly string[], { sets, disabled, removed, inserted: put }: Edits, json: boolean): Promise<void> {
  if (!path || !isJobFile(path)) throw new Complaint('replay takes a job file (.ulvrin) and a file to write.');
  if (!out) throw new Complaint('An output file is missing.');
  const { file, logbook } = await openJob(path);
  for (const { id, field, value } of sets.map(setting)) {
    const index = placeOf(logbook, id);
    logbook.edit(index, { ...logbook.entries[index].params, [field]: value });
  }
  const ids = (texts: readonly string[], name: string) => texts.map((id) => number(id, name, 1, 1e9));
  for (const id of ids(disabled, 'disable')) logbook.disable(placeOf(logbook, id), true);
  for (const id of ids(removed, 'remove')) logbook.remove(placeOf(logbook, id));
  for (const one of put) inserted(logbook, one);
  await replayed(logbook);
  if (isJobFile(out)) writeFileSync(out, writeJobFile({ ...file, ...logbook.settings, cursor: logbook.cursor, entries: logbook.entries }));
  else writePart(out, logbook);
  tell(path, logbook, json);
}

function writePart(out: string, logbook: Logbook): void {
  formatOf(out, ['ulvrin']);
  const part = logbook.state.parts.findLast((p) => p.cage);
  if (!part) throw new Complaint('The job has no cage to write.');
  write(out, part.cage!.toPolygons(), { name: part.name, scheme: part.scheme, borderCorners: part.borderCorners });
}
