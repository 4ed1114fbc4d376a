import { Cage, holdTo, Reference, type HoldSettings } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, surfaceOf, write } from '../files.ts';

const FITS = ['vertices', 'surface'] as const;

export const hold: Command = {
  name: 'hold',
  usage: 'CAGE REFERENCE OUT [--passes N] [--fit surface|vertices] [--offset MM] [--json]',
  options: { passes: text, fit: text, offset: text, json: flag },
  run([input, reference, output], values) {
    const given = (name: string) => values[name] as string | undefined;
    const fit = given('fit') ?? 'vertices';
    if (!FITS.some((known) => known === fit)) throw new Complaint(`--fit is ${FITS.join(' or ')}; "${fit}" is neither.`);
    const part = read(input);
    const cage = Cage.fromPolygons(part.mesh);
    const on = read(reference).mesh;
    if (on.faceVertices.length === 0) throw new Complaint('The reference has no faces.');
    const settings: HoldSettings = {
      way: 'nearest',
      even: true,
      fit: fit as HoldSettings['fit'],
      passes: number(given('passes') ?? '5', 'passes', 1, 20),
      offset: number(given('offset') ?? '0', 'offset', -1e4, 1e4, false),
      vertices: [...cage.vertices()]
    };
    const { cage: held, report } = holdTo(cage, Reference.of(on), surfaceOf(part), settings);
    const middle = (f: number) => {
      const corners = held.faceVertices(f).map((v) => held.position(v));
      return [0, 1, 2].map((k) => corners.reduce((sum, p) => sum + p[k], 0) / corners.length);
    };
    if (values.json) process.stdout.write(`${JSON.stringify({ distance: report.distance, flagged: report.flagged.map(middle) })}\n`);
    else
      process.stderr.write(
        `Mean ${report.distance.mean.toFixed(4)} mm, at most ${report.distance.max.toFixed(4)} mm; ${report.flagged.length} faces bridge a gap.\n`
      );
    return write(output, held.toPolygons(), { scheme: part.scheme, borderCorners: part.borderCorners });
  }
};
