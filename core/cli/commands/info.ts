import { counted } from '../../src/index.ts';
import { type Command, flag } from '../command.ts';
import { read } from '../files.ts';
import { isJobFile, jobInfo } from '../job-files.ts';

/** Counts, size and what was found on the way in; of a job its entries and parts. */
export const info: Command = {
  name: 'info',
  usage: 'FILE [--json]',
  options: { json: flag },
  run: ([file], { json }) => (isJobFile(file) ? jobInfo(file, json === true) : meshInfo(file, json === true))
};

function meshInfo(file: string | undefined, json: boolean): void {
  const { facts, notes, formatName, suggestion } = read(file);
  if (json) return void process.stdout.write(`${JSON.stringify({ file, format: formatName, suggestion, ...facts, notes }, null, 1)}\n`);
  const size = facts.bounds.max.map((x, k) => (x - facts.bounds.min[k]).toFixed(2)).join(' x ');
  const lines = [
    `${file} (${formatName})`,
    `${facts.vertices} vertices, ${facts.edges} edges, ${facts.faces} faces: ${facts.triangles} triangles, ${facts.quads} quads, ${facts.ngons} n-gons`,
    `${counted(facts.borders, 'border')}, ${counted(facts.islands, 'island')}, genus ${facts.genus}, ${size} mm`,
    ...notes
  ];
  process.stdout.write(lines.join('\n') + '\n');
}
