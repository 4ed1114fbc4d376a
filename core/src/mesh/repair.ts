import { numberEdges } from './cage.ts';
import { boundsOf, faceCount, type PolygonMesh } from './polygon-mesh.ts';

/** What bringing polygons in changed; each count with the first few places as face or vertex numbers of the input. */
export interface RepairReport {
  weldedVertices: number;
  droppedFaces: { count: number; faces: number[] };
  duplicateFaces: { count: number; faces: number[] };
  zeroAreaFaces: { count: number; faces: number[] };
  splitEdges: { count: number; vertices: number[] };
  splitVertices: { count: number; vertices: number[] };
  turnedFaces: number;
  flippedShells: number;
  /** edges cut because the surface has one side only (a Moebius strip) */
  oneSidedCuts: number;
  looseVertices: number;
}

export interface RepairOptions {
  /** weld vertices at identical positions (or closer than `weldDistance`, in the mesh's unit) */
  weld: boolean;
  weldDistance?: number;
  /** turn closed islands so that their volume is positive */
  outward?: boolean;
}

const FEW = 5;

/**
 * Makes polygons of any origin into polygons that a cage can hold: at most two faces an edge, turned consistently, no
 * pinched vertices. Geometry is never moved and no face with an area is dropped; whatever is done is counted.
 */
export function repairPolygons(input: PolygonMesh, options: RepairOptions): { mesh: PolygonMesh; report: RepairReport } {
  const report: RepairReport = {
    weldedVertices: 0,
    droppedFaces: { count: 0, faces: [] },
    duplicateFaces: { count: 0, faces: [] },
    zeroAreaFaces: { count: 0, faces: [] },
    splitEdges: { count: 0, vertices: [] },
    splitVertices: { count: 0, vertices: [] },
    turnedFaces: 0,
    flippedShells: 0,
    oneSidedCuts: 0,
    looseVertices: 0
  };
  const welded = options.weld ? weldVertices(input, options.weldDistance ?? 0, report) : input;
  const clean = dropDegenerate(welded, report);
  const gluing = glueFaces(clean, report);
  const turned = turnConsistently(clean, gluing, report, options.outward ?? true);
  let mesh = splitFans(turned, gluing, report);
  // faces cut apart at one edge may still share both its ends through their neighbours
  while (gluing.anyCut && detachCrowded(turned, mesh, gluing)) mesh = splitFans(turned, gluing, report);
  return { mesh, report };
}

/** Representative of every vertex after welding those within `distance` (0: identical coordinates only). */
export function weldMap(positions: Float64Array, distance: number): Int32Array {
  const count = positions.length / 3;
  const map = new Int32Array(count);
  let size = 1;
  while (size < 2 * count) size *= 2;
  const heads = new Int32Array(size).fill(-1);
  const chain = new Int32Array(count).fill(-1);
  const cell = distance > 0 ? distance : 1;
  const bits = new Float64Array(1);
  const words = new Int32Array(bits.buffer);
  const hashNumber = (x: number) => {
    bits[0] = x + 0; // -0 and 0 are one place
    return Math.imul(words[0], 73856093) ^ Math.imul(words[1], 19349663);
  };
  const hash = (x: number, y: number, z: number) => {
    const h = hashNumber(x) ^ Math.imul(hashNumber(y), 83492791) ^ Math.imul(hashNumber(z), 2971215073);
    return (h ^ (h >>> 15)) & (size - 1);
  };
  const reach = distance > 0 ? 1 : 0;
  for (let v = 0; v < count; v++) {
    const x = positions[3 * v];
    const y = positions[3 * v + 1];
    const z = positions[3 * v + 2];
    const [cx, cy, cz] = distance > 0 ? [Math.floor(x / cell), Math.floor(y / cell), Math.floor(z / cell)] : [x, y, z];
    map[v] = v;
    search: for (let i = -reach; i <= reach; i++)
      for (let j = -reach; j <= reach; j++)
        for (let k = -reach; k <= reach; k++)
          for (let w = heads[hash(cx + i, cy + j, cz + k)]; w >= 0; w = chain[w]) {
            const d = Math.hypot(positions[3 * w] - x, positions[3 * w + 1] - y, positions[3 * w + 2] - z);
            if (d <= distance) {
              map[v] = w;
              break search;
            }
          }
    if (map[v] === v) {
      const slot = hash(cx, cy, cz);
      chain[v] = heads[slot];
      heads[slot] = v;
    }
  }
  return map;
}

