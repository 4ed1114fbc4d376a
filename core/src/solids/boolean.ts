import { type Cage } from '../mesh/cage.ts';
import { joinEdges, mergeFaces } from '../mesh/euler-operators.ts';
import { NONE } from '../mesh/half-edges.ts';
import { joinCages } from '../mesh/join-cages.ts';
import { replaceFaces, type NewFace } from '../mesh/replace-faces.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { length, scaled, subtract, cross, add, type Triple } from '../numeric/vectors.ts';
import { solidsEngine } from './engine.ts';

export type BooleanKind = 'subtract' | 'join' | 'common';

/** Thrown where the two cannot be computed with each other. */
export class SolidsError extends Error {}

/** A triangle of the result: its corners, and the face it is a piece of. */
interface Piece {
  corners: [number, number, number];
  face: number;
}

/**
 * Subtracts one closed cage from another, joins them, or takes what they have in common. The cutting is done by
 * manifold-3d on triangles; faces that were not cut come back as they were, with all their marks, and pieces of cut faces
 * are merged again as far as they are discs.
 * @returns the result, and which of its faces are pieces of cut ones
 * @throws SolidsError with the library's reason
 */
export function booleanOf(a: Cage, b: Cage, kind: BooleanKind): { cage: Cage; cut: number[]; whole: number } {
  const { cage, vertexOf, faceOf } = joinCages(a, b);
  const secondVertices = new Set(vertexOf.values());
  const secondFaces = new Set(faceOf.values());
  const { pieces, places } = cutTriangles(cage, secondVertices, kind);
  const vertices = places.map((p) => p.vertex ?? cage.addVertex(...p.at));
  const piecesOf = new Map<number, Piece[]>();
  for (const piece of pieces) piecesOf.set(piece.face, [...(piecesOf.get(piece.face) ?? []), piece]);
  const sharp = sharpEdges(cage);
  const flipped = (f: number) => kind === 'subtract' && secondFaces.has(f);
  const gone: number[] = [];
  const added: NewFace[] = [];
  const whole: number[] = [];
  for (const f of [...cage.faces()]) {
    const own = piecesOf.get(f);
    if (
      own &&
      isWhole(
        cage,
        f,
        own.map(({ corners }) => corners.map((c) => vertices[c]))
      )
    ) {
      whole.push(f);
      if (!flipped(f)) continue;
      const loop = cage.loopOf(cage.faceEdge[f]).reverse();
      added.push({ corners: loop.map((h) => cage.origin[h]), like: f, cornersLike: loop });
    } else for (const { corners } of own ?? []) added.push({ corners: corners.map((c) => vertices[c]), like: f });
    gone.push(f);
  }
  const likes = added.map(({ like }) => like!);
  const ids = replaceFaces(cage, { gone, added });
  const wholeSet = new Set(whole);
  const cutIds = new Map<number, number[]>();
  ids.forEach((id, i) => {
    if (!wholeSet.has(likes[i])) cutIds.set(likes[i], [...(cutIds.get(likes[i]) ?? []), id]);
  });
  const merged = [...cutIds.values()].flatMap((group) => mergedPieces(cage, group));
  dropStraightVertices(cage, new Set(vertices));
  keepSharp(cage, sharp);
  return { cage, cut: merged.filter((f) => cage.hasFace(f)), whole: whole.length };
}

