import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { straightOn } from '../select/loops.ts';

/**
 * Rows of vertices that run straight across some faces, from outline to outline: of the two families the one whose rows are shorter.
 * @returns vertices of each row, those on the outline at its ends
 */
export function rowsAcross(cage: Cage, faces: readonly number[]): number[][] {
  const inside = new Set(faces);
  const isInner = (h: number) => inside.has(cage.face[h]) && inside.has(cage.face[h ^ 1]);
  const outline = new Set<number>();
  for (const f of inside)
    for (const h of cage.loopOf(cage.faceEdge[f]))
      if (!inside.has(cage.face[h ^ 1])) for (const v of [cage.origin[h], cage.target(h)]) outline.add(v);
  const rows: number[][] = [];
  const passed = new Set<number>();
  for (const v of outline)
    for (const spoke of cage.spokes(v)) {
      if (!isInner(spoke) || passed.has(spoke >> 1)) continue;
      const row = [v];
      for (let h = spoke; ; h = straightOn(cage, h)) {
        passed.add(h >> 1);
        row.push(cage.target(h));
        if (outline.has(cage.target(h)) || straightOn(cage, h) === NONE) break;
      }
      if (outline.has(row.at(-1)!)) rows.push(row);
    }
  return ofOneFamily(rows);
}

/** Rows that cross are of two families; the one with fewer edges a row is kept. */
function ofOneFamily(rows: readonly number[][]): number[][] {
  const through = new Map<number, number[]>();
  rows.forEach((row, i) => row.slice(1, -1).forEach((v) => through.set(v, [...(through.get(v) ?? []), i])));
  const family = new Array<number>(rows.length).fill(-1);
  for (let seed = 0; seed < rows.length; seed++) {
    if (family[seed] >= 0) continue;
    family[seed] = 0;
    const open = [seed];
    while (open.length > 0) {
      const i = open.pop()!;
      for (const v of rows[i].slice(1, -1))
        for (const j of through.get(v)!)
          if (family[j] < 0) {
            family[j] = 1 - family[i];
            open.push(j);
          }
    }
  }
  const [first, second] = [0, 1].map((own) => rows.filter((_, i) => family[i] === own));
  const edges = (own: readonly number[][]) => own.reduce((sum, row) => sum + row.length - 1, 0) / (own.length || Infinity);
  return second.length > 0 && edges(second) < edges(first) ? second : first;
}
