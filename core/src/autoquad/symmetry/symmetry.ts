import { pickedPoints } from '../../mesh/polygon-mesh.ts';
import { Spread } from '../../numeric/best-fit.ts';
import { PointGrid } from '../../numeric/point-grid.ts';
import { dot, scaled, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, type TriangleBvh } from '../../reference/triangle-bvh.ts';
import { openSides, chunks, type QuadList } from '../base/quad-list.ts';
import { clipped } from './clip.ts';
import { after, type WorkingMesh } from '../base/working-mesh.ts';
import { above, type Mirror, reflected } from '../base/mirror.ts';
import { type Symmetry } from '../base/options.ts';

const AXES: Record<'x' | 'y' | 'z', Triple> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
/** Vertices that are mirrored to tell how far off a plane is, at most, and as many points between them. */
const SAMPLES = 1500;

/** Those of some points, x, y, z each, that do not lie behind a mirror. */
export function pointsAhead(mirror: Mirror, points: Float64Array): Float64Array {
  const reach = Math.max(mirror.error, 1e-9);
  const all = Array.from({ length: points.length / 3 }, (_, v) => v);
  return pickedPoints(
    points,
    all.filter((v) => above(mirror, points, v) >= -reach)
  );
}

/**
 * Planes in which a surface is mirrored: up to three at right angles, the most exact first; looked for through the middle of
 * its area, along the axes and the main axes of its spread. With an axis asked for that one alone, however exact it is.
 * @param tolerance mm by which mirrored points may lie off the surface
 */
