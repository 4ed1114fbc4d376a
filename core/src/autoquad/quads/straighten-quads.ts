import { Cage } from '../../mesh/cage.ts';
import { quadsAtVertices, uniformMesh } from '../../mesh/polygon-mesh.ts';
import { planeAcross } from '../../numeric/best-fit.ts';
import { quadJacobian, quadJacobians, shapeByEdges } from '../../numeric/quad-shape.ts';
import { add, areaVector, dot, leastSine, length, mean, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { lookingAlong, surfacePoint, type TriangleBvh } from '../../reference/triangle-bvh.ts';
import { type QuadList, type FeatureLines } from '../base/quad-list.ts';

/** Quads that are poorer, skewed or pinched, are mended. */
const POOR = 0.82;
const ROUNDS = 16;

/**
 * Moves the corners of poor quads over the surface, each to where the poorest quad round it is best (Freitag 1997). Vertices
 * on borders and features stay on their lines, corners of those where they are. Changes the list.
 * @param normals unit normals by triangle of `surface`
 */
export function straightenQuads(list: QuadList, surface: TriangleBvh, normals: Float64Array, lines: FeatureLines): void {
  const { positions, quads, hold } = list;
  const cage = Cage.fromPolygons(uniformMesh(positions, quads, 4));
  const at = quadsAtVertices(quads, positions.length / 3);
  const place = (v: number): Triple => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const cornersOf = (q: number) => [0, 1, 2, 3].map((k) => place(quads[4 * q + k]));
  const found = surfacePoint();
  const closest = (p: Triple, normal?: Triple, reach = Infinity) => {
    surface.closest(...p, found, reach * reach, normal && lookingAlong(normals, normal, 0.2));
    if (found.triangle < 0) surface.closest(...p, found);
    const t = 3 * found.triangle;
    return { at: [found.x, found.y, found.z] as Triple, normal: [normals[t], normals[t + 1], normals[t + 2]] as Triple };
  };
  // the surface's side that a quad lies on
  const sides = new Map<number, Triple>();
  const sideOf = (q: number): Triple => {
    let side = sides.get(q);
    if (!side) sides.set(q, (side = closest(mean(cornersOf(q))).normal));
    return side;
  };
  const shapeOf = (q: number) => shapeSeen(cornersOf(q), sideOf(q));
  /** All quads round a vertex are seen from where it is; one on a sharp edge is on several sides, and each from its own. */
  const worstAt = (v: number, normal?: Triple) => Math.min(...at[v].map((q) => (normal ? shapeSeen(cornersOf(q), normal) : shapeOf(q))));
  /** Places about a vertex: eight on the surface, or those to both sides on the line it stays on. */
  const waysOf = (v: number, reach: number, normal?: Triple): { at: Triple; normal?: Triple }[] => {
    const own = place(v);
    const onBorder = cage.isBorderVertex(v);
    if (normal) {
      const { u, v: w } = planeAcross(own, normal);
      return Array.from({ length: 8 }, (_, k) => {
        const [c, s] = [Math.cos((k * Math.PI) / 4), Math.sin((k * Math.PI) / 4)];
        return closest(add(own, add(scaled(u, reach * c), scaled(w, reach * s))), normal, 2 * reach);
      });
    }
    const line = onBorder ? lines.border : lines.sharp;
    const along = cage.spokes(v).filter((h) => (onBorder ? cage.isBorderEdge(h >> 1) : hold[cage.target(h)] > 0));
    if (!line || along.length !== 2) return [];
    return along.map((h) => {
      line.closest(...add(own, scaled(unit(subtract(place(cage.target(h)), own)), reach)), found);
      return { at: [found.x, found.y, found.z] };
    });
  };
  let poor = new Set<number>();
  const mayMove = (q: number) => [0, 1, 2, 3].some((k) => hold[quads[4 * q + k]] < 2);
  for (let q = 0; q < quads.length / 4; q++) if (mayMove(q) && shapeOf(q) < POOR) poor.add(q);
  for (let round = 0; round < ROUNDS && poor.size > 0; round++) {
    const near = new Set([...poor].flatMap((q) => [0, 1, 2, 3].map((k) => quads[4 * q + k])));
    const touched = new Set<number>();
    for (const v of near) {
      if (hold[v] === 2) continue;
      const own = place(v);
      const normal = hold[v] === 0 && !cage.isBorderVertex(v) ? closest(own).normal : undefined;
      const before = worstAt(v, normal);
      if (before >= POOR) continue;
      const reach = 0.35 * 0.85 ** round * meanSpoke(v, at[v], quads, place);
      let [best, most]: [Triple, number] = [own, before + 1e-3];
      for (const to of waysOf(v, reach, normal)) {
        positions.set(to.at, 3 * v);
        const now = worstAt(v, to.normal);
        if (now > most) [best, most] = [to.at, now];
      }
      positions.set(best, 3 * v);
      if (best !== own) for (const q of at[v]) touched.add(q);
    }
    if (touched.size === 0) break;
    // what could not be mended twice is left, unless something near it moved
    const next = round < 6 ? [...poor, ...touched] : [...touched];
    poor = new Set(next.filter((q) => shapeOf(q) < POOR));
  }
}

function meanSpoke(v: number, around: readonly number[], quads: Int32Array, place: (v: number) => Triple): number {
  const ends = around.map((q) => {
    const k = [0, 1, 2, 3].find((c) => quads[4 * q + c] === v)!;
    return quads[4 * q + ((k + 1) & 3)];
  });
  return ends.reduce((sum, w) => sum + length(subtract(place(w), place(v))), 0) / (ends.length || 1);
}

/** Shape of a quad against its own area, which is turned to a direction's side: below 0 what is turned over. */
function shapeSeen(p: readonly Triple[], normal: Triple): number {
  const area = areaVector(p);
  const own = unit(dot(area, normal) < 0 ? scaled(area, -1) : area);
  const [a, b, c, d] = p.map((corner, k) => length(subtract(p[(k + 1) & 3], corner)));
  return Math.min(leastSine(p, own), shapeByEdges(a, b, c, d));
}

/** Quads with a poorer scaled Jacobian are no use: turned over, straight at a corner, or nearly so. */
export const TWISTED = 0.1;
/** More of them, where that is more than a twentieth of all, come of a map that is folded, and are left. */
const MOST_TWISTED = 50;

/**
 * Moves the corners of quads that are turned over, or nearly so, off the surface where nothing else helps: each to where the poorest
 * quad round it is best. Vertices on borders and features stay. Changes the list, unless too many of its quads are twisted.
 * @param normals unit normals by triangle of `surface`
 */
export function untwistQuads({ positions, quads, hold }: QuadList, surface: TriangleBvh, normals: Float64Array): void {
  const cage = Cage.fromPolygons(uniformMesh(positions, quads, 4));
  const at = quadsAtVertices(quads, positions.length / 3);
  const place = (v: number): Triple => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const found = surfacePoint();
  const own = new Float64Array(3);
  // against the surface's side there: a quad that lies upside down is as bad as a twisted one
  const soundness = (q: number): number => {
    const jacobian = quadJacobian(positions, quads, 4 * q, own);
    const middle = [0, 1, 2, 3].reduce<Triple>((sum, k) => add(sum, scaled(place(quads[4 * q + k]), 0.25)), [0, 0, 0]);
    const { triangle: t } = surface.closest(...middle, found);
    const side = own[0] * normals[3 * t] + own[1] * normals[3 * t + 1] + own[2] * normals[3 * t + 2];
    return Math.min(jacobian, side + 0.5);
  };
  for (let round = 0; round < 2 * ROUNDS; round++) {
    const poor = [...quadJacobians(positions, quads).entries()].flatMap(([q, shape]) => (shape < TWISTED ? [q] : []));
    if (poor.length > MOST_TWISTED && poor.length > 0.05 * (quads.length / 4)) return;
    const near = new Set(poor.flatMap((q) => [0, 1, 2, 3].map((k) => quads[4 * q + k])));
    let moved = false;
    for (const v of near) {
      if (hold[v] !== 0 || cage.isBorderVertex(v)) continue;
      const start = place(v);
      const reach = (round % 2 === 0 ? 0.5 : 0.15) * meanSpoke(v, at[v], quads, place);
      let [best, most]: [Triple, number] = [start, Math.min(...at[v].map(soundness)) + 1e-3];
      for (const way of WAYS) {
        const to = add(start, scaled(way, reach));
        positions.set(to, 3 * v);
        const now = Math.min(...at[v].map(soundness));
        if (now > most) [best, most] = [to, now];
      }
      positions.set(best, 3 * v);
      moved ||= best !== start;
    }
    if (!moved) return;
  }
}

/** The directions to the faces, edges and corners of a cube. */
const WAYS: Triple[] = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [-1, 0, 1].filter((z) => x !== 0 || y !== 0 || z !== 0).map((z) => unit([x, y, z])))
);
