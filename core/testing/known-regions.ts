import { type PolygonMesh, polygonMesh } from '../src/mesh/polygon-mesh.ts';
import { randomNumbers } from '../src/numeric/random.ts';
import { type Triple } from '../src/numeric/vectors.ts';
import { roundedBlock } from '../src/shapes/rounded-block.ts';

/** A triangulated part whose regions are known. */
export interface KnownPart {
  name: string;
  mesh: PolygonMesh;
  /** region of each triangle */
  truth: number[];
  /** kinds by region */
  kinds: string[];
}

/** Quads as triangles, cut one way or the other as exports do. */
function cut(points: Triple[], quads: { corners: number[]; region: number }[], kinds: string[], name: string, seed: number): KnownPart {
  const random = randomNumbers(seed);
  const faces: number[][] = [];
  const truth: number[] = [];
  for (const { corners, region } of quads) {
    const [a, b, c, d] = corners;
    const halves =
      corners.length === 3
        ? [corners]
        : random() < 0.5
          ? [
              [a, b, c],
              [a, c, d]
            ]
          : [
              [a, b, d],
              [b, c, d]
            ];
    for (const half of halves) {
      if (new Set(half).size < 3) continue;
      faces.push(half);
      truth.push(region);
    }
  }
  return { name, mesh: polygonMesh(points, faces), truth, kinds };
}

/** A turned part: discs, cylinders, cones and rounds between them, with a bore through it. */
export function turnedPart(seed: number): KnownPart {
  const random = randomNumbers(seed);
  const from = (a: number, b: number) => a + (b - a) * random();
  const sides = 40 + 4 * Math.floor(from(0, 8));
  const bore = from(3, 6);
  const profile: { r: number; y: number; region: number }[] = [];
  const kinds: string[] = [];
  let [r, y] = [from(22, 30), 0];
  const to = (nr: number, ny: number, kind: string) => {
    kinds.push(kind);
    profile.push({ r, y, region: kinds.length - 1 });
    [r, y] = [nr, ny];
  };
  // a quarter round from going one way to going another
  const round = (radius: number, first: [number, number], then: [number, number]) => {
    const steps = 6;
    const centre = [r + radius * then[0], y + radius * then[1]];
    kinds.push('torus');
    for (let i = 0; i < steps; i++) {
      profile.push({ r, y, region: kinds.length - 1 });
      const a = ((i + 1) * Math.PI) / (2 * steps);
      [r, y] = [
        centre[0] - radius * then[0] * Math.cos(a) + radius * first[0] * Math.sin(a),
        centre[1] - radius * then[1] * Math.cos(a) + radius * first[1] * Math.sin(a)
      ];
    }
  };
  to(r, from(8, 14), 'cylinder');
  const wide = from(1.5, 3);
  round(wide, [0, 1], [-1, 0]);
  to(r - from(2, 4), y, 'plane');
  const inner = from(1.5, 3);
  round(inner, [-1, 0], [0, 1]);
  to(r, y + from(6, 12), 'cylinder');
  to(r - from(2, 4), y + from(5, 9), 'cone');
  to(bore, y, 'plane');
  to(bore, 0, 'cylinder');
  const first = profile[0].r;
  to(first, 0, 'plane');
  const many = profile.length;
  const points: Triple[] = profile.flatMap((p) =>
    Array.from({ length: sides }, (_, k): Triple => [p.r * Math.cos((2 * Math.PI * k) / sides), p.y, -p.r * Math.sin((2 * Math.PI * k) / sides)])
  );
  const at = (i: number, k: number) => (i % many) * sides + (k % sides);
  const quads = profile.flatMap(({ region }, i) =>
    Array.from({ length: sides }, (_, k) => ({ corners: [at(i, k), at(i, k + 1), at(i + 1, k + 1), at(i + 1, k)], region }))
  );
  return cut(points, quads, kinds, `turned ${seed}`, seed + 50);
}

/** A box with rounded edges and ball corners. */
export function roundedBox(seed: number): KnownPart {
  const random = randomNumbers(seed);
  const from = (a: number, b: number) => a + (b - a) * random();
  const half = [from(12, 30), from(8, 20), from(10, 25)];
  const { points, quads } = roundedBlock(half, from(2, 5), 4 + Math.floor(from(0, 4)));
  const sides = [...new Set(quads.map(({ side }) => side.join()))];
  const kinds = sides.map((side) => ['plane', 'cylinder', 'sphere'][side.split(',').filter((x) => x !== '0').length - 1]);
  const known = quads.map(({ corners, side }) => ({ corners, region: sides.indexOf(side.join()) }));
  return cut(points, known, kinds, `rounded box ${seed}`, seed + 90);
}

/** A pipe: straight, an elbow, straight. */
export function pipe(seed: number): KnownPart {
  const random = randomNumbers(seed);
  const from = (a: number, b: number) => a + (b - a) * random();
  const [radius, bend, first, last] = [from(4, 9), from(14, 30), from(20, 40), from(20, 40)];
  const sides = 24 + 4 * Math.floor(from(0, 5));
  const steps = 8 + Math.floor(from(0, 6));
  const rings: { at: Triple; out: Triple; region: number }[] = [{ at: [0, -first, 0], out: [1, 0, 0], region: 0 }];
  for (let i = 0; i <= steps; i++) {
    const a = (i * Math.PI) / (2 * steps);
    rings.push({ at: [bend - bend * Math.cos(a), bend * Math.sin(a), 0], out: [Math.cos(a), -Math.sin(a), 0], region: i < steps ? 1 : 2 });
  }
  rings.push({ at: [bend + last, bend, 0], out: [0, -1, 0], region: 2 });
  const points = rings.flatMap(({ at, out }) =>
    Array.from({ length: sides }, (_, k): Triple => {
      const a = (2 * Math.PI * k) / sides;
      return [0, 1, 2].map((c) => at[c] + radius * (Math.cos(a) * out[c] + (c === 2 ? Math.sin(a) : 0))) as Triple;
    })
  );
  const quads = rings.slice(1).flatMap((_, i) =>
    Array.from({ length: sides }, (__, k) => ({
      corners: [i * sides + k, (i + 1) * sides + k, (i + 1) * sides + ((k + 1) % sides), i * sides + ((k + 1) % sides)],
      region: rings[i].region
    }))
  );
  return cut(points, quads, ['cylinder', 'torus', 'cylinder'], `pipe ${seed}`, seed + 70);
}

/** Twenty parts with known regions and more. */
export const knownParts = (): KnownPart[] => [...Array(8).keys()].flatMap((seed) => [turnedPart(seed + 1), roundedBox(seed + 1), pipe(seed + 1)]);
