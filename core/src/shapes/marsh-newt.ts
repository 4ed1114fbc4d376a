import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { between } from '../numeric/vectors.ts';
import { randomNumbers } from '../numeric/random.ts';
import { ball, blend, carve, egg, implicitQuads, implicitSurface, rod } from './implicit-surface.ts';

/*
 * A crested newt, about 150 mm long, looking along +Z and mirrored in X = 0. Everything is said for the right half
 * (x >= 0) and seen through |x|.
 */

type Point = readonly [number, number, number];

/** Spine from the tail's tip to the neck: z, height of the middle, half height, half width. */
const SPINE = [
  [-78, 5.5, 1.6, 1.3],
  [-60, 6.5, 4.6, 2.4],
  [-42, 8, 6.6, 4],
  [-26, 9.5, 8, 6.5],
  [-10, 10.5, 9.2, 9.4],
  [6, 11, 9.6, 10.6],
  [20, 11.4, 8.8, 9.6],
  [31, 12.2, 7.6, 8]
] as const;

function spineAt(z: number): { y: number; tall: number; wide: number } {
  let i = 0;
  while (i + 2 < SPINE.length && SPINE[i + 1][0] < z) i++;
  const [a, b] = [SPINE[i], SPINE[i + 1]];
  const s = Math.min(1, Math.max(0, (z - a[0]) / (b[0] - a[0])));
  const t = s * s * (3 - 2 * s);
  const mix = (k: 1 | 2 | 3) => a[k] + t * (b[k] - a[k]);
  return { y: mix(1), tall: mix(2), wide: mix(3) };
}

/** Trunk and tail: an ellipse swept along the spine, with round ends. */
function trunk(x: number, y: number, z: number): number {
  const along = Math.min(31, Math.max(-78, z));
  const s = spineAt(along);
  const flat = Math.hypot(x / s.wide, (y - s.y) / s.tall);
  const across = (flat - 1) * Math.min(s.wide, s.tall);
  const beyond = z - along;
  const around = Math.hypot(across + Math.min(s.wide, s.tall), beyond) - Math.min(s.wide, s.tall);
  return beyond === 0 ? across : around;
}

/** The crest along the back, in waves, lowest over the hips. */
function crest(x: number, y: number, z: number): number {
  const along = Math.min(24, Math.max(-77, z));
  const s = spineAt(along);
  const fade = Math.min(1, Math.min(24 - along, along + 77) / 16);
  const dip = 1 - 0.6 * Math.exp(-(((along + 20) / 7) ** 2));
  const top = s.y + s.tall + fade * dip * (4.6 + 1.1 * Math.cos(along * 0.62));
  // no deeper than the middle of the trunk
  const up = Math.max(y - top + 1.1, s.y - y);
  const half = 1.1 + 0.9 * Math.min(1, Math.max(0, (top - y) / 7));
  const side = x - half + 1.1;
  const end = Math.abs(z - along);
  return Math.hypot(Math.max(up, 0), Math.max(side, 0), end) + Math.min(0, Math.max(up, side)) - 1.1;
}

function head(x: number, y: number, z: number): number {
  let d = blend(egg(x, y, z, [0, 13.6, 40], [9.8, 6.6, 12]), egg(x, y, z, [0, 12.4, 49], [8.2, 4.8, 8.2]), 5);
  // lower jaw, dropped; then the mouth between them
  d = blend(d, egg(x, y, z, [0, 8.2, 44.5], [7.6, 3, 10.5]), 3.5);
  d = carve(d, egg(x, y, z, [0, 10 + 0.06 * (z - 40), 50.5], [8.8, 1.9, 12.5]), 2);
  // tongue
  d = blend(d, egg(x, y, z, [0, 8.9, 47], [3.4, 1.6, 6]), 2);
  // eye: a bulge, the ball, and a nostril
  d = blend(d, ball(x, y, z, [6.6, 17.6, 43], 4.1), 2.6);
  d = blend(d, ball(x, y, z, [7.6, 18.3, 43.7], 3.5), 1.2);
  return carve(d, ball(x, y, z, [2.8, 15.4, 56], 1.1), 1.6);
}

interface Leg {
  hip: Point;
  knee: Point;
  ankle: Point;
  toes: number;
  /** of the palm, in radians from +X towards +Z */
  heading: number;
}

const LEGS: readonly Leg[] = [
  { hip: [7, 9.5, 20], knee: [18, 8.8, 23], ankle: [22.5, 3.4, 27.5], toes: 4, heading: 0.85 },
  { hip: [6, 9, -16], knee: [17.5, 9.6, -20], ankle: [22, 3.4, -14], toes: 5, heading: 0.35 }
];

