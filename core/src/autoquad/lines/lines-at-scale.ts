import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { triangleNormals } from '../../reference/reference.ts';
import { between, cross, dot, length, subtract, type Triple } from '../../numeric/vectors.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { lengthOf, piecesOfLines, type Stretch, stretchesOf, verticesOfEdge } from './line-pieces.ts';

/** What hangs together is a line where it spans so many quads, or closes. */
const LEAST_EXTENT = 4;
/** Normals of a side are means over what lies within so many quads of an edge, and so many triangles of it. */
const [AROUND, MOST_AROUND] = [0.75, 400];
/** Degrees by which they may be off those before and after on the calmer side, in the mean, ... */
const JITTER = 2;
/** ... or so many times the degrees that the line is folded by, where that is more: noise turns what is flat as far. */
const JITTER_OF_FOLD = 0.045;
/** Degrees up to which lines are as calm as those of something constructed, and which facets of its curved sides are off at most. */
const [CALM, JITTER_OF_FACETS] = [1, 10];
/** The way as the crow flies over the length along a line, in windows of so many quads, in the mean: less is a zigzag. */
const [STRAIGHT, WINDOW] = [0.8, 2];
/** What spans fewer quads is too short to be judged by itself; so many edges of it may lead from line to line. */
const [SHORT, FEW] = [2, 12];
/** Degrees by which an edge turns at most into the one it goes on in. */
const MOST_TURN = 50;
/** Share of the angle asked for that a line is folded by at least, where normals are means. */
const FOLD_LEFT = 0.5;

/**
 * Of sharp edges those that are lines at the scale of quads. A stretch is none where it zigzags, where the two sides are hardly turned
 * against each other, or where the normals beside it jump from edge to edge: along a real line those of one side at least go on smoothly,
 * be it straight or curved. What is left is a line where it spans some quads or closes.
 * @param sharp half-edges, one of each edge
 * @param size of quads, mm
 * @param degrees from which on edges are sharp
 * @returns the lines' edges, and the length of the others, mm
 */
export function linesAtScale(mesh: WorkingMesh, sharp: readonly number[], size: number, degrees: number): { lines: number[]; noise: number } {
  if (sharp.length === 0) return { lines: [], noise: 0 };
  const sides = new Sides(mesh, sharp, size);
  const stretches = stretchesOf(mesh, sharp).map((stretch): Judged => ({ ...stretch, ...coherenceOf(mesh, sides, stretch) }));
  const calm = isCalm(stretches);
  const judged = stretches.map((stretch) => ({ ...stretch, verdict: verdictOn(mesh, stretch, { size, degrees, calm }) }));
  const of = (verdict: Verdict) => judged.flatMap((stretch) => (stretch.verdict === verdict ? stretch.edges : []));
  const coherent = [...of('line'), ...rescued(mesh, of('line'), of('too short'), calm)];
  const lines = piecesOfLines(mesh, coherent)
    .filter((piece) => closes(mesh, piece) || extentOf(mesh, piece) >= LEAST_EXTENT * size)
    .flat();
  return { lines, noise: lengthOf(mesh, sharp) - lengthOf(mesh, lines) };
}

/** The diagonal of the box round some edges, mm. */
const extentOf = (mesh: WorkingMesh, edges: readonly number[]): number => boundsOf(edges.flatMap((h) => mesh.ends(h).flat())).diagonal;

/** Whether some edges that hang together run round somewhere. */
const closes = (mesh: WorkingMesh, edges: readonly number[]): boolean => edges.length >= new Set(edges.flatMap((h) => verticesOfEdge(mesh, h))).size;

/** The vertices of a stretch in order; of a closed one the first is the last once more. */
function inOrder(mesh: WorkingMesh, { edges, ends }: Stretch): number[] {
  const [first] = edges;
  const start = ends.length > 0 ? ends[0] : mesh.corner[first];
  const order = [start];
  for (const h of edges) {
    const [a, b] = verticesOfEdge(mesh, h);
    order.push(a === order.at(-1) ? b : a);
  }
  return order;
}

