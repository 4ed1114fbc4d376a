import { scaledJacobian } from '../check/quad-quality.ts';
import { bridge, edgesBeyond, type Rim } from '../fill/bridge.ts';
import { runStrip, stripToBorder } from '../fill/odd-partner.ts';
import { NONE, Cage, CageError } from '../mesh/cage.ts';
import { joinCages } from '../mesh/join-cages.ts';
import { boundsOf, pickedPoints, uniformMesh, usedVertices, type Bounds, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { faceMiddle } from '../mesh/normals.ts';
import { replaceFaces } from '../mesh/replace-faces.ts';
import { borderLoops, eulerCharacteristic, islands } from '../mesh/topology.ts';
import { length, mean, subtract, type Triple } from '../numeric/vectors.ts';
import { triangleNormals } from '../reference/reference.ts';
import { surfacePoint, TriangleBvh } from '../reference/triangle-bvh.ts';
import { STAYS_SHARP } from '../subdivide/level-topology.ts';
import { onward, silent, type TaskReport } from '../task/steps.ts';
import { laidQuads, withBoxes } from './auto-quads.ts';
import { AutoQuadsError, forShare, wantedSize, type AutoQuadsOptions } from './auto-quads-options.ts';
import { BareSurface } from './bare-part.ts';
import { closePoorQuads } from './close-poor.ts';
import { featureLinesOf, withFeatures } from './features.ts';
import { LimitFit } from './fit-limit.ts';
import { type Guide } from './guides.ts';
import { chunks } from './mend.ts';
import { settleQuads } from './settle-quads.ts';
import { STRAIGHT } from './lines-in-the-way.ts';
import { straightenQuads, TWISTED } from './straighten-quads.ts';
import { turnBack } from './turn-back.ts';
import { after, piecesOf, type WorkingMesh } from './working-mesh.ts';

type OwnBorder = (cage: Cage, h: number) => boolean;

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
/** New edges that are so many times as long as open edges tell of quads that are folded over. */
const FARTHEST = 6;
/** Pieces of bare surface with less room than so many quads of the seam's size are left. */
const LEAST_QUADS = 4;
/** A seam's count is asked for all round the new quads where they would have as many within this share. */
const NEAR_COUNT = 0.3;
/** An edge lies on the surface's border where its middle is no farther off than this share of the open edges' length. */
const ON_BORDER = 0.15;
/** Beside the seam, where counts change, quads must be let be poorer than elsewhere to lie on the surface. */
const POOR_BESIDE = 0.5;
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
  const dense = withFeatures(surface, options.featureAngle, options.lines ?? []);
  const tree = new TriangleBvh(dense.positions, dense.corner);
  const job: Job = {
    tree,
    normals: triangleNormals(dense.positions, dense.corner),
    bare: new BareSurface(dense, tree, kept),
    kept,
    isOwn: ownBorderOf(dense, edge),
    options,
    beside
  };
  let best: Attempted | undefined;
  let failure: Error | undefined;
  GAPS.forEach(([share, counted], k) => {
    if (best && best.worst > TWISTED && leftOver(best) === 0) return;
    try {
      const laid = layWithGap(job, share * edge, counted, { phase: (name, fraction) => report.phase(name, (k + fraction) / GAPS.length) });
      if (!best || leftOver(laid) < leftOver(best) || (leftOver(laid) === leftOver(best) && laid.worst > best.worst)) best = laid;
    } catch (error) {
      // faces that touch in a vertex only
      if (!(error instanceof AutoQuadsError || error instanceof CageError)) throw error;
      failure ??= error;
    }
  });
  report.phase('Joining', 0.98);
  if (best && best.worst < TWISTED) best = seamMended(best, job);
  if (best && best.worst < STRAIGHT) best = turnedBack(best, kept);
  // a border that runs to and fro within a quad's width cannot be followed
  if (best && best.longest * best.ofOpen > FARTHEST * edge) [best, failure] = [undefined, undefined];
  if (!best && !failure)
    throw new AutoQuadsError('The border of that area is too ragged for a row of quads: pick faces so that it runs more evenly.');
  if (!best) throw failure instanceof AutoQuadsError ? failure : new AutoQuadsError(`The quads could not be joined: ${failure?.message}`);
  const { cage, faces, worst, borders, triangles, notes } = best;
  if (worst <= 0) {
    const poorest = faces.reduce((a, b) => (scaledJacobian(cage, b) < scaledJacobian(cage, a) ? b : a));
    const at = faceMiddle(cage, poorest).map((x) => x.toFixed(1));
    throw new AutoQuadsError(
      `Beside the open edges quads would turn over, near ${at.join(', ')}: pick faces so that the area's border runs more evenly there, and crosses sharp edges squarely, or ask for another count.`
    );
  }
  report.phase('Done', 1);
  const left = borders > 0 ? [`Open borders that are left: ${borders}; what is bare inside is too small for a quad.`] : [];
  const odd = triangles > 0 ? [`Triangles beside the open edges: ${triangles}; the counts there are odd.`] : [];
  return { cage, faces, notes: [...notes, ...left, ...odd] };
}

