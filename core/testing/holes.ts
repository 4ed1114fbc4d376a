import { Cage } from '../src/mesh/cage.ts';
import { polygonMesh } from '../src/mesh/polygon-mesh.ts';
import { replaceFaces } from '../src/mesh/replace-faces.ts';
import { box, cylinder, quadSphere } from '../src/shapes/start-shapes.ts';

/** A cage with a hole of a known kind; the hole is its shortest border. */
export interface TestHole {
  kind: string;
  edges: number;
  cage: Cage;
  /** no corner of it bends inward */
  convex: boolean;
}

type Point = [number, number, number];

/** Points along a closed polygon, its corners among them, as evenly as `edges` allow. */
function along(corners: [number, number][], edges: number): Point[] {
  const n = corners.length;
  const lengths = corners.map(([x, y], i) => Math.hypot(x - corners[(i + 1) % n][0], y - corners[(i + 1) % n][1]));
  const counts = lengths.map(() => 1);
  for (let left = edges - n; left > 0; left--) {
    const most = counts.reduce((best, c, i) => (lengths[i] / c > lengths[best] / counts[best] + 1e-9 ? i : best), 0);
    counts[most]++;
  }
  return corners.flatMap(([x, y], i) => {
    const [u, v] = corners[(i + 1) % n];
    return Array.from({ length: counts[i] }, (_, k): Point => [x + ((u - x) * k) / counts[i], y + ((v - y) * k) / counts[i], 0]);
  });
}

/** A sheet of one ring of quads round an outline, which runs counter-clockwise about the origin, seen from z. */
function ringRound(outline: Point[], height: (x: number, y: number) => number = () => 0): Cage {
  const n = outline.length;
  const outer = outline.map(([x, y]): Point => [1.4 * x, 1.4 * y, 0]);
  const points = [...outline, ...outer].map(([x, y]): Point => [x, y, height(x, y)]);
  const faces = outline.map((_, i) => [(i + 1) % n, i, n + i, n + ((i + 1) % n)]);
  return Cage.fromPolygons(polygonMesh(points, faces));
}

const round = (edges: number, a: number, b: number): Point[] =>
  Array.from({ length: edges }, (_, i): Point => {
    const t = (2 * Math.PI * i) / edges;
    return [a * Math.cos(t), b * Math.sin(t), 0];
  });

/** A cage without the faces whose centre a test holds for. */
export function without(cage: Cage, gone: (centre: number[]) => boolean): Cage {
  const copy = cage.clone();
  const centre = (f: number) => [0, 1, 2].map((k) => copy.faceVertices(f).reduce((sum, v) => sum + copy.position(v)[k], 0) / copy.faceSize(f));
  replaceFaces(copy, { gone: [...copy.faces()].filter((f) => gone(centre(f))), added: [] });
  return copy;
}

/** A sheet of triangles with corners pushed about, and a ragged hole in its middle. */
function ragged(reach: number): Cage {
  const n = 40;
  let seed = 7;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5;
  const points = Array.from({ length: (n + 1) ** 2 }, (_, k): Point => {
    const [i, j] = [k % (n + 1), Math.floor(k / (n + 1))];
    return [i - n / 2 + 0.5 * random(), j - n / 2 + 0.5 * random(), 0.2 * random()];
  });
  const faces: number[][] = [];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [a, b, c, d] = [j * (n + 1) + i, j * (n + 1) + i + 1, (j + 1) * (n + 1) + i + 1, (j + 1) * (n + 1) + i];
      faces.push(
        ...(random() > 0
          ? [
              [a, b, c],
              [a, c, d]
            ]
          : [
              [a, b, d],
              [b, c, d]
            ])
      );
    }
  return without(Cage.fromPolygons(polygonMesh(points, faces)), ([x, y]) => Math.hypot(x, y) < reach);
}

const star: [number, number][] = Array.from({ length: 10 }, (_, i) => {
  const [t, r] = [(Math.PI * i) / 5, i % 2 === 0 ? 10 : 5];
  return [r * Math.cos(t), r * Math.sin(t)];
});
const bracket: [number, number][] = [
  [-3, -3],
  [9, -3],
  [9, 3],
  [3, 3],
  [3, 9],
  [-3, 9]
];

/** Holes of every kind with 8 to 64 edges, even counts only. */
export function testHoles(): TestHole[] {
  const holes: TestHole[] = [];
  const put = (kind: string, edges: number, cage: Cage, convex = true) => holes.push({ kind, edges, cage, convex });
  for (const n of [8, 10, 12, 16, 22, 32, 48, 64]) {
    put('disc', n, ringRound(round(n, 10, 10)));
    put('ellipse', n, ringRound(round(n, 14, 7)));
    put(
      'rectangle',
      n,
      ringRound(
        along(
          [
            [-8, -5],
            [8, -5],
            [8, 5],
            [-8, 5]
          ],
          n
        )
      )
    );
    put(
      'triangle',
      n,
      ringRound(
        along(
          [
            [-9, -6],
            [9, -6],
            [0, 9]
          ],
          n
        )
      )
    );
    put(
      'pentagon',
      n,
      ringRound(
        along(
          round(5, 10, 10).map(([x, y]) => [x, y]),
          n
        )
      )
    );
    put(
      'hexagon',
      n,
      ringRound(
        along(
          round(6, 10, 10).map(([x, y]) => [x, y]),
          n
        )
      )
    );
    put('L', n, ringRound(along(bracket, n)), false);
    if (n >= 10) put('star', n, ringRound(along(star, n)), false);
    put(
      'saddle',
      n,
      ringRound(round(n, 10, 10), (x, y) => 0.03 * (x * x - y * y))
    );
  }
  for (const n of [1, 2, 4, 8]) {
    const ball = without(Cage.fromPolygons(quadSphere(10, 2 * n)), ([x, y, z]) => y > Math.max(Math.abs(x), Math.abs(z)));
    put('side of a sphere', 8 * n, ball);
    put(
      'side of a cylinder',
      8 * n,
      without(Cage.fromPolygons(cylinder(10, 20, 8 * n, 4 * n, false)), ([x, y, z]) => z > 0 && Math.abs(x) < z && Math.abs(y) < 5)
    );
  }
  for (const n of [2, 3, 4, 8, 10])
    put(
      'box corner',
      6 * n,
      without(Cage.fromPolygons(box({ x: 20, y: 20, z: 20 }, { x: 2 * n, y: 2 * n, z: 2 * n })), ([x, y, z]) => x > 0 && y > 0 && z > 0)
    );
  for (const reach of [1.2, 2.2, 3.4, 4.6, 6.2, 8, 9.4, 10]) put('ragged', 0, ragged(reach), false);
  return holes;
}
