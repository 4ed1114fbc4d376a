import { pickCorners, glueFaces, turnConsistently } from './glue-faces.ts';
import { boundsOf, faceCount, type PolygonMesh, newellNormal } from './polygon-mesh.ts';
import { type RepairReport, note } from './repair-report.ts';
import { detachCrowded, splitFans } from './split-fans.ts';

export interface RepairOptions {
  /** weld vertices at identical positions (or closer than `weldDistance`, in the mesh's unit) */
  weld: boolean;
  weldDistance?: number;
  /** turn closed islands so that their volume is positive */
  outward?: boolean;
}

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
