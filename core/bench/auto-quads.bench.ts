import { autoQuads } from '../src/autoquad/auto-quads.ts';
import { deviation, measure, type Measures } from '../src/check/measures.ts';
import { quadQuality, type QuadQuality } from '../src/check/quad-quality.ts';
import { Cage } from '../src/mesh/cage.ts';
import { boundsOf, faceCount, type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { repairPolygons } from '../src/mesh/repair.ts';
import { triangulate } from '../src/mesh/triangulate.ts';
import { Reference } from '../src/reference/reference.ts';
import { marshNewt } from '../src/shapes/marsh-newt.ts';
import {
  denseSphere,
  denseTorus,
  fadingBar,
  halfShell,
  longLimbed,
  machinedBlock,
  machinedPart,
  noisyScan,
  thinPlate,
  tripleRing,
  wedge
} from '../src/shapes/sample-surfaces.ts';
import { lookAhead, planPoles } from '../src/autoquad/look-ahead.ts';
import { StepStore } from '../src/autoquad/base/step-store.ts';
import { type TaskReport } from '../src/task/steps.ts';
import { WorkingMesh } from '../src/autoquad/base/working-mesh.ts';
import { sharpEdgesKept } from '../testing/kept-edges.ts';
import { best, head, line, smoothOff } from './measure.ts';

const shapes: Record<string, () => PolygonMesh> = {
  sphere: () => denseSphere(80),
  torus: () => denseTorus(250, 100),
  block: () => machinedBlock(),
  shell: () => halfShell(114),
  'genus 3': () => tripleRing(),
  figure: () => longLimbed(0.5),
  newt: () => marshNewt(),
  'wedge 15': () => wedge(15),
  'wedge 30': () => wedge(30),
  'wedge 45': () => wedge(45),
  'wedge 60': () => wedge(60),
  'plate 0.2': () => thinPlate(0.16),
  'plate 1': () => thinPlate(0.8),
  'noisy scan': () => noisyScan(0.5),
  'fading bar': () => fadingBar()
};

/** What all tables have of some quads: their number, their poles, and the scaled Jacobian, mean / one in a hundred / worst. */
function columns({ quads, poles }: Measures, { mean, hundredth, worst }: QuadQuality): string {
  const all = poles.reduce((sum, { count }) => sum + count, 0);
  return `${String(quads).padStart(6)} ${String(all).padStart(6)}   ${[mean, hundredth, worst].map((x) => x.toFixed(3)).join(' / ')}`;
}

/** Auto quads to 4,000 (or `QUADS`) on generated shapes (or those in `SHAPES`): what the quality bars are measured by. */
export function autoQuadsBench(): void {
  const count = Number(process.env.QUADS ?? 4000);
  const chosen = process.env.SHAPES?.split(',');
  head(`Auto quads to ${count}`);
  process.stdout.write(
    '  shape       triangles  quads  poles  Jacobian mean/1 %/min  spread  longest strip  spirals  smooth off, % of diagonal / back / vertices      s\n'
  );
  for (const [name, make] of Object.entries(shapes)) {
    if (chosen && !chosen.includes(name)) continue;
    const source = repairPolygons(make(), { weld: true }).mesh;
    const start = performance.now();
    try {
      const { mesh } = autoQuads(source, { count });
      const seconds = (performance.now() - start) / 1000;
      const cage = Cage.fromPolygons(mesh);
      const m = measure(cage);
      const q = quadQuality(cage);
      const { diagonal } = boundsOf(source.positions);
      const off = [...smoothOff(source, mesh), deviation(new Reference(source), mesh.positions).most].map((mm) => ((100 * mm) / diagonal).toFixed(3));
      process.stdout.write(
        `  ${name.padEnd(11)} ${String(faceCount(source)).padStart(9)} ${columns(m, q)}    ${m.spacing.toFixed(3)}  ${String(q.longest).padStart(13)} ${`${q.spirals} of ${q.strips}`.padStart(10)} ${off.join(' / ').padStart(30)} ${seconds.toFixed(1).padStart(11)}\n`
      );
    } catch (error) {
      process.stdout.write(`  ${name.padEnd(11)} ${String(faceCount(source)).padStart(9)}  ${(error as Error).message}\n`);
    }
  }
}

/** How many machined parts are laid. */
const PARTS = 60;

/** Auto quads on machined parts, to 1,200 and to 3,000: how much is kept of their sharp edges, and what their quads are like. */
export function machinedPartsBench(): void {
  head('Auto quads on machined parts');
  process.stdout.write('  part  quads  poles  Jacobian mean/1 %/min  sharp edges kept, %  smooth off, % of diagonal      s\n');
  for (let seed = 1; seed <= PARTS; seed++) {
    const source = repairPolygons(machinedPart(seed), { weld: true }).mesh;
    for (const count of [1200, 3000]) {
      const start = performance.now();
      const { mesh } = autoQuads(source, { count });
      const seconds = (performance.now() - start) / 1000;
      const cage = Cage.fromPolygons(mesh);
      const off = (100 * Math.max(...smoothOff(source, mesh))) / boundsOf(source.positions).diagonal;
      process.stdout.write(
        `  ${String(seed).padStart(4)} ${columns(measure(cage), quadQuality(cage))} ${(100 * sharpEdgesKept(source, mesh)).toFixed(1).padStart(20)} ${off.toFixed(2).padStart(26)} ${seconds.toFixed(1).padStart(6)}\n`
      );
    }
  }
}

/**
 * The same shape at 100 k, 300 k and 1 M triangles: seconds, as a multiple of building the adjacency of 1 M triangles, memory, how soon
 * something is seen, and what a change of the count alone takes.
 */
export function autoQuadsSpeedBench(): void {
  head('Auto quads, speed');
  const million = denseTorus(1000, 500);
  const { triangles } = triangulate(million);
  const adjacency = best(3, () => new WorkingMesh(million.positions, triangles));
  line('adjacency of 1 M triangles', adjacency, 'ms');
  for (const [spacing, count, bar] of [
    [0.42, 4000, 4],
    [0.245, 4000, 7.2],
    [0.245, 10000, 8],
    [0.134, 10000, 10]
  ]) {
    const source = repairPolygons(longLimbed(spacing), { weld: true }).mesh;
    const before = process.memoryUsage().rss;
    let most = before;
    const start = performance.now();
    const kept = new StepStore();
    let poles = 0;
    const report: TaskReport = {
      phase: () => (most = Math.max(most, process.memoryUsage().rss)),
      poles: () => (poles = (performance.now() - start) / 1000)
    };
    const { mesh } = autoQuads(source, { count }, report, kept);
    const seconds = (performance.now() - start) / 1000;
    const what = `${Math.round(faceCount(source) / 1000)} k to ${count} (${mesh.faceVertices.length / 4})`;
    line(what, seconds, 's', { most: bar });
    line(
      `  the same over the adjacency of 1 M triangles, ${Math.round((most - before) / 2 ** 20)} MB more memory`,
      (1000 * seconds) / adjacency,
      'times'
    );
    line('  poles shown after this share of it', poles / seconds, 'of 1', { most: 1 / 3 });
    const again = performance.now();
    let seen = 0;
    const edges = () => (seen ||= (performance.now() - again) / 1000);
    autoQuads(source, { count: Math.round(1.1 * count) }, { phase: () => undefined, edges }, kept);
    const inSeconds = (performance.now() - again) / 1000;
    line('  a tenth more quads afterwards, seen before they are evened out, over it', seen / seconds, 'of 1', { most: 0.25 });
    line('  the same, done', inSeconds / seconds, 'of 1', { most: 0.25 });
    line('  and over the bar', inSeconds / bar, 'of 1', { most: 0.25 });
    const ahead = new StepStore();
    lookAhead(source, { count }, () => undefined, ahead);
    const asked = performance.now();
    planPoles(source, { count }, undefined, ahead);
    line('  poles when they are asked for, where it was looked ahead', (performance.now() - asked) / 1000, 's', { most: 2 });
  }
}
