import { type Cage } from './cage.ts';
import { NONE } from './half-edges.ts';
import { cornersInOneFace } from './topology.ts';

/*
 * The moves every topology change is made of. Each keeps the half-edge structure valid and treats attribute layers by
 * their rules. They change the cage they are given: operations call them on a copy.
 */

/** Puts a vertex on edge e at the fraction t from the start of half-edge 2e. @returns the vertex */
export function splitEdge(cage: Cage, e: number, t: number): number {
  const h = 2 * e;
  const a = cage.origin[h];
  const b = cage.origin[h + 1];
  const [ax, ay, az] = cage.position(a);
  const [bx, by, bz] = cage.position(b);
  const v = cage.addVertex(ax + t * (bx - ax), ay + t * (by - ay), az + t * (bz - az));
  const before = cage.previous(h + 1);
  const k = cage.addEdgeSlot(v, b);
  // h: a -> v, k: v -> b, and their twins the other way
  cage.origin[h + 1] = v;
  cage.face[k] = cage.face[h];
  cage.face[k + 1] = cage.face[h + 1];
  cage.next[k] = cage.next[h] === h + 1 ? k + 1 : cage.next[h];
  cage.next[h] = k;
  if (before !== h) cage.next[before] = k + 1;
  cage.next[k + 1] = h + 1;
  if (cage.vertexEdge[b] === h + 1) cage.vertexEdge[b] = k + 1;
  cage.vertexEdge[v] = cage.face[k] === NONE ? k : h + 1;
  cage.copyValues('edge', e, k >> 1);
  for (const { domain, size, data, onSplit } of cage.layers.values())
    if (domain === 'vertex' && onSplit === 'mix')
      for (let i = 0; i < size; i++) data[v * size + i] = data[a * size + i] * (1 - t) + data[b * size + i] * t;
  splitCorners(cage, h, k, t);
  return v;
}

/** Corner values along a split edge: mixed between the ends, or copied, by the layer's rule. */
function splitCorners(cage: Cage, h: number, k: number, t: number): void {
  for (const { domain, size, data, onSplit } of cage.layers.values()) {
    if (domain !== 'corner') continue;
    for (let i = 0; i < size; i++) {
      const mix = (from: number, to: number, s: number) =>
        onSplit === 'mix' ? data[from * size + i] * (1 - s) + data[to * size + i] * s : data[from * size + i];
      // the end corner of h is at cage.next[k]; h ^ 1 used to start at b, whose corner now belongs to k ^ 1
      data[(k + 1) * size + i] = data[(h + 1) * size + i];
      data[k * size + i] = mix(h, cage.next[k], t);
      data[(h + 1) * size + i] = mix(k + 1, cage.next[h + 1], 1 - t);
    }
  }
}

/**
 * Joins the starts of half-edges h and k of one face by a new edge.
 * @returns the new half-edge, from the start of k to the start of h; the face of h and it keeps its id
 */
export function splitFace(cage: Cage, h: number, k: number): number {
  const f = cage.face[h];
  const beforeH = cage.previous(h);
  const beforeK = cage.previous(k);
  const n = cage.addEdgeSlot(cage.origin[k], cage.origin[h]);
  cage.next[n] = h;
  cage.next[beforeK] = n;
  cage.next[n + 1] = k;
  cage.next[beforeH] = n + 1;
  cage.face[n] = f;
  cage.faceEdge[f] = h;
  const g = cage.addFaceSlot(k);
  cage.copyValues('face', f, g);
  for (const half of cage.loopOf(k)) cage.face[half] = g;
  cage.copyValues('corner', k, n);
  cage.copyValues('corner', h, n + 1);
  return n;
}

/**
 * Splits the faces between vertices that follow one another, where the two have one in common and are no neighbours in it.
 * @param closed from the last to the first too
 * @returns whether all could be split
 */
export function splitFacesAlong(cage: Cage, vertices: readonly number[], closed = false): boolean {
  let all = true;
  for (let i = 0; i < vertices.length - (closed ? 0 : 1); i++) {
    const corners = cornersInOneFace(cage, vertices[i], vertices[(i + 1) % vertices.length]);
    if (corners) splitFace(cage, ...corners);
    else all = false;
  }
  return all;
}

/**
 * Makes one face of several that hang together; edges and vertices inside go.
 * @returns the face, or NONE with nothing changed where the faces are no disc whose outline passes every vertex once
 */
export function mergeFaces(cage: Cage, faces: Iterable<number>): number {
  const region = new Set(faces);
  const edges = new Set<number>();
  const vertices = new Set<number>();
  const outline: number[] = [];
  for (const f of region)
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      vertices.add(cage.origin[h]);
      if (region.has(cage.face[h ^ 1])) edges.add(h >> 1);
      else outline.push(h);
    }
  if (outline.length < 3) return NONE;
  const loop = outlineFrom(cage, region, outline[0]);
  const onLoop = new Set(loop.map((h) => cage.origin[h]));
  const isDisc = vertices.size - onLoop.size - edges.size + region.size === 1;
  if (!isDisc || loop.length !== outline.length || onLoop.size !== loop.length) return NONE;
  const [kept, ...gone] = region;
  loop.forEach((h, i) => {
    cage.next[h] = loop[(i + 1) % loop.length];
    cage.face[h] = kept;
    // on a border the half-edge without a face stays the first one
    if (edges.has(cage.vertexEdge[cage.origin[h]] >> 1)) cage.vertexEdge[cage.origin[h]] = h;
  });
  cage.faceEdge[kept] = loop[0];
  for (const e of edges) cage.freeEdge(e);
  for (const f of gone) cage.freeFace(f);
  for (const v of vertices) if (!onLoop.has(v)) cage.freeVertex(v);
  return kept;
}

/** Half-edges round a region of faces, from one of them on. */
function outlineFrom(cage: Cage, region: Set<number>, first: number): number[] {
  const loop: number[] = [];
  let h = first;
  do {
    loop.push(h);
    h = cage.next[h];
    while (region.has(cage.face[h ^ 1])) h = cage.next[h ^ 1];
  } while (h !== first);
  return loop;
}

/** Takes out a vertex of two edges and makes one edge of them. @returns whether it could: a triangle must not become two-sided */
export function joinEdges(cage: Cage, v: number): boolean {
  const spokes = cage.spokes(v);
  if (spokes.length !== 2) return false;
  const [out, other] = spokes;
  const a = cage.target(other);
  const b = cage.target(out);
  if (a === b || cage.findHalfEdge(a, b) !== NONE) return false;
  for (const h of [out, other]) if (cage.face[h] !== NONE && cage.loopOf(h).length <= 3) return false;
  // `other` leaves v towards a; its edge stays and now runs from b to a
  const inward = other ^ 1;
  const back = out ^ 1;
  const afterOut = cage.next[out];
  const beforeBack = cage.previous(back);
  cage.next[inward] = afterOut === back ? other : afterOut;
  cage.next[beforeBack === out ? inward : beforeBack] = other;
  cage.origin[other] = b;
  cage.copyValues('corner', back, other);
  if (cage.vertexEdge[b] === back) cage.vertexEdge[b] = other;
  for (const half of [inward, other]) if (cage.face[half] !== NONE) cage.faceEdge[cage.face[half]] = half;
  cage.freeEdge(out >> 1);
  cage.freeVertex(v);
  cage.settleVertex(b);
  return true;
}
