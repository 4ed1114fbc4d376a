import { vertexNormals } from '../base/remesh.ts';
import { after, before, type WorkingMesh } from '../base/working-mesh.ts';

/**
 * Angles of every half-edge in a frame of its triangle, whose x axis is the triangle's first edge, and the turn from a
 * triangle's frame to its neighbour's across each half-edge.
 */
export interface Frames {
  angle: Float64Array;
  /** a direction at angle a in the triangle of h is at angle a + turn[h] in the one across h */
  turn: Float64Array;
  /** unit x and y axis and normal by triangle, nine numbers */
  axes: Float64Array;
  area: Float64Array;
}

export function triangleFrames(mesh: WorkingMesh): Frames {
  const T = mesh.triangles;
  const p = mesh.positions;
  const frames: Frames = { angle: new Float64Array(3 * T), turn: new Float64Array(3 * T), axes: new Float64Array(9 * T), area: new Float64Array(T) };
  for (let t = 0; t < T; t++) {
    const e = edgesOf(mesh, p, t);
    const n = [e[0][1] * e[1][2] - e[0][2] * e[1][1], e[0][2] * e[1][0] - e[0][0] * e[1][2], e[0][0] * e[1][1] - e[0][1] * e[1][0]];
    const double = Math.hypot(n[0], n[1], n[2]) || 1e-300;
    const length = Math.hypot(e[0][0], e[0][1], e[0][2]) || 1e-300;
    const x = e[0].map((c) => c / length);
    const z = n.map((c) => c / double);
    const y = [z[1] * x[2] - z[2] * x[1], z[2] * x[0] - z[0] * x[2], z[0] * x[1] - z[1] * x[0]];
    frames.axes.set([...x, ...y, ...z], 9 * t);
    frames.area[t] = double / 2;
    for (let k = 0; k < 3; k++)
      frames.angle[3 * t + k] = Math.atan2(e[k][0] * y[0] + e[k][1] * y[1] + e[k][2] * y[2], e[k][0] * x[0] + e[k][1] * x[1] + e[k][2] * x[2]);
  }
  for (let h = 0; h < 3 * T; h++) {
    const g = mesh.opposite[h];
    if (g >= 0) frames.turn[h] = frames.angle[g] + Math.PI - frames.angle[h];
  }
  return frames;
}

/** Half the cotangent of the angle opposite half-edge h. */
export function halfCot(mesh: WorkingMesh, frames: Frames, h: number): number {
  const p = mesh.positions;
  const c = 3 * mesh.corner[before(h)];
  const a = 3 * mesh.corner[h];
  const b = 3 * mesh.corner[after(h)];
  const dot = (p[a] - p[c]) * (p[b] - p[c]) + (p[a + 1] - p[c + 1]) * (p[b + 1] - p[c + 1]) + (p[a + 2] - p[c + 2]) * (p[b + 2] - p[c + 2]);
  return dot / (4 * frames.area[Math.floor(h / 3)] + 1e-300);
}

/**
 * Frames as they turn where some quads are to be smaller: as on the surface that is stretched until all are of one size, by the change
 * of its connection (discrete conformal: Springborn, Schroeder, Pinkall 2008). Poles are drawn to where loops are to lie closer. Where
 * quads are to be larger it would take poles of five and six edges there; the smoothest crosses have none, and drew others nearer.
 * @param share by vertex, size of quads against those elsewhere
 */
export function gradedFrames(mesh: WorkingMesh, frames: Frames, share: Float64Array): Frames {
  const turn = frames.turn.slice();
  for (let h = 0; h < turn.length; h++) {
    const g = mesh.opposite[h];
    if (g < 0) continue;
    const apart = Math.min(2, Math.max(0, halfCot(mesh, frames, h) + halfCot(mesh, frames, g)));
    turn[h] += apart * Math.log(Math.min(1, share[mesh.corner[h]]) / Math.min(1, share[mesh.corner[after(h)]]));
  }
  return { ...frames, turn };
}

