import { readFileSync } from 'node:fs';
import {
  autoQuads,
  autoQuadsOperation,
  autoQuadsOptions,
  boundsOf,
  Cage,
  deviation,
  faceCount,
  FEWEST_QUADS,
  loadSolids,
  measure,
  planPoles,
  quadQuality,
  Reference,
  StageSeconds,
  Subdivision,
  validParams,
  vertexCount,
  type AutoQuadsOptions,
  type Params
} from '../../src/index.ts';
import { type Command, flag, text, type Values } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, span, write } from '../files.ts';

export const quads: Command = {
  name: 'quads',
  usage: `IN OUT --count N | --count FEWEST..MOST | --size FINEST..COARSEST [--pull 0..100] [--finer 0..70] [--sharp-angle DEGREES]
    [--symmetry auto|none|x|y|z] [--guides FILE.json] [--no-creases] [--fit surface|vertices]
    [--small leave|boxes] [--one-skin] [--poles] [--seed S] [--json]`,
  options: {
    count: text,
    size: text,
    pull: text,
    finer: text,
    'sharp-angle': text,
    symmetry: text,
    guides: text,
    'no-creases': flag,
    fit: text,
    small: text,
    'one-skin': flag,
    poles: flag,
    seed: text,
    json: flag
  },
  run: layQuads
};

/** Settings of auto quads as the card has them, checked by its schema. */
function quadSettings(values: Values): AutoQuadsOptions {
  const given = (name: string) => values[name] as string | undefined;
  const params: Params = {};
  if (given('size') !== undefined) {
    params.by = 'sizes';
    [params.finest, params.coarsest] = span(given('size')!, 'size', 1e-9, 1e6, false);
  } else if (given('count')?.includes('..')) {
    params.by = 'range';
    [params.fewest, params.most] = span(given('count')!, 'count', FEWEST_QUADS, 1e6);
  } else params.count = number(given('count'), 'count', FEWEST_QUADS, 1e6);
  params.curvaturePull = number(given('pull') ?? '50', 'pull', 0, 100, false);
  if (given('finer') !== undefined) params.finerBy = number(given('finer'), 'finer', 0, 70, false);
  if (given('sharp-angle') !== undefined) params.featureAngle = number(given('sharp-angle'), 'sharp-angle', 1, 180, false);
  if (given('symmetry') !== undefined) params.symmetry = given('symmetry');
  if (given('fit') !== undefined) params.lies = given('fit') === 'surface' ? 'smooth' : given('fit');
  if (values['no-creases']) params.creases = false;
  if (values['one-skin']) params.oneSkin = true;
  if (given('small') !== undefined) params.smallIslands = given('small');
  if (given('guides') !== undefined) Object.assign(params, guidesIn(given('guides')!));
  try {
    return autoQuadsOptions(validParams(autoQuadsOperation, params));
  } catch (error) {
    throw new Complaint((error as Error).message);
  }
}

/** What a file of guides may hold; each is checked by the operation's schema. */
const IN_GUIDES = new Set(['guides', 'sizes', 'lines', 'poleMoves', 'cancelWithin']);

/**
 * Guides and the rest in a JSON file: {"guides": [{points, influence, closed, count}], "sizes": [{at, radius, percent}],
 * "lines": [{points, follow}], "poleMoves": [{from, to}], "cancelWithin": quads}.
 */
function guidesIn(path: string): Params {
  try {
    const held = JSON.parse(readFileSync(path, 'utf8')) as Params;
    return Object.fromEntries(Object.entries(held).filter(([name]) => IN_GUIDES.has(name)));
  } catch (error) {
    throw new Complaint(`${path} holds no guides: ${(error as Error).message}`);
  }
}

/** Lays quads; told on the way are the phases, and with --json what came of it. With --poles only where poles would be. */
async function layQuads([input, output]: readonly string[], values: Values): Promise<void> {
  if (values['one-skin']) await loadSolids();
  if (values.seed !== undefined) number(values.seed as string, 'seed', 0, 2 ** 31);
  const settings = quadSettings(values);
  const { mesh } = read(input);
  const start = performance.now();
  const times = new StageSeconds(() => performance.now() / 1000);
  const report = {
    tried: times.tried,
    phase: (name: string, fraction: number) => {
      const now = performance.now();
      times.phase(name);
      process.stderr.write(`${(100 * fraction).toFixed(0).padStart(3)} % ${((now - start) / 1000).toFixed(1)} s ${name}\n`);
    }
  };
  if (values.poles) return void process.stdout.write(`${JSON.stringify(planPoles(mesh, settings, report))}\n`);
  const result = autoQuads(mesh, settings, report);
  const stages = times.stages();
  const seconds = (performance.now() - start) / 1000;
  for (const sentence of result.notes) process.stderr.write(`${sentence}\n`);
  write(output, result.mesh, {});
  if (!values.json) return;
  const cage = Cage.fromPolygons(result.mesh);
  const { poles, spacing } = measure(cage);
  const { diagonal } = boundsOf(mesh.positions);
  const reference = new Reference(mesh);
  const smooth = new Subdivision(result.mesh, { levels: 2, limit: true }).toPolygons(result.mesh);
  const percent = ({ most }: { most: number }) => (100 * most) / diagonal;
  const facts = {
    quads: faceCount(result.mesh),
    vertices: vertexCount(result.mesh),
    poles,
    spacing,
    ...quadQuality(cage),
    verticesOffPercent: percent(deviation(reference, result.mesh.positions)),
    awayPercent: percent(deviation(reference, smooth.positions)),
    missedPercent: percent(deviation(new Reference(smooth), mesh.positions)),
    seconds,
    stages,
    ways: times.ways,
    taken: result.way,
    notes: result.notes,
    diagonal
  };
  process.stdout.write(`${JSON.stringify(facts)}\n`);
}