const palmOf = ({ ankle, heading }: Leg): Point => [ankle[0] + 3 * Math.cos(heading), 2.3, ankle[2] + 3 * Math.sin(heading)];

/** Points on the axis of a toe: in the palm, in its middle, and the middle of its round tip. */
function toeOf(leg: Leg, i: number): [from: Point, middle: Point, tip: Point] {
  const palm = palmOf(leg);
  const spread = (i / (leg.toes - 1) - 0.5) * 2.1;
  const angle = leg.heading + spread;
  const length = 10.5 - 2.6 * Math.abs(spread);
  const at = (far: number, y: number): Point => [palm[0] + far * Math.cos(angle), y, palm[2] + far * Math.sin(angle)];
  return [at(2.2, 2.2), at(0.6 * length, 2.7), at(length, 1.9)];
}

/** A leg of two rods, a palm, and toes that fan out. */
function legDistance(x: number, y: number, z: number, leg: Leg): number {
  const { hip, knee, ankle, toes } = leg;
  const far = Math.hypot(x - knee[0], y - knee[1], z - knee[2]);
  if (far > 36) return far - 28;
  let d = rod(x, y, z, hip, knee, 5, 3.7);
  d = blend(d, rod(x, y, z, knee, ankle, 3.7, 2.7), 2);
  const palm = palmOf(leg);
  const fromPalm = Math.hypot(x - palm[0], y - palm[1], z - palm[2]);
  if (fromPalm > 20) return Math.min(d, fromPalm - 14);
  d = blend(d, egg(x, y, z, palm, [4.1, 2.3, 4.1]), 2.4);
  for (let i = 0; i < toes; i++) {
    const [from, middle, tip] = toeOf(leg, i);
    const toe = blend(rod(x, y, z, from, middle, 1.75, 1.6), rod(x, y, z, middle, tip, 1.6, 1.75), 0.8);
    d = blend(d, toe, 1.1);
  }
  return d;
}

function newt(signedX: number, y: number, z: number): number {
  const x = Math.abs(signedX);
  let d = trunk(x, y, z);
  d = blend(d, crest(x, y, z), 2.4);
  if (z > 12) d = blend(d, head(x, y, z), 5);
  if (x > 0.5) {
    for (const leg of LEGS) d = blend(d, legDistance(x, y, z, leg), 3.6);
  }
  return d;
}

/**
 * The demo sculpt: dense triangles of a newt from a composition of distances.
 * @param cell grid cell in mm: 0.38 gives about 200 k triangles
 */
export function marshNewt(cell = 0.38): PolygonMesh {
  // the grid is mirrored in X = 0 as well: a whole number of cells on both sides
  const half = cell * Math.ceil(38 / cell);
  return implicitSurface(newt, [-half, -4, -86], [half, 32, 64], cell);
}

/** How far the vertices of the lumpy foot are off along each axis at most, in shares of its quads. */
const OFF = 0.3;

/** The newt's left hind foot in quads of about a millimetre, as somebody pulled it together in a hurry: uneven, and lumpy all over. */
export function lumpyFoot(cell = 1.2): PolygonMesh {
  const [, whole] = LEGS;
  // cut off above the knee
  const leg = { ...whole, hip: between(whole.knee, whole.hip, 0.2) };
  const mesh = implicitQuads((x, y, z) => legDistance(-x, y, z, leg), [-44, -4, -34], [-6, 20, 6], cell);
  const random = randomNumbers(7);
  for (let i = 0; i < mesh.positions.length; i++) mesh.positions[i] += 2 * OFF * cell * (random() - 0.5);
  return mesh;
}

/** Axes of the newt's limbs, both sides, and of the outer halves of its toes, with radii that these stay within. */
export function newtLimbs(): { name: string; from: Point; to: Point; radius: number }[] {
  const right = LEGS.flatMap((leg, l) => {
    const name = ['fore', 'hind'][l];
    const toes = Array.from({ length: leg.toes }, (_, i) => {
      const [, middle, tip] = toeOf(leg, i);
      return { name: `${name} toe ${i + 1}`, from: middle, to: tip, radius: 3 };
    });
    return [{ name: `${name} leg`, from: leg.knee, to: leg.ankle, radius: 6 }, ...toes];
  });
  const image = ([x, y, z]: Point): Point => [-x, y, z];
  return right.flatMap((limb) => [limb, { ...limb, name: `${limb.name}, left`, from: image(limb.from), to: image(limb.to) }]);
}
