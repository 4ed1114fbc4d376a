import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { cross, dot, length, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { surfacePoint, type TriangleBvh } from '../reference/triangle-bvh.ts';
import { type QuadList } from './mend.ts';
import { after, type WorkingMesh } from './working-mesh.ts';

/** A plane a surface is mirrored in: points p with dot(normal, p) = offset. */
export interface Mirror {
  normal: Triple;
  offset: number;
  /** mm by which mirrored points of the surface lie off it, at most */
  error: number;
}

/** A surface as the engine takes it: triangles, and by half-edge whether it is a feature. */
export interface Piece {
  positions: Float64Array;
  triangles: Int32Array;
  feature: Uint8Array;
}

export const symmetries = ['auto', 'none', 'x', 'y', 'z'] as const;
export type Symmetry = (typeof symmetries)[number];

const AXES: Record<'x' | 'y' | 'z', Triple> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
/** Points that are mirrored to tell how far off a plane is. */
const SAMPLES = 1500;

/** How far a point lies on the normal's side of a mirror. */
const above = ({ normal, offset }: Mirror, p: Float64Array, v: number): number =>
  normal[0] * p[3 * v] + normal[1] * p[3 * v + 1] + normal[2] * p[3 * v + 2] - offset;

/**
 * Planes in which a surface is mirrored: up to three at right angles, the most exact first; looked for through the middle of
 * its area, along the axes and the main axes of its spread. With an axis asked for that one alone, however exact it is.
 * @param tolerance mm by which mirrored points may lie off the surface
 */
export function mirrorsOf(mesh: WorkingMesh, bvh: TriangleBvh, tolerance: number, wanted: Symmetry): Mirror[] {
  if (wanted === 'none') return [];
  const { middle, axes } = spread(mesh);
  const through = (normal: Triple): Mirror => {
    const offset = dot(normal, middle);
    // a plane through the origin is what was meant where it comes that near
    const mirror = { normal, offset: Math.abs(offset) < tolerance ? 0 : offset, error: 0 };
    mirror.error = errorOf(mirror, mesh, bvh, wanted === 'auto' ? tolerance : Infinity);
    return mirror;
  };
  if (wanted !== 'auto') return [through(AXES[wanted])];
  const found = [...Object.values(AXES), ...axes].map(through).filter(({ error }) => error <= tolerance);
  // of equally exact ones those along the axes, which come first
  found.sort((a, b) => (Math.abs(a.error - b.error) < 0.1 * tolerance ? 0 : a.error - b.error));
  const chosen: Mirror[] = [];
  for (const mirror of found) if (chosen.length < 3 && chosen.every(({ normal }) => Math.abs(dot(normal, mirror.normal)) < 1e-6)) chosen.push(mirror);
  return chosen;
}

/** Middle of the area, and the main axes of its spread. */
function spread(mesh: WorkingMesh): { middle: Triple; axes: Triple[] } {
  const p = mesh.positions;
  const centres: [Triple, number][] = [];
  const middle: Triple = [0, 0, 0];
  let whole = 0;
  for (let t = 0; t < mesh.triangles; t++) {
    const [a, b, c] = [0, 1, 2].map((k): Triple => {
      const v = 3 * mesh.corner[3 * t + k];
      return [p[v], p[v + 1], p[v + 2]];
    });
    const area = length(cross(subtract(b, a), subtract(c, a))) / 2;
    const centre = scaled([a[0] + b[0] + c[0], a[1] + b[1] + c[1], a[2] + b[2] + c[2]], 1 / 3);
    centres.push([centre, area]);
    for (let k = 0; k < 3; k++) middle[k] += area * centre[k];
    whole += area;
  }
  for (let k = 0; k < 3; k++) middle[k] /= whole || 1;
  const sums = Matrix.zeros(3, 3);
  for (const [centre, area] of centres) {
    const d = subtract(centre, middle);
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) sums.set(i, j, sums.get(i, j) + area * d[i] * d[j]);
  }
  const { eigenvectorMatrix } = new EigenvalueDecomposition(sums, { assumeSymmetric: true });
  return { middle, axes: [0, 1, 2].map((k) => unit(eigenvectorMatrix.getColumn(k))) };
}

/** Largest distance of mirrored sample points to the surface; Infinity as soon as one is beyond the tolerance. */
function errorOf(mirror: Mirror, mesh: WorkingMesh, bvh: TriangleBvh, tolerance: number): number {
  const p = mesh.positions;
  const found = surfacePoint();
  const step = Math.max(1, Math.floor(mesh.vertices / SAMPLES));
  let most = 0;
  for (let v = 0; v < mesh.vertices; v += step) {
    const d = 2 * above(mirror, p, v);
    const [x, y, z] = mirror.normal.map((n, k) => p[3 * v + k] - d * n);
    const off = Math.sqrt(bvh.closest(x, y, z, found).distance2);
    if (off > tolerance) return Infinity;
    most = Math.max(most, off);
  }
  return most;
}

