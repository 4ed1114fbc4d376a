import { Subdivision } from '../src/subdivide/subdivision.ts';
import { quadSphere } from '../src/shapes/start-shapes.ts';
import { best, head, line } from './measure.ts';

/** Tables of Catmull-Clark: built, applied, and updated when one vertex moves. */
export function subdivisionBench(): void {
  head('Catmull-Clark, cage of 5,046 quads (sphere)');
  const cage = quadSphere(20, 29);
  let surface = new Subdivision(cage, { levels: 3 });
  line(
    'tables to level 3, built',
    best(5, () => (surface = new Subdivision(cage, { levels: 3 }))),
    'ms',
    { most: 300 }
  );
  const applied = best(10, () => surface.evaluate(cage.positions));
  line('tables to level 3, applied', applied, 'ms', { most: 30 });
  const points = surface.points.at(-1)!;
  const copy = new Float64Array(points.length);
  line(
    '  compared: copying the 323 k points once',
    best(10, () => copy.set(points)),
    'ms'
  );
  const live = new Subdivision(cage, { levels: 2 });
  live.evaluate(cage.positions);
  let v = 0;
  const drag = () => {
    cage.positions[3 * v] += 0.01;
    live.update([v]);
    v = (v + 37) % (cage.positions.length / 3);
  };
  drag();
  line('one vertex dragged, level 2', best(50, drag), 'ms', { most: 4 });
  line(
    '  compared: all of level 2 applied',
    best(10, () => live.evaluate(cage.positions)),
    'ms'
  );
}
