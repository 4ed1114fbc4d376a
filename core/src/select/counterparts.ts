import { type Cage, NONE } from '../mesh/cage.ts';

export type Axis = 'X' | 'Y' | 'Z';

/** Vertices on the other side of a plane of symmetry through the origin, by vertex id; those on the plane are their own. */
export type Counterparts = ReadonlyMap<number, number>;

/** Finds counterparts by their mirrored places. @param tolerance mm */
export function counterpartsByPosition(cage: Cage, axis: Axis, tolerance: number): Counterparts {
  const k = 'XYZ'.indexOf(axis);
  const cellOf = (p: number[]) => p.map((x) => Math.round(x / (2 * tolerance)));
  const cells = new Map<string, number[]>();
  for (const v of cage.vertices()) {
    const key = cellOf(cage.position(v)).join(' ');
    const list = cells.get(key);
    if (list) list.push(v);
    else cells.set(key, [v]);
  }
  const found = new Map<number, number>();
  for (const v of cage.vertices()) {
    const p = cage.position(v);
    p[k] = -p[k];
    const [a, b, c] = cellOf(p);
    let best = { v: NONE, distance: tolerance };
    for (let n = 0; n < 27; n++)
      for (const w of cells.get(`${a + (n % 3) - 1} ${b + (Math.floor(n / 3) % 3) - 1} ${c + Math.floor(n / 9) - 1}`) ?? []) {
        const q = cage.position(w);
        const distance = Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]);
        if (distance <= best.distance) best = { v: w, distance };
      }
    if (best.v !== NONE) found.set(v, best.v);
  }
  return found;
}

/**
 * Finds counterparts by walking both sides at once from the edges that lie on the plane: places may differ.
 * Islands that do not touch the plane have none.
 */
export function counterpartsByTopology(cage: Cage, axis: Axis, tolerance: number): Counterparts {
  const k = 'XYZ'.indexOf(axis);
  const onPlane = (v: number) => Math.abs(cage.positions[3 * v + k]) <= tolerance;
  const found = new Map<number, number>();
  const mirrorOf = new Map<number, number>();
  const pending: [number, number][] = [];
  // the start of a half-edge is the counterpart of its mirror image's end
  const pair = (h: number, g: number) => {
    if (mirrorOf.has(h)) return;
    mirrorOf.set(h, g).set(g, h);
    found.set(cage.origin[h], cage.target(g)).set(cage.target(g), cage.origin[h]);
    pending.push([h, g]);
  };
  for (const e of cage.edges()) {
    if (!onPlane(cage.origin[2 * e]) || !onPlane(cage.origin[2 * e + 1])) continue;
    pair(2 * e, 2 * e + 1);
    for (let next = pending.pop(); next; next = pending.pop()) {
      const [h, g] = next;
      const [f, mirrored] = [cage.face[h], cage.face[g]];
      if (f === NONE || mirrored === NONE || cage.faceSize(f) !== cage.faceSize(mirrored)) continue;
      let [a, b] = [h, g];
      for (let n = cage.faceSize(f); n > 0; n--) {
        pair(a, b);
        pair(a ^ 1, b ^ 1);
        a = cage.next[a];
        b = cage.previous(b);
      }
    }
  }
  return found;
}
