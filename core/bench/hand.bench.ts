import { bandAlong } from '../src/hand/band.ts';
import { holdTo } from '../src/hand/hold.ts';
import { pulledRow } from '../src/hand/rows.ts';
import { type Anchor, SurfaceWalk } from '../src/hand/surface-walk.ts';
import { Cage } from '../src/mesh/cage.ts';
import { randomNumbers } from '../src/numeric/random.ts';
import { type Triple } from '../src/numeric/vectors.ts';
import { Reference } from '../src/reference/reference.ts';
import { denseSphere } from '../src/shapes/sample-surfaces.ts';
import { quadSphere } from '../src/shapes/start-shapes.ts';
import { best, head, line, referenceLoop } from './measure.ts';

const PULLS = 500;

/** Laying by hand on a reference of a million triangles. */
export function handBench(): void {
  head('Lay by hand');
  line('fixed loop of 1e8 additions, for comparison', best(3, referenceLoop), 'ms');
  const reference = new Reference(denseSphere(289));
  const many = (reference.triangles.length / 3).toLocaleString('en');
  const walk = SurfaceWalk.over(reference);
  const ringAt = (count: number, y: number): Anchor[] => {
    const far = Math.sqrt(400 - y * y);
    return Array.from({ length: count }, (_, i) =>
      walk.nearest([far * Math.sin((2 * Math.PI * i) / count), y, far * Math.cos((2 * Math.PI * i) / count)])!
    );
  };
  const ring = ringAt(2000, 6);
  line(
    `a ring of 2,000 vertices pulled by 0.3 mm on ${many} triangles`,
    best(10, () => pulledRow(walk, ring, true, 0, [0, 0.3, 0])),
    'ms',
    { most: 16 }
  );
  let row = ringAt(200, 2);
  const random = randomNumbers(3);
  for (let i = 0; i < PULLS; i++) row = pulledRow(walk, row, true, Math.floor(200 * random()), [random() - 0.5, random() - 0.5, random() - 0.5]);
  const off = reference.distances(Float64Array.from(row.flatMap(({ at }) => at)));
  line(`farthest off the reference after ${PULLS} pulls of a ring`, Math.max(...off), 'mm', { most: 1e-6 });
  const stroke = Array.from({ length: 60 }, (_, i): Triple => [20 * Math.sin(0.03 * i), 20 * Math.cos(0.03 * i), Math.sin(0.2 * i)]);
  line(
    'band of 200 quads along a stroke',
    best(10, () => bandAlong(walk, { places: stroke }, { along: 100, across: 2, width: 2, closed: false })),
    'ms',
    { most: 10 }
  );
  const cage = Cage.fromPolygons(quadSphere(19, 26));
  const settings = { way: 'nearest', fit: 'surface', passes: 5, offset: 0, even: true, vertices: [...cage.vertices()] } as const;
  const surface = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
  line(
    `hold of ${cage.faceCount.toLocaleString('en')} quads onto ${many} triangles, smooth surface fitted`,
    best(2, () => holdTo(cage, reference, surface, settings)),
    'ms',
    { most: 1500 }
  );
}
