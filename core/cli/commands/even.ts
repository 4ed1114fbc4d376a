import { Cage, describeEven, evenedOut, holdsAll, Reference, type EvenSettings } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, write } from '../files.ts';

const HELD = ['borders', 'creases', 'regions'] as const;

export const even: Command = {
  name: 'even',
  usage: 'IN OUT [--relax PASSES | --smooth PASSES] [--strength 0..1] [--on REFERENCE] [--hold borders,creases,regions] [--json]',
  options: { relax: text, smooth: text, strength: text, on: text, hold: text, json: flag },
  run([input, output], values) {
    const given = (name: string) => values[name] as string | undefined;
    if (given('relax') !== undefined && given('smooth') !== undefined) throw new Complaint('--relax and --smooth do not go together: choose one.');
    const way = given('smooth') === undefined ? 'relax' : 'smooth';
    const passes = number(given(way) ?? '10', way, 1, 200);
    const strength = number(given('strength') ?? '0.5', 'strength', 0, 1, false);
    const { mesh, scheme, borderCorners } = read(input);
    const cage = Cage.fromPolygons(mesh);
    const on = given('on') === undefined ? undefined : new Reference(read(given('on')).mesh);
    const settings: EvenSettings = { way, passes, strength, held: heldFrom(given('hold')), on };
    if (holdsAll(cage, settings)) throw new Complaint('Nothing moves: all vertices lie on what is held. Hold less.');
    const { cage: made, report } = evenedOut(cage, settings);
    if (values.json) process.stdout.write(`${JSON.stringify({ volume: report.volume, spread: report.spread, greatestMove: report.greatestMove })}\n`);
    else process.stderr.write(`${describeEven(report)}\n`);
    return write(output, made.toPolygons(), { scheme, borderCorners });
  }
};

/** What a list of names holds; all of it where there is none. */
function heldFrom(list: string | undefined): EvenSettings['held'] {
  const names: string[] = list === undefined ? [...HELD] : list.split(',').filter((name) => name !== '');
  const unknown = names.find((name) => !HELD.some((held) => held === name));
  if (unknown) throw new Complaint(`--hold is a list of ${HELD.join(', ')}; "${unknown}" is none of them.`);
  const [borders, creases, regions] = HELD.map((held) => names.includes(held));
  return { borders, creases, regions };
}
