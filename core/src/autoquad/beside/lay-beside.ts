import { scaledJacobian } from '../../check/quad-quality.ts';
import { Cage } from '../../mesh/cage.ts';
import { CageError } from '../../mesh/half-edges.ts';
import { faceMiddle } from '../../mesh/normals.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { mean, type Triple } from '../../numeric/vectors.ts';
import { triangleNormals } from '../../reference/reference.ts';
import { surfacePoint, TriangleBvh } from '../../reference/triangle-bvh.ts';
import { onward, silent, type TaskReport } from '../../task/steps.ts';
import { laidQuads, withBoxes } from '../auto-quads.ts';
import { STRAIGHT } from '../base/limits.ts';
import { AutoQuadsError, FEWEST_QUADS, forShare, wantedSize, type AutoQuadsOptions } from '../base/options.ts';
import { featureLinesOf, withFeatures } from '../lines/features.ts';
import { TWISTED } from '../quads/straighten-quads.ts';
import { BareSurface, splitNearOpen } from './bare-part.ts';
import { reachOf, pickedPieces } from './bare-pieces.ts';
import { fillLeft, fillPockets } from './fill-left.ts';
import { apart, halvesOf, joinAlong, rimsOf, type Joined, type VertexRim } from './join-along.ts';
import { ownBorderOf, contoursOf, seamGuides, lengthRound } from './seam-guides.ts';
import { type LaidBeside, type Attempted, seamMended, turnedBack, shapeOf, type Job, settleSeam, fitted } from './seam.ts';

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

const isFolded = ({ longest, ofOpen }: Attempted, edge: number): boolean => longest * ofOpen > FARTHEST * edge;

const leftOver = ({ borders, triangles }: Attempted): number => borders + triangles;

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
    throw new AutoQuadsError('No uncovered area there has room for a row of quads: delete more faces, or lay smaller quads.');
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

/** Middles of faces: where surface is to be covered again once they are taken out. */
export const middlesOf = (cage: Cage, faces: readonly number[]): Triple[] => faces.map((f) => faceMiddle(cage, f));
