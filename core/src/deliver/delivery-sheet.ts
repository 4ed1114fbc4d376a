import { lengthInWords } from '../numeric/length-words.ts';
import { escaped, printedPage } from '../task/printed-page.ts';

/** What was sent once, as a job keeps it. */
export interface DeliveryRecord {
  /** when, ISO 8601 */
  at: string;
  part: string;
  /** what of it, in words: the cage, baked, with levels of detail ... */
  what: string;
  file: string;
  /** id of the format, or of several with commas between */
  format: string;
  faces: number;
  bytes: number;
  /** SHA-256 of the file, hexadecimal: the same file has the same one */
  sha256: string;
  /** name of the place it is for; nothing where none was chosen */
  destination?: string;
  losses: string[];
  /** mm that it lies off there; nothing where that was not looked at */
  difference?: number;
}

/** How far a delivery lies off, in words. */
export const differenceInWords = ({ difference }: Pick<DeliveryRecord, 'difference'>): string =>
  difference === undefined ? 'not looked at' : difference === 0 ? 'the same' : lengthInWords(difference);

/** The delivery sheet of a job: one page that prints well, the last delivery first. */
export const deliverySheet = (job: string, records: readonly DeliveryRecord[]): string =>
  printedPage(`${job}: deliveries`, records.length === 0 ? '<p>Nothing was delivered yet.</p>' : [...records].reverse().map(section).join('\n'));

function section(record: DeliveryRecord): string {
  const { at, part, what, file, faces, bytes, sha256, destination, losses } = record;
  const rows: [string, string][] = [
    ['Sent', `${at.slice(0, 10)} ${at.slice(11, 16)} UTC`],
    ['What', `${part}: ${what}, ${faces.toLocaleString('en')} faces`],
    ['For', destination ?? 'no place named'],
    ['Off there, at most', differenceInWords(record)],
    ['Lost', losses.join(' ') || 'nothing'],
    ['Size', `${bytes.toLocaleString('en')} bytes`]
  ];
  return `<section><h2>${escaped(file)}</h2>
<table>${rows.map(([label, value]) => `<tr><th>${label}</th><td>${escaped(value)}</td></tr>`).join('')}
<tr><th>SHA-256</th><td><code>${escaped(sha256)}</code></td></tr></table></section>`;
}
