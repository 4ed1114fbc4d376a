import { gzipSync } from 'fflate';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import { autoQuads } from '../src/autoquad/auto-quads.ts';
import { type AutoQuadsOptions, FEWEST_QUADS } from '../src/autoquad/base/options.ts';
import { planPoles } from '../src/autoquad/look-ahead.ts';
import { deviation, measure } from '../src/check/measures.ts';
import { quadQuality } from '../src/check/quad-quality.ts';
import { fillHole, fillMethods, MOST_GRID_EDGES } from '../src/fill/fill-hole.ts';
import { describeHole, holeAlong } from '../src/fill/hole.ts';
import { fillRing, gapsOf } from '../src/fill/nested.ts';
import { bringIn, type BroughtIn } from '../src/formats/bring-in.ts';
import { losses, type WriteOptions } from '../src/formats/format.ts';
import { unpackGzip } from '../src/formats/gzip.ts';
import { formatByName, formats, tooLarge, writeMesh } from '../src/formats/registry.ts';
import { Cage } from '../src/mesh/cage.ts';
import { boundsOf, faceCount, vertexCount, type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { validParams } from '../src/operations/apply.ts';
import { autoQuadsOperation, autoQuadsOptions } from '../src/operations/lay/lay-quads.ts';
import { type Params } from '../src/operations/operation.ts';
import { counted } from '../src/operations/shared/words.ts';
import { Reference } from '../src/reference/reference.ts';
import { loadSolids } from '../src/solids/engine.ts';
import { bake } from '../src/subdivide/bake.ts';
import { levelSteps } from '../src/subdivide/level-plan.ts';
import { Subdivision } from '../src/subdivide/subdivision.ts';
import { Complaint } from './complaint.ts';
import { isJobFile, jobInfo, replayJob } from './job-commands.ts';

const USAGE = `ulvrin info FILE [--json]
ulvrin replay FILE.ulvrin OUT [--set ENTRY.FIELD=VALUE ...] [--json]
ulvrin convert IN OUT
ulvrin quads IN OUT --count N | --count FEWEST..MOST | --size FINEST..COARSEST [--pull 0..100] [--finer 0..70] [--features DEGREES]
    [--symmetry auto|none|x|y|z] [--guides FILE.json] [--no-creases] [--lies smooth|vertices]
    [--small leave|boxes] [--one-skin] [--poles] [--seed S] [--json]
ulvrin subdivide IN OUT [--levels N] [--plan divide,divide,smooth] [--scheme catmull-clark|loop] [--limit]
ulvrin bake IN OUT --tolerance MM
ulvrin fill IN OUT [--method grid|ring|triangles|face] [--swell 0..1] [--json]
Formats by extension: ${formats.flatMap((f) => f.extensions).join(', ')}, and .gz after them.`;

const options = {
  json: { type: 'boolean' },
  set: { type: 'string', multiple: true },
  count: { type: 'string' },
  pull: { type: 'string' },
  finer: { type: 'string' },
  features: { type: 'string' },
  size: { type: 'string' },
  symmetry: { type: 'string' },
  guides: { type: 'string' },
  'no-creases': { type: 'boolean' },
  lies: { type: 'string' },
  small: { type: 'string' },
  'one-skin': { type: 'boolean' },
  poles: { type: 'boolean' },
  seed: { type: 'string' },
  levels: { type: 'string' },
  plan: { type: 'string' },
  tolerance: { type: 'string' },
  method: { type: 'string' },
  swell: { type: 'string' },
  scheme: { type: 'string' },
  limit: { type: 'boolean' },
  help: { type: 'boolean' }
} as const;

const plainName = (path: string) => basename(path).replace(/\.gz$/i, '');

function read(path: string | undefined): BroughtIn {
  if (!path) throw new Complaint(`An input file is missing. ${USAGE.split('\n')[0]}`);
  const size = statSync(path, { throwIfNoEntry: false });
  if (!size?.isFile()) throw new Complaint(`${path} is not a file that can be read.`);
  const refusal = tooLarge(path, size.size);
  if (refusal) throw new Complaint(refusal);
  const stored: Uint8Array = readFileSync(path);
  const bytes = /\.gz$/i.test(path) ? unpackGzip(stored, path) : stored;
  return bringIn(bytes, plainName(path));
}

function write(path: string | undefined, mesh: PolygonMesh, settings: Partial<WriteOptions>): void {
  if (!path) throw new Complaint('An output file is missing.');
  const format = formatByName(plainName(path));
  if (!format) throw new Complaint(`${path}: the extension names no format that is written (${formats.map((f) => f.extensions[0]).join(', ')}).`);
  for (const sentence of losses(format, mesh)) process.stderr.write(`${sentence}\n`);
  const bytes = writeMesh(mesh, format, { name: plainName(path).replace(/\.[^.]*$/, ''), ...settings });
  writeFileSync(path, /\.gz$/i.test(path) ? gzipSync(bytes) : bytes);
}

function number(text: string | undefined, name: string, least: number, most: number, whole = true): number {
  const value = Number(text);
  if (text === undefined || text.trim() === '' || !Number.isFinite(value) || value < least || value > most || (whole && !Number.isInteger(value)))
    throw new Complaint(
      `--${name} must be a ${whole ? 'whole ' : ''}number from ${least} to ${most}${text === undefined ? ' and is missing' : `; it is "${text}"`}.`
    );
  return value;
}

/** The numbers of A..B, or one number twice. */
function span(text: string, name: string, least: number, most: number, whole = true): [number, number] {
  const [from, to = from] = text.split('..');
  return [number(from, name, least, most, whole), number(to, name, least, most, whole)];
}

function info(file: string | undefined, json: boolean): void {
  const { facts, notes, formatName, suggestion } = read(file);
  if (json) return void process.stdout.write(`${JSON.stringify({ file, format: formatName, suggestion, ...facts, notes }, null, 1)}\n`);
  const size = facts.bounds.max.map((x, k) => (x - facts.bounds.min[k]).toFixed(2)).join(' x ');
  const lines = [
    `${file} (${formatName})`,
    `${facts.vertices} vertices, ${facts.edges} edges, ${facts.faces} faces: ${facts.triangles} triangles, ${facts.quads} quads, ${facts.ngons} n-gons`,
    `${facts.borders} borders, ${facts.islands} islands, genus ${facts.genus}, ${size} mm`,
    ...notes
  ];
  process.stdout.write(lines.join('\n') + '\n');
}

/** What was given on the command line, by option. */
type Values = Record<string, string | boolean | string[] | undefined>;

/** Settings of auto quads as the card has them, checked by its schema. */
function quadSettings(values: Values): AutoQuadsOptions {
  const text = (name: string) => values[name] as string | undefined;
  const params: Params = {};
  if (text('size') !== undefined) {
    params.by = 'sizes';
    [params.finest, params.coarsest] = span(text('size')!, 'size', 1e-9, 1e6, false);
  } else if (text('count')?.includes('..')) {
    params.by = 'range';
    [params.fewest, params.most] = span(text('count')!, 'count', FEWEST_QUADS, 1e6);
  } else params.count = number(text('count'), 'count', FEWEST_QUADS, 1e6);
  params.curvaturePull = number(text('pull') ?? '50', 'pull', 0, 100, false);
  if (text('finer') !== undefined) params.finerBy = number(text('finer'), 'finer', 0, 70, false);
  if (text('features') !== undefined) params.featureAngle = number(text('features'), 'features', 1, 180, false);
  for (const name of ['symmetry', 'lies']) if (text(name) !== undefined) params[name] = text(name);
  if (values['no-creases']) params.creases = false;
  if (values['one-skin']) params.oneSkin = true;
  if (text('small') !== undefined) params.smallIslands = text('small');
  if (text('guides') !== undefined) Object.assign(params, guidesIn(text('guides')!));
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
function quads(input: string | undefined, output: string | undefined, values: Values): void {
  if (values.seed !== undefined) number(values.seed as string, 'seed', 0, 2 ** 31);
  const settings = quadSettings(values);
  const { mesh } = read(input);
  const start = performance.now();
  const stages: { phase: string; seconds: number }[] = [];
  let last = start;
  const report = {
    phase: (name: string, fraction: number) => {
      const now = performance.now();
      if (stages.length > 0) stages[stages.length - 1].seconds = (now - last) / 1000;
      stages.push({ phase: name, seconds: 0 });
      last = now;
      process.stderr.write(`${(100 * fraction).toFixed(0).padStart(3)} % ${((now - start) / 1000).toFixed(1)} s ${name}\n`);
    }
  };
  if (values.poles) return void process.stdout.write(`${JSON.stringify(planPoles(mesh, settings, report))}\n`);
  const result = autoQuads(mesh, settings, report);
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
    notes: result.notes,
    diagonal
  };
  process.stdout.write(`${JSON.stringify(facts)}\n`);
}

async function main(): Promise<void> {
  const { values, positionals } = parseArgs({ options, allowPositionals: true });
  if (values['one-skin']) await loadSolids();
  const [command, input, output] = positionals;
  if (values.help || !command) return void process.stdout.write(USAGE + '\n');
  switch (command) {
    case 'info':
      return isJobFile(input) ? jobInfo(input!, values.json === true) : info(input, values.json === true);
    case 'replay':
      return replayJob(input, output, values.set ?? [], values.json === true);
    case 'convert': {
      const { mesh, scheme, borderCorners } = read(input);
      return write(output, mesh, { scheme, borderCorners });
    }
    case 'quads':
      return quads(input, output, values);
    case 'subdivide': {
      const steps = values.plan === undefined ? [] : levelSteps(values.plan);
      const levels = values.levels === undefined && steps.length > 0 ? steps.length : number(values.levels, 'levels', 0, 9);
      const { mesh, scheme: asked, borderCorners } = read(input);
      const scheme = values.scheme ?? (asked === 'loop' ? 'loop' : 'catmull-clark');
      if (scheme !== 'loop' && scheme !== 'catmull-clark') throw new Complaint(`--scheme is catmull-clark or loop; it is "${scheme}".`);
      const surface = new Subdivision(mesh, { scheme, levels, limit: values.limit, borderCorners, plan: steps.length > 0 ? { steps } : undefined });
      return write(output, surface.toPolygons(mesh), { scheme: values.limit ? 'none' : scheme, borderCorners });
    }
    case 'bake': {
      const tolerance = number(values.tolerance, 'tolerance', 1e-6, 1e6, false);
      const { mesh, scheme, borderCorners } = read(input);
      const baked = bake(mesh, { scheme: scheme === 'loop' ? 'loop' : 'catmull-clark', borderCorners }, tolerance);
      process.stderr.write(`${baked.levels} levels: a receiver that ignores creases is off by ${baked.error.toFixed(4)} mm at most.\n`);
      return write(output, baked.mesh, { scheme, borderCorners });
    }
    case 'fill': {
      const method = fillMethods.find((m) => m === (values.method ?? 'grid'));
      if (!method) throw new Complaint(`--method is ${fillMethods.join(', ')}; it is "${values.method}".`);
      const swell = number(values.swell ?? '1', 'swell', 0, 1, false);
      const { mesh, scheme, borderCorners } = read(input);
      const cage = Cage.fromPolygons(mesh);
      const gaps = gapsOf(cage);
      const reports = gaps.map(({ hole: found, island }, i) => {
        process.stderr.write(`Hole ${i + 1} of ${gaps.length}: ${describeHole(found)}\n`);
        if (found.vertices.length > MOST_GRID_EDGES && (method === 'grid' || method === 'ring'))
          throw new Complaint(
            `The border of ${found.vertices.length} edges is too long for a grid; up to ${MOST_GRID_EDGES} are filled so. Use --method face.`
          );
        const hole = holeAlong(cage, found.halves);
        const faces = island ? fillRing(cage, hole, holeAlong(cage, island.halves)) : fillHole(cage, hole, method, { swell });
        const triangles = faces.filter((f) => cage.faceSize(f) === 3).length;
        return { hole: describeHole(hole), edges: hole.vertices.length, faces: faces.length, triangles };
      });
      if (values.json) process.stdout.write(`${JSON.stringify({ holes: reports })}\n`);
      else
        for (const { hole, faces, triangles } of reports)
          process.stderr.write(`${hole}: ${counted(faces, 'face')}, ${counted(triangles, 'triangle')} among them.\n`);
      return write(output, cage.toPolygons(), { scheme, borderCorners });
    }
    default:
      throw new Complaint(`"${command}" is not a command. ${[...USAGE.matchAll(/^ulvrin (\w+)/gm)].map(([, name]) => name).join(', ')} are.`);
  }
}

try {
  await main();
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`.replace(/\n(?=.)/g, ' '));
  process.exitCode = 1;
}
