import { mod4, type OrientationField } from './orientation-field.ts';
import { after, type WorkingMesh } from '../base/working-mesh.ts';

/** The mesh cut open into a disk, with crosses numbered alike on both sides of every edge that is not cut. */
export interface CutMesh {
  /** angle of arm 0 in the triangle's frame, after combing */
  theta: Float64Array;
  /** jump of `OrientationField` after combing; 0 where not cut */
  jump: Int8Array;
  /** 1 on half-edges that are cut (borders are not) */
  cut: Uint8Array;
  /** by half-edge: number of the vertex copy at its start; copies are separated by cuts */
  copy: Int32Array;
  copies: number;
  /** cut lines between branch points: half-edges of one side in order */
  chains: number[][];
}

/**
 * Combs the crosses over a breadth-first tree of triangles, cuts all other edges, and takes dead ends of the cut back as
 * far as poles allow. A shallow tree keeps the cut short.
 */
export function cutOpen(mesh: WorkingMesh, field: OrientationField): CutMesh {
  const theta = field.theta.slice();
  const { jump, tree } = comb(mesh, field, theta);
  const cut = new Uint8Array(3 * mesh.triangles);
  for (let h = 0; h < cut.length; h++) cut[h] = mesh.opposite[h] >= 0 && !tree[h] ? 1 : 0;
  pruneEnds(mesh, cut, field.index);
  const { copy, copies } = copiesOf(mesh, cut);
  return { theta, jump, cut, copy, copies, chains: chainsOf(mesh, cut, field.index) };
}

function comb(mesh: WorkingMesh, field: OrientationField, theta: Float64Array): { jump: Int8Array; tree: Uint8Array } {
  const T = mesh.triangles;
  const arm = new Int8Array(T).fill(-1);
  const tree = new Uint8Array(3 * T);
  const queue = new Int32Array(T);
  for (let seed = 0; seed < T; seed++) {
    if (arm[seed] >= 0) continue;
    arm[seed] = 0;
    queue[0] = seed;
    let size = 1;
    for (let at = 0; at < size; at++) {
      const t = queue[at];
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const g = mesh.opposite[h];
        if (g < 0) continue;
        const s = Math.floor(g / 3);
        if (arm[s] >= 0) continue;
        // theta_s = theta_t + turn + jump * pi/2: take jump quarter turns out of s, on top of those out of t
        arm[s] = mod4(arm[t] + field.jump[h]);
        tree[h] = tree[g] = 1;
        queue[size++] = s;
      }
    }
  }
  const jump = new Int8Array(3 * T);
  for (let h = 0; h < 3 * T; h++) {
    const g = mesh.opposite[h];
    if (g >= 0) jump[h] = mod4(field.jump[h] + arm[Math.floor(h / 3)] - arm[Math.floor(g / 3)]);
  }
  for (let t = 0; t < T; t++) theta[t] -= (arm[t] * Math.PI) / 2;
  return { jump, tree };
}

function pruneEnds(mesh: WorkingMesh, cut: Uint8Array, index: Int8Array): void {
  const degree = new Int32Array(mesh.vertices);
  const at: number[][] = Array.from({ length: mesh.vertices }, () => []);
  for (let h = 0; h < cut.length; h++) {
    if (!cut[h] || h > mesh.opposite[h]) continue;
    for (const v of [mesh.corner[h], mesh.corner[after(h)]]) {
      degree[v]++;
      at[v].push(h);
    }
  }
  const stack: number[] = [];
  const isEnd = (v: number) => degree[v] === 1 && index[v] === 0 && !mesh.isBorder(v);
  for (let v = 0; v < mesh.vertices; v++) if (mesh.outgoing[v] >= 0 && isEnd(v)) stack.push(v);
  while (stack.length > 0) {
    const v = stack.pop()!;
    const h = at[v].find((e) => cut[e]);
    if (h === undefined || !isEnd(v)) continue;
    cut[h] = cut[mesh.opposite[h]] = 0;
    for (const w of [mesh.corner[h], mesh.corner[after(h)]]) {
      degree[w]--;
      if (isEnd(w)) stack.push(w);
    }
  }
}

function copiesOf(mesh: WorkingMesh, cut: Uint8Array): { copy: Int32Array; copies: number } {
  const copy = new Int32Array(3 * mesh.triangles).fill(-1);
  let copies = 0;
  const ring: number[] = [];
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.outgoing[v] < 0) continue;
    const spokes = mesh.spokes(v, ring);
    // start after a cut, so that a copy's corners come in one run; a border starts one anyway
    let first = mesh.isBorder(v) ? 0 : spokes.findIndex((h) => cut[h]);
    if (first < 0) first = 0;
    for (let i = 0; i < spokes.length; i++) {
      const h = spokes[(first + i) % spokes.length];
      if (i > 0 && cut[h]) copies++;
      copy[h] = copies;
    }
    copies++;
  }
  return { copy, copies };
}

/** Walks the cut between branch points; of each chain the half-edges of one side. */
function chainsOf(mesh: WorkingMesh, cut: Uint8Array, index: Int8Array): number[][] {
  const ring: number[] = [];
  const cutSpokes = (v: number): number[] => {
    const out: number[] = [];
    for (const h of mesh.spokes(v, ring)) if (cut[h]) out.push(h);
    return out;
  };
  const degree = new Int32Array(mesh.vertices);
  for (let h = 0; h < cut.length; h++) if (cut[h]) degree[mesh.corner[h]]++;
  const isNode = (v: number) => degree[v] !== 2 || index[v] !== 0 || mesh.isBorder(v);
  const used = new Uint8Array(cut.length);
  const chains: number[][] = [];
  const walk = (first: number) => {
    const chain: number[] = [];
    let h = first;
    for (;;) {
      chain.push(h);
      used[h] = used[mesh.opposite[h]] = 1;
      const v = mesh.corner[after(h)];
      if (isNode(v) || v === mesh.corner[first]) break;
      h = cutSpokes(v).find((s) => !used[s])!;
    }
    chains.push(chain);
  };
  for (let h = 0; h < cut.length; h++) if (cut[h] && !used[h] && isNode(mesh.corner[h])) walk(h);
  for (let h = 0; h < cut.length; h++) if (cut[h] && !used[h]) walk(h);
  return chains;
}
