import { Cage, deliveryReport, destinations, formatByName, formats, lengthInWords } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { read, write } from '../files.ts';

/** Writes a part for a destination, and tells what arrives there. */
export const deliver: Command = {
  name: 'deliver',
  usage: 'IN OUT --to DESTINATION [--json]',
  options: { to: text, json: flag },
  run([input, output], values) {
    const to = destinations.find(({ id, name }) => id === values.to || name === values.to);
    if (!to) throw new Complaint(`--to must name a destination: ${destinations.map(({ id }) => id).join(', ')}.`);
    const { mesh, scheme, borderCorners } = read(input);
    const settings = { scheme: scheme === 'loop' ? 'loop' : 'catmull-clark', borderCorners: borderCorners ?? 'sharp' } as const;
    const sent = { mesh: Cage.fromPolygons(mesh).toPolygons(), settings };
    if (!output) throw new Complaint('An output file is missing.');
    const format = formatByName(output.replace(/\.gz$/i, ''));
    if (!format) throw new Complaint(`${output}: the extension names no format that is written (${formats.map((f) => f.extensions[0]).join(', ')}).`);
    const { refused, losses, difference, advice } = deliveryReport(sent, format, to);
    write(output, mesh, { scheme, borderCorners });
    const told = refused ? [refused, ...losses] : losses;
    if (values.json) {
      const ways = advice.map(({ text: said, way, difference: off }) => ({
        text: said,
        operation: 'operation' in way ? way.operation : undefined,
        difference: off
      }));
      return void process.stdout.write(`${JSON.stringify({ losses: told, difference, advice: ways })}\n`);
    }
    const lines = [
      ...told,
      difference === undefined ? 'Nothing arrives.' : `What arrives lies ${lengthInWords(difference)} off at most.`,
      ...advice.map(({ text: said, difference: off, faces }) => `  ${said} ${lengthInWords(off)} off then, ${faces.toLocaleString('en')} faces.`)
    ];
    process.stdout.write(`${lines.join('\n')}\n`);
  }
};
