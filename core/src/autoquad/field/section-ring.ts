import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { cross, dot, length, mean, subtract, unit, type Triple } from '../../numeric/vectors.ts';

/** A stroke whose ends come this near to each other, as a share of its length, runs round by itself. */
const CLOSED = 0.35;

/**
 * The closed line a stroke stands for: itself where it comes back to its start, as round an eye; else the section all round
 * of what it was drawn across, as round a limb, in the plane of the stroke and the view.
 * @param view direction towards the eye
 * @returns nothing where the section does not close
 */
export function ringOfStroke(mesh: PolygonMesh, stroke: readonly Triple[], view: Triple): Triple[] | undefined {
  const [first, last] = [stroke[0], stroke[stroke.length - 1]];
  const long = stroke.slice(1).reduce((sum, p, i) => sum + length(subtract(p, stroke[i])), 0);
  if (stroke.length > 5 && length(subtract(last, first)) < CLOSED * long) return [...stroke];
  const normal = unit(cross(subtract(last, first), view));
  if (length(normal) === 0) return undefined;
  return sectionNear(mesh, normal, dot(normal, mean([first, last])), stroke);
}

/** The closed line in which a plane cuts a mesh that comes nearest to some points. */
function sectionNear(mesh: PolygonMesh, normal: Triple, offset: number, points: readonly Triple[]): Triple[] | undefined {
  const { triangles } = triangulate(mesh);
  const p = mesh.positions;
  const count = p.length / 3;
  const height = new Float64Array(count);
  // a vertex in the plane counts as above it, so that the line passes edges alone
  for (let v = 0; v < count; v++) height[v] = normal[0] * p[3 * v] + normal[1] * p[3 * v + 1] + normal[2] * p[3 * v + 2] - offset;
  const beside = new Map<number, number[]>();
  const join = (a: number, b: number) => {
    const list = beside.get(a);
    if (list) list.push(b);
    else beside.set(a, [b]);
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const passed: number[] = [];
    for (let k = 0; k < 3; k++) {
      const [v, w] = [triangles[t + k], triangles[t + ((k + 1) % 3)]];
      if (height[v] >= 0 !== height[w] >= 0) passed.push(Math.min(v, w) * count + Math.max(v, w));
    }
    if (passed.length !== 2) continue;
    join(passed[0], passed[1]);
    join(passed[1], passed[0]);
  }
  const placeOf = (edge: number): Triple => {
    const [v, w] = [Math.floor(edge / count), edge % count];
    const s = height[v] / (height[v] - height[w]);
    return [0, 1, 2].map((k) => p[3 * v + k] + s * (p[3 * w + k] - p[3 * v + k])) as Triple;
  };
  const middle = points[Math.floor(points.length / 2)];
  let [start, least] = [-1, Infinity];
  for (const edge of beside.keys()) {
    const far = length(subtract(placeOf(edge), middle));
    if (far < least) [start, least] = [edge, far];
  }
  if (start < 0) return undefined;
  const ring = [start];
  for (let [before, now] = [-1, start]; ;) {
    const next = beside.get(now)!.find((edge) => edge !== before);
    if (next === undefined) return undefined;
    if (next === start) return ring.map(placeOf);
    if (ring.length > beside.size) return undefined;
    ring.push(next);
    [before, now] = [now, next];
  }
}
