import { after, type WorkingMesh } from './working-mesh.ts';

/** A curve of radius r gets at least 2 pi / BEND edges a turn. */
const BEND = 0.45;
/** The working mesh is at most this much finer than the quads, where the surface bends tightly. */
const FINEST = 0.3;

/**
 * Normals averaged over neighbours until details below `radius` are gone, so that noise does not count as bending.
 * @returns unit normals by vertex
 */
export function smoothNormals(normals: Float64Array, mesh: WorkingMesh, radius: number, meanEdge: number): Float64Array {
  const rounds = Math.min(30, Math.max(2, Math.ceil((radius / meanEdge) ** 2)));
  const edges = mesh.edges();
  let now = normals;
  for (let i = 0; i < rounds; i++) {
    const next = now.slice();
    for (const h of edges) {
      const a = 3 * mesh.corner[h];
      const b = 3 * mesh.corner[after(h)];
      // of a border vertex's neighbours those along the border count half
      const weight = mesh.opposite[h] < 0 ? 0.5 : 1;
      for (let k = 0; k < 3; k++) {
        next[a + k] += weight * now[b + k];
        next[b + k] += weight * now[a + k];
      }
    }
    for (let v = 0; v < next.length; v += 3) {
      const length = Math.sqrt(next[v] ** 2 + next[v + 1] ** 2 + next[v + 2] ** 2) || 1;
      next[v] /= length;
      next[v + 1] /= length;
      next[v + 2] /= length;
    }
    now = next;
  }
  return now;
}

/**
 * Wanted edge length of the working mesh by vertex: `size`, and less where the surface bends tightly, changing gradually.
 * @param onlyRound whether bends at features do not count
 */
export function workingSizes(mesh: WorkingMesh, normals: Float64Array, size: number, onlyRound = false): Float64Array {
  const p = mesh.positions;
  const bend = new Float64Array(mesh.vertices);
  const leftOut = onlyRound ? mesh.onFeatures() : new Uint8Array(mesh.vertices);
  const edges = mesh.edges();
  for (const h of edges) {
    const v = mesh.corner[h];
    const w = mesh.corner[after(h)];
    const a = 3 * v;
    const b = 3 * w;
    const length = Math.sqrt(mesh.edgeLength2(h));
    if (length === 0 || leftOut[v] || leftOut[w]) continue;
    const turn = Math.sqrt((normals[a] - normals[b]) ** 2 + (normals[a + 1] - normals[b + 1]) ** 2 + (normals[a + 2] - normals[b + 2]) ** 2) / length;
    if (turn > bend[v]) bend[v] = turn;
    if (turn > bend[w]) bend[w] = turn;
  }
  const sizes = bend.map((k) => Math.min(size, Math.max(FINEST * size, k > 0 ? BEND / k : size)));
  // a neighbour is at most 0.4 of the distance coarser
  for (let round = 0; round < 6; round++)
    for (const h of edges) {
      const a = mesh.corner[h];
      const b = mesh.corner[after(h)];
      const slack = 0.4 * Math.sqrt((p[3 * a] - p[3 * b]) ** 2 + (p[3 * a + 1] - p[3 * b + 1]) ** 2 + (p[3 * a + 2] - p[3 * b + 2]) ** 2);
      if (sizes[a] > sizes[b] + slack) sizes[a] = sizes[b] + slack;
      if (sizes[b] > sizes[a] + slack) sizes[b] = sizes[a] + slack;
    }
  return sizes;
}
