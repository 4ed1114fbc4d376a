import { boundsOf, pickedPoints, uniformMesh, type Bounds, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { bordersOf, piecesOf } from '../base/mesh-pieces.ts';
import { AutoQuadsError, wantedSize, type AutoQuadsOptions } from '../base/options.ts';
import { after, WorkingMesh } from '../base/working-mesh.ts';
import { lengthOf } from '../lines/line-pieces.ts';
import { sumOver } from './surface.ts';

/** A surface that was looked through: triangles with neighbours, and its islands where there are several. */
export interface Survey {
  mesh: PolygonMesh;
  dense: WorkingMesh;
  /** polygon of each triangle */
  faceOf: ArrayLike<number>;
  area: number;
  islands: { members: number[]; area: number; bounds: Bounds }[];
}

/** A surface that quads can be laid over, the islands that are too small for quads, and how many holes were and are closed. */
export interface SoundInput extends Triangles {
  size: number;
  target: number;
  small: Bounds[];
  closed: number;
}

type Triangles = Pick<Survey, 'mesh' | 'dense' | 'faceOf'>;

/** Triangles beyond which a browser's memory would not suffice: about 1 kB each. */
const MOST_TRIANGLES = 6e6;
/** Islands with less area than so many quads, or that measure less than so many quads across, are too small. */
const LEAST_AREA = 8;
const LEAST_ACROSS = 2;
/** Holes that are less than so many quads round are closed. */
const LEAST_ROUND = 3;

/**
 * Looks a surface through before quads are laid over it.
 * @throws AutoQuadsError naming what was found, where, and what to do
 */
export function surveyed(mesh: PolygonMesh): Survey {
  const lost = mesh.positions.findIndex((x) => !Number.isFinite(x));
  if (lost >= 0)
    throw new AutoQuadsError(`Vertex ${Math.floor(lost / 3)} has no finite place: bring the file in again, which removes such vertices.`);
  const { triangles, faceOf } = triangulate(mesh);
  if (triangles.length === 0) throw new AutoQuadsError('There are no faces to lay quads over.');
  if (triangles.length > 3 * MOST_TRIANGLES)
    throw new AutoQuadsError(
      `The surface has ${(triangles.length / 3).toLocaleString('en')} triangles; up to ${MOST_TRIANGLES.toLocaleString('en')} fit into memory: thin it out first.`
    );
  const dense = new WorkingMesh(mesh.positions, triangles);
  refuseUnlinked(dense);
  refuseTouching(dense);
  const area = sumOver(dense, (t) => dense.area(t));
  if (!(area > 1e-290)) throw new AutoQuadsError('The surface has no area: nothing can be laid over it.');
  const pieces = piecesOf(dense);
  if (pieces.length === 1) return { mesh, dense, faceOf, area, islands: [] };
  const islands = pieces.map((members) => ({
    members,
    area: members.reduce((sum, t) => sum + dense.area(t), 0),
    bounds: boundsOfTriangles(dense, members)
  }));
  return { mesh, dense, faceOf, area, islands };
}

/**
 * What of a surface is laid with quads of the size asked for.
 * @throws AutoQuadsError where nothing is left
 */
export function soundInput({ mesh, dense, faceOf, area, islands }: Survey, options: AutoQuadsOptions): SoundInput {
  let pieces = islands;
  let { size, target } = wantedSize(options, area);
  for (let round = 0; round < 5; round++) {
    const kept = pieces.filter(({ area, bounds }) => area >= LEAST_AREA * size * size && bounds.diagonal >= LEAST_ACROSS * size);
    if (kept.length === pieces.length) break;
    pieces = kept;
    if (kept.length === 0) break;
    ({ size, target } = wantedSize(options, total(kept)));
  }
  const closedUp = (part: Triangles) => (options.keepHoles ? { ...part, closed: 0 } : withoutPinholes(part, LEAST_ROUND * size));
  if (pieces.length === islands.length) return { ...closedUp({ mesh, dense, faceOf }), size, target, small: [] };
  if (pieces.length === 0)
    throw new AutoQuadsError(
      `All ${islands.length.toLocaleString('en')} islands are too small for quads of ${size.toPrecision(3)} mm: ask for more or smaller quads.`
    );
  const chosen = new Set(pieces);
  const small = islands.filter((piece) => !chosen.has(piece)).map(({ bounds }) => bounds);
  const part = ofTriangles(
    mesh,
    dense,
    faceOf,
    pieces.flatMap(({ members }) => members)
  );
  return { ...closedUp(part), size, target, small };
}

/** Holes with a border shorter than `least` get a vertex in their middle and triangles round it, or one triangle where they have three sides. */
function withoutPinholes(part: Triangles, least: number): Triangles & { closed: number } {
  const { dense } = part;
  const loops = bordersOf(dense).filter((loop) => lengthOf(dense, loop) < least);
  if (loops.length === 0) return { ...part, closed: 0 };
  const whole = ofTriangles(part.mesh, dense, part.faceOf, [...Array(dense.triangles).keys()]);
  const positions = [...whole.mesh.positions];
  const faces = [...whole.mesh.faceVertices];
  const regions = whole.mesh.faceRegion && [...whole.mesh.faceRegion];
  // the same triangles in the same order, with vertices that no face uses left out
  const { corner } = whole.dense;
  for (const loop of loops) {
    const round = loop.map((h) => corner[h]);
    const middle = positions.length / 3;
    if (round.length > 3) positions.push(...[0, 1, 2].map((k) => round.reduce((sum, v) => sum + positions[3 * v + k], 0) / round.length));
    // a border runs against the faces that are to lie beyond it
    const filled = round.length === 3 ? [[round[2], round[1], round[0]]] : round.map((v, i) => [round[(i + 1) % round.length], v, middle]);
    for (const face of filled) faces.push(...face);
    if (regions) for (let i = 0; i < filled.length; i++) regions.push(regions[Math.floor(loop[0] / 3)]);
  }
  const mesh: PolygonMesh = { ...whole.mesh, ...uniformMesh(Float64Array.from(positions), Int32Array.from(faces), 3) };
  if (regions) mesh.faceRegion = Int32Array.from(regions);
  return {
    mesh,
    dense: new WorkingMesh(mesh.positions, mesh.faceVertices),
    faceOf: Int32Array.from({ length: faces.length / 3 }, (_, i) => i),
    closed: loops.length
  };
}

const total = (pieces: readonly { area: number }[]): number => pieces.reduce((sum, { area }) => sum + area, 0);

/** An edge with more than two faces, or whose faces are turned against each other, has sides that found no partner. */
function refuseUnlinked(dense: WorkingMesh): void {
  const open = new Map<string, number>();
  for (let h = 0; h < 3 * dense.triangles; h++) {
    if (dense.opposite[h] >= 0) continue;
    const [v, w] = [dense.corner[h], dense.corner[after(h)]];
    const key = v < w ? `${v} ${w}` : `${w} ${v}`;
    if (!open.has(key)) {
      open.set(key, h);
      continue;
    }
    throw new AutoQuadsError(
      `At ${placeInWords(dense, v)} faces are turned against each other, or more than two meet in an edge; a surface with one side only cannot be laid with quads. Bring it in anew, which cuts it there.`
    );
  }
}

const placeInWords = (dense: WorkingMesh, v: number): string =>
  dense
    .point(v)
    .map((x) => x.toPrecision(4))
    .join(', ');

/** Where parts touch in a single vertex, turning round it does not come past all its triangles. */
function refuseTouching(dense: WorkingMesh): void {
  const around = new Int32Array(dense.vertices);
  for (const v of dense.corner) around[v]++;
  const spokes: number[] = [];
  const touching = around.findIndex((count, v) => count > 0 && dense.spokes(v, spokes).length < count);
  if (touching < 0) return;
  throw new AutoQuadsError(
    `At ${placeInWords(dense, touching)} parts of the surface touch in a single vertex only. Bring it in anew, which cuts it there.`
  );
}

function boundsOfTriangles(dense: WorkingMesh, members: readonly number[]): Bounds {
  const vertices = members.flatMap((t) => [dense.corner[3 * t], dense.corner[3 * t + 1], dense.corner[3 * t + 2]]);
  return boundsOf(pickedPoints(dense.positions, vertices));
}

/** Some triangles alone, with the creases and regions on them. */
function ofTriangles(mesh: PolygonMesh, dense: WorkingMesh, faceOf: ArrayLike<number>, members: readonly number[]) {
  const { mesh: part, placeOf } = dense.alone(members);
  const { creaseEdges, creaseSharpness, faceRegion, regionNames } = mesh;
  if (faceRegion) Object.assign(part, { faceRegion: Int32Array.from(members, (t) => faceRegion[faceOf[t]]), regionNames });
  if (creaseEdges && creaseSharpness) {
    const own = [...creaseSharpness.keys()].filter((i) => placeOf.has(creaseEdges[2 * i]) && placeOf.has(creaseEdges[2 * i + 1]));
    part.creaseEdges = Int32Array.from(own.flatMap((i) => [creaseEdges[2 * i], creaseEdges[2 * i + 1]].map((v) => placeOf.get(v)!)));
    part.creaseSharpness = Float64Array.from(own, (i) => creaseSharpness[i]);
  }
  return { mesh: part, dense: new WorkingMesh(part.positions, part.faceVertices), faceOf: Int32Array.from(members, (_, i) => i) };
}

/** Boxes of six quads in place of what is too small for more; flat ones get a thickness of a tenth. */
export function boxesFor(small: readonly Bounds[]): { positions: number[]; quads: number[] } {
  const positions: number[] = [];
  const quads: number[] = [];
  for (const { min, max, diagonal } of small) {
    const first = positions.length / 3;
    const [low, high] = [-1, 1].map((side) =>
      min.map((x, k) => {
        const half = Math.max((max[k] - x) / 2, 0.05 * diagonal);
        return (x + max[k]) / 2 + side * half;
      })
    );
    for (let i = 0; i < 8; i++) positions.push(...[0, 1, 2].map((k) => ((i >> k) & 1 ? high[k] : low[k])));
    for (const corners of [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 4, 6, 2],
      [1, 3, 7, 5]
    ])
      quads.push(...corners.map((c) => first + c));
  }
  return { positions, quads };
}
