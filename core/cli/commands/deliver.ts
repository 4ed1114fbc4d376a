import { Cage, deliveryReport, type Destination, destinations, destinationSchema, lengthInWords } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { formatOf, read, readJson, surfaceOf, write } from '../files.ts';

/** A destination by its name, or described in a file. @throws Complaint */
function destinationOf(named: string): Destination {
  if (named.endsWith('.json')) {
    const { value, error } = destinationSchema.validate(readJson(named));
    if (error) throw new Complaint(`${named} describes no destination: ${error.message}.`);
    return value as Destination;
  }
  const to = destinations.find(({ id, name }) => id === named || name === named);
  if (!to) throw new Complaint(`--to must name a destination: ${destinations.map(({ id }) => id).join(', ')}, or a file that describes one.`);
  return to;
}

/** Writes a part for a destination, and tells what arrives there. */
export const deliver: Command = {
  name: 'deliver',
  usage: 'IN OUT --to DESTINATION [--json]',
  options: { to: text, json: flag },
  run([input, output], values) {
    const to = destinationOf(String(values.to ?? ''));
    const part = read(input);
    const sent = { mesh: Cage.fromPolygons(part.mesh).toPolygons(), settings: surfaceOf(part) };
    if (!output) throw new Complaint('An output file is missing.');
    const { refused, losses, difference, advice } = deliveryReport(sent, formatOf(output), to);
    const { mesh, scheme, borderCorners } = part;
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