/** What lies on the normal's side of a mirror; triangles that cross it are cut, and what lies on it is on it exactly. */
export function halved(piece: Piece, mirror: Mirror, diagonal: number): Piece {
  const { triangles, feature } = piece;
  const positions = [...piece.positions];
  const height = Array.from({ length: positions.length / 3 }, (_, v) => {
    const h = above(mirror, piece.positions, v);
    if (Math.abs(h) > 1e-6 * diagonal) return h;
    for (let k = 0; k < 3; k++) positions[3 * v + k] -= h * mirror.normal[k];
    return 0;
  });
  const cuts = new Map<string, number>();
  const cutAt = (v: number, w: number): number => {
    const key = v < w ? `${v} ${w}` : `${w} ${v}`;
    const known = cuts.get(key);
    if (known !== undefined) return known;
    const t = height[v] / (height[v] - height[w]);
    const made = positions.length / 3;
    for (let k = 0; k < 3; k++) positions.push(positions[3 * v + k] + t * (positions[3 * w + k] - positions[3 * v + k]));
    cuts.set(key, made);
    return made;
  };
  const kept: number[] = [];
  const marks: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    if (corners.every((v) => height[v] <= 0)) continue;
    const outline: number[] = [];
    const marked: number[] = [];
    corners.forEach((v, k) => {
      const w = corners[(k + 1) % 3];
      if (height[v] >= 0) {
        outline.push(v);
        // the edge from here on, as far as it lies above
        marked.push(height[v] === 0 && height[w] < 0 ? 0 : feature[t + k]);
      }
      if (height[v] * height[w] < 0) {
        outline.push(cutAt(v, w));
        marked.push(height[v] < 0 ? feature[t + k] : 0);
      }
    });
    for (let k = 1; k + 1 < outline.length; k++) {
      kept.push(outline[0], outline[k], outline[k + 1]);
      marks.push(k === 1 ? marked[0] : 0, marked[k], k + 2 === outline.length ? marked[k + 1] : 0);
    }
  }
  return packed(positions, kept, Uint8Array.from(marks));
}

function packed(positions: number[], triangles: number[], feature: Uint8Array): Piece {
  const place = new Int32Array(positions.length / 3).fill(-1);
  const used: number[] = [];
  for (const v of triangles)
    if (place[v] < 0) {
      place[v] = used.length / 3;
      used.push(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
    }
  return { positions: Float64Array.from(used), triangles: Int32Array.from(triangles, (v) => place[v]), feature };
}

/** Quads of a half and their mirror images; border vertices within some mm of the mirror are shared and lie on it exactly. */
export function mirrored(list: QuadList, mirror: Mirror, within: number): QuadList {
  const { quads, hold } = list;
  const positions = list.positions.slice();
  const count = positions.length / 3;
  const border = borderVertices(quads, count);
  const image = new Int32Array(count);
  const added: number[] = [];
  const holds: number[] = [];
  for (let v = 0; v < count; v++) {
    const h = above(mirror, positions, v);
    if (border[v] && Math.abs(h) < within) {
      for (let k = 0; k < 3; k++) positions[3 * v + k] -= h * mirror.normal[k];
      image[v] = v;
      continue;
    }
    image[v] = count + added.length / 3;
    for (let k = 0; k < 3; k++) added.push(positions[3 * v + k] - 2 * h * mirror.normal[k]);
    holds.push(hold[v]);
  }
  const back = new Int32Array(quads.length);
  for (let q = 0; q < quads.length; q += 4) for (let k = 0; k < 4; k++) back[q + k] = image[quads[q + 3 - k]];
  return {
    positions: Float64Array.from([...positions, ...added]),
    quads: Int32Array.from([...quads, ...back]),
    hold: Uint8Array.from([...hold, ...holds])
  };
}

function borderVertices(quads: Int32Array, count: number): Uint8Array {
  const sides = new Set<number>();
  for (let i = 0; i < quads.length; i++) sides.add(quads[i] * count + quads[(i & ~3) | ((i + 1) & 3)]);
  const border = new Uint8Array(count);
  for (const side of sides) {
    const [v, w] = [Math.floor(side / count), side % count];
    if (!sides.has(w * count + v)) border[v] = border[w] = 1;
  }
  return border;
}

/** Normals at border vertices that lie on a mirror are those of the whole surface: they have no part along the mirror's normal. */
export function straightenNormals(normals: Float64Array, mesh: WorkingMesh): void {
  if (mesh.mirrors.length === 0) return;
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (mesh.opposite[h] >= 0 || mesh.corner[h] < 0) continue;
    for (const v of [mesh.corner[h], mesh.corner[after(h)]])
      for (const mirror of mesh.mirrors) {
        if (Math.abs(above(mirror, mesh.positions, v)) > 1e-9 * (1 + Math.abs(mirror.offset)) * 1e3) continue;
        const along = dot(mirror.normal, [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]]);
        const rest = subtract([normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]], scaled(mirror.normal, along));
        normals.set(unit(rest), 3 * v);
      }
  }
}
