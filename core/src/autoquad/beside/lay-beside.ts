import { scaledJacobian } from '../../check/quad-quality.ts';
import { edgesBeyond } from '../../fill/bridge.ts';
import { NONE, Cage, CageError } from '../../mesh/cage.ts';
import { cageOfFaces } from '../../mesh/join-cages.ts';
import { boundsOf, pickedPoints, uniformMesh, usedVertices, type Bounds, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { faceMiddle } from '../../mesh/normals.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { borderLoops, eulerCharacteristic, facesRound } from '../../mesh/topology.ts';
import { length, mean, subtract, type Triple } from '../../numeric/vectors.ts';
import { triangleNormals } from '../../reference/reference.ts';
import { surfacePoint, TriangleBvh } from '../../reference/triangle-bvh.ts';
import { STAYS_SHARP } from '../../subdivide/level-topology.ts';
import { onward, silent, type TaskReport } from '../../task/steps.ts';
import { laidQuads, withBoxes } from '../auto-quads.ts';
import { AutoQuadsError, FEWEST_QUADS, forShare, wantedSize, type AutoQuadsOptions, type Guide } from '../base/options.ts';
import { BareSurface, splitNearOpen } from './bare-part.ts';
import { closePoorQuads } from '../quads/close-poor.ts';
import { featureLinesOf, withFeatures } from '../lines/features.ts';
import { LimitFit } from '../fit/fit-limit.ts';
import { fillLeft, fillPockets } from './fill-left.ts';
import { apart, halvesOf, joinAlong, rimsOf, sharpestAt, type Joined, type OwnBorder, type VertexRim } from './join-along.ts';
import { chunks } from '../base/quad-list.ts';
import { settleQuads } from '../quads/settle-quads.ts';
import { STRAIGHT } from '../search/lines-in-the-way.ts';
import { straightenQuads, TWISTED } from '../quads/straighten-quads.ts';
import { turnBack } from '../quads/turn-back.ts';
import { after, piecesOf, type WorkingMesh } from '../base/working-mesh.ts';

export interface LaidBeside {
  cage: Cage;
  /** the new faces */
  faces: number[];
  notes: string[];
}

/**
 * Widths of the row that joins, against the open edges' length, and whether the new quads are to have as many edges there as the
 * open edges ask for: the next one is tried where a quad of the last is twisted.
 */
const GAPS: readonly (readonly [number, boolean])[] = [
  [1, true],
  [1, false],
  [1.4, true],
  [0.7, true],
  [0.4, true]
];
/** Shares of the way from the size asked for to that of the open edges, where none can be joined that are as asked for. */
const NEARER = [0.5, 1];
/** Sharp edges that are not followed count from this share of an open edge's length on. */
const LOST = 0.5;
/** A crease follows a sharp edge where it is no farther off than this share of an open edge's length. */
const FOLLOWED = 0.25;
/** New edges that are so many times as long as open edges tell of quads that are folded over. */
const FARTHEST = 6;
/** Pieces of bare surface with less room than so many quads of the seam's size are left. */
const LEAST_QUADS = 4;
/** A seam's count is asked for all round the new quads where they would have as many within this share. */
const NEAR_COUNT = 0.3;
/** An edge lies on the surface's border where its middle is no farther off than this share of the open edges' length. */
const ON_BORDER = 0.15;
/** Beside the seam, where counts change, quads must be let be poorer than elsewhere to lie on the surface; less so where vertices run off then. */
const POOR_BESIDE = [0.15, 0.5];
/** They have run off where the longest edge is so many times as long. */
const LONGER = 1.3;
/** Rings of new quads beside the seam that are evened out with it. */
const EVENED = 6;

/**
 * Quads over what of a surface a cage leaves bare, joined to it all round: its faces and vertices stay as they are. The new
 * quads end one edge before the cage's open edges, and a row of quads joins them; where counts differ it has transitions.
 * @param beside places near which bare surface is to be covered; all of it where they are left out
 * @throws AutoQuadsError
 */
export function layBeside(
  surface: PolygonMesh,
  kept: Cage,
  options: AutoQuadsOptions,
  beside?: readonly Triple[],
  report: TaskReport = silent
): LaidBeside {
  report.phase('Bare surface', 0);
  const openEdges = [...kept.edges()].filter((e) => kept.isBorderEdge(e));
  if (openEdges.length === 0) throw new AutoQuadsError('The quads that stay have no open edges to lay others beside.');
  const edge = openEdges.reduce((sum, e) => sum + kept.edgeLength(e), 0) / openEdges.length;
  const dense = splitNearOpen(withFeatures(surface, options.featureAngle, options.lines ?? []), kept, edge);
  const tree = new TriangleBvh(dense.positions, dense.corner);
  const { border, sharp } = featureLinesOf(dense);
  const isOwn = ownBorderOf(border, edge);
  const base = kept.clone();
  const pockets = fillPockets(base, { isOwn, sharp, edge, beside });
  const sharpEdges = dense.featureEdges().filter((h) => dense.opposite[h] >= 0);
  const bare = new BareSurface(dense, tree, base, { edges: sharpEdges, tree: sharp });
  const job: Job = {
    tree,
    normals: triangleNormals(dense.positions, dense.corner),
    bare,
    edge,
    kept: base,
    isOwn,
    sharp,
    dense,
    sharpEdges,
    options,
    beside
  };
  const { best, failure } = attempted(job, report);
  // a border that runs to and fro within a quad's width cannot be followed
  if (best && isFolded(best, edge))
    throw new AutoQuadsError('The border of that area is too ragged for a row of quads: pick faces so that it runs more evenly.');
  if (!best) throw failure instanceof AutoQuadsError ? failure : new AutoQuadsError(`The quads could not be joined: ${failure?.message}`);
  const { cage, faces, worst } = best;
  if (worst <= 0) {
    const poorest = faces.reduce((a, b) => (scaledJacobian(cage, b) < scaledJacobian(cage, a) ? b : a));
    const at = faceMiddle(cage, poorest).map((x) => x.toFixed(1));
    throw new AutoQuadsError(
      `Beside the open edges quads would turn over, near ${at.join(', ')}: pick faces so that the area's border runs more evenly there, and crosses sharp edges squarely, or ask for another count.`
    );
  }
  const all = [...pockets, ...faces];
  if (options.creases === false)
    for (const f of all) for (const h of cage.loopOf(cage.faceEdge[f])) if (!cage.isBorderEdge(h >> 1)) cage.setValue('crease', h >> 1, 0);
  report.phase('Done', 1);
  return { cage, faces: all, notes: notesOf(best, edge) };
}

/** What is told of quads laid beside others. */
function notesOf({ notes, borders, triangles, lost, nearer, faces }: Attempted, edge: number): string[] {
  const told = [...notes];
  if (borders > 0) told.push(`Open borders that are left: ${borders}; what is bare inside is too small for a quad.`);
  if (triangles > 0) told.push(`Triangles beside the open edges: ${triangles}; the counts there are odd.`);
  if (lost > LOST * edge) told.push(`Sharp edges that no edges of quads follow there: ${lost.toFixed(1)} mm.`);
  if (nearer > 0)
    told.push(`Quads of the size asked for could not be joined to the open edges; these ${faces.length} are nearer to the size of those that stay.`);
  return told;
}

/** The best of several ways to lay and join quads; those of another size than was asked for only where no others can be joined. */
function attempted(job: Job, report: TaskReport): { best?: Attempted; failure?: Error } {
  let best: Attempted | undefined;
  let failure: Error | undefined;
  const tries = GAPS.length + NEARER.length * 2;
  let done = 0;
  let pinned = true;
  const attempt = (gap: number, counted: boolean, nearer: number) => {
    if (best && best.worst > TWISTED && leftOver(best) === 0 && best.lost < LOST * job.edge) return;
    // the last one was without counts already
    if (!counted && !pinned) return;
    try {
      const joined = layWithGap(job, gap * job.edge, counted, nearer, {
        ...report,
        phase: (name, fraction) => report.phase(name, (0.95 * (done + fraction)) / tries)
      });
      ({ pinned } = joined);
      const laid = joined.worst < TWISTED ? seamMended(joined, job) : joined;
      if (!best || isBetter(laid, best, job.edge)) best = laid;
    } catch (error) {
      // faces that touch in a vertex only
      if (!(error instanceof AutoQuadsError || error instanceof CageError)) throw error;
      failure ??= error;
    }
    done++;
  };
  const turned = (laid?: Attempted) => (laid && laid.worst < STRAIGHT ? turnedBack(laid, job.kept) : laid);
  for (const [gap, counted] of GAPS) attempt(gap, counted, 0);
  best = turned(best);
  for (const nearer of NEARER) {
    if (best && best.worst > STRAIGHT) break;
    for (const gap of [1, 0.7]) attempt(gap, true, nearer);
    best = turned(best);
  }
  report.phase('Fitting', 0.98);
  return { best: best && fitted(best, job), failure };
}

/** Whether less is left open or odd, quads are valid, more of the sharp edges are followed, or the poorest quad is better; in this order. */
function isBetter(laid: Attempted, than: Attempted, edge: number): boolean {
  const ranks = (one: Attempted) => [leftOver(one), one.worst > 0 && !isFolded(one, edge) ? 0 : 1, Math.round(one.lost / edge), -one.worst];
  const [own, theirs] = [ranks(laid), ranks(than)];
  const k = own.findIndex((rank, i) => rank !== theirs[i]);
  return k >= 0 && own[k] < theirs[k];
}

/** With the poorest new quad's scaled Jacobian, the longest new edge in mm, and how much is left open or odd: borders that are not the surface's own, and triangles. */
type Attempted = LaidBeside & {
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

const isFolded = ({ longest, ofOpen }: Attempted, edge: number): boolean => longest * ofOpen > FARTHEST * edge;

const leftOver = ({ borders, triangles }: Attempted): number => borders + triangles;

/** Closes poor quads beside the seam that no moving of vertices has mended, where that leaves better ones. */
function seamMended(laid: Attempted, { tree, normals, kept }: Job): Attempted {
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
function turnedBack(laid: Attempted, kept: Cage): Attempted {
  const { used, quads, positions } = listOf(laid.cage, laid.faces);
  const mesh = uniformMesh(positions, quads, 4);
  turnBack(mesh, TWISTED, undefined, (i) => kept.hasVertex(used[i]));
  const cage = laid.cage.clone();
  used.forEach((v, i) => cage.positions.set(positions.subarray(3 * i, 3 * i + 3), 3 * v));
  const shape = shapeOf(cage, laid.faces);
  return shape.worst > laid.worst ? { ...laid, cage, ...shape } : laid;
}

/** The poorest scaled Jacobian of some faces, and their longest edge, mm. */
function shapeOf(cage: Cage, faces: readonly number[]): { worst: number; longest: number } {
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

interface Job {
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

/** Lays quads that end some mm before the open edges, and joins them; what has no room for them is filled from its open edges. */
function layWithGap(job: Job, gap: number, counted: boolean, nearer: number, report: TaskReport): Attempted {
  const { kept, isOwn, beside, edge } = job;
  const { piece, area } = pickedPieces(job.bare.beyond(gap, beside && reachOf(beside, 8 * gap)), gap, beside);
  const isEmpty = piece.faceVertices.length === 0;
  const { size, ...inside } = isEmpty
    ? { made: new Cage(), notes: [], pinned: false, size: edge }
    : laidInside(job, { piece, area, gap, counted, nearer }, report);
  report.phase('Joining', 0.92);
  const joined = joinAlong({ kept, made: inside.made, isOwn, gap, edge, sharp: job.sharp });
  const { cage } = joined;
  const isNear = (rim: VertexRim, places: readonly Triple[]) =>
    apart(
      rim.vertices.map((v) => cage.position(v)),
      places
    ) <
    3 * gap;
  const leftOpen = () => (beside ? rimsOf(cage, isOwn).filter((rim) => isNear(rim, beside)) : []);
  const closed = leftOpen().filter((rim) => rim.closed);
  const filled = fillLeft(
    cage,
    closed.map((rim) => halvesOf(cage, rim)),
    job
  );
  if (isEmpty && filled.length === 0)
    throw new AutoQuadsError('No bare surface was found there that a row of quads at least fits into: take more faces out, or lay smaller ones.');
  joined.faces.push(...filled);
  for (const v of filled.flatMap((f) => cage.faceVertices(f))) joined.seamed.add(v);
  settleSeam(joined, job);
  const { faces } = joined;
  const triangles = faces.filter((f) => cage.faceSize(f) === 3).length;
  const borders = leftOpen().length;
  const lost = lostSharp(joined, job);
  return {
    cage,
    faces,
    ...shapeOf(cage, faces),
    ofOpen: Math.min(1, gap / size),
    borders,
    triangles,
    lost,
    nearer,
    pinned: inside.pinned,
    notes: inside.notes
  };
}

/** Quads over pieces of bare surface, and their size in mm. */
function laidInside(
  { kept, isOwn, options, edge }: Job,
  way: { piece: PolygonMesh; area: number; gap: number; counted: boolean; nearer: number },
  report: TaskReport
) {
  const { piece, area, gap, counted, nearer } = way;
  // the row that joins counts too
  const contours = contoursOf(piece, isOwn);
  const inside = forShare(options, area / (area + gap * contours.reduce((sum, points) => sum + lengthRound(points), 0)));
  const size = wantedSize(inside, area).size ** (1 - nearer) * edge ** nearer;
  const { countRange: _countRange, edgeSizes: _edgeSizes, ...others } = inside;
  const sized = nearer === 0 ? inside : { ...others, count: Math.max(FEWEST_QUADS, Math.round(area / size ** 2)) };
  const pinned = counted ? seamGuides(contours, kept, gap, size) : [];
  const { laid, input, notes } = laidQuads(
    piece,
    {
      symmetry: 'none',
      ...sized,
      keepHoles: true,
      featureAngle: 180,
      lines: [],
      creases: true,
      lies: 'vertices',
      guides: [...(options.guides ?? []), ...pinned]
    },
    onward({ ...report, phase: (name, fraction) => report.phase(name, 0.9 * fraction) })
  );
  return { made: Cage.fromPolygons(withBoxes(laid, input, options)), notes, size, pinned: pinned.length > 0 };
}

/** Sharp edges of the surface near new quads that no crease follows, mm. */
function lostSharp({ cage, faces }: Joined, { dense, sharpEdges, edge }: Job): number {
  if (sharpEdges.length === 0) return 0;
  const ends = [...cage.edges()].filter((e) => cage.value('crease', e) > 0).map((e) => [cage.origin[2 * e], cage.target(2 * e), cage.target(2 * e)]);
  const creases = new TriangleBvh(cage.positions, Int32Array.from(ends.flat()));
  const mesh = cage.toPolygons();
  const { triangles, faceOf } = triangulate(mesh);
  const laid = new TriangleBvh(mesh.positions, triangles);
  const isNew = new Set(faces);
  const found = surfacePoint();
  const isLost = (h: number) => {
    const [x, y, z] = mean(dense.ends(h));
    if (creases.closest(x, y, z, found, (FOLLOWED * edge) ** 2).triangle >= 0) return false;
    return isNew.has(mesh.faceIds[faceOf[laid.closest(x, y, z, found).triangle]]);
  };
  return sharpEdges.filter(isLost).reduce((sum, h) => sum + Math.sqrt(dense.edgeLength2(h)), 0);
}

function reachOf(places: readonly Triple[], by: number): Bounds {
  const { min, max, diagonal } = boundsOf(places.flat());
  return { min: min.map((x) => x - by) as Triple, max: max.map((x) => x + by) as Triple, diagonal };
}

/** The pieces of bare surface that are meant and large enough, as triangles whose feature edges are creases. */
function pickedPieces(bare: WorkingMesh, gap: number, beside?: readonly Triple[]): { piece: PolygonMesh; area: number } {
  const pieces = piecesOf(bare);
  const areaOf = (triangles: readonly number[]) => triangles.reduce((sum, t) => sum + bare.area(t), 0);
  let wanted = pieces.map((_, i) => i);
  if (beside && bare.triangles > 0) {
    const bvh = new TriangleBvh(bare.positions, bare.corner);
    const pieceOf = new Int32Array(bare.triangles);
    pieces.forEach((members, i) => members.forEach((t) => (pieceOf[t] = i)));
    const found = surfacePoint();
    const near = beside.flatMap((p) => {
      bvh.closest(...p, found);
      return Math.sqrt(found.distance2) < 2.5 * gap ? [pieceOf[found.triangle]] : [];
    });
    wanted = [...new Set(near)];
  }
  const chosen = wanted.filter((i) => areaOf(pieces[i]) > LEAST_QUADS * gap * gap).flatMap((i) => pieces[i]);
  const { mesh, placeOf } = bare.alone(chosen);
  const halves = chosen.flatMap((t) => [3 * t, 3 * t + 1, 3 * t + 2]);
  const followed = halves.filter((h) => bare.feature[h] === 1 && bare.opposite[h] > h);
  if (followed.length > 0) {
    mesh.creaseEdges = Int32Array.from(followed.flatMap((h) => [bare.corner[h], bare.corner[after(h)]].map((v) => placeOf.get(v)!)));
    mesh.creaseSharpness = new Float64Array(followed.length).fill(STAYS_SHARP);
  }
  return { piece: mesh, area: areaOf(chosen) };
}

/** Tells edges on the surface's own border from those where bare surface ends. */
function ownBorderOf(border: TriangleBvh | undefined, gap: number): OwnBorder {
  const found = surfacePoint();
  return (cage, h) => {
    if (!border) return false;
    border.closest(...mean([cage.position(cage.origin[h]), cage.position(cage.target(h))]), found);
    return found.distance2 < (ON_BORDER * gap) ** 2;
  };
}

/** Closed borders of a piece that were cut along the cage's open edges. */
function contoursOf(piece: PolygonMesh, isOwn: OwnBorder): Triple[][] {
  const cage = Cage.fromPolygons(piece);
  return borderLoops(cage)
    .filter((halves) => !halves.some((h) => isOwn(cage, h)))
    .map((halves) => halves.map((h) => cage.position(cage.origin[h])));
}

/** Closed guides along cut borders that ask for the counts of the open edges beside them, where those nearly come of themselves. */
function seamGuides(contours: Triple[][], kept: Cage, gap: number, size: number): Guide[] {
  const rims = borderLoops(kept).map((halves) => ({ halves, places: halves.map((h) => kept.position(kept.origin[h])) }));
  return contours.flatMap((points): Guide[] => {
    const rim = rims.reduce((best, other) => (apart(points, other.places) < apart(points, best.places) ? other : best));
    const count = edgesBeyond(kept, { halves: rim.halves, closed: true });
    if (apart(points, rim.places) > 3 * gap || Math.abs(lengthRound(points) / size / count - 1) > NEAR_COUNT) return [];
    return [{ points, influence: 0, closed: true, count, silent: true }];
  });
}

const lengthRound = (points: readonly Triple[]): number =>
  points.reduce((sum, p, i) => sum + length(subtract(points[(i + 1) % points.length], p)), 0);

/** Puts a vertex where two creases meet on sharp lines, halfway between the ends of these. @param to one of the ends */
function evenAlong(cage: Cage, from: number, to: number, sharp: TriangleBvh | undefined): void {
  const along = cage.spokes(from).filter((h) => cage.value('crease', h >> 1) > 0);
  const next = along.map((h) => cage.target(h)).find((v) => v !== to);
  if (along.length !== 2 || next === undefined || !sharp) return;
  const { x, y, z } = sharp.closest(...mean([cage.position(to), cage.position(next)]), surfacePoint());
  cage.positions.set([x, y, z], 3 * from);
}

/** Evens out the new quads beside the seam. Changes the cage. */
function settleSeam({ cage, faces, seamed, links, keptVertices }: Joined, { tree, normals, sharp }: Job): void {
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
function fitted(laid: Attempted, job: Job): Attempted {
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

/** Middles of faces: where surface is to be covered again once they are taken out. */
export const middlesOf = (cage: Cage, faces: readonly number[]): Triple[] => faces.map((f) => faceMiddle(cage, f));
