import { autoQuads } from '../src/autoquad/auto-quads.ts';
import { deviation, measure } from '../src/check/measures.ts';
import { Cage } from '../src/mesh/cage.ts';
import { boundsOf, faceCount, type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { Reference } from '../src/reference/reference.ts';
import { marshNewt } from '../src/shapes/marsh-newt.ts';
import { denseSphere, denseTorus, doubleRing, noisyScan } from '../src/shapes/sample-surfaces.ts';
import { head, line } from './measure.ts';

const shapes: [string, () => PolygonMesh][] = [
  ['newt', () => marshNewt()],
  ['sphere', () => denseSphere(115)],
  ['torus', () => denseTorus(250, 100)],
  ['double ring', () => doubleRing(0.5)],
  ['noisy scan', () => noisyScan(0.5)]
];

/** Auto quads to 4,000 on generated shapes: counts, poles, spacing, closeness, seconds. */
export function autoQuadsBench(): void {
  head('Auto quads to 4,000');
  process.stdout.write('  shape        triangles   quads  poles  spacing  corners      away % diag   seconds\n');
  for (const [name, make] of shapes) {
    const source = make();
    const start = performance.now();
    const { mesh } = autoQuads(source, { count: 4000 });
    const seconds = (performance.now() - start) / 1000;
    const m = measure(Cage.fromPolygons(mesh));
    const away = (100 * deviation(new Reference(source), mesh.positions).most) / boundsOf(source.positions).diagonal;
    const poles = m.poles.reduce((sum, p) => sum + p.count, 0);
    const corners = `${m.corners.least.toFixed(0)}..${m.corners.most.toFixed(0)}`;
    process.stdout.write(
      `  ${name.padEnd(12)} ${String(faceCount(source)).padStart(9)} ${String(m.quads).padStart(7)} ${String(poles).padStart(6)}  ${m.spacing.toFixed(3).padStart(7)}  ${corners.padEnd(11)} ${away.toFixed(4).padStart(12)} ${seconds.toFixed(1).padStart(9)}\n`
    );
    if (name === 'newt') line('newt to 4,000', seconds, 's', { most: 30 });
  }
}
