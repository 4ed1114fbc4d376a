import { quadsAtVertices } from '../../mesh/polygon-mesh.ts';
import { quadJacobian, quadJacobians } from '../../numeric/quad-shape.ts';
import { matches, withoutDoublets } from './mend.ts';
import { type QuadList } from '../base/quad-list.ts';
import { settleQuads } from './settle-quads.ts';
import { straightenQuads, TWISTED } from './straighten-quads.ts';
import { type LaidPart } from '../input/surface.ts';

/** More poor quads come of a map that is folded, and are left. */
const MOST_POOR = 6;
/** Quads that are closed at most. */
const MOST_CLOSED = 12;
/** Closing must make the poorest quad about better by so much. */
const BETTER = 0.05;
/** Rows of quads about a closed one that may move, and rounds of evening them out. */
const [ROWS, ROUNDS] = [3, 6];

/**
 * Closes poor quads that no moving of vertices mends, or one beside each, by making two opposite corners one, where that leaves better
 * quads. What lies farther off stays.
 * @returns a new list, or the same one where nothing helps
 */
export function closePoorQuads(list: QuadList, part: Pick<LaidPart, 'bvh' | 'normals' | 'lines' | 'topology'>): QuadList {
  let now = list;
  for (let closed = 0; closed < MOST_CLOSED; closed++) {
    const shapes = quadJacobians(now.positions, now.quads);
    const poor = [...shapes.keys()].filter((q) => shapes[q] <= TWISTED);
    if (poor.length === 0 || poor.length > MOST_POOR) break;
    const poorest = poor.reduce((a, b) => (shapes[b] < shapes[a] ? b : a));
    const at = quadsAtVertices(now.quads, now.hold.length);
    const about = new Set([0, 1, 2, 3].flatMap((k) => at[now.quads[4 * poorest + k]]));
    let best: { list: QuadList; shape: number } | undefined;
    for (const q of about)
      for (const k of [0, 1]) {
        const tried = closedQuad(now, q, k);
        if (!tried || !matches(tried.list, part.topology)) continue;
        const shape = evenedAbout(tried.list, tried.vertex, part);
        if (shape > (best?.shape ?? shapes[poorest] + BETTER)) best = { list: tried.list, shape };
      }
    if (!best) break;
    now = best.list;
  }
  return now;
}

/** Corners k and k + 2 of a quad become one, on a line where one of them lies on it. @returns the new list, and that corner in it */
function closedQuad(list: QuadList, q: number, k: number): { list: QuadList; vertex: number } | undefined {
  const { hold } = list;
  const [a, b] = [list.quads[4 * q + k], list.quads[4 * q + k + 2]];
  if (hold[a] > 0 && hold[b] > 0) return undefined;
  const [kept, gone] = hold[b] > hold[a] ? [b, a] : [a, b];
  const positions = list.positions.slice();
  if (hold[kept] === 0) for (let i = 0; i < 3; i++) positions[3 * kept + i] = (positions[3 * kept + i] + positions[3 * gone + i]) / 2;
  const quads = list.quads.filter((_, i) => i >> 2 !== q).map((v) => (v === gone ? kept : v));
  const closed = withoutDoublets({ positions, quads, hold });
  const vertex = vertexAt(closed.positions, positions.subarray(3 * kept, 3 * kept + 3));
  return vertex < 0 ? undefined : { list: closed, vertex };
}

/** Evens out quads about a vertex. @returns scaled Jacobian of the poorest one that has moved */
function evenedAbout(list: QuadList, vertex: number, { bvh, normals, lines }: Pick<LaidPart, 'bvh' | 'normals' | 'lines'>): number {
  const { positions, quads, hold } = list;
  const at = quadsAtVertices(quads, hold.length);
  const moving = new Set([vertex]);
  for (let row = 1; row < ROWS; row++) for (const v of [...moving]) for (const q of at[v]) for (let k = 0; k < 4; k++) moving.add(quads[4 * q + k]);
  const own = hold.slice();
  for (let v = 0; v < hold.length; v++) if (!moving.has(v)) hold[v] = 2;
  settleQuads(list, bvh, normals, lines, ROUNDS);
  straightenQuads(list, bvh, normals, lines);
  hold.set(own);
  const normal = new Float64Array(3);
  let worst = Infinity;
  for (const v of moving) for (const q of at[v]) worst = Math.min(worst, quadJacobian(positions, quads, 4 * q, normal));
  return worst;
}

/** @returns -1 where none lies there: it may have gone with a doublet */
function vertexAt(p: Float64Array, [x, y, z]: Float64Array): number {
  for (let v = 0; 3 * v < p.length; v++) if (p[3 * v] === x && p[3 * v + 1] === y && p[3 * v + 2] === z) return v;
  return -1;
}
