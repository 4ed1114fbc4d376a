import { evenedOut, type EvenSettings } from '../src/even/even-out.ts';
import { linesOfCage } from '../src/even/held-lines.ts';
import { EvenPasses } from '../src/even/passes.ts';
import { netOf } from '../src/even/vertex-net.ts';
import { brushKinds, BrushStroke } from '../src/even/brush-stroke.ts';
import { Cage } from '../src/mesh/cage.ts';
import { denseSphere } from '../src/shapes/sample-surfaces.ts';
import { followRows } from '../src/even/follow-rows.ts';
import { measure } from '../src/check/measures.ts';
import { jitteredTube, noisySphere, offSphere } from '../testing/noisy-shapes.ts';
import { best, head, line, referenceLoop } from './measure.ts';

const held = { borders: true, creases: true, regions: true };

/** Evening out: what it keeps, beside plain smoothing in the same run, and how fast it is. */
export function evenBench(): void {
  head('Even out');
  line('fixed loop of 1e8 additions, for comparison', best(3, referenceLoop), 'ms');
  const sphere = noisySphere(24);
  for (const way of ['relax', 'smooth'] as const) {
    const settings: EvenSettings = { way, passes: 30, strength: 0.5, held };
    const { cage, report } = evenedOut(sphere, settings);
    const bar = (most: number) => (way === 'relax' ? { most } : undefined);
    line(`${way}: spread of a noisy sphere of ${sphere.faceCount} quads`, report.spread.after, '', bar(0.12));
    line(`${way}: volume, off by`, 100 * Math.abs(report.volume.after / report.volume.before - 1), '%', bar(0.2));
    line(`${way}: from the true sphere, in its diameter`, (100 * offSphere(cage)) / 20, '%', bar(0.3));
  }
  const { cage: tube, moved } = jitteredTube(5, 24, 8, [3, 4]);
  const { places } = followRows(tube, moved, new Set(), { strength: 1, spacing: 'even' });
  const off = Math.max(...[...places.values()].map(([x, , z]) => Math.abs(Math.hypot(x, z) - 5)));
  line('follow rows: from the true cylinder, in its radius', (100 * off) / 5, '%', { most: 0.5 });
  const large = noisySphere(91);
  const surface = { net: netOf(large), lines: linesOfCage(large, held), positions: large.positions };
  const touched = { vertices: Int32Array.from(large.vertices()), weights: new Float64Array(large.vertexCount).fill(1) };
  const passes = new EvenPasses(surface, touched);
  line(
    `a relax pass over ${large.vertexCount.toLocaleString('en')} vertices`,
    best(10, () => passes.relax(0.5, true)),
    'ms',
    { most: 40 }
  );
  line(
    `a smoothing pass over them`,
    best(10, () => passes.smooth(0.5)),
    'ms'
  );
  line('their spread then', measure(large).spacing, '');
  dabs();
}

/** Touches of brushes on a dense mesh: two thousand vertices each. */
function dabs(): void {
  const dense = Cage.fromPolygons(denseSphere(204));
  const net = netOf(dense);
  const at: [number, number, number] = [0, 20, 0];
  for (const kind of brushKinds) {
    const surface = { net, lines: linesOfCage(dense, held), positions: dense.positions.slice() };
    const stroke = new BrushStroke(surface, { kind, radius: 3.87, strength: 0.5, through: false, freedom: () => 1 });
    const dab = { at, normal: [0, 1, 0] as [number, number, number], by: [0.01, 0, 0] as [number, number, number], pressure: 1 };
    const touched = stroke.dab(dab).length;
    const name = `${kind}: ${touched.toLocaleString('en')} vertices of ${dense.faceCount.toLocaleString('en')} triangles`;
    line(
      name,
      best(10, () => stroke.dab(dab)),
      'ms',
      { most: 8 }
    );
  }
}