function weldVertices(mesh: PolygonMesh, distance: number, report: RepairReport): PolygonMesh {
  const map = weldMap(mesh.positions, distance);
  for (let v = 0; v < map.length; v++) if (map[v] !== v) report.weldedVertices++;
  if (report.weldedVertices === 0) return mesh;
  const moved = (ids?: Int32Array) => ids?.map((v) => map[v]);
  // the welded-away vertices stay as loose ones here; `splitFans` leaves them out
  return {
    ...mesh,
    faceVertices: mesh.faceVertices.map((v) => map[v]),
    creaseEdges: moved(mesh.creaseEdges),
    cornerVertices: moved(mesh.cornerVertices)
  };
}

/** Leaves out repeated corners, faces with fewer than three corners left, and faces that are there twice. */
function dropDegenerate(mesh: PolygonMesh, report: RepairReport): PolygonMesh {
  const { faceStart, faceVertices } = mesh;
  const faces = faceCount(mesh);
  const keptCorners: Int32Array = new Int32Array(faceVertices.length);
  const starts = new Int32Array(faces + 1);
  const keptFaces = new Int32Array(faces);
  let corners = 0;
  let kept = 0;
  const seenAt = new Int32Array(mesh.positions.length / 3).fill(-1);
  for (let f = 0; f < faces; f++) {
    const begin = corners;
    let twice = false;
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      const v = faceVertices[c];
      if (corners > begin && faceVertices[keptCorners[corners - 1]] === v) continue;
      if (seenAt[v] === f && v !== faceVertices[keptCorners[begin]]) twice = true;
      seenAt[v] = f;
      keptCorners[corners++] = c;
    }
    while (corners - begin > 1 && faceVertices[keptCorners[corners - 1]] === faceVertices[keptCorners[begin]]) corners--;
    const first = faceVertices[keptCorners[begin]];
    for (let i = begin + 1; i < corners; i++) if (faceVertices[keptCorners[i]] === first) twice = true;
    if (corners - begin < 3 || twice) {
      corners = begin;
      note(report.droppedFaces, f);
      continue;
    }
    starts[kept + 1] = corners;
    keptFaces[kept++] = f;
  }
  const slim = pickCorners(mesh, keptCorners.subarray(0, corners), starts.subarray(0, kept + 1), keptFaces.subarray(0, kept));
  const single = dropTwins(slim, keptFaces, report);
  countZeroAreas(single, report);
  return single;
}

function note(where: { count: number; faces: number[] }, f: number): void {
  where.count++;
  if (where.faces.length < FEW) where.faces.push(f);
}

/** A mesh of some of the corners and faces of another, with the values that lie on them. */
function pickCorners(mesh: PolygonMesh, corners: Int32Array, faceStart: Int32Array, faces: Int32Array): PolygonMesh {
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

/** Of faces with the same vertices only the first stays, whichever way they are turned. */
function dropTwins(mesh: PolygonMesh, inputFace: Int32Array, report: RepairReport): PolygonMesh {
  const faces = faceCount(mesh);
  const { faceStart, faceVertices } = mesh;
  let size = 1;
  while (size < 2 * faces) size *= 2;
  const heads = new Int32Array(size).fill(-1);
  const chain = new Int32Array(faces).fill(-1);
  const isTwin = new Uint8Array(faces);
  const stamp = new Int32Array(mesh.positions.length / 3).fill(-1);
  let twins = 0;
  for (let f = 0; f < faces; f++) {
    let sum = 0;
    let product = 1;
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) {
      sum = (sum + Math.imul(faceVertices[c], 2654435761)) | 0;
      product = Math.imul(product, 2 * faceVertices[c] + 1);
      stamp[faceVertices[c]] = f;
    }
    const mixed = sum ^ product;
    const slot = (mixed ^ (mixed >>> 16)) & (size - 1);
    for (let g = heads[slot]; g >= 0 && !isTwin[f]; g = chain[g]) {
      if (faceStart[g + 1] - faceStart[g] !== faceStart[f + 1] - faceStart[f]) continue;
      let same = true;
      for (let c = faceStart[g]; same && c < faceStart[g + 1]; c++) same = stamp[faceVertices[c]] === f;
      if (same) isTwin[f] = 1;
    }
    if (isTwin[f]) {
      twins++;
      note(report.duplicateFaces, inputFace[f]);
    } else {
      chain[f] = heads[slot];
      heads[slot] = f;
    }
  }
  return twins === 0 ? mesh : withoutFaces(mesh, isTwin);
}