/** Triangles of the result over places, which are vertices of the joined cage where one lies there. */
function cutTriangles(cage: Cage, second: ReadonlySet<number>, kind: BooleanKind): { pieces: Piece[]; places: { at: Triple; vertex?: number }[] } {
  const { Manifold, Mesh } = solidsEngine();
  const mesh = cage.toPolygons();
  const { triangles, faceOf } = triangulate(mesh);
  const single = Float32Array.from(mesh.positions);
  const key = (x: number, y: number, z: number) => `${x} ${y} ${z}`;
  const vertexAt = new Map<string, number>();
  mesh.vertexIds.forEach((v, i) => vertexAt.set(key(single[3 * i], single[3 * i + 1], single[3 * i + 2]), v));
  const solidOf = (isSecond: boolean) => {
    const rows = [...faceOf.keys()].filter((t) => second.has(mesh.vertexIds[triangles[3 * t]]) === isSecond);
    const used = new Map<number, number>();
    const numbered = (i: number) => used.get(i) ?? (used.set(i, used.size), used.size - 1);
    const triVerts = Uint32Array.from(rows.flatMap((t) => [0, 1, 2].map((k) => numbered(triangles[3 * t + k]))));
    const vertProperties = Float32Array.from([...used.keys()].flatMap((i) => [single[3 * i], single[3 * i + 1], single[3 * i + 2]]));
    const faceID = Uint32Array.from(rows, (t) => mesh.faceIds[faceOf[t]]);
    try {
      return new Manifold(new Mesh({ numProp: 3, vertProperties, triVerts, faceID }));
    } catch (error) {
      throw new SolidsError(`The ${isSecond ? 'other' : 'first'} part is no solid: ${error instanceof Error ? error.message : String(error)}.`);
    }
  };
  const solids = [solidOf(false), solidOf(true)];
  const [p, q] = solids;
  const result = kind === 'subtract' ? p.subtract(q) : kind === 'join' ? p.add(q) : p.intersect(q);
  const out = result.getMesh();
  for (const solid of [...solids, result]) solid.delete();
  // vertices doubled along changes of properties are one place
  const same = new Map<number, number>();
  out.mergeFromVert?.forEach((from, i) => same.set(from, out.mergeToVert[i]));
  const pieces: Piece[] = [];
  for (let t = 0; t < out.triVerts.length / 3; t++) {
    const corners = [0, 1, 2].map((k) => same.get(out.triVerts[3 * t + k]) ?? out.triVerts[3 * t + k]) as Piece['corners'];
    pieces.push({ corners, face: out.faceID[t] });
  }
  const places: { at: Triple; vertex?: number }[] = [];
  for (let i = 0; i < out.vertProperties.length / out.numProp; i++) {
    const [x, y, z] = out.vertProperties.subarray(i * out.numProp, i * out.numProp + 3);
    places.push({ at: [x, y, z], vertex: vertexAt.get(key(x, y, z)) });
  }
  return { pieces, places };
}

/** Whether the pieces cover a face to its own corners and no others. */
function isWhole(cage: Cage, f: number, pieces: number[][]): boolean {
  const corners = new Set(cage.faceVertices(f));
  return pieces.length === corners.size - 2 && pieces.every((row) => row.every((v) => corners.has(v)));
}

/** Merges triangles of one face as long as what comes out is a disc. @returns the faces left */
function mergedPieces(cage: Cage, ids: number[]): number[] {
  const left = new Set(ids);
  const result: number[] = [];
  for (const seed of ids) {
    if (!left.delete(seed)) continue;
    let face = seed;
    for (let grew = true; grew;) {
      grew = false;
      for (const h of cage.loopOf(cage.faceEdge[face])) {
        const beside = cage.face[h ^ 1];
        if (beside === NONE || !left.has(beside)) continue;
        const merged = mergeFaces(cage, [face, beside]);
        if (merged === NONE) continue;
        left.delete(beside);
        face = merged;
        grew = true;
        break;
      }
    }
    result.push(face);
  }
  return result;
}

/** New vertices in the middle of a straight stretch served only the triangles that are merged now. */
function dropStraightVertices(cage: Cage, candidates: ReadonlySet<number>): void {
  for (const v of candidates) {
    if (!cage.hasVertex(v) || cage.valence(v) !== 2) continue;
    const [a, b] = cage.spokes(v).map((h) => subtract(cage.position(cage.target(h)), cage.position(v)));
    if (length(cross(a, b)) < 1e-4 * length(a) * length(b)) joinEdges(cage, v);
  }
}

/** Creased edges as stretches in space, to be found again on what was cut. */
const sharpEdges = (cage: Cage): { from: Triple; to: Triple; sharpness: number }[] =>
  [...cage.edges()]
    .filter((e) => cage.value('crease', e) > 0)
    .map((e) => ({ from: cage.position(cage.origin[2 * e]), to: cage.position(cage.origin[2 * e + 1]), sharpness: cage.value('crease', e) }));

function keepSharp(cage: Cage, sharp: ReturnType<typeof sharpEdges>): void {
  if (sharp.length === 0) return;
  for (const e of cage.edges()) {
    if (cage.value('crease', e) > 0) continue;
    const ends = [cage.position(cage.origin[2 * e]), cage.position(cage.origin[2 * e + 1])];
    const lying = sharp.find(({ from, to }) => ends.every((p) => onStretch(p, from, to)));
    if (lying) cage.setValue('crease', e, lying.sharpness);
  }
}

function onStretch(p: Triple, from: Triple, to: Triple): boolean {
  const way = subtract(to, from);
  const whole = length(way);
  const t = Math.min(
    1,
    Math.max(0, (subtract(p, from)[0] * way[0] + subtract(p, from)[1] * way[1] + subtract(p, from)[2] * way[2]) / (whole * whole || 1))
  );
  return length(subtract(p, add(from, scaled(way, t)))) < 1e-5 * whole;
}
