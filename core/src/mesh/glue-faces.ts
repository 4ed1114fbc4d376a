import { numberEdges } from './number-edges.ts';
import { type PolygonMesh, faceCount } from './polygon-mesh.ts';
import { type RepairReport, FEW } from './repair-report.ts';

/** A mesh of some of the corners and faces of another, with the values that lie on them. */
export function pickCorners(mesh: PolygonMesh, corners: Int32Array, faceStart: Int32Array, faces: Int32Array): PolygonMesh {
  const unchanged = corners.length === mesh.faceVertices.length && faces.length === faceCount(mesh);
  if (unchanged) return mesh;
  const picked: PolygonMesh = { ...mesh, faceStart: faceStart.slice(), faceVertices: corners.map((c) => mesh.faceVertices[c]) };
  if (mesh.faceRegion) picked.faceRegion = faces.map((f) => mesh.faceRegion![f]);
  if (mesh.cornerUv) {
    picked.cornerUv = new Float64Array(2 * corners.length);
    corners.forEach((c, i) => picked.cornerUv!.set(mesh.cornerUv!.subarray(2 * c, 2 * c + 2), 2 * i));
  }
  return picked;
}

/** Which face corner lies across each corner's edge, or -1 on a border; corner c stands for the edge from c to the next corner. */
export interface Gluing {
  mate: Int32Array;
  faceOfCorner: Int32Array;
  nextCorner: Int32Array;
  /** vertices at the ends of edges whose faces were cut apart */
  cutVertex: Uint8Array;
  anyCut: boolean;
}

/** Pairs face corners across each edge; where more than two faces meet, neighbours by their angle round it (`report` counts the rest). */
export function glueFaces(mesh: PolygonMesh, report: RepairReport): Gluing {
  const { faceStart, faceVertices } = mesh;
  const corners = faceVertices.length;
  const faceOfCorner = new Int32Array(corners);
  const nextCorner = new Int32Array(corners);
  for (let f = 0; f < faceCount(mesh); f++)
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      faceOfCorner[c] = f;
      nextCorner[c] = c + 1 < faceStart[f + 1] ? c + 1 : faceStart[f];
    }
  const { cornerEdge, edges } = numberEdges(mesh);
  const uses = new Int32Array(edges);
  for (let c = 0; c < corners; c++) uses[cornerEdge[c]]++;
  const mate = new Int32Array(corners).fill(-1);
  const first = new Int32Array(edges).fill(-1);
  const crowded = new Map<number, number[]>();
  for (let c = 0; c < corners; c++) {
    const e = cornerEdge[c];
    if (uses[e] > 2) {
      const list = crowded.get(e);
      if (list) list.push(c);
      else crowded.set(e, [c]);
    } else if (first[e] < 0) first[e] = c;
    else {
      mate[c] = first[e];
      mate[first[e]] = c;
    }
  }
  const gluing: Gluing = { mate, faceOfCorner, nextCorner, cutVertex: new Uint8Array(mesh.positions.length / 3), anyCut: crowded.size > 0 };
  for (const list of crowded.values()) {
    report.splitEdges.count++;
    for (const c of [list[0], nextCorner[list[0]]]) gluing.cutVertex[faceVertices[c]] = 1;
    if (report.splitEdges.vertices.length < FEW) report.splitEdges.vertices.push(faceVertices[list[0]]);
    pairAroundEdge(mesh, gluing, list);
  }
  return gluing;
}

/** Of three or more faces on one edge, glues neighbours that run against each other, turning round the edge; the others get borders. */
function pairAroundEdge(mesh: PolygonMesh, { mate, faceOfCorner, nextCorner }: Gluing, list: number[]): void {
  const p = mesh.positions;
  const a = mesh.faceVertices[list[0]];
  const b = mesh.faceVertices[nextCorner[list[0]]];
  const axis = [0, 1, 2].map((k) => p[3 * b + k] - p[3 * a + k]);
  const length = Math.hypot(axis[0], axis[1], axis[2]) || 1;
  const side = Math.abs(axis[0]) < 0.6 * length ? [1, 0, 0] : [0, 1, 0];
  const u = [axis[1] * side[2] - axis[2] * side[1], axis[2] * side[0] - axis[0] * side[2], axis[0] * side[1] - axis[1] * side[0]];
  const w = [axis[1] * u[2] - axis[2] * u[1], axis[2] * u[0] - axis[0] * u[2], axis[0] * u[1] - axis[1] * u[0]];
  const sized = Math.hypot(w[0], w[1], w[2]) / (Math.hypot(u[0], u[1], u[2]) || 1) || 1;
  const around = list.map((c) => {
    const f = faceOfCorner[c];
    const middle = [0, 0, 0];
    for (let k = mesh.faceStart[f]; k < mesh.faceStart[f + 1]; k++)
      for (let i = 0; i < 3; i++) middle[i] += (p[3 * mesh.faceVertices[k] + i] - p[3 * a + i]) / (mesh.faceStart[f + 1] - mesh.faceStart[f]);
    const x = middle[0] * u[0] + middle[1] * u[1] + middle[2] * u[2];
    const y = (middle[0] * w[0] + middle[1] * w[1] + middle[2] * w[2]) / sized;
    return { c, angle: Math.atan2(y, x), along: mesh.faceVertices[c] === a };
  });
  around.sort((m, n) => m.angle - n.angle);
  // a solid lies between a face that runs along the edge and the next one that runs against it
  for (let i = 0; i < around.length; i++) {
    const one = around[i];
    const other = around[(i + 1) % around.length];
    if (one.along && !other.along && mate[one.c] < 0 && mate[other.c] < 0) {
      mate[one.c] = other.c;
      mate[other.c] = one.c;
    }
  }
}

