import { gunzipSync, gzipSync } from 'fflate';
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import { autoQuads } from '../src/autoquad/auto-quads.ts';
import { bringIn, type BroughtIn } from '../src/formats/bring-in.ts';
import { losses, type WriteOptions } from '../src/formats/format.ts';
import { fillHole, fillMethods } from '../src/fill/fill-hole.ts';
import { describeHole, holeAlong } from '../src/fill/hole.ts';
import { counted } from '../src/operations/words.ts';
import { fillRing, gapsOf } from '../src/fill/nested.ts';
import { formatByName, formats, tooLarge, writeMesh } from '../src/formats/registry.ts';
import { Cage } from '../src/mesh/cage.ts';
import { boundsOf, faceCount, vertexCount, type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { bake } from '../src/subdivide/bake.ts';
import { levelSteps } from '../src/subdivide/level-plan.ts';
import { Subdivision } from '../src/subdivide/subdivision.ts';

const USAGE = `ulvrin info FILE [--json]
ulvrin convert IN OUT
ulvrin quads IN OUT --count N [--pull 0..100] [--features DEGREES] [--seed S] [--json]
ulvrin subdivide IN OUT [--levels N] [--plan divide,divide,smooth] [--scheme catmull-clark|loop] [--limit]
ulvrin bake IN OUT --tolerance MM
ulvrin fill IN OUT [--method grid|ring|triangles|face] [--swell 0..1] [--json]
Formats by extension: ${formats.flatMap((f) => f.extensions).join(', ')}, and .gz after them.`;

/** Something the caller did that cannot be done; printed as one sentence. */
class Complaint extends Error {}

const options = {
  json: { type: 'boolean' },
  count: { type: 'string' },
  pull: { type: 'string' },
  features: { type: 'string' },
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
  let bytes: Uint8Array = readFileSync(path);
  if (/\.gz$/i.test(path)) {
    try {
      bytes = gunzipSync(bytes);
    } catch {
      throw new Complaint(`${path} is called .gz, but cannot be unpacked: it is damaged or not gzip.`);
    }
  }
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

function main(): void {
  const { values, positionals } = parseArgs({ options, allowPositionals: true });
  const [command, input, output] = positionals;
  if (values.help || !command) return void process.stdout.write(USAGE + '\n');
  switch (command) {
    case 'info':
      return info(input, values.json === true);
    case 'convert': {
      const { mesh, scheme, borderCorners } = read(input);
      return write(output, mesh, { scheme, borderCorners });
    }
    case 'quads': {
      const count = number(values.count, 'count', 24, 1e6);
      const pull = number(values.pull ?? '50', 'pull', 0, 100, false);
      if (values.seed !== undefined) number(values.seed, 'seed', 0, 2 ** 31);
      const featureAngle = values.features === undefined ? undefined : number(values.features, 'features', 1, 180, false);
      const { mesh } = read(input);
      const start = performance.now();
      const stages: { phase: string; seconds: number }[] = [];
      let last = start;
      const result = autoQuads(
        mesh,
        { count, curvaturePull: pull, featureAngle },
        {
          phase: (name, fraction) => {
            const now = performance.now();
            if (stages.length > 0) stages[stages.length - 1].seconds = (now - last) / 1000;
            stages.push({ phase: name, seconds: 0 });
            last = now;
            process.stderr.write(`${(100 * fraction).toFixed(0).padStart(3)} % ${((now - start) / 1000).toFixed(1)} s ${name}\n`);
          }
        }
      );
      for (const sentence of result.notes) process.stderr.write(`${sentence}\n`);
      write(output, result.mesh, {});
      if (values.json)
        process.stdout.write(
          `${JSON.stringify({ quads: faceCount(result.mesh), vertices: vertexCount(result.mesh), seconds: (performance.now() - start) / 1000, stages, diagonal: boundsOf(result.mesh.positions).diagonal })}\n`
        );
      return;
    }
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
      const reports = gapsOf(cage).map(({ hole: found, island }) => {
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
  main();
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`.replace(/\n(?=.)/g, ' '));
  process.exitCode = 1;
}