function withoutFaces(mesh: PolygonMesh, leaveOut: Uint8Array): PolygonMesh {
  const corners: number[] = [];
  const starts = [0];
  const faces: number[] = [];
  for (let f = 0; f < leaveOut.length; f++) {
    if (leaveOut[f]) continue;
    for (let c = mesh.faceStart[f]; c < mesh.faceStart[f + 1]; c++) corners.push(c);
    starts.push(corners.length);
    faces.push(f);
  }
  return pickCorners(mesh, Int32Array.from(corners), Int32Array.from(starts), Int32Array.from(faces));
}

function countZeroAreas(mesh: PolygonMesh, report: RepairReport): void {
  const p = mesh.positions;
  const limit = 1e-12 * boundsOf(p).diagonal ** 2;
  for (let f = 0; f < faceCount(mesh); f++) {
    const [x, y, z] = newellNormal(mesh, f, p);
    if (Math.hypot(x, y, z) <= limit) note(report.zeroAreaFaces, f);
  }
}

/** Twice the area vector of a face (Newell's normal); its length is twice the area of a flat face. */
export function newellNormal(mesh: PolygonMesh, f: number, p: Float64Array): [number, number, number] {
  let x = 0;
  let y = 0;
  let z = 0;
  const start = mesh.faceStart[f];
  const end = mesh.faceStart[f + 1];
  const o = 3 * mesh.faceVertices[start];
  for (let c = start + 1; c + 1 < end; c++) {
    const a = 3 * mesh.faceVertices[c];
    const b = 3 * mesh.faceVertices[c + 1];
    const ux = p[a] - p[o];
    const uy = p[a + 1] - p[o + 1];
    const uz = p[a + 2] - p[o + 2];
    const vx = p[b] - p[o];
    const vy = p[b + 1] - p[o + 1];
    const vz = p[b + 2] - p[o + 2];
    x += uy * vz - uz * vy;
    y += uz * vx - ux * vz;
    z += ux * vy - uy * vx;
  }
  return [x, y, z];
}

/** Which face corner lies across each corner's edge, or -1 on a border; corner c stands for the edge from c to the next corner. */
interface Gluing {
  mate: Int32Array;
  faceOfCorner: Int32Array;
  nextCorner: Int32Array;
  /** vertices at the ends of edges whose faces were cut apart */
  cutVertex: Uint8Array;
  anyCut: boolean;
}