/** A stretch, by how many degrees it is folded, how far normals of its calmer side are off those beside them, and how many tell. */
interface Judged extends Stretch {
  fold: number;
  off: number;
  normals: number;
}

/** Whether most of what can be judged runs as calmly as lines of something constructed do: then what does not is facets of curved sides. */
function isCalm(stretches: readonly Judged[]): boolean {
  const long = (list: readonly Judged[]) => list.reduce((sum, stretch) => sum + stretch.long, 0);
  const told = stretches.filter(({ normals, edges, off }) => normals > 2 || (edges.length === 1 && off === 0));
  return long(told.filter(({ off }) => off <= CALM)) >= 0.5 * long(told);
}

/** 'too short' is what cannot be judged by itself. */
type Verdict = 'line' | 'noise' | 'too short';

function verdictOn(mesh: WorkingMesh, stretch: Judged, { size, degrees, calm }: { size: number; degrees: number; calm: boolean }): Verdict {
  const { fold, off, normals, edges } = stretch;
  const isShort = edges.length < 3 && extentOf(mesh, edges) < SHORT * size;
  const most = calm ? JITTER_OF_FACETS : Math.max(JITTER, JITTER_OF_FOLD * fold);
  // what is as calm as can be may have corners
  const zigzags = off > CALM && !isStraight(mesh, stretch, size);
  const isNoise = zigzags || off > most || fold < FOLD_LEFT * degrees;
  return isShort && (isNoise || normals < 3) ? 'too short' : isNoise ? 'noise' : 'line';
}

/** Of short edges those that are rims by themselves, or lead from line to line; networks of them are noise. @param calm those that fade out as well */
function rescued(mesh: WorkingMesh, lines: readonly number[], short: readonly number[], calm: boolean): number[] {
  const onLines = new Set(lines.flatMap((h) => verticesOfEdge(mesh, h)));
  return piecesOfLines(mesh, short)
    .filter((piece) => {
      const vertices = new Set(piece.flatMap((h) => verticesOfEdge(mesh, h)));
      const met = [...vertices].filter((v) => onLines.has(v)).length;
      return vertices.size === piece.length || (met > (calm ? 0 : 1) && piece.length <= FEW);
    })
    .flat();
}

function isStraight(mesh: WorkingMesh, stretch: Stretch, size: number): boolean {
  const places = inOrder(mesh, stretch).map((v) => mesh.point(v));
  const reached = [0];
  places.slice(1).forEach((p, i) => reached.push(reached[i] + length(subtract(p, places[i]))));
  // windows as long as the stretch where that is shorter; a closed one as short is a rim
  const window = Math.min(WINDOW * size, reached.at(-1)! / (stretch.ends.length > 0 ? 1 : 4));
  let [sum, windows] = [0, 0];
  for (let i = 0, j = 0; i < places.length; i++) {
    while (j < places.length - 1 && reached[j] - reached[i] < window) j++;
    const way = reached[j] - reached[i];
    if (way < 0.95 * window || way === 0) break;
    sum += length(subtract(places[j], places[i])) / way;
    windows++;
  }
  return windows === 0 || sum / windows >= STRAIGHT;
}

/** By how many degrees a stretch is folded, how far normals of its calmer side are off those beside them, and how many tell. */
function coherenceOf(mesh: WorkingMesh, sides: Sides, stretch: Stretch): { fold: number; off: number; normals: number } {
  const order = inOrder(mesh, stretch);
  const along = stretch.edges.map((h, i): Way => ({ h, from: order[i], to: order[i + 1] }));
  const pairs = along.map((way) => sides.beside(way));
  const lengths = stretch.edges.map((h) => lengthOf(mesh, [h]));
  const fold = pairs.reduce((sum, [a, b], i) => sum + lengths[i] * inDegrees(a, b), 0) / lengths.reduce((a, b) => a + b, 0);
  // a short one is judged with what it goes on in beyond branches
  const beside = (way: Way | undefined) => (way ? [sides.beside(way)] : []);
  const whole = [...beside(sides.before(along[0])), ...pairs, ...beside(sides.after(along.at(-1)!))];
  return { fold, off: Math.min(jitter(whole.map(([a]) => a)), jitter(whole.map(([, b]) => b))), normals: whole.length };
}

