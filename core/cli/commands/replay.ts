import { writeFileSync } from 'node:fs';
import { formatByName, formats, losses, writeJobFile, writeMesh, type Logbook } from '../../src/index.ts';
import { type Command, flag } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { isJobFile, openJob, replayed, tell } from '../job-files.ts';

export const replay: Command = {
  name: 'replay',
  usage: 'FILE.ulvrin OUT [--set ENTRY.FIELD=VALUE ...] [--json]',
  options: { set: { type: 'string', multiple: true }, json: flag },
  run: (files, { set, json }) => replayJob(files, (set as string[] | undefined) ?? [], json === true)
};

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
async function replayJob([path, out]: readonly string[], sets: readonly string[], json: boolean): Promise<void> {
  if (!path || !isJobFile(path)) throw new Complaint('replay takes a job file (.ulvrin) and a file to write.');
  if (!out) throw new Complaint('An output file is missing.');
  const { file, logbook } = await openJob(path);
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