export function mirrorsOf(mesh: WorkingMesh, bvh: TriangleBvh, tolerance: number, wanted: Symmetry): Mirror[] {
  if (wanted === 'none') return [];
  const { middle, axes, areas, whole } = spread(mesh);
  const samples = samplesOf(mesh, areas, whole);
  const through = (normal: Triple): Mirror => {
    const offset = dot(normal, middle);
    // a plane through the origin is what was meant where it comes that near
    const mirror = { normal, offset: Math.abs(offset) < tolerance ? 0 : offset, error: 0 };
    mirror.error = errorOf(mirror, samples, bvh, wanted === 'auto' ? tolerance : Infinity);
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

/** Middle of the area, the main axes of its spread, and the area of each triangle and of all. */
function spread(mesh: WorkingMesh): { middle: Triple; axes: Triple[]; areas: Float64Array; whole: number } {
  let middle: Triple = [0, 0, 0];
  let whole = 0;
  const areas = new Float64Array(mesh.triangles);
  const { positions: p, corner } = mesh;
  for (let t = 0; t < mesh.triangles; t++) {
    areas[t] = mesh.area(t);
    for (let i = 3 * t; i < 3 * t + 3; i++) for (let k = 0; k < 3; k++) middle[k] += (areas[t] / 3) * p[3 * corner[i] + k];
    whole += areas[t];
  }
  middle = scaled(middle, 1 / (whole || 1));
  // so that it does not matter along which diagonals faces are cut
  const moments = new Spread(middle);
  for (let t = 0; t < mesh.triangles; t++) {
    moments.addTriangle(p, corner, t, areas[t]);
  }
  return { middle, axes: moments.axes(), areas, whole };
}

/** Points of a surface that tell whether it is mirrored, x, y, z each: some of its vertices, and points spread evenly over its area. */
function samplesOf({ positions: p, corner, vertices, triangles }: WorkingMesh, areas: Float64Array, whole: number): number[] {
  const samples: number[] = [];
  const step = Math.max(1, Math.floor(vertices / SAMPLES));
  for (let v = 0; v < vertices; v += step) samples.push(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
  // the corners of a few large faces may lie on a surface that these do not
  const apart = whole / SAMPLES;
  let passed = apart / 2;
  let number = 0;
  for (let t = 0; t < triangles; t++)
    for (passed += areas[t]; passed > apart; passed -= apart) {
      number++;
      const [r, s] = [(number * EVENLY[0]) % 1, (number * EVENLY[1]) % 1];
      const [b, c] = r + s > 1 ? [1 - r, 1 - s] : [r, s];
      for (let k = 0; k < 3; k++)
        samples.push((1 - b - c) * p[3 * corner[3 * t] + k] + b * p[3 * corner[3 * t + 1] + k] + c * p[3 * corner[3 * t + 2] + k]);
    }
  return samples;
}

/** Steps of a sequence that fills a square evenly (Roberts 2018). */
const EVENLY = [0.7548776662466927, 0.5698402909980532];

/** Largest distance of mirrored sample points to the surface; Infinity as soon as one is beyond the tolerance. */
function errorOf(mirror: Mirror, samples: readonly number[], bvh: TriangleBvh, tolerance: number): number {
  const found = surfacePoint();
  let most = 0;
  for (let i = 0; i < samples.length / 3; i++) {
    const off = Math.sqrt(bvh.closest(...reflected(mirror, samples, i), found).distance2);
    if (off > tolerance) return Infinity;
    most = Math.max(most, off);
  }
  return most;
}

/** What a mirror is called: where it lies on an axis, or what it lies across. */
export function planeName({ normal, offset }: Mirror): string {
  const k = normal.findIndex((n) => Math.abs(n) > 1 - 1e-9);
  if (k < 0) return `a plane across ${normal.map((n) => n.toFixed(2)).join(', ')}`;
  return `${'XYZ'[k]} = ${(offset * Math.sign(normal[k])).toFixed(2)}`;
}

/** Lines in which a mirror cuts a surface, x, y, z of both ends of each, one after the other; an edge that lies in it comes once from each side. */
export function sectionLines({ positions, corner, triangles }: WorkingMesh, mirror: Mirror, diagonal: number): number[] {
  const height = heightsOver(mirror, positions, diagonal);
  const lines: number[] = [];
  for (let t = 0; t < triangles; t++) {
    const [a, b, c] = [corner[3 * t], corner[3 * t + 1], corner[3 * t + 2]];
    if ((height[a] > 0 && height[b] > 0 && height[c] > 0) || (height[a] < 0 && height[b] < 0 && height[c] < 0)) continue;
    const passed: Triple[] = [];
    for (const [v, w] of [
      [a, b],
      [b, c],
      [c, a]
    ]) {
      const at = (share: number) => [0, 1, 2].map((k) => positions[3 * v + k] + share * (positions[3 * w + k] - positions[3 * v + k])) as Triple;
      if (height[v] === 0) passed.push(at(0));
      else if (height[v] * height[w] < 0) passed.push(at(height[v] / (height[v] - height[w])));
    }
    if (passed.length === 2) lines.push(...passed[0], ...passed[1]);
  }
  return lines;
}

/** How far vertices lie on the normal's side of a mirror; 0 for those that are on it but for rounding. */
function heightsOver(mirror: Mirror, positions: Float64Array, diagonal: number): Float64Array {
  const height = new Float64Array(positions.length / 3);
  for (let v = 0; v < height.length; v++) {
    const h = above(mirror, positions, v);
    if (Math.abs(h) > 1e-6 * diagonal) height[v] = h;
  }
  return height;
}

/** Whether no more than one piece of what lies on the normal's side of a mirror meets at each vertex on it: otherwise the half is no manifold. */
export function partsWell(whole: WorkingMesh, mirror: Mirror, diagonal: number): boolean {
  const { corner, positions, outgoing, vertices } = whole;
  const height = heightsOver(mirror, positions, diagonal);
  const ring: number[] = [];
  for (let v = 0; v < vertices; v++) {
    if (height[v] !== 0 || outgoing[v] < 0) continue;
    const spokes = whole.spokes(v, ring);
    const lies = (h: number) => Math.max(height[corner[after(h)]], height[corner[after(after(h))]]) > 0;
    const goOn = spokes.filter((h, i) => height[corner[after(h)]] >= 0 && lies(h) && (i > 0 || !whole.isBorder(v)) && lies(spokes.at(i - 1)!));
    if (spokes.filter(lies).length > goOn.length + 1) return false;
  }
  return true;
}

/** What lies on the normal's side of a mirror, with its borders as features; what lies on the mirror is on it exactly. */
export function halved(whole: WorkingMesh, mirror: Mirror, diagonal: number): WorkingMesh {
  const positions = whole.positions.slice();
  const height = heightsOver(mirror, positions, diagonal);
  for (let v = 0; v < height.length; v++) {
    if (height[v] !== 0) continue;
    const h = above(mirror, whole.positions, v);
    for (let k = 0; k < 3; k++) positions[3 * v + k] -= h * mirror.normal[k];
  }
  return clipped(whole, positions, height);
}

/**
 * Quads of a half and their mirror images; border vertices within some mm of the mirror are shared and lie on it exactly. The halves may not
 * fit each other: then the result is no manifold.
 */
export function mirrored(list: QuadList, mirror: Mirror, within: number): QuadList {
  const { quads, hold } = list;
  const positions = list.positions.slice();
  const count = positions.length / 3;
  const onBorder = new Set(openSides(chunks(quads), count).flat());
  const image = new Int32Array(count);
  const added: number[] = [];
  const holds: number[] = [];
  for (let v = 0; v < count; v++) {
    const h = above(mirror, positions, v);
    if (onBorder.has(v) && Math.abs(h) < within) {
      for (let k = 0; k < 3; k++) positions[3 * v + k] -= h * mirror.normal[k];
      image[v] = v;
      continue;
    }
    image[v] = count + added.length / 3;
    added.push(...reflected(mirror, positions, v));
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

/**
 * Which vertex is each one's image in a mirror; itself on the mirror, -1 where there is none that is an image of it alone.
 * @param within mm by which an image may be off
 */
export function imagesIn(mirror: Mirror, positions: Float64Array, within: number): Int32Array {
  const grid = new PointGrid(within, 1000 * within);
  const count = positions.length / 3;
  for (let v = 0; v < count; v++) grid.put(v, positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
  const images = Int32Array.from({ length: count }, (_, v) => {
    const at = reflected(mirror, positions, v);
    let [best, least] = [-1, within];
    grid.visitNear(...at, (w) => {
      const off = Math.hypot(at[0] - positions[3 * w], at[1] - positions[3 * w + 1], at[2] - positions[3 * w + 2]);
      if (off <= least) [best, least] = [w, off];
    });
    return best;
  });
  // vertices that lie on each other would lead the same one
  return images.map((image, v) => (image >= 0 && images[image] === v ? image : -1));
}
