import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { sortInSpace } from '../../numeric/space-order.ts';
import { length, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { lookingAlong, surfacePoint, type TriangleBvh } from '../../reference/triangle-bvh.ts';
import { STAYS_SHARP, type LevelTopology } from '../../subdivide/level-topology.ts';
import { Subdivision } from '../../subdivide/subdivision.ts';
import { transposed, type WeightRows } from '../../subdivide/weight-rows.ts';
import { type MirroredPlaces } from '../symmetry/mirrored-places.ts';
import { normalsAtPlaces } from './place-normals.ts';
import { QuadsRound } from '../quads/quads-round.ts';
import { missedBySmooth } from './reach-tips.ts';
import { type FeatureLines } from '../base/quad-list.ts';
import { slideVertices } from '../quads/slide-vertices.ts';

const ROUNDS = 10;
/** A vertex that would go less far than this share of an edge is there, and so is a place that has moved by less. */
const DONE = 1e-3;
/** How far vertices go in the first rounds and in the later ones, against what their places are off in the mean: others have a share in those. */
const [FIRST_ROUNDS, OVER] = [2, 1.5];
/** Quads with a shape below this must not get poorer, where nothing else is asked for. */
const POOR = 0.8;
/** The same of vertices that are to reach an end of the surface, at last. */
const POOR_AT_TIPS = 0.6;
/** Vertices reach for such an end that have at least this share in the place that is to go there. */
const SHARE_AT_TIPS = 0.2;
/** Where fewer than this share of the vertices have moved, only their places are brought up to date. */
const FEW = 0.05;
/** Cosine beyond which a point of the surface belongs to another side. */
const LOOKS_AWAY = 0.25;
/** Times that ends which the smooth surface passes by are looked for and reached. */
const MOST_REACHES = 6;
/** Times that vertices slide to straighten quads, rounds of fitting after each and at the end, and the shape below which quads must not get poorer then. */
const [MOST_SLIDES, ROUNDS_AFTER_EACH, ROUNDS_AT_END, STRAIGHT] = [7, 1, 2, 0.83];

/** What else is asked of a fit. */
interface FitWishes {
  /** 1 by vertex that stays where it is */
  fixed?: Uint8Array;
  /** shape of quads that must not get poorer */
  poor?: number;
  /** the mesh's vertices, where some are images of others: these are fitted by what they follow */
  mirrored?: MirroredPlaces;
}

/** What a place of the smooth surface is on. */
const [ON_SURFACE, ON_BORDER, ON_SHARP] = [0, 1, 2];

/**
 * Moves the vertices of quads so that their smooth surface lies on another one: places of its first level, a vertex, edge and face each, are
 * looked at, and those on borders and creases that stay sharp belong on its lines. In the mean of squares they come near, so that the smooth
 * surface lies about as far beyond as behind; a vertex goes by the weighted mean of what its places are off (SIRT, Gilbert 1972), less far
 * or not at all where a quad's shape would suffer.
 */
export class LimitFit {
  /** of the quads, one level and its limit */
  readonly subdivision: Subdivision;
  /** weights of the places over the vertices */
  private readonly rows: WeightRows;
  /** ON_SURFACE, ON_BORDER or ON_SHARP by place; the first are the vertices' */
  private readonly kind: Uint8Array;
  private readonly quads: QuadsRound;
  /** length of an edge at each vertex */
  private readonly edge: Float64Array;
  /** by vertex the places that it has a share in */
  private readonly users: WeightRows;
  /** 1 by place that is looked at: those that do not depend on images of vertices alone */
  private readonly isLooked: Uint8Array;
  /** the same places, sorted in space when they are first looked at */
  private readonly looked: Int32Array;
  private readonly normalAt: ReturnType<typeof normalsAtPlaces>;
  /** places of the smooth surface; nothing before they are first looked at */
  private places?: Float64Array;
  /** places whose goals are others than when they were looked at */
  private newGoals: number[] = [];
  /** by place where it was when it was looked at, what it was off, and the triangle that it belongs to */
  private readonly seenAt: Float64Array;
  private readonly off: Float64Array;
  private readonly found: Int32Array;
  /** by vertex the weighted sum of what its places are off, and their weights; 1 in `due` where these are others now */
  private readonly sum: Float64Array;
  private readonly weights: Float64Array;
  private readonly due: Uint8Array;
  /** by place where it is to go instead of to the nearest place of the surface, and how much that counts */
  private readonly goals = new Map<number, { at: Triple; weight: number }>();
  /** shape below which quads at ends that are reached for must not get poorer: less each time */
  private poorAtTips = POOR;
  /** the same of other quads */
  private poor: number;
  private readonly point = surfacePoint();

  /**
   * @param mesh quads, with their creases; its positions change
   * @param normals unit normals by triangle of `surface`
   */
  constructor(
    private readonly mesh: PolygonMesh,
    private readonly surface: TriangleBvh,
    private readonly normals: Float64Array,
    private readonly lines: FeatureLines,
    private readonly wishes: FitWishes = {}
  ) {
    this.poor = wishes.poor ?? POOR;
    this.subdivision = new Subdivision(mesh, { levels: 1, limit: true });
    this.rows = this.subdivision.combinedRows();
    this.kind = placeKinds(this.subdivision.levels[0], this.rows.start.length - 1);
    this.quads = new QuadsRound(mesh, wishes.mirrored);
    this.edge = edgeLengths(mesh);
    const { start, index } = this.rows;
    const leads = (s: number) => !wishes.mirrored || index.subarray(start[s], start[s + 1]).some((v) => !wishes.mirrored!.isImage(v));
    this.isLooked = this.kind.map((_, s) => (leads(s) ? 1 : 0));
    this.looked = Int32Array.from([...this.kind.keys()].filter((s) => this.isLooked[s] === 1));
    const vertices = mesh.positions.length / 3;
    this.users = transposed(this.rows, vertices);
    this.normalAt = normalsAtPlaces(this.subdivision.last);
    this.sum = new Float64Array(3 * vertices);
    this.weights = new Float64Array(vertices);
    this.due = new Uint8Array(vertices);
    this.seenAt = new Float64Array(3 * this.kind.length).fill(NaN);
    this.off = new Float64Array(3 * this.kind.length);
    this.found = new Int32Array(this.kind.length).fill(-1);
  }

  run(rounds = ROUNDS): void {
    for (let round = 0; round < rounds; round++) {
      this.look();
      if (this.move(round < FIRST_ROUNDS ? OVER : 1) === 0) return;
    }
  }

  /**
   * Ends that the smooth surface passes by are reached for, those most that are missed again.
   * @param points of the surface, x, y, z each
   * @param size of a quad's edge
   */
  reach(points: Float64Array, size: number): void {
    const near = new Int32Array(points.length / 3).fill(-1);
    for (let time = 0; time < MOST_REACHES; time++) {
      const goals = missedBySmooth(this.subdivision, this.mesh.positions, points, size, near);
      const missed = [...goals].filter(([place]) => this.kind[place] === ON_SURFACE);
      if (missed.length === 0) return;
      for (const [place, at] of missed) {
        this.goals.set(place, { at, weight: 2 * (this.goals.get(place)?.weight ?? 0.5) });
        this.newGoals.push(place);
      }
      this.poorAtTips = POOR + ((POOR_AT_TIPS - POOR) * (time + 1)) / MOST_REACHES;
      this.run();
    }
  }

  /** Vertices slide along the surface to where quads are better shaped, and are fitted again, never so far that quads get poor. */
  straighten(): void {
    const { mesh, quads, edge, kind, wishes } = this;
    this.poor = this.poorAtTips = STRAIGHT;
    const mayMove = (v: number) => kind[v] === ON_SURFACE && wishes.fixed?.[v] !== 1 && !wishes.mirrored?.isImage(v);
    const sliding = { quads, edge, stayed: new Int32Array(edge.length).fill(-1), poor: STRAIGHT, mayMove };
    for (let time = 0; time < MOST_SLIDES && slideVertices(mesh, sliding) > 0; time++) this.run(ROUNDS_AFTER_EACH);
    this.run(ROUNDS_AT_END);
  }

  /** Finds where places that have moved belong. */
  private look(): void {
    const { rows, seenAt, off, goals, edge, point } = this;
    const changed = this.changedPlaces();
    const places = this.places!;
    const lookAt = (s: number) => {
      const at: Triple = [places[3 * s], places[3 * s + 1], places[3 * s + 2]];
      seenAt.set(at, 3 * s);
      const to = goals.get(s)?.at ?? this.nearest(s, at, this.normalAt(s, places));
      off.set(to ? subtract(to, at) : [0, 0, 0], 3 * s);
      for (let k = rows.start[s]; k < rows.start[s + 1]; k++) this.due[rows.index[k]] = 1;
    };
    for (const s of changed) {
      const x = places[3 * s] - seenAt[3 * s];
      const y = places[3 * s + 1] - seenAt[3 * s + 1];
      const z = places[3 * s + 2] - seenAt[3 * s + 2];
      const still = DONE * edge[rows.index[rows.start[s]]];
      // what has not been looked at is nowhere
      if (!(x * x + y * y + z * z <= still * still)) lookAt(s);
    }
    for (const s of this.newGoals.splice(0)) lookAt(s);
    point.triangle = -1;
  }

  /** Brings the places up to date. @returns those to be looked at that may have moved */
  private changedPlaces(): Int32Array {
    const { subdivision, looked, edge } = this;
    const moved = this.quads.takeMoved();
    if (this.places && moved.length < FEW * edge.length) return subdivision.update(moved).filter((s) => this.isLooked[s] === 1);
    const isFirst = this.places === undefined;
    const places = (this.places = subdivision.evaluate(this.mesh.positions));
    // one after the other through space, so that what one look-up has read is at hand for the next
    if (isFirst)
      sortInSpace(
        looked,
        [0, 1, 2].map((k) => (s) => places[3 * s + k])
      );
    return looked;
  }

  private nearest(s: number, at: Triple, normal: Triple): Triple | undefined {
    const { surface, normals, lines, point, found, kind, rows } = this;
    const line = kind[s] === ON_BORDER ? lines.border : kind[s] === ON_SHARP ? lines.sharp : undefined;
    if (line) line.closest(...at, point);
    else {
      // what a vertex nearby has found is not far
      const guess = found[s] < 0 ? found[rows.index[rows.start[s]]] : found[s];
      surface.closest(...at, point, Infinity, lookingAlong(normals, unit(normal), LOOKS_AWAY), guess);
      found[s] = point.triangle;
    }
    return point.triangle < 0 ? undefined : [point.x, point.y, point.z];
  }

  /** @returns how many vertices were moved */
  private move(over: number): number {
    const { edge, wishes, poor, sum, weights, due } = this;
    const { fixed, mirrored } = wishes;
    let moved = 0;
    for (let v = 0; v < weights.length; v++) {
      if (fixed?.[v] === 1 || mirrored?.isImage(v) || this.quads.at[v].length === 0) continue;
      if (due[v] === 1) this.sumUp(v);
      if (weights[v] <= 0) continue;
      const by = scaled([sum[3 * v], sum[3 * v + 1], sum[3 * v + 2]], over / weights[v]);
      if (length(by) <= DONE * edge[v]) continue;
      if (this.moveSoundly(v, by, this.reaches(v) ? this.poorAtTips : poor)) moved++;
    }
    return moved;
  }

  /** Sums up what the places of a vertex are off. */
  private sumUp(v: number): void {
    const { rows, users, kind, off, goals, sum, weights } = this;
    const isCorner = rows.start[v + 1] - rows.start[v] === 1;
    const isFree = kind[v] === ON_SURFACE;
    const hasGoals = goals.size > 0;
    let x = 0;
    let y = 0;
    let z = 0;
    let all = 0;
    for (let k = users.start[v]; k < users.start[v + 1]; k++) {
      const s = users.index[k];
      // lines are fitted on their own, and corners
      if (this.isLooked[s] === 0 || isFree !== (kind[s] === ON_SURFACE) || (!isFree && isCorner && s !== v)) continue;
      const w = hasGoals ? users.weight[k] * (goals.get(s)?.weight ?? 1) : users.weight[k];
      x += w * off[3 * s];
      y += w * off[3 * s + 1];
      z += w * off[3 * s + 2];
      all += w;
    }
    sum[3 * v] = x;
    sum[3 * v + 1] = y;
    sum[3 * v + 2] = z;
    weights[v] = all;
    this.due[v] = 0;
  }

  /** Whether a vertex has a share in a place that is to go to an end of the surface. */
  private reaches(v: number): boolean {
    const { users, goals, kind } = this;
    if (goals.size === 0 || kind[v] !== ON_SURFACE) return false;
    for (let k = users.start[v]; k < users.start[v + 1]; k++) if (users.weight[k] >= SHARE_AT_TIPS && goals.has(users.index[k])) return true;
    return false;
  }

  /** Moves a vertex, or by a third of the way, where no quad round it gets poorer than is allowed or turns over. */
  private moveSoundly(v: number, by: Triple, poor: number): boolean {
    const { quads } = this;
    const { positions } = this.mesh;
    const here: Triple = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
    const least = Math.min(poor, ...quads.lookAt(v).shapes);
    const isSound = () => quads.at[v].every((_, i) => quads.shapeNow(v, i) >= least);
    for (const share of [1, 1 / 3]) {
      quads.put(v, here[0] + share * by[0], here[1] + share * by[1], here[2] + share * by[2]);
      if (!isSound()) continue;
      quads.keep(v);
      return true;
    }
    quads.put(v, here[0], here[1], here[2]);
    return false;
  }
}

/** By vertex the length of an edge at it. */
function edgeLengths({ positions: p, faceVertices }: PolygonMesh): Float64Array {
  const lengths = new Float64Array(p.length / 3);
  for (let i = 0; i < faceVertices.length; i++) {
    const [v, w] = [faceVertices[i], faceVertices[(i & ~3) + ((i + 1) & 3)]];
    lengths[v] = Math.hypot(p[3 * v] - p[3 * w], p[3 * v + 1] - p[3 * w + 1], p[3 * v + 2] - p[3 * w + 2]);
  }
  return lengths;
}

/** What places of the first level are on: those of vertices, then those of edges; the rest are of faces. */
function placeKinds(cage: LevelTopology, places: number): Uint8Array {
  const kind = new Uint8Array(places);
  const mark = (e: number, on: number) => {
    for (const s of [cage.edgeVertices[2 * e], cage.edgeVertices[2 * e + 1], cage.vertices + e]) kind[s] = on;
  };
  for (let e = 0; e < cage.edges; e++) if (cage.edgeSharpness[e] >= STAYS_SHARP) mark(e, ON_SHARP);
  for (let e = 0; e < cage.edges; e++) if (cage.edgeFaces[2 * e + 1] < 0) mark(e, ON_BORDER);
  return kind;
}