/** With the poorest new quad's scaled Jacobian, the longest new edge in mm, and how much is left open or odd: borders that are not the surface's own, and triangles. */
type Attempted = LaidBeside & {
  worst: number;
  longest: number;
  /** length of open edges over that of new ones, where these are the longer ones */
  ofOpen: number;
  borders: number;
  triangles: number;
};

const leftOver = ({ borders, triangles }: Attempted): number => borders + triangles;

/** Closes poor quads beside the seam that no moving of vertices has mended, where that leaves better ones. */
function seamMended(laid: Attempted, { tree, normals, kept }: Job): Attempted {
  const { cage } = laid;
  const { used, quads, positions } = listOf(cage, laid.faces);
  const isOdd = (h: number) => cage.face[h] !== NONE && cage.faceSize(cage.face[h]) !== 4;
  const stays = (v: number) =>
    kept.hasVertex(v) || cage.isBorderVertex(v) || cage.spokes(v).some((h) => isOdd(h) || cage.value('crease', h >> 1) > 0);
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
  options: AutoQuadsOptions;
  beside?: readonly Triple[];
}

/** Lays quads that end some mm before the open edges, and joins them. */
function layWithGap(job: Job, gap: number, counted: boolean, report: TaskReport): Attempted {
  const { kept, isOwn, options, beside } = job;
  const { piece, area } = pickedPieces(job.bare.beyond(gap, beside && reachOf(beside, 8 * gap)), gap, beside);
  if (piece.faceVertices.length === 0)
    throw new AutoQuadsError('No bare surface was found there that a row of quads at least fits into: take more faces out, or lay smaller ones.');
  const contours = contoursOf(piece, isOwn);
  // the row that joins counts too
  const share = area / (area + gap * contours.reduce((sum, points) => sum + lengthRound(points), 0));
  const inside = forShare(options, share);
  const { size } = wantedSize(inside, area);
  const pinned = counted ? seamGuides(contours, kept, gap, size) : [];
  const { laid, input, notes } = laidQuads(
    piece,
    { symmetry: 'none', ...inside, keepHoles: true, featureAngle: 180, lines: [], lies: 'vertices', guides: [...(options.guides ?? []), ...pinned] },
    onward({ phase: (name, fraction) => report.phase(name, 0.9 * fraction) })
  );
  report.phase('Joining', 0.92);
  const made = Cage.fromPolygons(withBoxes(laid, input, options));
  const joined = join(kept, made, evenPairs(kept, made, isOwn, gap));
  settleSeam(joined, job);
  const { cage, faces } = joined;
  const triangles = faces.filter((f) => cage.faceSize(f) === 3).length;
  const isNear = (rim: VertexRim, places: readonly Triple[]) =>
    apart(
      rim.vertices.map((v) => cage.position(v)),
      places
    ) <
    3 * gap;
  const borders = beside ? rimsOf(cage, isOwn).filter((rim) => isNear(rim, beside)).length : 0;
  const { worst, longest } = shapeOf(cage, faces);
  return { cage, faces, worst, longest, ofOpen: Math.min(1, gap / size), borders, triangles, notes };
}

/**
 * Rims that face each other. One with an odd count cannot be joined by quads to one with an even count: from each where that is so a
 * strip is run to another, or to the surface's own border. Changes the new quads.
 */
