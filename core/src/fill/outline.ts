import { isInside } from '../mesh/slice.ts';
import { between, type Triple } from '../numeric/vectors.ts';
import { bestFitPlane, inPlane, type Plane } from '../numeric/best-fit.ts';
import { type Patch, type Side } from './patch.ts';
import { polesOf } from './patch-patterns.ts';

/** The border of a region to be filled: points of a patch, and how many quads are to meet it at each (1: a corner, 2: along a side, 3: round a bend inward). */
export interface Outline {
  points: number[];
  quadsAt: number[];
}

type Flat = [number, number];

/** Angles, in radians, up to which a border point gets one, two or three quads. */
const UP_TO = [0.75, 1.25, 1.75].map((share) => share * Math.PI);

/** How many quads fit an angle between two border edges. */
export const quadsIn = (angle: number): number => 1 + UP_TO.filter((limit) => angle > limit).length;

/** Sides between the corners of an outline that has no point where it bends inward. */
export function sidesOf({ points, quadsAt }: Outline): Side[] {
  const n = points.length;
  const corners = [...points.keys()].filter((i) => quadsAt[i] === 1);
  return corners.map((from, k) => {
    const to = corners[(k + 1) % corners.length];
    return Array.from({ length: ((to - from + n - 1) % n) + 2 }, (_, j) => points[(from + j) % n]);
  });
}

/** An outline with two corners at least: where it has fewer, others are set at equal distances from its first one. */
function withCorners(outline: Outline): Outline {
  const n = outline.points.length;
  const corners = outline.quadsAt.filter((q) => q === 1).length;
  if (corners > 1) return outline;
  const first = Math.max(0, outline.quadsAt.indexOf(1));
  const wanted = Math.min(4, n);
  const quadsAt = outline.points.map(() => 2);
  for (let k = 0; k < wanted; k++) quadsAt[(first + Math.round((k * n) / wanted)) % n] = 1;
  return { points: outline.points, quadsAt };
}

/**
 * Cuts an outline along lines from where it bends inward until it is in pieces that do not, and lays quads into each.
 * @param short how much the length of the cuts counts
 */
export function layOutline(patch: Patch, outline: Outline, short = 1): void {
  const plane = bestFitPlane(outline.points.map((p) => patch.places[p]));
  const pieces = [outline];
  const whole: Outline[] = [];
  while (pieces.length > 0) {
    const piece = pieces.pop()!;
    if (piece.quadsAt.every((n) => n < 3)) {
      whole.push(piece);
      continue;
    }
    const cut = bestCut(patch, piece, plane, short);
    if (cut) pieces.push(...split(patch, piece, cut));
    else whole.push({ points: piece.points, quadsAt: piece.quadsAt.map((q) => Math.min(q, 2)) });
  }
  for (const piece of whole) patch.lay(sidesOf(withCorners(piece)));
}

interface Cut {
  /** from and to: places in the outline's row, from < to */
  from: number;
  to: number;
  /** quads that stay with the piece between from and to */
  keepFrom: number;
  keepTo: number;
  edges: number;
}

/** What counts against a cut: its length as a share of the outline's, edges of another size, angles that are no right ones, poles. */
function bestCut(patch: Patch, { points, quadsAt }: Outline, plane: Plane, short: number): Cut | undefined {
  const n = points.length;
  const flat = points.map((p) => inPlane(plane, patch.places[p]).slice(0, 2) as Flat);
  const total = flat.reduce((sum, p, i) => sum + distance(p, flat[(i + 1) % n]), 0);
  const spacing = total / n;
  const counterClockwise = area(flat) > 0;
  const angleAt = (i: number, from: Flat, to: Flat) => {
    const [a, b] = [from, to].map(([x, y]) => Math.atan2(y - flat[i][1], x - flat[i][0]));
    const turn = counterClockwise ? b - a : a - b;
    return (turn + 4 * Math.PI) % (2 * Math.PI);
  };
  let best: Cut | undefined;
  let least = Infinity;
  for (let from = 0; from < n; from++)
    for (let to = from + 2; to < n; to++) {
      if (to - from > n - 2 || (quadsAt[from] < 3 && quadsAt[to] < 3) || quadsAt[from] < 2 || quadsAt[to] < 2) continue;
      if (!sees(flat, from, to)) continue;
      // quads of the piece between them: at `from` before its next point, at `to` after the one before
      const one = share(angleAt(from, flat[(from + 1) % n], flat[to]), angleAt(from, flat[(from + 1) % n], flat[(from + n - 1) % n]), quadsAt[from]);
      const other = share(angleAt(to, flat[from], flat[to - 1]), angleAt(to, flat[(to + 1) % n], flat[to - 1]), quadsAt[to]);
      const far = distance(flat[from], flat[to]);
      const edges = withParity(far / spacing, (to - from) % 2 !== 0);
      const line = Array<number>(edges - 1).fill(2);
      const inner = [one.keep, ...quadsAt.slice(from + 1, to), other.keep, ...line];
      const [restFrom, restTo] = [quadsAt[from] - one.keep, quadsAt[to] - other.keep];
      const outer = [...quadsAt.slice(0, from), restFrom, ...line, restTo, ...quadsAt.slice(to + 1)];
      const poles = polesIn(inner) + polesIn(outer);
      const cost = (short * far) / total + Math.log(far / spacing / edges) ** 2 + 2 * (one.off + other.off) + 0.3 * poles;
      if (cost < least - 1e-9) [least, best] = [cost, { from, to, keepFrom: one.keep, keepTo: other.keep, edges }];
    }
  return best;
}

