import { enclosedVolume } from '../mesh/topology.ts';
import { surfaceArea } from '../mesh/normals.ts';
import { lengthInWords } from '../numeric/length-words.ts';
import { escaped, printedPage } from '../task/printed-page.ts';
import { checkPart } from './check-part.ts';
import { type CheckedPart, type Finding } from './findings/finding.ts';
import { type Measures, measure } from './measures.ts';

/** All that a report says of one part. */
export interface PartReport {
  name: string;
  measures: Measures;
  /** mm3; nothing where it is open */
  volume?: number;
  /** mm2 */
  area: number;
  findings: Finding[];
}

/** Looks a part through for a report. */
export function reportOn(name: string, part: CheckedPart): PartReport {
  const { cage } = part;
  const measures = measure(cage);
  return {
    name,
    measures,
    volume: measures.borders === 0 && measures.faces > 0 ? enclosedVolume(cage) : undefined,
    area: surfaceArea(cage),
    findings: checkPart(part)
  };
}

/** Findings as others read them, the most visible first. */
export const findingsAsJson = (findings: readonly Finding[]): object[] =>
  findings.map(({ kind, place, size, unit, visible, rank, why, fixes }) => ({
    kind,
    place,
    size,
    unit,
    visible,
    rank,
    why,
    fixes: fixes.map((f) => f.operation)
  }));

const plural = (n: number, one: string, more: string) => `${n.toLocaleString('en')} ${n === 1 ? one : more}`;
const polesOf = ({ poles }: Measures, fits: (valence: number) => boolean) =>
  poles.filter((p) => fits(p.valence)).reduce((sum, p) => sum + p.count, 0);

/** Columns of a sheet of several parts. */
const COLUMNS: readonly [title: string, of: (report: PartReport) => string | number][] = [
  ['file', ({ name }) => name],
  ['faces', ({ measures: m }) => m.faces],
  ['quads %', ({ measures: m }) => (m.faces > 0 ? ((100 * m.quads) / m.faces).toFixed(1) : '0')],
  ['triangles', ({ measures: m }) => m.triangles],
  ['n-gons', ({ measures: m }) => m.ngons],
  ['poles of 3', ({ measures: m }) => polesOf(m, (v) => v === 3)],
  ['poles of 5', ({ measures: m }) => polesOf(m, (v) => v === 5)],
  ['poles of 6 and more', ({ measures: m }) => polesOf(m, (v) => v >= 6)],
  ['borders', ({ measures: m }) => m.borders],
  ['pieces', ({ measures: m }) => m.islands],
  ['spread of edge lengths', ({ measures: m }) => m.spacing.toFixed(3)],
  ['worst corner, degrees', ({ measures: m }) => Math.max(Math.abs(m.corners.most - 90), Math.abs(90 - m.corners.least)).toFixed(1)],
  ['volume, mm3', ({ volume }) => volume?.toFixed(1) ?? 'open'],
  ['visible findings', ({ findings }) => findings.filter((f) => f.visible).length],
  ['gravest', ({ findings }) => (findings[0]?.visible ? findings[0].why : 'none')]
];

const quoted = (value: string | number): string => (/[",\n]/.test(String(value)) ? `"${String(value).replaceAll('"', '""')}"` : String(value));

/** A sheet with a row a part (RFC 4180). */
export const reportCsv = (reports: readonly PartReport[]): string =>
  [COLUMNS.map(([title]) => title), ...reports.map((r) => COLUMNS.map(([, of]) => of(r)))].map((row) => row.map(quoted).join(',')).join('\r\n') +
  '\r\n';

/** Findings of a part that a report lists at most. */
const MOST_LISTED = 40;

/** What a page may show of a part beside its figures: finished pieces of HTML. */
export interface ReportPictures {
  /** as an image's address with its data in it */
  picture?: string;
  /** charts as SVG */
  charts?: readonly string[];
}

/** One page on some parts that needs nothing else and prints well. */
export function reportHtml(title: string, reports: readonly PartReport[], pictures: ReadonlyMap<string, ReportPictures> = new Map()): string {
  return printedPage(title, reports.map((report) => partSection(report, pictures.get(report.name))).join('\n'));
}

function partSection({ name, measures: m, volume, area, findings }: PartReport, shown: ReportPictures = {}): string {
  const visible = findings.filter((f) => f.visible).length;
  const rows: [string, string][] = [
    [
      'Faces',
      `${m.faces.toLocaleString('en')}: ${plural(m.quads, 'quad', 'quads')}, ${plural(m.triangles, 'triangle', 'triangles')}, ${plural(m.ngons, 'n-gon', 'n-gons')}`
    ],
    ['Poles', m.poles.map(({ valence, count }) => `${count.toLocaleString('en')} of ${valence}`).join(', ') || 'none'],
    ['Borders, pieces', `${m.borders}, ${m.islands}`],
    [
      'Edges',
      `${lengthInWords(m.edgeLength.mean)} in the mean, ${lengthInWords(m.edgeLength.least)} to ${lengthInWords(m.edgeLength.most)}; spread ${m.spacing.toFixed(2)}`
    ],
    ['Corners', `${m.corners.least.toFixed(0)}° to ${m.corners.most.toFixed(0)}°`],
    ['Area', `${Math.round(area).toLocaleString('en')} mm²`],
    ['Volume', volume === undefined ? 'open' : `${Math.round(volume).toLocaleString('en')} mm³`]
  ];
  const listed = findings.slice(0, MOST_LISTED);
  const more = findings.length - listed.length;
  return `<section><h2>${escaped(name)}</h2>
${shown.picture ? `<figure><img src="${shown.picture}" alt="${escaped(name)}"></figure>` : ''}
<p>${visible === 0 ? 'Nothing that shows was found.' : `${plural(visible, 'finding shows', 'findings show')} on the smooth surface.`}</p>
<table>${rows.map(([label, value]) => `<tr><th>${label}</th><td>${escaped(value)}</td></tr>`).join('')}</table>
${shown.charts?.length ? `<div class="charts">${shown.charts.join('')}</div>` : ''}
${listed.length > 0 ? `<table><tr><th>Finding</th><th>Place, mm</th></tr>${listed.map(findingRow).join('')}</table>` : ''}
${more > 0 ? `<p class="quiet">and ${more.toLocaleString('en')} more</p>` : ''}</section>`;
}

const findingRow = ({ why, place, visible }: Finding): string =>
  `<tr${visible ? '' : ' class="quiet"'}><td>${escaped(why)}</td><td class="n">${place.map((x) => x.toFixed(1)).join(', ')}</td></tr>`;
