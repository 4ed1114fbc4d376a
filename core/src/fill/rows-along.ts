import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { replaceFaces } from '../mesh/replace-faces.ts';
import { PointGrid } from '../numeric/point-grid.ts';
import { add, areaVector, cross, dot, leastSine, length, mean, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';

export interface LaySettings {
  /** quads to lay; below 0 the other way, between two borders that face each other; 0: as many as fit */
  quads: number;
  /** mm within which a new corner becomes a border vertex that lies there; 0: a share of the edges' length */
  weld: number;
  /** puts new corners where they belong */
  put?: (p: Triple) => Triple;
}

export interface LaidAlong {
  faces: number[];
  /** middles of the edges across, after each quad that could be laid */
  rungs: Triple[];
  /** the same the other way, where there is one */
  back: Triple[];
  /** border vertices that new corners became */
  welded: number[];
  /** mm within which corners were welded */
  within: number;
}

/** An edge across the row that is being laid: quads go on from p to q with p on the right. */
interface Rung {
  p: number;
  q: number;
}

/** A new corner becomes a border vertex within this share of an edge's length. */
const WELD_SHARE = 0.4;
/** Cosine of the turn at which what is laid along counts as ended: 60 degrees. */
const CORNER = 0.5;
/** Least sine of a quad's corners below which no further one is laid. */
const THINNEST = 0.1;

/**
 * Lays quads in a row from two border edges. Where they share a vertex, the first is the row's beginning and it runs along the
 * border that the second lies on, its other side in the open; where they lie apart, a quad between them is the first, and the row
 * runs on between their borders. It ends at a corner of what it runs along, where it closes, or where a quad would be too thin.
 * Changes the cage.
 * @param first half-edge without a face, @param second likewise
 */
export function layAlong(cage: Cage, first: number, second: number, settings: LaySettings): LaidAlong {
  const row = new RowOfQuads(cage, settings, (cage.edgeLength(first >> 1) + cage.edgeLength(second >> 1)) / 2);
  const [a, b] = [cage.origin[first], cage.target(first)];
  const [c, d] = [cage.origin[second], cage.target(second)];
  const { quads } = settings;
  const along = (rung: Rung, rails: Rails, most: number) => row.run(rung, rails, most);
  let rungs: Triple[] = [];
  let back: Triple[] = [];
  if (b === c) rungs = along({ p: b, q: a }, { p: true, q: false }, quads || Infinity);
  else if (d === a) rungs = along({ p: b, q: a }, { p: false, q: true }, quads || Infinity);
  else if (row.lay([a, b, c, d])) {
    const [ahead, behind]: Rung[] = [
      { p: b, q: c },
      { p: d, q: a }
    ];
    rungs = [row.middle(ahead), ...(quads < 0 ? [] : along(ahead, BOTH, (quads || Infinity) - 1))];
    back = [row.middle(behind), ...(quads > 0 ? [] : along(behind, BOTH, (-quads || Infinity) - 1))];
  }
  const like = cage.face[first ^ 1];
  const faces = replaceFaces(cage, { gone: [], added: row.laid.map((corners) => ({ corners, like })) });
  return { faces, rungs, back, welded: row.welded, within: row.within };
}

/** Which sides of a row lie on borders already. */
interface Rails {
  p: boolean;
  q: boolean;
}
const BOTH: Rails = { p: true, q: true };

class RowOfQuads {
  readonly laid: number[][] = [];
  readonly welded: number[] = [];
  readonly within: number;
  /** vertices that corners are welded to, by place */
  private readonly borders: PointGrid;
  /** sides of laid quads, from corner to corner */
  private readonly sides = new Set<string>();

  constructor(
    private readonly cage: Cage,
    private readonly settings: LaySettings,
    edge: number
  ) {
    this.within = settings.weld || WELD_SHARE * edge;
    this.borders = new PointGrid(this.within);
    for (const v of cage.vertices()) if (cage.vertexEdge[v] !== NONE && cage.isBorderVertex(v)) this.borders.put(v, ...cage.position(v));
  }

  middle = ({ p, q }: Rung): Triple => mean([this.cage.position(p), this.cage.position(q)]);

  /** Puts a quad down, where all its sides are free and it is not too thin. */
  lay(corners: number[]): boolean {
    const { cage } = this;
    const keys = corners.map((v, i) => `${v} ${corners[(i + 1) % 4]}`);
    const free = (v: number, i: number) => {
      const h = cage.findHalfEdge(v, corners[(i + 1) % 4]);
      return (h === NONE || cage.face[h] === NONE) && !this.sides.has(keys[i]);
    };
    const places = corners.map((v) => cage.position(v));
    if (new Set(corners).size < 4 || !corners.every(free) || leastSine(places, unit(areaVector(places))) < THINNEST) return false;
    for (const key of keys) this.sides.add(key);
    this.laid.push(corners);
    return true;
  }

  /** Lays quads on from a rung. @returns the middles of the rungs after each */
  run(rung: Rung, rails: Rails, most: number): Triple[] {
    const rungs: Triple[] = [];
    let before: Triple | undefined;
    while (rungs.length < most) {
      const next = this.nextRung(rung, rails, before);
      if (!next || !this.lay([rung.p, next.rung.p, next.rung.q, rung.q])) break;
      if (next.welded !== undefined) this.welded.push(next.welded);
      before = next.way;
      rung = next.rung;
      rungs.push(this.middle(rung));
      if (next.last) break;
    }
    return rungs;
  }

  private nextRung({ p, q }: Rung, rails: Rails, before: Triple | undefined) {
    const { cage } = this;
    const ahead = (v: number) => this.borderAt(v, true);
    const behind = (v: number) => this.borderAt(v, false);
    if (rails.p && rails.q) {
      const [p2, q2] = [ahead(p), behind(q)];
      return p2 === NONE || q2 === NONE ? undefined : { rung: { p: p2, q: q2 }, last: false };
    }
    const on = rails.p ? ahead : behind;
    const [rail, open] = rails.p ? [p, q] : [q, p];
    const rail2 = on(rail);
    if (rail2 === NONE) return undefined;
    const way = unit(subtract(cage.position(rail2), cage.position(rail)));
    const rail3 = on(rail2);
    const further = rail3 === NONE ? way : unit(subtract(cage.position(rail3), cage.position(rail2)));
    const last = dot(way, further) < CORNER;
    const start = before ?? way;
    const end = last ? way : unit(add(way, further));
    const across = turned(subtract(cage.position(open), cage.position(rail)), start, end);
    const wished = add(cage.position(rail2), across);
    const place = this.settings.put?.(wished) ?? wished;
    const met = this.nearest(place, new Set([rail, open, rail2]));
    const open2 = met ?? cage.addVertex(...place);
    return { rung: rails.p ? { p: rail2, q: open2 } : { p: open2, q: rail2 }, last, way: end, welded: met };
  }

  /** The vertex before or after one along its border. */
  private borderAt(v: number, ahead: boolean): number {
    const { cage } = this;
    if (cage.vertexEdge[v] === NONE) return NONE;
    for (const h of cage.spokes(v)) {
      if (ahead && cage.face[h] === NONE) return cage.target(h);
      if (!ahead && cage.face[h ^ 1] === NONE) return cage.target(h);
    }
    return NONE;
  }

  /** The border vertex nearest to a place, within the distance. */
  private nearest(at: Triple, but: ReadonlySet<number>): number | undefined {
    const { cage } = this;
    let [best, least]: [number | undefined, number] = [undefined, this.within];
    this.borders.visitNear(...at, (v) => {
      if (but.has(v)) return;
      const far = length(subtract(cage.position(v), at));
      if (far < least || (far === least && v > (best ?? NONE))) [best, least] = [v, far];
    });
    return best;
  }
}

/** A vector turned as a direction turns into another one, the shortest way (Rodrigues). */
function turned(v: Triple, from: Triple, to: Triple): Triple {
  const axis = cross(from, to);
  const sine = length(axis);
  if (sine < 1e-9) return v;
  const [k, cosine] = [unit(axis), dot(from, to)];
  return add(add(scaled(v, cosine), scaled(cross(k, v), sine)), scaled(k, dot(k, v) * (1 - cosine)));
}