function glueFaces(mesh: PolygonMesh, report: RepairReport): Gluing {
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
function turnConsistently(mesh: PolygonMesh, gluing: Gluing, report: RepairReport, outward: boolean): PolygonMesh {
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

/**
 * Cuts faces loose from all their neighbours where, after splitting, an edge would still have more than two faces or two
 * that are not glued there. @returns whether there were any
 */
function detachCrowded(turned: PolygonMesh, split: PolygonMesh, { mate, faceOfCorner, cutVertex }: Gluing): boolean {
  const { cornerEdge, edges } = numberEdges(split);
  const first = new Int32Array(edges).fill(-1);
  const loose = new Set<number>();
  for (let c = 0; c < cornerEdge.length; c++) {
    const e = cornerEdge[c];
    if (first[e] < 0) first[e] = c;
    else if (mate[c] !== first[e]) loose.add(faceOfCorner[c]);
  }
  for (const f of loose)
    for (let c = turned.faceStart[f]; c < turned.faceStart[f + 1]; c++) {
      cutVertex[turned.faceVertices[c]] = 1;
      if (mate[c] >= 0) mate[mate[c]] = -1;
      mate[c] = -1;
    }
  return loose.size > 0;
}

/** Gives every fan of faces round a vertex a vertex of its own, and leaves out vertices without faces. */
function splitFans(mesh: PolygonMesh, { mate, nextCorner, cutVertex }: Gluing, report: RepairReport): PolygonMesh {
  report.looseVertices = -report.weldedVertices;
  report.splitVertices = { count: 0, vertices: [] };

  const { faceVertices } = mesh;
  const corners = faceVertices.length;
  const parent = Int32Array.from({ length: corners }, (_, c) => c);
  const root = (c: number) => {
    while (parent[c] !== c) c = parent[c] = parent[parent[c]];
    return c;
  };
  for (let c = 0; c < corners; c++) {
    const d = mate[c];
    if (d < c) continue;
    parent[root(nextCorner[d])] = root(c);
    parent[root(d)] = root(nextCorner[c]);
  }
  const vertices = mesh.positions.length / 3;
  const firstFan = new Int32Array(vertices).fill(-1);
  const newVertex = new Int32Array(corners).fill(-1);
  const source: number[] = [];
  const indices = new Int32Array(corners);
  // the first fan of each vertex comes in the order of the vertices, so that a clean mesh keeps its numbering
  for (let c = 0; c < corners; c++) if (firstFan[faceVertices[c]] < 0) firstFan[faceVertices[c]] = root(c);
  for (let v = 0; v < vertices; v++) {
    if (firstFan[v] < 0) {
      report.looseVertices++;
      continue;
    }
    newVertex[firstFan[v]] = source.length;
    source.push(v);
  }
  for (let c = 0; c < corners; c++) {
    const fan = root(c);
    if (newVertex[fan] < 0) {
      newVertex[fan] = source.length;
      source.push(faceVertices[c]);
      // where an edge was cut, its ends come apart as a matter of course
      if (!cutVertex[faceVertices[c]]) {
        report.splitVertices.count++;
        if (report.splitVertices.vertices.length < FEW) report.splitVertices.vertices.push(faceVertices[c]);
      }
    }
    indices[c] = newVertex[fan];
  }
  if (source.length === vertices && source.every((v, i) => v === i)) return mesh;
  return renumbered(mesh, indices, source, firstFan, newVertex);
}

function renumbered(mesh: PolygonMesh, faceVertices: Int32Array, source: number[], firstFan: Int32Array, newVertex: Int32Array): PolygonMesh {
  const triples = (values: Float64Array) => {
    const out = new Float64Array(3 * source.length);
    source.forEach((v, i) => out.set(values.subarray(3 * v, 3 * v + 3), 3 * i));
    return out;
  };
  // creases and corners follow the first fan; on split places the sharpness of a border is certain anyway
  const moved = (ids?: Int32Array) => ids?.map((v) => (firstFan[v] < 0 ? 0 : newVertex[firstFan[v]]));
  return {
    ...mesh,
    positions: triples(mesh.positions),
    ...(mesh.vertexColour && { vertexColour: triples(mesh.vertexColour) }),
    faceVertices,
    creaseEdges: moved(mesh.creaseEdges),
    cornerVertices: moved(mesh.cornerVertices)
  };
}

/** The report as sentences a person reads; empty when nothing was found. */
export function describeRepair(report: RepairReport): string[] {
  const list = (ids: number[], count: number, one: 'face' | 'vertex') =>
    `${ids.length === 1 ? one : one === 'face' ? 'faces' : 'vertices'} ${ids.map((i) => i + 1).join(', ')}${count > ids.length ? ' and others' : ''}`;
  const many = (n: number, one: string, more = one + 's') => `${n.toLocaleString('en')} ${n === 1 ? one : more}`;
  const said: string[] = [];
  const r = report;
  if (r.weldedVertices) said.push(`Welded ${many(r.weldedVertices, 'vertex', 'vertices')} that lay on another one.`);
  if (r.droppedFaces.count)
    said.push(
      `Dropped ${many(r.droppedFaces.count, 'face')} with fewer than three different corners (${list(r.droppedFaces.faces, r.droppedFaces.count, 'face')}).`
    );
  if (r.duplicateFaces.count)
    said.push(
      `Dropped ${many(r.duplicateFaces.count, 'face')} that ${r.duplicateFaces.count === 1 ? 'was' : 'were'} there twice (${list(r.duplicateFaces.faces, r.duplicateFaces.count, 'face')}).`
    );
  if (r.zeroAreaFaces.count)
    said.push(
      `Kept ${many(r.zeroAreaFaces.count, 'face')} without area, since dropping them would open holes (${list(r.zeroAreaFaces.faces, r.zeroAreaFaces.count, 'face')}).`
    );
  if (r.splitEdges.count)
    said.push(
      `Split ${many(r.splitEdges.count, 'edge')} with more than two faces (at ${list(r.splitEdges.vertices, r.splitEdges.count, 'vertex')}).`
    );
  if (r.splitVertices.count)
    said.push(
      `Split ${many(r.splitVertices.count, 'vertex', 'vertices')} in which parts of the surface only touched (at ${list(r.splitVertices.vertices, r.splitVertices.count, 'vertex')}).`
    );
  if (r.oneSidedCuts) said.push(`Cut ${many(r.oneSidedCuts, 'edge')}, because the surface has only one side there (a Moebius strip).`);
  if (r.turnedFaces)
    said.push(`Turned ${many(r.turnedFaces, 'face')} that looked the other way than ${r.turnedFaces === 1 ? 'its' : 'their'} neighbours.`);
  if (r.flippedShells) said.push(`Flipped ${many(r.flippedShells, 'shell')} that ${r.flippedShells === 1 ? 'was' : 'were'} inside out.`);
  if (r.looseVertices > 0) said.push(`Left out ${many(r.looseVertices, 'vertex', 'vertices')} that no face uses.`);
  return said;
}
