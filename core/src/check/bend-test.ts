import { type Cage } from '../mesh/cage.ts';
import { faceNormal } from '../mesh/normals.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { bestFitPlane } from '../numeric/best-fit.ts';
import { add, cross, dot, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';

/** A joint that is bent: a row of vertices round it, and how it turns. */
export interface Joint {
  vertices: readonly number[];
  /** degrees that the axis is turned by in the plane of the row */
  axisAngle: number;
  /** mm along the limb, each way, that the bend is spread over */
  reach: number;
}

/** Where a joint lies, and what of the part moves with it. */
export interface Hinge {
  middle: Triple;
  /** unit vector that it turns about */
  axis: Triple;
  /** unit vector along the limb, towards what moves */
  along: Triple;
  /** by vertex id: how much it goes along, 0 to 1 */
  weights: Float64Array;
}

/** What bending came to. */
export interface Bent {
  cage: Cage;
  /** faces that turn over: they look away from where the bend should have taken them */
  folded: number[];
  /** % of the volume; nothing where the part is open */
  volume?: number;
  /** edges in the bend, shortest and longest, as shares of what they were */
  edges: { least: number; most: number };
  /** faces at the edge that shrinks the most */
  tightest: number[];
}

/** What hangs together on one side of a row of vertices. */
function sidesOf(cage: Cage, row: ReadonlySet<number>): number[][] {
  const seen = new Set<number>(row);
  const sides: number[][] = [];
  for (const start of [...row].flatMap((v) => cage.spokes(v).map((h) => cage.target(h)))) {
    if (seen.has(start)) continue;
    const side = [start];
    seen.add(start);
    for (let i = 0; i < side.length; i++)
      for (const h of cage.spokes(side[i])) {
        const w = cage.target(h);
        if (seen.has(w)) continue;
        seen.add(w);
        side.push(w);
      }
    sides.push(side);
  }
  return sides.sort((a, b) => a.length - b.length);
}

/** From 0 to 1 between -1 and 1, level at both ends. */
const eased = (t: number): number => {
  const x = Math.min(1, Math.max(0, (t + 1) / 2));
  return x * x * (3 - 2 * x);
};

/**
 * The hinge of a joint: where the row parts the limb from the rest, the smaller side moves.
 * @returns nothing where the row parts nothing: the part hangs together round it
 */
export function hingeOf(cage: Cage, { vertices, axisAngle, reach }: Joint): Hinge | undefined {
  if (vertices.length < 3) return undefined;
  const row = new Set(vertices);
  const [limb, ...others] = sidesOf(cage, row);
  if (!limb || others.length === 0) return undefined;
  const { centre, normal, u, v } = bestFitPlane(vertices.map((w) => cage.position(w)));
  const lean = limb.reduce((sum, w) => sum + dot(subtract(cage.position(w), centre), normal), 0);
  const along = lean < 0 ? scaled(normal, -1) : normal;
  const turn = (axisAngle * Math.PI) / 180;
  const axis = unit(add(scaled(u, Math.cos(turn)), scaled(v, Math.sin(turn))));
  const weights = new Float64Array(cage.vertexSlots);
  const share = (w: number) => eased(dot(subtract(cage.position(w), centre), along) / (reach || Number.MIN_VALUE));
  for (const w of limb) weights[w] = share(w);
  // beyond the row the bend goes on as far as it reaches, through what hangs together
  const open = [...row];
  const seen = new Set([...row, ...limb]);
  for (const w of row) weights[w] = share(w);
  for (let w = open.pop(); w !== undefined; w = open.pop())
    for (const h of cage.spokes(w)) {
      const next = cage.target(h);
      const own = share(next);
      if (seen.has(next) || own <= 0) continue;
      seen.add(next);
      weights[next] = own;
      open.push(next);
    }
  return { middle: centre, axis, along, weights };
}

/** A place turned about a line. @param angle radians (Rodrigues 1840) */
function turnedAbout(p: Triple, middle: Triple, axis: Triple, angle: number): Triple {
  const d = subtract(p, middle);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return add(middle, add(add(scaled(d, c), scaled(cross(axis, d), s)), scaled(axis, dot(axis, d) * (1 - c))));
}

/**
 * Bends a joint as programs that move figures do: each vertex goes to the mean of where it was and where the limb takes it, by its weight (linear
 * blend skinning; Magnenat-Thalmann and others 1988). What that does to the faces is told.
 * @param degrees that the limb turns by
 */
export function bendAt(cage: Cage, { middle, axis, weights }: Hinge, degrees: number): Bent {
  const bent = cage.clone();
  for (const v of cage.vertices()) {
    const w = weights[v];
    if (w === 0) continue;
    const p = cage.position(v);
    const taken = turnedAbout(p, middle, axis, (degrees * Math.PI) / 180);
    bent.positions.set(add(scaled(p, 1 - w), scaled(taken, w)), 3 * v);
  }
  const touched = [...cage.faces()].filter((f) => cage.faceVertices(f).some((v) => weights[v] > 0 && weights[v] < 1));
  // a face looks about where its share of the turn takes it, or it has turned over
  const folded = touched.filter((f) => {
    const own = cage.faceVertices(f);
    const share = own.reduce((sum, v) => sum + weights[v], 0) / own.length;
    const expected = turnedAbout(faceNormal(cage, f), [0, 0, 0], axis, (share * degrees * Math.PI) / 180);
    return dot(faceNormal(bent, f), expected) < 0;
  });
  let [least, most, tightest] = [1, 1, -1];
  for (const e of new Set(touched.flatMap((f) => cage.loopOf(cage.faceEdge[f]).map((h) => h >> 1)))) {
    const share = bent.edgeLength(e) / (cage.edgeLength(e) || 1);
    if (share < least) [least, tightest] = [share, e];
    most = Math.max(most, share);
  }
  const isClosed = ![...cage.edges()].some((e) => cage.isBorderEdge(e));
  const volume = isClosed ? 100 * (enclosedVolume(bent) / enclosedVolume(cage) - 1) : undefined;
  const beside = tightest < 0 ? [] : [cage.face[2 * tightest], cage.face[2 * tightest + 1]].filter((f) => f >= 0);
  return { cage: bent, folded, volume, edges: { least, most }, tightest: beside };
}