function evenPairs(kept: Cage, made: Cage, isOwn: OwnBorder, gap: number): FacingRims[] {
  let pairs = facingRims(kept, made, isOwn, gap);
  for (let left = pairs.length; left > 0; left--) {
    const odd = pairs.filter(({ rim, mate }) => (rim.vertices.length - mate.vertices.length) % 2 !== 0);
    if (odd.length === 0) break;
    const [first, ...others] = odd.map(({ rim }) => halvesOf(made, rim));
    const free = borderLoops(made).flatMap((halves) => halves.filter((h) => isOwn(made, h)));
    const strip = stripToBorder(made, first, new Set([...others.flat(), ...free]));
    if (!strip) break;
    runStrip(made, strip);
    pairs = facingRims(kept, made, isOwn, gap);
  }
  return pairs;
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
function ownBorderOf(dense: WorkingMesh, gap: number): OwnBorder {
  const { border } = featureLinesOf(dense);
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

/** Mean distance of some places from the nearest of others. */
function apart(places: readonly Triple[], others: readonly Triple[]): number {
  const step = Math.max(1, Math.floor(places.length / 40));
  const some = places.filter((_, i) => i % step === 0);
  return some.reduce((sum, p) => sum + Math.min(...others.map((q) => length(subtract(p, q)))), 0) / some.length;
}

/** One cage of both, with rows of quads between the open edges that face each other. */
function join(kept: Cage, made: Cage, pairs: readonly FacingRims[]) {
  const { cage, vertexOf, faceOf } = joinCages(kept, made);
  const faces = [...faceOf.values()];
  for (const { rim, mate } of pairs) {
    const own: Rim = { halves: halvesOf(cage, mate), closed: mate.closed };
    const other: Rim = { halves: halvesOf(cage, { ...rim, vertices: rim.vertices.map((v) => vertexOf.get(v)!) }), closed: rim.closed };
    faces.push(...bridge(cage, own, other, { rows: 1, offset: 0, curved: 0, transition: '3:1', corners: true }));
  }
  const seamed = new Set(pairs.flatMap(({ rim }) => rim.vertices.map((v) => vertexOf.get(v)!)));
  return { cage, faces, seamed, keptVertices: new Set(kept.vertices()) };
}

/** Every rim of the new quads with the one of the cage that it is to be joined to. @throws AutoQuadsError where one has none */
function facingRims(kept: Cage, made: Cage, isOwn: OwnBorder, gap: number): FacingRims[] {
  const fresh = rimsOf(made, isOwn);
  const freshPlaces = fresh.map(({ vertices }) => vertices.map((v) => made.position(v)));
  const old = rimsOf(kept, isOwn);
  const taken = new Set<number>();
  return fresh.map((rim, i) => {
    const off = (k: number) =>
      taken.has(k) || old[k].closed !== rim.closed
        ? Infinity
        : apart(
            freshPlaces[i],
            old[k].vertices.map((v) => kept.position(v))
          );
    const best = old.map((_, k) => k).reduce((a, b) => (off(b) < off(a) ? b : a), 0);
    if (old.length === 0 || off(best) > 3 * gap)
      throw new AutoQuadsError(
        'The new quads do not fit to the open edges beside them: take out faces so that the open edges run more evenly, or ask for more quads.'
      );
    taken.add(best);
    return { rim, mate: old[best] };
  });
}

interface VertexRim {
  vertices: number[];
  closed: boolean;
}

interface FacingRims {
  /** of the new quads */
  rim: VertexRim;
  /** of the cage */
  mate: VertexRim;
}

/** Borders, or chains of them, that are not the surface's own; in the direction of the half-edges without a face. */
function rimsOf(cage: Cage, isOwn: OwnBorder): VertexRim[] {
  return borderLoops(cage).flatMap((halves): VertexRim[] => {
    const open = halves.map((h) => !isOwn(cage, h));
    if (open.every(Boolean)) return [{ vertices: halves.map((h) => cage.origin[h]), closed: true }];
    const n = halves.length;
    return halves.flatMap((h, i) => {
      if (!open[i] || open[(i + n - 1) % n]) return [];
      const vertices = [cage.origin[h]];
      for (let k = i; open[k % n]; k++) vertices.push(cage.target(halves[k % n]));
      return [{ vertices, closed: false }];
    });
  });
}

function halvesOf(cage: Cage, { vertices, closed }: VertexRim): number[] {
  const ends = closed ? vertices.map((v, i) => [v, vertices[(i + 1) % vertices.length]]) : vertices.slice(1).map((w, i) => [vertices[i], w]);
  return ends.map(([v, w]) => {
    const h = cage.findHalfEdge(v, w);
    if (h === NONE || cage.face[h] !== NONE)
      throw new AutoQuadsError('The open edges of the cage cannot be followed there: faces touch in a single vertex.');
    return h;
  });
}

/** Evens out the new quads beside the seam, and fits their smooth surface. Changes the cage. */
function settleSeam({ cage, faces, seamed, keptVertices }: ReturnType<typeof join>, { tree, normals, options }: Job): void {
  const { used, quads, positions } = listOf(cage, faces);
  const placeOf = new Map(used.map((v, i) => [v, i]));
  // rings outward from the seam
  let ring = [...seamed];
  const near = new Set(ring);
  for (let k = 0; k < EVENED; k++) {
    ring = ring.flatMap((v) => cage.spokes(v).map((h) => cage.target(h))).filter((v) => !near.has(v) && placeOf.has(v));
    for (const v of ring) near.add(v);
  }
  const creased = (v: number) => cage.spokes(v).some((h) => cage.value('crease', h >> 1) > 0);
  const hold = Uint8Array.from(used, (v) => (keptVertices.has(v) || cage.isBorderVertex(v) || creased(v) || !near.has(v) ? 2 : 0));
  const list = { positions, quads, hold };
  settleQuads(list, tree, normals, {}, 30);
  straightenQuads(list, tree, normals, {});
  if ((options.lies ?? 'smooth') === 'smooth') {
    const fixed = Uint8Array.from(used, (v) => (keptVertices.has(v) || cage.isBorderVertex(v) || creased(v) ? 1 : 0));
    new LimitFit(uniformMesh(list.positions, list.quads, 4), tree, normals, {}, { fixed, poor: POOR_BESIDE }).run();
  }
  used.forEach((v, i) => {
    if (!keptVertices.has(v)) cage.positions.set(list.positions.subarray(3 * i, 3 * i + 3), 3 * v);
  });
}

/** Faces that are cut off by others being taken out are taken with them, where there are few: at most so many, or this share of those. */
const FEW_CUT_OFF = 12;
const SHARE_CUT_OFF = 0.2;

/** Some faces, those in slits up to two faces wide between them, and the few that would be left as islands among them. */
export function withCutOff(cage: Cage, picked: readonly number[]): number[] {
  const faces = closedOver(cage, picked);
  const before = islands(cage).islandOf;
  const rest = cage.clone();
  replaceFaces(rest, { gone: faces, added: [] });
  const { islandOf, count } = islands(rest);
  const sizes = new Int32Array(count);
  const largest = new Map<number, number>();
  for (const f of rest.faces()) sizes[islandOf[f]]++;
  for (const f of rest.faces()) {
    const [was, now] = [before[f], islandOf[f]];
    if (sizes[now] > (largest.has(was) ? sizes[largest.get(was)!] : 0)) largest.set(was, now);
  }
  const most = Math.max(FEW_CUT_OFF, SHARE_CUT_OFF * faces.length);
  return [...faces, ...[...rest.faces()].filter((f) => sizes[islandOf[f]] <= most && largest.get(before[f]) !== islandOf[f])];
}

/** Faces grown by a ring, and the ring taken off again: what is narrow between them stays in (closing, Serra 1982). */
function closedOver(cage: Cage, faces: readonly number[]): number[] {
  const touching = (f: number) => cage.faceVertices(f).flatMap((v) => cage.spokes(v).flatMap((h) => (cage.face[h] === NONE ? [] : [cage.face[h]])));
  const grown = new Set(faces.flatMap(touching));
  const own = new Set(faces);
  return [...faces, ...[...grown].filter((f) => !own.has(f) && touching(f).every((g) => grown.has(g)))];
}

/** Middles of faces: where surface is to be covered again once they are taken out. */
export const middlesOf = (cage: Cage, faces: readonly number[]): Triple[] => faces.map((f) => faceMiddle(cage, f));