/** Turns faces so that neighbours agree, most of an island winning; cuts edges where that is impossible. */
export function turnConsistently(mesh: PolygonMesh, gluing: Gluing, report: RepairReport, outward: boolean): PolygonMesh {
  const { mate, faceOfCorner, nextCorner } = gluing;
  const { faceStart, faceVertices } = mesh;
  const faces = faceCount(mesh);
  const turn = new Int8Array(faces).fill(-1);
  const queue = new Int32Array(faces);
  let anyTurned = false;
  for (let seed = 0; seed < faces; seed++) {
    if (turn[seed] >= 0) continue;
    turn[seed] = 0;
    queue[0] = seed;
    let size = 1;
    let closed = true;
    for (let at = 0; at < size; at++) {
      const f = queue[at];
      for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
        const d = mate[c];
        if (d < 0) {
          closed = false;
          continue;
        }
        const g = faceOfCorner[d];
        const against = faceVertices[c] === faceVertices[d] ? 1 : 0;
        if (turn[g] < 0) {
          turn[g] = turn[f] ^ against;
          queue[size++] = g;
        } else if ((turn[g] ^ turn[f]) !== against) {
          mate[c] = mate[d] = -1;
          gluing.anyCut = true;
          for (const k of [c, nextCorner[c]]) gluing.cutVertex[faceVertices[k]] = 1;
          report.oneSidedCuts++;
          closed = false;
        }
      }
    }
    const island = queue.subarray(0, size);
    let turned = 0;
    for (const f of island) turned += turn[f];
    let flip = 2 * turned > size ? 1 : 0;
    if (closed && outward && signedVolume(mesh, island, turn) * (flip ? -1 : 1) < 0) flip ^= 1;
    if (flip) for (const f of island) turn[f] ^= 1;
    const changed = flip ? size - turned : turned;
    if (changed === size) report.flippedShells++;
    else report.turnedFaces += changed;
    if (changed > 0) anyTurned = true;
  }
  return anyTurned ? turnFaces(mesh, gluing, turn, nextCorner) : mesh;
}

/** Six times the volume enclosed by some faces, each taken the other way round where `turn` is 1. */
function signedVolume(mesh: PolygonMesh, faces: Int32Array, turn: Int8Array): number {
  const p = mesh.positions;
  const v = mesh.faceVertices;
  let sum = 0;
  for (const f of faces) {
    const a = 3 * v[mesh.faceStart[f]];
    let part = 0;
    for (let c = mesh.faceStart[f] + 1; c + 1 < mesh.faceStart[f + 1]; c++) {
      const b = 3 * v[c];
      const d = 3 * v[c + 1];
      part +=
        p[a] * (p[b + 1] * p[d + 2] - p[b + 2] * p[d + 1]) +
        p[a + 1] * (p[b + 2] * p[d] - p[b] * p[d + 2]) +
        p[a + 2] * (p[b] * p[d + 1] - p[b + 1] * p[d]);
    }
    sum += turn[f] ? -part : part;
  }
  return sum;
}

/** Reverses the corner order of marked faces, and moves their gluing and corner values along. */
function turnFaces(mesh: PolygonMesh, gluing: Gluing, turn: Int8Array, nextCorner: Int32Array): PolygonMesh {
  const { faceStart } = mesh;
  // new place of each corner's vertex, and of each corner's edge (which now starts at the edge's former end)
  const vertexPlace = Int32Array.from(nextCorner, (_, c) => c);
  const edgePlace = vertexPlace.slice();
  for (let f = 0; f < turn.length; f++) {
    if (!turn[f]) continue;
    const start = faceStart[f];
    const end = faceStart[f + 1];
    for (let c = start; c < end; c++) vertexPlace[c] = start + end - 1 - c;
    for (let c = start; c < end; c++) edgePlace[c] = vertexPlace[nextCorner[c]];
  }
  const faceVertices = new Int32Array(mesh.faceVertices.length);
  const cornerUv = mesh.cornerUv && new Float64Array(mesh.cornerUv.length);
  const mate = new Int32Array(faceVertices.length);
  for (let c = 0; c < faceVertices.length; c++) {
    faceVertices[vertexPlace[c]] = mesh.faceVertices[c];
    if (cornerUv) cornerUv.set(mesh.cornerUv!.subarray(2 * c, 2 * c + 2), 2 * vertexPlace[c]);
    mate[edgePlace[c]] = gluing.mate[c] < 0 ? -1 : edgePlace[gluing.mate[c]];
  }
  gluing.mate = mate;
  return { ...mesh, faceVertices, cornerUv };
}
