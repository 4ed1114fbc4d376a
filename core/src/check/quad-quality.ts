import { NONE, type Cage } from '../mesh/cage.ts';
import { areaVector, cross, dot, subtract, unit } from '../numeric/vectors.ts';

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

export function quadQuality(cage: Cage): QuadQuality {
  const values = [...cage.faces()].filter((f) => cage.faceSize(f) === 4).map((f) => scaledJacobian(cage, f));
  values.sort((a, b) => a - b);
  const { lengths, of } = stripsOf(cage);
  const spirals = new Set<number>();
  for (const e of cage.edges()) {
    const [h, g] = [2 * e, 2 * e + 1];
    if (![h, g].every((k) => cage.face[k] !== NONE && cage.faceSize(cage.face[k]) === 4)) continue;
    const here = of[cage.next[h] >> 1];
    if (here === of[cage.next[g] >> 1]) spirals.add(here);
  }
  return {
    mean: values.reduce((a, b) => a + b, 0) / (values.length || 1),
    hundredth: values[Math.floor(values.length / 100)] ?? 0,
    worst: values[0] ?? 0,
    strips: lengths.length,
    longest: lengths.reduce((a, b) => Math.max(a, b), 0),
    spirals: spirals.size
  };
}

function scaledJacobian(cage: Cage, f: number): number {
  const p = cage.faceVertices(f).map((v) => cage.position(v));
  const normal = unit(areaVector(p));
  return Math.min(...p.map((q, i) => dot(cross(unit(subtract(p[(i + 1) % 4], q)), unit(subtract(p[(i + 3) % 4], q))), normal)));
}

/** Strips of quads: how many quads each passes, and by edge the number of the one that crosses it. */
export function stripsOf(cage: Cage): { lengths: number[]; of: Int32Array } {
  const of = new Int32Array(cage.edgeSlots).fill(NONE);
  const lengths: number[] = [];
  const isQuad = (h: number) => cage.face[h] !== NONE && cage.faceSize(cage.face[h]) === 4;
  for (const e of cage.edges()) {
    if (of[e] !== NONE) continue;
    const strip = lengths.length;
    let length = 0;
    // both ways from the edge; a closed strip comes back on the first
    for (const start of [2 * e, 2 * e + 1]) {
      let h = start;
      of[e] = strip;
      while (isQuad(h)) {
        length++;
        h = cage.next[cage.next[h]] ^ 1;
        if (of[h >> 1] !== NONE) break;
        of[h >> 1] = strip;
      }
      if (h >> 1 === e && length > 0) break;
    }
    lengths.push(length);
  }
  return { lengths, of };
}
