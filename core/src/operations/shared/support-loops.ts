import { type Cage } from '../../mesh/cage.ts';
import { mergeFaces, splitEdge } from '../../mesh/euler-operators.ts';
import { edgeMarks, putEdgeMarks, type EdgeMarks } from '../../mesh/edge-marks.ts';
import { CageError, NONE } from '../../mesh/half-edges.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { quadrangulate } from '../../mesh/quadrangulate.ts';
import { replaceFaces, type NewFace } from '../../mesh/replace-faces.ts';
import { eulerCharacteristic, facesRound } from '../../mesh/topology.ts';
import { add, cross, dot, length, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';

/** Tag of vertices that were there before the loops, and are no part of one. */
const NO_LOOP = -2;

export interface BraceResult {
  cage: Cage;
  /** what the half-edges are now; squares at junctions cut them */
  halves: number[];
  /** edges that were too short for the width: the loops lie closer there */
  squeezed: number;
  /** faces at loops' ends that got a corner more */
  ngons: number;
  /** vertices of the loops */
  loopVertices: number[];
}

/** What lies round a vertex of braced edges. */
interface Junction {
  /** half-edges that leave it, counter-clockwise; the face of each lies between it and the next */
  spokes: number[];
  /** every edge is braced, on both sides, and its faces close round it: loops cross squarely instead of meeting on a mitre */
  square: boolean;
}

/**
 * Puts support loops beside edges, at a width in mm from them. Loops go round corners and junctions and turn round the ends
 * of the picked chains inside the faces there, all with quads: where two braced edges of one face meet they are mitred, where
 * every edge at a vertex is braced they cross. Vertices of the loops remember the vertex they belong to.
 * @param halves half-edges of the braced edges on whose faces loops are put
 */
export function putSupportLoops(cage: Cage, halves: readonly number[], width: number): BraceResult {
  return new Bracing(cage.clone(), new Set(halves), width).run();
}

class Bracing {
  private readonly braced: Set<number>;
  private readonly endsOf: Map<number, [number, number]>;
  private readonly junctions = new Map<number, Junction>();
  /** how far from the start of a half-edge its point lies, where it gets one */
  private readonly ways = new Map<number, number>();
  /** the point on an edge near the start of a half-edge */
  private readonly pointAt = new Map<number, number>();
  private readonly loopVertices: number[] = [];
  private squeezed = 0;
  private ngons = 0;

  constructor(
    private readonly cage: Cage,
    private readonly halves: ReadonlySet<number>,
    private readonly width: number
  ) {
    this.braced = new Set([...halves].map((h) => h >> 1));
    this.endsOf = new Map([...this.braced].map((e) => [e, [cage.origin[2 * e], cage.origin[2 * e + 1]]]));
  }

  run(): BraceResult {
    const { cage, halves, width } = this;
    completeTags(cage);
    const anchors = cage.layer('braceAnchor').data;
    for (const v of cage.vertices()) if (anchors[v] === -1) anchors[v] = NO_LOOP;
    for (const h of halves) for (const v of [cage.origin[h], cage.target(h)]) if (!this.junctions.has(v)) this.junctions.set(v, this.junctionAt(v));
    for (const [v, junction] of this.junctions) this.planPoints(v, junction);
    const faces = this.facesConcerned();
    const sides = faces.map((f) => cage.loopOf(cage.faceEdge[f]).map((h) => ({ h, v: cage.origin[h] })));
    this.placePoints();
    const added: NewFace[] = [];
    const spokes: [number, number][] = [];
    faces.forEach((f, i) => this.rebuildFace(f, sides[i], added, spokes));
    replaceFaces(cage, { gone: faces, added });
    const pieces = this.pieces();
    const tag = cage.layer('braced').data;
    for (const h of pieces) tag[h >> 1] = width;
    for (const [a, b] of spokes) cage.setValue('braceSpoke', cage.findHalfEdge(a, b) >> 1, 1);
    return { cage, halves: pieces, squeezed: this.squeezed, ngons: this.ngons, loopVertices: this.loopVertices };
  }

  private junctionAt(v: number): Junction {
    const { cage } = this;
    const border = cage.isBorderVertex(v);
    const first = border ? cage.previous(cage.vertexEdge[v]) ^ 1 : cage.vertexEdge[v];
    const spokes = [first];
    while (cage.face[spokes[spokes.length - 1]] !== NONE) {
      const next = cage.previous(spokes[spokes.length - 1]) ^ 1;
      if (next === first) break;
      spokes.push(next);
    }
    const square = !border && spokes.length > 2 && spokes.every((h) => this.halves.has(h) && this.halves.has(h ^ 1));
    return { spokes, square };
  }

  /** Which edges at a vertex get a point, and how far from it. */
  private planPoints(v: number, { spokes, square }: Junction): void {
    const { cage, halves } = this;
    const n = spokes.length;
    const closed = !cage.isBorderVertex(v);
    const direction = (h: number) => unit(subtract(cage.position(cage.target(h)), cage.position(v)));
    const angleTo = (h: number, k: number) => Math.acos(Math.max(-1, Math.min(1, dot(direction(h), direction(k)))));
    const away = (angle: number) => this.width / Math.max(0.5, angle > Math.PI / 2 + 0.3 ? 1 : Math.sin(angle));
    spokes.forEach((h, i) => {
      if (square) {
        const beside = [spokes[(i + 1) % n], spokes[(i + n - 1) % n]].map((k) => away(angleTo(h, k)));
        this.ways.set(h, (beside[0] + beside[1]) / 2);
        return;
      }
      if (this.braced.has(h >> 1)) return;
      const back = this.nearestBraced(spokes, i, -1, closed);
      const ahead = this.nearestBraced(spokes, i, 1, closed);
      const backActive = back !== undefined && halves.has(spokes[back]);
      const aheadActive = ahead !== undefined && halves.has(spokes[ahead] ^ 1);
      const nextTo = (k: number | undefined, by: number) => k !== undefined && (k + by + n) % n === i;
      // a loop on one side only does not turn round the end of its chain
      const wanted =
        (backActive && (aheadActive || ahead === undefined || nextTo(back, 1))) ||
        (aheadActive && (backActive || back === undefined || nextTo(ahead, -1)));
      if (!wanted) return;
      const angles = [
        backActive && nextTo(back, 1) ? away(angleTo(h, spokes[back!])) : 0,
        aheadActive && nextTo(ahead, -1) ? away(angleTo(h, spokes[ahead!])) : 0
      ];
      const given = angles.filter((x) => x > 0);
      this.ways.set(h, given.length > 0 ? given.reduce((a, b) => a + b, 0) / given.length : this.width);
    });
  }

  private nearestBraced(spokes: number[], i: number, by: number, closed: boolean): number | undefined {
    const n = spokes.length;
    for (let k = i + by, steps = 0; steps < n; k += by, steps++) {
      if (!closed && (k < 0 || k >= n)) return undefined;
      const at = (k + n * n) % n;
      if (this.braced.has(spokes[at] >> 1)) return at;
    }
    return undefined;
  }

  private facesConcerned(): number[] {
    const { cage } = this;
    const faces = new Set<number>();
    for (const h of this.halves) if (cage.face[h] !== NONE) faces.add(cage.face[h]);
    for (const h of this.ways.keys()) for (const k of [h, h ^ 1]) if (cage.face[k] !== NONE) faces.add(cage.face[k]);
    return [...faces];
  }

  /** Cuts the edges where their points lie; two on one edge share it. */
  private placePoints(): void {
    const { cage } = this;
    const done = new Set<number>();
    for (const h of this.ways.keys()) {
      const e = h >> 1;
      if (done.has(e)) continue;
      done.add(e);
      const whole = cage.edgeLength(e);
      const [near, far] = [this.ways.get(2 * e), this.ways.get(2 * e + 1)];
      const most = near !== undefined && far !== undefined ? 0.45 * whole : 0.9 * whole;
      if (Math.max(near ?? 0, far ?? 0) > most) this.squeezed++;
      const [a, b] = [Math.min(near ?? 0, most), Math.min(far ?? 0, most)];
      const [origin, target] = [cage.origin[2 * e], cage.origin[2 * e + 1]];
      let rest = e;
      if (near !== undefined) {
        const p = splitEdge(cage, e, share(a, whole));
        this.pointAt.set(2 * e, this.tagged(p, origin));
        rest = cage.findHalfEdge(p, target) >> 1;
      }
      if (far !== undefined) {
        const from = cage.origin[2 * rest];
        const left = cage.edgeLength(rest);
        this.pointAt.set(2 * e + 1, this.tagged(splitEdge(cage, rest, from === target ? share(b, left) : 1 - share(b, left)), target));
      }
    }
  }

  private tagged(p: number, anchor: number): number {
    this.cage.setValue('braceAnchor', p, anchor);
    this.loopVertices.push(p);
    return p;
  }

  private newVertex(at: Triple, anchor: number): number {
    return this.tagged(this.cage.addVertex(...at), anchor);
  }

  /** New faces in place of one: a strip along every braced side, a quad at every corner that loops turn round, and what is left inside. */
  private rebuildFace(f: number, sides: { h: number; v: number }[], added: NewFace[], spokes: [number, number][]): void {
    const { cage, halves } = this;
    const n = sides.length;
    // corners of the face as it was cut; new ones inside take those of the vertex they belong to
    const cornerAt = new Map(cage.loopOf(cage.faceEdge[f]).map((h) => [cage.origin[h], h]));
    const put = (corners: number[]) =>
      added.push({ corners, like: f, cornersLike: corners.map((c) => cornerAt.get(c) ?? cornerAt.get(cage.value('braceAnchor', c))!) });
    const inner: number[] = [];
    // where the strips along the sides before and behind a corner end inside the face
    const ends: number[] = [];
    sides.forEach(({ h, v }, k) => {
      const before = sides[(k + n - 1) % n].h;
      const [ahead, behind] = [this.pointAt.get(h), this.pointAt.get(before ^ 1)];
      const [out, back] = [halves.has(h), halves.has(before)];
      if (out && back) {
        const q = this.newVertex(this.mitre(v, sides[(k + 1) % n].v, sides[(k + n - 1) % n].v, ahead, behind), v);
        if (ahead !== undefined && behind !== undefined) put([v, ahead, q, behind]);
        ends[k] = q;
        inner.push(q);
      } else if (out || back) {
        ends[k] = (out ? behind : ahead) ?? v;
        inner.push(ends[k]);
      } else if (ahead !== undefined && behind !== undefined) {
        const q = this.newVertex(add3(cage.position(ahead), cage.position(behind), cage.position(v)), v);
        put([v, ahead, q, behind]);
        inner.push(behind, q, ahead);
      } else {
        inner.push(...[behind, v, ahead].filter((c) => c !== undefined));
        if (ahead !== undefined || behind !== undefined) this.ngons++;
      }
    });
    sides.forEach(({ h, v }, k) => {
      if (!halves.has(h)) return;
      const w = sides[(k + 1) % n];
      const [a, b] = [this.pointAt.get(h) ?? v, this.pointAt.get(h ^ 1) ?? w.v];
      put([a, b, ends[(k + 1) % n], ends[k]].filter((c, i, all) => all.indexOf(c) === i));
    });
    for (const corners of this.insideOf(f, n, inner, spokes)) put(corners);
  }

  /** What is left of a face inside its strips: quads, where it was one. */
  private insideOf(f: number, corners: number, inner: number[], spokes: [number, number][]): number[][] {
    const { cage } = this;
    if (corners !== 4 || inner.length === 4) return [inner];
    const places = inner.map((v) => cage.position(v));
    const quads = quadrangulate(places, faceNormal(cage, f), (i, j) => cage.findHalfEdge(inner[i], inner[j]) === NONE);
    if (!quads) return [inner];
    const isSide = (i: number, j: number) => Math.abs(i - j) === 1 || Math.abs(i - j) === inner.length - 1;
    return quads.map((quad) => {
      quad.forEach((i, k) => {
        const j = quad[(k + 1) % 4];
        if (!isSide(i, j) && i < j) spokes.push([inner[i], inner[j]]);
      });
      return quad.map((i) => inner[i]);
    });
  }

  /** Where the loops along two sides of a corner meet: as far from either as the width, or across from the points on them. */
  private mitre(v: number, next: number, before: number, ahead: number | undefined, behind: number | undefined): Triple {
    const { cage } = this;
    const at = cage.position(v);
    if (ahead !== undefined && behind !== undefined) return add3(cage.position(ahead), cage.position(behind), at);
    const [a, b] = [subtract(cage.position(next), at), subtract(cage.position(before), at)];
    const sine = Math.max(0.3, length(cross(unit(a), unit(b))));
    const way = this.width / sine;
    const most = 0.45 * Math.min(length(a), length(b));
    if (way > most) this.squeezed++;
    return add(at, scaled(add(unit(a), unit(b)), Math.min(way, most)));
  }

  /** What the half-edges are now: points of squares cut them. */
  private pieces(): number[] {
    return [...this.halves].flatMap((h) => {
      const [from, to] = h & 1 ? [...this.endsOf.get(h >> 1)!].reverse() : this.endsOf.get(h >> 1)!;
      const row = [from, this.pointAt.get(h), this.pointAt.get(h ^ 1), to].filter((v) => v !== undefined);
      return row.slice(1).map((v, i) => this.cage.findHalfEdge(row[i], v));
    });
  }
}

/** A length as a share of a whole; edges without length are cut in the middle. */
const share = (part: number, whole: number) => (whole > 0 ? part / whole : 0.5);

const add3 = (a: Triple, b: Triple, minus: Triple): Triple => subtract(add(a, b), minus);

/** Gives vertices that later edits put on support loops the tags of their neighbours: a strip's side shows whose they are. */
function completeTags(cage: Cage): void {
  if (!cage.layers.has('braceAnchor')) return;
  const anchor = (v: number) => cage.value('braceAnchor', v);
  for (let again = true; again;) {
    again = false;
    for (const f of cage.faces()) {
      if (cage.faceSize(f) !== 4) continue;
      for (const h of cage.loopOf(cage.faceEdge[f])) {
        const [a, b, beyondB, beyondA] = [h, cage.next[h], cage.next[cage.next[h]], cage.previous(h)].map((k) => cage.origin[k]);
        // the side is a braced edge, or lies on a loop itself
        const onEdge = cage.value('braced', h >> 1) > 0;
        const [from, to] = onEdge ? [a, b] : [anchor(a), anchor(b)];
        if (from < 0 || to < 0 || from === to) continue;
        if (anchor(beyondA) === from && anchor(beyondB) === -1 && beyondB !== to) {
          cage.setValue('braceAnchor', beyondB, to);
          again = true;
        } else if (anchor(beyondB) === to && anchor(beyondA) === -1 && beyondA !== from) {
          cage.setValue('braceAnchor', beyondA, from);
          again = true;
        }
      }
    }
  }
}

/** Vertices of support loops that still lie near the vertex they belong to. @param of which anchors are meant */
function taggedVertices(cage: Cage, of: (anchor: number) => boolean): Map<number, number> {
  const found = new Map<number, number>();
  if (!cage.layers.has('braceAnchor')) return found;
  for (const v of cage.vertices()) {
    const anchor = cage.value('braceAnchor', v);
    if (anchor < 0 || !of(anchor) || !cage.hasVertex(anchor)) continue;
    // a number may have been given to another vertex since
    const near = facesRound(cage, [v], 3).some((f) => cage.faceVertices(f).includes(anchor));
    if (near) found.set(v, anchor);
  }
  return found;
}

/** Edges with support loops of their own, with the width. */
export const bracedEdges = (cage: Cage): Map<number, number> =>
  new Map(cage.layers.has('braced') ? [...cage.edges()].map((e): [number, number] => [e, cage.value('braced', e)]).filter(([, w]) => w > 0) : []);

/**
 * Moves support loops to another width, from wherever they lie now.
 * @param edges braced edges whose loops are meant
 * @returns the cage, how many vertices moved, and faces that turned over, where the width is too large
 */
export function moveSupportLoops(cage: Cage, edges: readonly number[], width: number): { cage: Cage; moved: number; turned: number[] } {
  const copy = cage.clone();
  completeTags(copy);
  const widthAt = new Map<number, number>();
  for (const e of edges)
    for (const v of [copy.origin[2 * e], copy.origin[2 * e + 1]]) widthAt.set(v, Math.max(widthAt.get(v) ?? 0, copy.value('braced', e)));
  const tagged = taggedVertices(copy, (anchor) => widthAt.has(anchor));
  for (const [v, anchor] of tagged) {
    const at = copy.position(anchor);
    copy.positions.set(add(at, scaled(subtract(copy.position(v), at), width / widthAt.get(anchor)!)), 3 * v);
  }
  for (const e of edges) copy.setValue('braced', e, width);
  const faces = facesRound(copy, tagged.keys(), 1);
  const turned = faces.filter((f) => dot(faceNormal(copy, f), faceNormal(cage, f)) < 0);
  return { cage: copy, moved: tagged.size, turned };
}

/**
 * Takes support loops out again, also after other edits: their vertices go back into those they belong to.
 * @throws CageError where that would tear the surface
 */
export function takeOutSupportLoops(cage: Cage, edges: readonly number[]): { cage: Cage; taken: number } {
  const copy = cage.clone();
  completeTags(copy);
  const anchors = new Set(edges.flatMap((e) => [copy.origin[2 * e], copy.origin[2 * e + 1]]));
  for (const e of edges) copy.setValue('braced', e, 0);
  // at the end of a chain that stays braced, loops belong to both
  for (const e of bracedEdges(copy).keys()) for (const v of [copy.origin[2 * e], copy.origin[2 * e + 1]]) anchors.delete(v);
  const tagged = taggedVertices(copy, (anchor) => anchors.has(anchor));
  mergeAcrossSpokes(copy, tagged);
  const goesTo = (v: number): number => {
    const anchor = tagged.get(v);
    return anchor === undefined ? v : goesTo(anchor);
  };
  const gone = facesRound(copy, tagged.keys(), 1);
  const marks = new Map<string, EdgeMarks>();
  const added: NewFace[] = [];
  for (const f of gone) {
    const loop = copy.loopOf(copy.faceEdge[f]);
    const kept = loop.filter((h) => goesTo(copy.origin[h]) !== goesTo(copy.target(h)));
    for (const h of kept) {
      const own = edgeMarks(copy, h >> 1);
      if (own) marks.set([goesTo(copy.origin[h]), goesTo(copy.target(h))].sort((a, b) => a - b).join(' '), own);
    }
    if (kept.length > 2) added.push({ corners: kept.map((h) => goesTo(copy.origin[h])), like: f, cornersLike: kept });
  }
  replaceFaces(copy, { gone, added });
  for (const [ends, own] of marks) {
    const [a, b] = ends.split(' ').map(Number);
    const h = copy.findHalfEdge(a, b);
    if (h !== NONE) putEdgeMarks(copy, h >> 1, own);
  }
  if (eulerCharacteristic(copy) !== eulerCharacteristic(cage))
    throw new CageError('Taking the loops out would tear the surface or close a hole: it was changed too much around them. Dissolve them by hand.');
  return { cage: copy, taken: tagged.size };
}

/** Faces on both sides of edges that only end a loop become one again. */
function mergeAcrossSpokes(cage: Cage, tagged: ReadonlyMap<number, number>): void {
  if (!cage.layers.has('braceSpoke')) return;
  const spokes = [...cage.edges()].filter(
    (e) => cage.value('braceSpoke', e) > 0 && !cage.isBorderEdge(e) && (tagged.has(cage.origin[2 * e]) || tagged.has(cage.origin[2 * e + 1]))
  );
  for (const e of spokes) if (cage.hasEdge(e)) mergeFaces(cage, [cage.face[2 * e], cage.face[2 * e + 1]]);
}