const inDegrees = (a: Triple, b: Triple): number => (180 / Math.PI) * Math.atan2(length(cross(a, b)), dot(a, b));

/** How far directions are off the middle of those before and after, in the mean, degrees: steady turning is none. */
function jitter(normals: readonly Triple[]): number {
  if (normals.length < 3) return 0;
  let sum = 0;
  for (let i = 1; i < normals.length - 1; i++) {
    const [a, b] = [normals[i - 1], normals[i + 1]];
    sum += inDegrees(normals[i], [a[0] + b[0], a[1] + b[1], a[2] + b[2]]);
  }
  return sum / (normals.length - 2);
}

/** A sharp edge as it is gone along. */
interface Way {
  h: number;
  from: number;
  to: number;
}

/** Mean normals beside sharp edges, each of its own side alone, and what edges go on in. */
class Sides {
  private readonly normals: Float64Array;
  private readonly isSharp: Uint8Array;
  private readonly at = new Map<number, number[]>();

  constructor(
    private readonly mesh: WorkingMesh,
    sharp: readonly number[],
    private readonly size: number
  ) {
    this.normals = triangleNormals(mesh.positions, mesh.corner);
    this.isSharp = new Uint8Array(3 * mesh.triangles);
    for (const h of sharp) {
      this.isSharp[h] = this.isSharp[mesh.opposite[h]] = 1;
      for (const v of verticesOfEdge(mesh, h)) this.at.set(v, [...(this.at.get(v) ?? []), h]);
    }
  }

  /** The edge that an edge goes on in, straight ahead; nothing where there is none. */
  after({ h, from, to }: Way): Way | undefined {
    const { mesh } = this;
    const ahead = subtract(mesh.point(to), mesh.point(from));
    let [best, least]: [Way | undefined, number] = [undefined, MOST_TURN];
    for (const other of this.at.get(to)!) {
      if (other === h) continue;
      const [a, b] = verticesOfEdge(mesh, other);
      const way = { h: other, from: to, to: a === to ? b : a };
      const turn = inDegrees(ahead, subtract(mesh.point(way.to), mesh.point(to)));
      if (turn < least) [best, least] = [way, turn];
    }
    return best;
  }
  before({ h, from, to }: Way): Way | undefined {
    const way = this.after({ h, from: to, to: from });
    return way && { h: way.h, from: way.to, to: way.from };
  }

  /** Normals on the left and right of the way. */
  beside({ h, from }: Way): [Triple, Triple] {
    const [own, other] = [this.normal(h), this.normal(this.mesh.opposite[h])];
    return this.mesh.corner[h] === from ? [own, other] : [other, own];
  }

  /** Of the triangle of a half-edge and what hangs together with it near the edge's middle; no unit vector. */
  private normal(h: number): Triple {
    const { mesh, normals, isSharp, size } = this;
    const middle = between(...mesh.ends(h), 0.5);
    const around = new Set([Math.floor(h / 3)]);
    const sum: Triple = [0, 0, 0];
    for (const t of around) {
      const area = mesh.area(t);
      for (let k = 0; k < 3; k++) sum[k] += area * normals[3 * t + k];
      for (let side = 3 * t; side < 3 * t + 3 && around.size < MOST_AROUND; side++) {
        const g = mesh.opposite[side];
        if (g < 0 || isSharp[side]) continue;
        const beside = Math.floor(g / 3);
        if (!around.has(beside) && length(subtract(mesh.centre(beside), middle)) < AROUND * size) around.add(beside);
      }
    }
    return sum;
  }
}
