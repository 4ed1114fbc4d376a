import { scaledJacobian } from '../../check/quad-quality.ts';
import { Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { cageOfFaces } from '../../mesh/join-cages.ts';
import { uniformMesh, usedVertices, pickedPoints } from '../../mesh/polygon-mesh.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { eulerCharacteristic, borderLoops, facesRound } from '../../mesh/topology.ts';
import { type Triple, mean } from '../../numeric/vectors.ts';
import { TriangleBvh, surfacePoint } from '../../reference/triangle-bvh.ts';
import { STRAIGHT } from '../base/limits.ts';
import { type AutoQuadsOptions } from '../base/options.ts';
import { chunks } from '../base/quad-list.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { LimitFit } from '../fit/fit-limit.ts';
import { closePoorQuads } from '../quads/close-poor.ts';
import { settleQuads } from '../quads/settle-quads.ts';
import { TWISTED, straightenQuads } from '../quads/straighten-quads.ts';
import { turnBack } from '../quads/turn-back.ts';
import { BareSurface } from './bare-part.ts';
import { type OwnBorder, type Joined, sharpestAt } from './join-along.ts';

/** A cage whose bare surface has been laid with quads. */
export interface LaidBeside {
  cage: Cage;
  /** the new faces */
  faces: number[];
  notes: string[];
}

/** Beside the seam, where counts change, quads must be let be poorer than elsewhere to lie on the surface; less so where vertices run off then. */
const POOR_BESIDE = [0.15, 0.5];
/** They have run off where the longest edge is so many times as long. */
const LONGER = 1.3;
/** Rings of new quads beside the seam that are evened out with it. */
const EVENED = 6;

/** With the poorest new quad's scaled Jacobian, the longest new edge in mm, and how much is left open or odd: borders that are not the surface's own, and triangles. */
export type Attempted = LaidBeside & {
  worst: number;
  longest: number;
  /** length of open edges over that of new ones, where these are the longer ones */
  ofOpen: number;
  borders: number;
  triangles: number;
  /** mm of sharp edges that no edges of quads follow */
  lost: number;
  /** whether counts along the seam were asked for */
  pinned: boolean;
  /** how far the quads' size is from the one asked for towards the open edges', 0 to 1 */
  nearer: number;
};

/** Closes poor quads beside the seam that no moving of vertices has mended, where that leaves better ones. */
export function seamMended(laid: Attempted, { tree, normals, kept }: Job): Attempted {
  const { cage } = laid;
  const { used, quads, positions } = listOf(cage, laid.faces);
  const isOdd = (h: number) => cage.face[h] !== NONE && cage.faceSize(cage.face[h]) !== 4;
  const stays = (v: number) => kept.hasVertex(v) || cage.isBorderVertex(v) || isCreased(cage, v) || cage.spokes(v).some(isOdd);
  const list = { positions, quads, hold: Uint8Array.from(used, (v) => (stays(v) ? 2 : 0)) };
  const own = Cage.fromPolygons(uniformMesh(positions, quads, 4));
  const topology = { euler: eulerCharacteristic(own), borders: borderLoops(own).length };
  const closed = closePoorQuads(list, { bvh: tree, normals, lines: {}, topology });
  if (closed === list) return laid;
  const key = (p: Float64Array, i: number) => p.subarray(3 * i, 3 * i + 3).join(' ');
  const known = new Map(used.flatMap((v, i) => (list.hold[i] === 2 ? [[key(positions, i), v] as const] : [])));
  const made = cage.clone();
  const vertices = Array.from(closed.hold, (how, i) => {
    const [x, y, z] = closed.positions.subarray(3 * i, 3 * i + 3);
    return how === 2 ? known.get(key(closed.positions, i))! : made.addVertex(x, y, z);
  });
  const gone = laid.faces.filter((f) => cage.faceSize(f) === 4);
  const like = gone[0];
  const added = [...chunks(closed.quads)].map((q) => ({ corners: q.map((i) => vertices[i]), like }));
  const faces = [...laid.faces.filter((f) => cage.faceSize(f) !== 4), ...replaceFaces(made, { gone, added })];
  // with a kept quad beside it a new one must not share two sides
  const folded = faces.some((f) => made.faceVertices(f).some((v) => !made.isBorderVertex(v) && made.valence(v) < 3));
  return folded ? laid : { ...laid, cage: made, faces, ...shapeOf(made, faces) };
}

/** Turns new quads back that lie the wrong way round, beside the surface, where that is of any help. */
export function turnedBack(laid: Attempted, kept: Cage): Attempted {
  const { used, quads, positions } = listOf(laid.cage, laid.faces);
  const mesh = uniformMesh(positions, quads, 4);
  turnBack(mesh, TWISTED, undefined, (i) => kept.hasVertex(used[i]));
  const cage = laid.cage.clone();
  used.forEach((v, i) => cage.positions.set(positions.subarray(3 * i, 3 * i + 3), 3 * v));
  const shape = shapeOf(cage, laid.faces);
  return shape.worst > laid.worst ? { ...laid, cage, ...shape } : laid;
}

/** The poorest scaled Jacobian of some faces, and their longest edge, mm. */
export function shapeOf(cage: Cage, faces: readonly number[]): { worst: number; longest: number } {
  return {
    worst: faces.reduce((least, f) => Math.min(least, scaledJacobian(cage, f)), 1),
    longest: faces.reduce((most, f) => Math.max(most, ...cage.loopOf(cage.faceEdge[f]).map((h) => cage.edgeLength(h >> 1))), 0)
  };
}

/** Quads among some faces of a cage, with the vertices they use. */
function listOf(cage: Cage, faces: readonly number[]) {
  const quads = faces.filter((f) => cage.hasFace(f) && cage.faceSize(f) === 4);
  const { used, indices } = usedVertices(
    quads.flatMap((f) => cage.faceVertices(f)),
    cage.positions.length / 3
  );
  return { used, quads: indices, positions: pickedPoints(cage.positions, used) };
}

/** What quads are laid over, and beside what. */
export interface Job {
  /** of the surface's triangles, and their normals */
  tree: TriangleBvh;
  normals: Float64Array;
  bare: BareSurface;
  kept: Cage;
  isOwn: OwnBorder;
  /** of the surface's sharp edges; none where there are none */
  sharp?: TriangleBvh;
  options: AutoQuadsOptions;
  beside?: readonly Triple[];
  /** mean length of the open edges, mm */
  edge: number;
  /** the surface, and half-edges on its sharp edges */
  dense: WorkingMesh;
  sharpEdges: readonly number[];
}

/** Puts a vertex where two creases meet on sharp lines, halfway between the ends of these. @param to one of the ends */
function evenAlong(cage: Cage, from: number, to: number, sharp: TriangleBvh | undefined): void {
  const along = cage.spokes(from).filter((h) => cage.value('crease', h >> 1) > 0);
  const next = along.map((h) => cage.target(h)).find((v) => v !== to);
  if (along.length !== 2 || next === undefined || !sharp) return;
  const { x, y, z } = sharp.closest(...mean([cage.position(to), cage.position(next)]), surfacePoint());
  cage.positions.set([x, y, z], 3 * from);
}

/** Evens out the new quads beside the seam. Changes the cage. */
export function settleSeam({ cage, faces, seamed, links, keptVertices }: Joined, { tree, normals, sharp }: Job): void {
  for (const { from, to } of links) evenAlong(cage, from, to, sharp);
  const { used, quads, positions } = listOf(cage, faces);
  const placeOf = new Map(used.map((v, i) => [v, i]));
  // rings outward from the seam
  let ring = [...seamed];
  const near = new Set(ring);
  for (let k = 0; k < EVENED; k++) {
    ring = ring.flatMap((v) => cage.spokes(v).map((h) => cage.target(h))).filter((v) => !near.has(v) && placeOf.has(v));
    for (const v of ring) near.add(v);
  }
  const hold = Uint8Array.from(used, (v) => (keptVertices.has(v) || cage.isBorderVertex(v) || isCreased(cage, v) || !near.has(v) ? 2 : 0));
  const list = { positions, quads, hold };
  settleQuads(list, tree, normals, {}, 30);
  straightenQuads(list, tree, normals, {});
  used.forEach((v, i) => {
    if (!keptVertices.has(v)) cage.positions.set(list.positions.subarray(3 * i, 3 * i + 3), 3 * v);
  });
}

/** Fits the new quads so that their smooth surface lies on what they were laid over, where that turns none over. */
export function fitted(laid: Attempted, job: Job): Attempted {
  if ((job.options.lies ?? 'smooth') !== 'smooth') return laid;
  for (const poor of POOR_BESIDE) {
    const fit = fittedTo(laid, job, poor);
    if (fit.worst > Math.min(laid.worst, STRAIGHT) && fit.longest < LONGER * laid.longest) return fit;
  }
  return laid;
}

/** @param poor shape of quads that must not get poorer */
function fittedTo(laid: Attempted, { tree, normals, kept }: Job, poor: number): Attempted {
  const cage = laid.cage.clone();
  const isQuad = (f: number) => cage.faceSize(f) === 4;
  // with the quads that stay beside them, as these take part in the smooth surface
  const own = new Set(laid.faces.flatMap((f) => cage.faceVertices(f)));
  const { cage: part, vertexOf } = cageOfFaces(cage, facesRound(cage, own, 1).filter(isQuad));
  const inCage = new Map([...vertexOf].map(([v, w]) => [w, v]));
  const mesh = part.toPolygons();
  const vertices = Array.from(mesh.vertexIds, (w) => inCage.get(w)!);
  const stays = (v: number, i: number) => kept.hasVertex(v) || part.isBorderVertex(mesh.vertexIds[i]) || isCreased(cage, v);
  const fixed = Uint8Array.from(vertices, (v, i) => (stays(v, i) ? 1 : 0));
  new LimitFit(mesh, tree, normals, {}, { fixed, poor }).run();
  vertices.forEach((v, i) => {
    if (fixed[i] === 0) cage.positions.set(mesh.positions.subarray(3 * i, 3 * i + 3), 3 * v);
  });
  return { ...laid, cage, ...shapeOf(cage, laid.faces) };
}

const isCreased = (cage: Cage, v: number): boolean => sharpestAt(cage, v) > 0;
