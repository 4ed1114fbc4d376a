import { deviation } from '../src/check/measures.ts';
import { type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { Reference } from '../src/reference/reference.ts';
import { Subdivision } from '../src/subdivide/subdivision.ts';

/** The best of several runs, in ms: the machine is shared, and the best is what the code can do. */
export function best(runs: number, work: () => void): number {
  let least = Infinity;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    work();
    least = Math.min(least, performance.now() - start);
  }
  return least;
}

/** Largest distances, mm, of the limit surface of quads from what they were laid over, and back. */
export function smoothOff(source: PolygonMesh, quads: PolygonMesh): [there: number, back: number] {
  const smooth = new Subdivision(quads, { levels: 2, limit: true }).toPolygons(quads);
  return [deviation(new Reference(source), smooth.positions).most, deviation(new Reference(smooth), source.positions).most];
}

export const head = (title: string): void => void process.stdout.write(`\n${title}\n`);

/** One figure with its bar: at most, or at least. */
export function line(what: string, value: number, unit: string, bar?: { most: number } | { least: number }): void {
  const kept = !bar || ('most' in bar ? value <= bar.most : value >= bar.least);
  const verdict = bar ? `   bar ${'most' in bar ? bar.most : bar.least} ${unit}: ${kept ? 'kept' : 'MISSED'}` : '';
  process.stdout.write(`  ${what.padEnd(58)} ${value.toFixed(value < 10 ? 2 : 0).padStart(9)} ${unit}${verdict}\n`);
}

/** A fixed loop that tells how fast the machine is just now. */
export function referenceLoop(): number {
  let sum = 0;
  for (let i = 0; i < 1e8; i++) sum += i * 1e-9;
  return sum;
}
