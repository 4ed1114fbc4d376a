import { Subdivision } from '../src/subdivide/subdivision.ts';
import { quadSphere } from '../src/shapes/start-shapes.ts';
import { best, head, line } from './measure.ts';

/** Tables of Catmull-Clark: built, applied, and updated when one vertex moves. */
export function subdivisionBench(): void {
  head('Catmull-Clark, cage of 10,086 quads (sphere)');
  const cage = quadSphere(20, 41);
  let surface = new Subdivision(cage, { levels: 3 });
  line(
    'tables to level 3, built',
    best(5, () => (surface = new Subdivision(cage, { levels: 3 }))),
    'ms',
    { most: 600 }
  );
  const applied = best(10, () => surface.evaluate(cage.positions));
  line('tables to level 3, applied', applied, 'ms', { most: 40 });
  const points = surface.points.at(-1)!;
  const copy = new Float64Array(points.length);
  line(
    '  compared: copying the 646 k points once',
    best(10, () => copy.set(points)),
    'ms'
  );
  line('memory, all told', bytesOf(surface) / (surface.last.faceStart.length - 1), 'bytes a quad', { most: 300 });
  const live = new Subdivision(cage, { levels: 3 });
  live.evaluate(cage.positions);
  let v = 0;
  const drag = () => {
    cage.positions[3 * v] += 0.01;
    live.update([v]);
    v = (v + 37) % (cage.positions.length / 3);
  };
  drag();
  line('one vertex dragged, level 3', best(50, drag), 'ms', { most: 4 });
  line(
    '  compared: all of level 3 applied',
    best(10, () => live.evaluate(cage.positions)),
    'ms'
  );
}

/** Bytes of every typed array that an object holds, each counted once. */
function bytesOf(value: unknown, seen = new Set<unknown>()): number {
  if (typeof value !== 'object' || value === null || seen.has(value)) return 0;
  seen.add(value);
  if (ArrayBuffer.isView(value)) return seen.has(value.buffer) ? 0 : (seen.add(value.buffer), value.buffer.byteLength);
  return Object.values(value).reduce<number>((sum, part) => sum + bytesOf(part, seen), 0);
}