/** Poles of a piece by the counts of its sides. What still bends inward is cut again, and can't be told yet; fewer than two corners are to be avoided. */
function polesIn(quadsAt: number[]): number {
  if (quadsAt.some((q) => q > 2)) return 0;
  const corners = [...quadsAt.keys()].filter((i) => quadsAt[i] === 1);
  if (corners.length < 2) return 20;
  return polesOf(corners.map((from, k) => (corners[(k + 1) % corners.length] - from + quadsAt.length) % quadsAt.length));
}

/**
 * The same outline without corners next to bends inward, as a ragged border has them: each pair is taken for a straight piece.
 */
export function calmed(quadsAt: readonly number[]): number[] {
  const calm = [...quadsAt];
  const n = calm.length;
  for (let changed = true; changed;) {
    changed = false;
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      if (calm[i] > 2 && calm[j] < 2) [calm[i], calm[j], changed] = [calm[i] - 1, calm[j] + 1, true];
      else if (calm[i] < 2 && calm[j] > 2) [calm[i], calm[j], changed] = [calm[i] + 1, calm[j] - 1, true];
    }
  }
  return calm;
}

/** Shares the quads at a point between both sides of a cut by its angle; `off` says how unevenly, in squares of right angles. */
function share(angle: number, whole: number, quads: number): { keep: number; off: number } {
  const size = whole / quads;
  const keep = Math.min(quads - 1, Math.max(1, Math.round(angle / size)));
  return { keep, off: (angle / size - keep) ** 2 };
}

const withParity = (wanted: number, odd: boolean): number => {
  const low = odd ? 1 : 2;
  return Math.max(odd ? 1 : 2, low + 2 * Math.round((wanted - low) / 2));
};

function split(patch: Patch, { points, quadsAt }: Outline, { from, to, keepFrom, keepTo, edges }: Cut): [Outline, Outline] {
  const n = points.length;
  const line = patch.line(points[from], points[to], edges).slice(1, -1);
  const twos = line.map(() => 2);
  const rest = Array.from({ length: n - (to - from) - 1 }, (_, k) => (to + 1 + k) % n);
  return [
    {
      points: [...points.slice(from, to + 1), ...[...line].reverse()],
      quadsAt: [keepFrom, ...quadsAt.slice(from + 1, to), keepTo, ...twos]
    },
    {
      points: [points[to], ...rest.map((i) => points[i]), points[from], ...line],
      quadsAt: [quadsAt[to] - keepTo, ...rest.map((i) => quadsAt[i]), quadsAt[from] - keepFrom, ...twos]
    }
  ];
}

const distance = ([a, b]: Flat, [c, d]: Flat): number => Math.hypot(a - c, b - d);
const side = ([ax, ay]: Flat, [bx, by]: Flat, [cx, cy]: Flat): number => (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
const area = (flat: Flat[]): number =>
  flat.reduce((sum, [x, y], i) => {
    const [u, v] = flat[(i + 1) % flat.length];
    return sum + x * v - u * y;
  }, 0) / 2;

/** Whether the line between two points of an outline runs inside it and crosses none of its edges. */
function sees(flat: Flat[], from: number, to: number): boolean {
  const n = flat.length;
  const [p, q] = [flat[from], flat[to]];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    if (i === from || i === to || j === from || j === to) continue;
    const [a, b] = [flat[i], flat[j]];
    const [crossesLine, crossesEdge] = [side(p, q, a) * side(p, q, b), side(a, b, p) * side(a, b, q)];
    // edges that lie on one line with it do not cross it
    if ((crossesLine < 0 && crossesEdge <= 0) || (crossesLine <= 0 && crossesEdge < 0)) return false;
  }
  const flatly = ([x, y]: Flat): Triple => [x, y, 0];
  return isInside(between(flatly(p), flatly(q), 0.5) as Triple, flat.map(flatly), [0, 0, 1]);
}
