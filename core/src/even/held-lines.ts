import { type Cage } from '../mesh/cage.ts';
import { isBetweenRegions } from '../regions/edit-regions.ts';

/** What may be held where vertices are evened out. */
export interface Held {
  borders: boolean;
  creases: boolean;
  regions: boolean;
}

/** Lines of a cage that vertices do not leave: borders, creases, outlines of regions, and kept edges, which are always held. */
export interface NetLines {
  /** by vertex: free, on a line that goes on to both sides, where lines end or turn a corner, or held */
  readonly kind: Uint8Array;
  /** by vertex the two neighbours along its line */
  readonly along: Int32Array;
}

export const [FREE, ON_LINE, CORNER, HELD] = [0, 1, 2, 3] as const;

/**
 * Lines that vertices slide along, and those that are held. A vertex where lines end, cross or turn a sharp corner is evened out nowhere;
 * outlines of regions that are not held are no lines.
 * @param outline edges that are held besides: round what is evened out
 */
export function linesOfCage(cage: Cage, held: Held, outline: Iterable<number> = []): NetLines {
  const slots = cage.vertexSlots;
  const kind = new Uint8Array(slots);
  const along = new Int32Array(2 * slots).fill(-1);
  const met = new Uint8Array(slots);
  const put = (e: number, isHeld: boolean) => {
    for (const h of [2 * e, 2 * e + 1]) {
      const v = cage.origin[h];
      if (met[v] < 2) along[2 * v + met[v]] = cage.target(h);
      met[v] = Math.min(3, met[v] + 1);
      if (isHeld) kind[v] = HELD;
    }
  };
  for (const e of cage.edges()) {
    const isBorder = cage.isBorderEdge(e);
    if (cage.value('kept', e) > 0) put(e, true);
    else if (isBorder) put(e, held.borders);
    else if (cage.value('crease', e) > 0) put(e, held.creases);
    else if (held.regions && isBetweenRegions(cage, e)) put(e, true);
  }
  for (const e of outline) for (const h of [2 * e, 2 * e + 1]) kind[cage.origin[h]] = HELD;
  for (let v = 0; v < slots; v++)
    if (kind[v] === FREE && (met[v] > 0 || cage.value('corner', v) > 0)) kind[v] = met[v] === 2 && !turns(cage, along, v) ? ON_LINE : CORNER;
  return { kind, along };
}

/** A line turns a corner where it bends by more than 60 degrees. */
const TURNS = Math.cos(Math.PI / 3);

function turns(cage: Cage, along: Int32Array, v: number): boolean {
  const p = cage.positions;
  let [dot, aa, bb] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const a = p[3 * v + k] - p[3 * along[2 * v] + k];
    const b = p[3 * along[2 * v + 1] + k] - p[3 * v + k];
    dot += a * b;
    aa += a * a;
    bb += b * b;
  }
  return dot < TURNS * Math.sqrt(aa * bb);
}
