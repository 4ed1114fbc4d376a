import { faceQuality } from '../testing/face-quality.ts';
import { testHoles, without } from '../testing/holes.ts';
import { fillHole } from '../src/fill/fill-hole.ts';
import { holesOf } from '../src/fill/hole.ts';
import { Cage } from '../src/mesh/cage.ts';
import { box, cylinder } from '../src/shapes/start-shapes.ts';
import { Subdivision } from '../src/subdivide/subdivision.ts';
import { best, head, line } from './measure.ts';

const shortest = (cage: Cage) => holesOf(cage).sort((a, b) => a.length - b.length)[0];

/** Time for borders of 256 edges, and the quality of fills in holes of many kinds. */
export function fillBench(): void {
  head('Fill, a border of 256 edges (4,096 or 8,192 quads inside)');
  const square = without(Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 64, y: 1, z: 64 })), ([, y]) => y > 4.9);
  const round = without(Cage.fromPolygons(cylinder(10, 10, 256, 2, true)), ([, y]) => y > 4.9);
  for (const [name, cage] of [
    ['square border, quad grid', square],
    ['round border, rings and quad grid', round]
  ] as const) {
    const run = () => {
      const copy = cage.clone();
      return { copy, faces: fillHole(copy, shortest(copy), 'grid', { swell: 1 }) };
    };
    line(
      name,
      best(5, () => run()),
      'ms',
      { most: 100 }
    );
    const { copy } = run();
    line(
      '  compared: the filled cage subdivided once from nothing',
      best(3, () => new Subdivision(copy.toPolygons(), { levels: 1 }).evaluate(copy.positions)),
      'ms'
    );
  }
  head('Fill, worst and mean scaled Jacobian of quad grids by kind of hole, 8 to 64 edges');
  const kinds = new Map<string, { worst: number; mean: number }>();
  for (const { kind, cage } of testHoles()) {
    const faces = fillHole(cage, shortest(cage), 'grid', { swell: 1, panels: kind === 'box corner' });
    const { worst, mean } = faceQuality(cage, faces);
    const known = kinds.get(kind) ?? { worst: 1, mean: 1 };
    kinds.set(kind, { worst: Math.min(known.worst, worst), mean: Math.min(known.mean, mean) });
  }
  for (const [kind, { worst, mean }] of kinds) {
    line(`${kind}: worst`, worst, '');
    line(`${kind}: lowest mean`, mean, '');
  }
}
