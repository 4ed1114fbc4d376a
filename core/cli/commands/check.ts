import { writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { Cage, findingsAsJson, reportCsv, reportHtml, reportOn, type PartReport, type PolygonMesh } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { read, surfaceOf } from '../files.ts';

/** What the process ends with where something shows. */
const SOME_VISIBLE = 2;

/** Findings of some files: as text, as JSON, as a sheet with a row a file, or as a page. */
export const check: Command = {
  name: 'check',
  usage: 'FILE... [--reference REF] [--json | --csv | --html OUT]',
  options: { reference: text, json: flag, csv: flag, html: text },
  run(files, values) {
    if (files.length === 0) throw new Complaint('A file to check is missing.');
    const reference = typeof values.reference === 'string' ? read(values.reference).mesh : undefined;
    const reports = files.map((file) => reportOf(file, reference));
    const visible = reports.some(({ findings }) => findings.some((f) => f.visible));
    if (values.json) {
      const asJson = reports.map(({ name, findings }) => ({ ...(files.length > 1 && { file: name }), findings: findingsAsJson(findings) }));
      process.stdout.write(`${JSON.stringify(files.length > 1 ? asJson : asJson[0])}\n`);
    } else if (values.csv) process.stdout.write(reportCsv(reports));
    else if (typeof values.html === 'string') writeFileSync(values.html, reportHtml(files.map((f) => basename(f)).join(', '), reports));
    else for (const report of reports) process.stdout.write(asText(report));
    if (visible) process.exitCode = SOME_VISIBLE;
  }
};

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
