import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { autoQuads } from '../src/autoquad/auto-quads.ts';
import { WorkingMesh } from '../src/autoquad/base/working-mesh.ts';
import { measure } from '../src/check/measures.ts';
import { quadQuality } from '../src/check/quad-quality.ts';
import { bringIn } from '../src/formats/bring-in.ts';
import { Cage } from '../src/mesh/cage.ts';
import { boundsOf, faceCount, type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { triangulate } from '../src/mesh/triangulate.ts';
import { denseTorus } from '../src/shapes/sample-surfaces.ts';
import { StageSeconds } from '../src/task/stage-seconds.ts';
import type { TaskReport } from '../src/task/steps.ts';
import { sharpEdgesKept } from '../testing/kept-edges.ts';
import { best, head, line, smoothOff } from './measure.ts';

/** Where models lie that are measured, and not shipped; beside the repository, or where `MESHES` says. */
const folder = process.env.MESHES ?? join(import.meta.dirname, '../../../shared/meshes');

const NAMES = [
  'scan-plush',
  'scan-long-legs',
  'scan-horned',
  'scan-tail',
  'scan-bone',
  'scan-relief-open',
  'scan-scales-open',
  'part-blade-open',
  'part-rotor',
  'part-anchor',
  'part-holes-open',
  'coarse-hand'
];

/** Processor seconds of this process so far. */
const processor = (): number => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1e6;
};

/** Processor seconds by phase, the most memory, MB, and the poles of the field that was taken last. */
class Meter implements TaskReport {
  readonly times = new StageSeconds(processor);
  readonly tried = this.times.tried;
  fieldPoles = 0;
  memory = 0;

  phase = (name: string): void => {
    this.times.phase(name);
    this.memory = Math.max(this.memory, process.memoryUsage().rss / 2 ** 20);
  };
  poles = (poles: readonly unknown[]): void => {
    this.fieldPoles = poles.length;
  };
  end(): number {
    this.phase('Done');
    return this.times.stages().reduce((sum, { seconds }) => sum + seconds, 0);
  }
}

const cell = (value: string | number, width: number) => String(value).padStart(width);

function rowOf(source: PolygonMesh, count: number): string {
  const meter = new Meter();
  try {
    const { mesh, way } = autoQuads(source, { count }, meter);
    const seconds = meter.end();
    const cage = Cage.fromPolygons(mesh);
    const [m, q] = [measure(cage), quadQuality(cage)];
    const poles = m.poles.reduce((sum, { count: many }) => sum + many, 0);
    const { diagonal } = boundsOf(source.positions);
    const percent = smoothOff(source, mesh)
      .map((mm) => ((100 * mm) / diagonal).toFixed(2))
      .join(' / ');
    const stages = meter.times
      .stages()
      .filter((stage) => stage.seconds >= 0.05 * seconds)
      .map((stage) => `${stage.phase.toLowerCase()} ${stage.seconds.toFixed(1)}`);
    const ways = meter.times.ways.map(({ name, seconds: s }) => `${name} ${s.toFixed(1)}`);
    const shape = [q.mean, q.hundredth, q.worst].map((x) => x.toFixed(2)).join(' / ');
    const columns = [
      cell(`${(100 * (m.quads / count - 1)).toFixed(1)} %`, 7),
      cell(poles, 6),
      cell(meter.fieldPoles, 6),
      cell(shape, 21),
      cell(m.spacing.toFixed(2), 7),
      cell(Math.round((100 * q.longest) / m.quads), 6),
      cell((100 * sharpEdgesKept(source, mesh)).toFixed(0), 6),
      cell(percent, 14),
      cell(seconds.toFixed(1), 7),
      cell(Math.round(meter.memory), 6)
    ];
    return `${columns.join('')}   ${stages.join(', ')}${ways.length > 1 ? `; ways: ${ways.join(', ')}; taken: ${way}` : ''}`;
  } catch (error) {
    return `  ${(error as Error).message} (${meter.end().toFixed(1)} s)`;
  }
}

/** Auto quads to 4,000 (or `QUADS`) on models that nobody here made (or those in `SHAPES`): one table. */
export function autoQuadsRealBench(): void {
  const count = Number(process.env.QUADS ?? 4000);
  head(`Auto quads to ${count} on models that nobody here made`);
  if (!existsSync(folder)) return void process.stdout.write(`  Skipped: there is no folder ${folder}. Set MESHES to where such models lie.\n`);
  const million = denseTorus(1000, 500);
  const { triangles } = triangulate(million);
  line(
    'reference loop: adjacency of 1 M triangles',
    best(3, () => new WorkingMesh(million.positions, triangles)),
    'ms'
  );
  process.stdout.write(
    '  model             triangles  count   poles  field   Jacobian mean/1 %/min  spread strip% sharp%  smooth off both ways, %  cpu s    MB   stages of 5 % and more\n'
  );
  for (const name of process.env.SHAPES?.split(',') ?? NAMES) {
    const path = join(folder, `${name}.off.gz`);
    if (!existsSync(path)) {
      process.stdout.write(`  ${name.padEnd(17)} is not there.\n`);
      continue;
    }
    const { mesh } = bringIn(new Uint8Array(gunzipSync(readFileSync(path))), `${name}.off`, {});
    process.stdout.write(`  ${name.padEnd(17)}${cell(faceCount(mesh), 10)}`);
    process.stdout.write(`${rowOf(mesh, count)}\n`);
  }
}
