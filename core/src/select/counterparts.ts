import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { boundsOf } from '../mesh/polygon-mesh.ts';
import { PointGrid } from '../numeric/point-grid.ts';
import { length, subtract } from '../numeric/vectors.ts';

export type Axis = 'X' | 'Y' | 'Z';

/** Vertices on the other side of a plane of symmetry through the origin, by vertex id; those on the plane are their own. */
export type Counterparts = ReadonlyMap<number, number>;

/** Distance within which a place counts as the mirror image of another, mm. */
export const mirrorTolerance = (cage: Cage): number => Math.max(1e-9, 1e-4 * boundsOf(cage.positions.subarray(0, 3 * cage.vertexSlots)).diagonal);

/** Finds counterparts by their mirrored places. @param tolerance mm */
export function counterpartsByPosition(cage: Cage, axis: Axis, tolerance: number): Counterparts {
  const k = 'XYZ'.indexOf(axis);
  const grid = new PointGrid(2 * tolerance);
  for (const v of cage.vertices()) grid.put(v, ...cage.position(v));
  const found = new Map<number, number>();
  for (const v of cage.vertices()) {
    const p = cage.position(v);
    p[k] = -p[k];
    let best = { v: NONE, distance: tolerance };
    grid.visitNear(...p, (w) => {
      const distance = length(subtract(cage.position(w), p));
      if (distance <= best.distance) best = { v: w, distance };
    });
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
