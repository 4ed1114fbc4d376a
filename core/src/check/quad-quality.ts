import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { faceNormal } from '../mesh/normals.ts';
import { quadJacobian } from '../numeric/quad-shape.ts';
import { areaVector, cross, dot, leastSine, length, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { ringThrough } from '../select/loops.ts';

/** How good the quads of a cage are, and how its strips of quads run. */
export interface QuadQuality {
  /** scaled Jacobian: the least sine of a quad's corners, below 0 where one turns the wrong way */
  mean: number;
  /** one quad in a hundred is poorer */
  hundredth: number;
  worst: number;
  /** strips of quads, each across opposite edges until it closes or ends */
  strips: number;
  /** quads of the longest strip; one that is passed twice counts twice */
  longest: number;
  /** strips that somewhere run beside themselves: spirals */
  spirals: number;
}

/**
 * How good the quads of a cage are; other faces are left out.
 * The scaled Jacobian is the least sine over a quad's corners between edges (Knupp 2000): 1 for rectangles, 0 or less where one is straight or turned over.
 */
export function quadQuality(cage: Cage): QuadQuality {
  const values = Float64Array.from([...cage.faces()].filter((f) => cage.faceSize(f) === 4).map((f) => scaledJacobian(cage, f))).sort();
  const { lengths, of } = stripsOf(cage);
  return {
    mean: values.reduce((a, b) => a + b, 0) / (values.length || 1),
    hundredth: values[Math.floor(values.length / 100)] ?? 0,
    worst: values[0] ?? 0,
    strips: lengths.length,
    longest: lengths.reduce((a, b) => Math.max(a, b), 0),
    spirals: spiralsAmong(cage, of).size
  };
}

/** Least sine of a face's corners, below 0 where one turns the wrong way. */
export function scaledJacobian(cage: Cage, f: number): number {
  const vertices = cage.faceVertices(f);
  if (vertices.length === 4) return quadJacobian(cage.positions, vertices, 0, new Float64Array(3));
  const p = vertices.map((v) => cage.position(v));
  return leastSine(p, unit(areaVector(p)));
}

/** Cosine of the widest corner that is none of 180 degrees yet: 177. */
const FLAT_COSINE = Math.cos((177 * Math.PI) / 180);

/**
 * Of some faces, those that are folded (quads with a corner turned the wrong way, or twisted so that their halves face away from each
 * other whichever diagonal cuts them; faces of any size turned against most of those beside them), and other quads with a corner of
 * nearly 180 degrees.
 */
export function poorFaces(cage: Cage, faces: Iterable<number>): { folded: number[]; flat: number[] } {
  const normals = new Map<number, Triple>();
  const normalOf = (f: number): Triple => {
    let n = normals.get(f);
    if (!n) normals.set(f, (n = faceNormal(cage, f)));
    return n;
  };
  const [folded, flat]: [number[], number[]] = [[], []];
  for (const f of faces) {
    const quad = cage.faceSize(f) === 4 ? quadShape(cage, f) : 'sound';
    if (quad === 'folded' || isAgainstNeighbours(cage, f, normalOf)) folded.push(f);
    else if (quad === 'flat') flat.push(f);
  }
  return { folded, flat };
}

function isAgainstNeighbours(cage: Cage, f: number, normalOf: (f: number) => Triple): boolean {
  const own = normalOf(f);
  let [beside, against] = [0, 0];
  const first = cage.faceEdge[f];
  let h = first;
  do {
    const g = cage.face[h ^ 1];
    if (g !== NONE) {
      beside++;
      if (dot(normalOf(g), own) < -0.5) against++;
    }
    h = cage.next[h];
  } while (h !== first);
  return against > 1 && against > beside / 2;
}

function quadShape(cage: Cage, f: number): 'sound' | 'flat' | 'folded' {
  const p = cage.faceVertices(f).map((v) => cage.position(v));
  const sides = p.map((q, i) => subtract(p[(i + 1) % 4], q));
  // at each corner, along both of its sides
  const corners = sides.map((out, i) => cross(out, scaled(sides[(i + 3) % 4], -1)));
  if (dot(corners[0], corners[2]) < 0 && dot(corners[1], corners[3]) < 0) return 'folded';
  const area = areaVector(p);
  if (corners.some((c, i) => dot(c, area) < -1e-9 * length(area) * length(sides[i]) * length(sides[(i + 3) % 4]))) return 'folded';
  const isFlat = sides.some((out, i) => -dot(out, sides[(i + 3) % 4]) < FLAT_COSINE * length(out) * length(sides[(i + 3) % 4]));
  return isFlat ? 'flat' : 'sound';
}

/** Strips of quads: how many quads each passes, and by edge the number of the one that crosses it. */
export function stripsOf(cage: Cage): { lengths: number[]; of: Int32Array } {
  const of = new Int32Array(cage.edgeSlots).fill(NONE);
  const lengths: number[] = [];
  for (const e of cage.edges()) {
    if (of[e] !== NONE) continue;
    const { halves, closed } = ringThrough(cage, 2 * e);
    for (const h of halves) of[h >> 1] = lengths.length;
    lengths.push(closed ? halves.length : halves.length - 1);
  }
  return { lengths, of };
}

/** Strips that somewhere run beside themselves, each with a half-edge that it crosses there. @param of by edge the number of the strip that crosses it */
export function spiralsAmong(cage: Cage, of: Int32Array): Map<number, number> {
  const spirals = new Map<number, number>();
  for (const e of cage.edges()) {
    const [h, g] = [2 * e, 2 * e + 1];
    const [left, right] = [cage.face[h], cage.face[g]];
    if (left === NONE || right === NONE || cage.faceSize(left) !== 4 || cage.faceSize(right) !== 4) continue;
    const here = of[cage.next[h] >> 1];
    if (here === of[cage.next[g] >> 1] && !spirals.has(here)) spirals.set(here, cage.next[h]);
  }
  return spirals;
}
