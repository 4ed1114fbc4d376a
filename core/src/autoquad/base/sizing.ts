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
      next[a] += weight * now[b];
      next[a + 1] += weight * now[b + 1];
      next[a + 2] += weight * now[b + 2];
      next[b] += weight * now[a];
      next[b + 1] += weight * now[a + 1];
      next[b + 2] += weight * now[a + 2];
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
  const { corner } = mesh;
  const bend = new Float64Array(mesh.vertices);
  const leftOut = onlyRound ? mesh.onFeatures() : new Uint8Array(mesh.vertices);
  const edges = mesh.edges();
  // a neighbour is at most 0.4 of the distance coarser
  const slack = new Float64Array(edges.length);
  for (let i = 0; i < edges.length; i++) {
    const h = edges[i];
    const v = corner[h];
    const w = corner[after(h)];
    const a = 3 * v;
    const b = 3 * w;
    const length = Math.sqrt(mesh.edgeLength2(h));
    slack[i] = 0.4 * length;
    if (length === 0 || leftOut[v] || leftOut[w]) continue;
    const turn = Math.sqrt((normals[a] - normals[b]) ** 2 + (normals[a + 1] - normals[b + 1]) ** 2 + (normals[a + 2] - normals[b + 2]) ** 2) / length;
    if (turn > bend[v]) bend[v] = turn;
    if (turn > bend[w]) bend[w] = turn;
  }
  const sizes = bend.map((k) => Math.min(size, Math.max(FINEST * size, k > 0 ? BEND / k : size)));
  for (let round = 0; round < 6; round++)
    for (let i = 0; i < edges.length; i++) {
      const a = corner[edges[i]];
      const b = corner[after(edges[i])];
      if (sizes[a] > sizes[b] + slack[i]) sizes[a] = sizes[b] + slack[i];
      if (sizes[b] > sizes[a] + slack[i]) sizes[b] = sizes[a] + slack[i];
    }
  return sizes;
}