function edgesOf(mesh: WorkingMesh, p: Float64Array, t: number): number[][] {
  return [0, 1, 2].map((k) => {
    const a = 3 * mesh.corner[3 * t + k];
    const b = 3 * mesh.corner[after(3 * t + k)];
    return [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  });
}

/** Directions of curvature by triangle, as far as there are any. */
export interface CurvatureDirections {
  /** cos and sin of four times the angle of a principal direction, two numbers a triangle */
  cross: Float64Array;
  /** 0 (round or flat) to 1 (bends one way only) */
  weight: Float64Array;
}

/** Relative anisotropy below the first bound does not count, above the second counts in full. */
const DEAD_ZONE = [0.35, 0.7];

/**
 * Principal directions from the change of vertex normals over each triangle (Rusinkiewicz 2004), averaged over `rounds`
 * rings of neighbours. The anisotropic part of the tensor is a number of angle 2 a; its square, of angle 4 a, has the
 * symmetry of a cross.
 */
export function curvatureDirections(mesh: WorkingMesh, frames: Frames, size: number, rounds = 10): CurvatureDirections {
  const T = mesh.triangles;
  let tensor = shapeTensors(mesh, frames);
  for (let round = 0; round < rounds; round++) {
    const next = tensor.slice();
    for (let h = 0; h < 3 * T; h++) {
      const g = mesh.opposite[h];
      if (g < 0 || mesh.feature[h]) continue;
      const t = 3 * Math.floor(h / 3);
      const s = 3 * Math.floor(g / 3);
      // from the neighbour's frame into this one: turn back by turn[h]
      const c = Math.cos(-2 * frames.turn[h]);
      const d = Math.sin(-2 * frames.turn[h]);
      next[t] += tensor[s] * c - tensor[s + 1] * d;
      next[t + 1] += tensor[s] * d + tensor[s + 1] * c;
      next[t + 2] += tensor[s + 2];
    }
    for (let t = 0; t < T; t++) {
      let count = 1;
      for (let h = 3 * t; h < 3 * t + 3; h++) if (mesh.opposite[h] >= 0 && !mesh.feature[h]) count++;
      for (let k = 0; k < 3; k++) next[3 * t + k] /= count;
    }
    tensor = next;
  }
  const cross = new Float64Array(2 * T);
  const weight = new Float64Array(T);
  for (let t = 0; t < T; t++) {
    const [a, b, mean] = [tensor[3 * t], tensor[3 * t + 1], Math.abs(tensor[3 * t + 2])];
    const size2 = Math.hypot(a, b);
    if (size2 === 0) continue;
    cross[2 * t] = (a * a - b * b) / (size2 * size2);
    cross[2 * t + 1] = (2 * a * b) / (size2 * size2);
    const relative = size2 / (size2 + mean);
    const noticeable = smoothStep(0.01, 0.06, size2 * size);
    weight[t] = 2 * smoothStep(DEAD_ZONE[0], DEAD_ZONE[1], relative) * relative * noticeable;
  }
  return { cross, weight };
}

function smoothStep(low: number, high: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - low) / (high - low)));
  return t * t * (3 - 2 * t);
}

/** By triangle: cosine and sine part of the anisotropic curvature at twice the angle, and the mean curvature. */
function shapeTensors(mesh: WorkingMesh, frames: Frames): Float64Array {
  const normals = vertexNormals(mesh);
  const p = mesh.positions;
  const out = new Float64Array(3 * mesh.triangles);
  for (let t = 0; t < mesh.triangles; t++) {
    const [x, y] = [frames.axes.subarray(9 * t, 9 * t + 3), frames.axes.subarray(9 * t + 3, 9 * t + 6)];
    // least squares over the three edges: II (du, dv) = (dn.x, dn.y), II = [[a, b], [b, c]]
    const m = [0, 0, 0, 0, 0, 0];
    const r = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      const v = 3 * mesh.corner[3 * t + k];
      const w = 3 * mesh.corner[after(3 * t + k)];
      let u = 0,
        s = 0,
        du = 0,
        ds = 0;
      for (let i = 0; i < 3; i++) {
        u += (p[w + i] - p[v + i]) * x[i];
        s += (p[w + i] - p[v + i]) * y[i];
        du += (normals[w + i] - normals[v + i]) * x[i];
        ds += (normals[w + i] - normals[v + i]) * y[i];
      }
      m[0] += u * u;
      m[1] += u * s;
      m[2] += u * u + s * s;
      m[3] += u * s;
      m[4] += s * s;
      r[0] += u * du;
      r[1] += s * du + u * ds;
      r[2] += s * ds;
    }
    const [a, b, c] = solve3(m, r);
    out[3 * t] = (a - c) / 2;
    out[3 * t + 1] = b;
    out[3 * t + 2] = (a + c) / 2;
  }
  return out;
}

/** Solves the tridiagonal symmetric system [[m0, m1, 0], [m1, m2, m3], [0, m3, m4]] x = r. */
function solve3(m: number[], r: number[]): [number, number, number] {
  const det = m[0] * (m[2] * m[4] - m[3] * m[3]) - m[1] * m[1] * m[4];
  if (Math.abs(det) < 1e-300) return [0, 0, 0];
  const a = (r[0] * (m[2] * m[4] - m[3] * m[3]) - m[1] * (r[1] * m[4] - m[3] * r[2])) / det;
  const b = (m[0] * (r[1] * m[4] - m[3] * r[2]) - r[0] * m[1] * m[4]) / det;
  const c = (m[0] * (m[2] * r[2] - r[1] * m[3]) - m[1] * (m[1] * r[2]) + r[0] * m[1] * m[3]) / det;
  return [a, b, c];
}
