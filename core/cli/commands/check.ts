import { writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { Cage, findingsAsJson, FormatError, reportCsv, reportHtml, reportOn, type PartReport, type PolygonMesh } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { read, surfaceOf } from '../files.ts';

/** What the process ends with where something shows, and where some file could not be read. */
const [SOME_VISIBLE, SOME_UNREAD] = [2, 1];

/** Findings of some files: as text, as JSON, as a sheet with a row a file, or as a page. */
export const check: Command = {
  name: 'check',
  usage: 'FILE... [--reference REF] [--json | --csv | --html OUT]',
  options: { reference: text, json: flag, csv: flag, html: text },
  run(files, values) {
    if (files.length === 0) throw new Complaint('A file to check is missing.');
    const reference = typeof values.reference === 'string' ? read(values.reference).mesh : undefined;
    const { reports, unread } = reportsOf(files, reference);
    const visible = reports.some(({ findings }) => findings.some((f) => f.visible));
    if (values.json) {
      const asJson = reports.map(({ name, findings }) => ({ ...(files.length > 1 && { file: name }), findings: findingsAsJson(findings) }));
      process.stdout.write(`${JSON.stringify(files.length > 1 ? asJson : asJson[0])}\n`);
    } else if (values.csv) process.stdout.write(reportCsv(reports));
    else if (typeof values.html === 'string') writeFileSync(values.html, reportHtml(files.map((f) => basename(f)).join(', '), reports));
    else for (const report of reports) process.stdout.write(asText(report));
    for (const problem of unread) process.stderr.write(`${problem}\n`);
    if (unread.length > 0) process.stderr.write(`${reports.length} of ${files.length} files were checked.\n`);
    if (visible) process.exitCode = SOME_VISIBLE;
    if (unread.length > 0) process.exitCode = SOME_UNREAD;
  }
};

/** A report on each file that can be read, and why the others cannot. @throws Complaint or FormatError where there is one file alone */
function reportsOf(files: readonly string[], reference: PolygonMesh | undefined): { reports: PartReport[]; unread: string[] } {
  const reports: PartReport[] = [];
  const unread: string[] = [];
  for (const file of files) {
    try {
      reports.push(reportOf(file, reference));
    } catch (error) {
      if (files.length === 1 || !(error instanceof Complaint || error instanceof FormatError)) throw error;
      unread.push(error.message.includes(basename(file)) ? error.message : `${basename(file)}: ${error.message}`);
    }
  }
  return { reports, unread };
}

function reportOf(file: string, reference: PolygonMesh | undefined): PartReport {
  const part = read(file);
  return reportOn(basename(file), { cage: Cage.fromPolygons(part.mesh), settings: surfaceOf(part), reference });
}

function asText({ name, findings }: PartReport): string {
  const visible = findings.filter((f) => f.visible);
  const rest = findings.length - visible.length;
  const lines = visible.map(({ why, place }) => `  ${why} At ${place.map((x) => x.toFixed(2)).join(', ')} mm.`);
  return [`${name}: ${visible.length === 0 ? 'nothing that shows' : `${visible.length} that show`}, ${rest} harmless`, ...lines].join('\n') + '\n';
}
