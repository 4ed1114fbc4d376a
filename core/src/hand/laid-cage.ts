import { type Cage } from '../mesh/cage.ts';
import { splitEdge, splitFacesAlong } from '../mesh/euler-operators.ts';
import { CageError, NONE } from '../mesh/half-edges.ts';
import { type NewFace, replaceFaces } from '../mesh/replace-faces.ts';
import { mergeVertices } from '../mesh/merge-vertices.ts';
import { type Act, type Place } from './acts.ts';

/** A cage that is laid by hand, act by act; its vertices are found by where they lie. */
export class LaidCage {
  /** vertices by where they lay when they came there; those that went or moved on are told apart by where they lie now */
  private readonly at: Map<string, number>;
  /** where faces touch in a corner only each fan has a vertex of its own: the others by that place */
  private readonly twins: Map<string, number[]>;

  /** @param cage changed by every act @param known what is known of its places already */
  constructor(
    readonly cage: Cage,
    known?: LaidCage
  ) {
    this.at = new Map(known?.at);
    this.twins = new Map(known?.twins);
    if (!known) this.takeIn();
  }

  /** The same once more: what is done on it leaves this one as it is. */
  copy(): LaidCage {
    return new LaidCage(this.cage.clone(), this);
  }

  /** Learns where all vertices lie. */
  private takeIn(): void {
    this.twins.clear();
    const seen = new Set<string>();
    for (const v of this.cage.vertices()) {
      const key = keyOf(this.cage.position(v));
      if (seen.has(key)) this.twins.set(key, [...(this.twins.get(key) ?? []), v]);
      else this.at.set(key, v);
      seen.add(key);
    }
  }

  /** The vertex at a place; nothing where none is. */
  vertexAt(p: Place): number | undefined {
    const key = keyOf(p);
    const v = this.at.get(key);
    return v !== undefined && this.cage.hasVertex(v) && keyOf(this.cage.position(v)) === key ? v : undefined;
  }

  /**
   * Does an act.
   * @throws CageError where a vertex is not there any more, or an edge would get three faces; the cage is as it was then
   */
  apply(act: Act): void {
    switch (act.do) {
      case 'point':
        this.vertexFor(act.at);
        return;
      case 'faces':
        return this.addFaces(act.places, act.faces);
      case 'move':
        return act.from.map((p) => this.known(p)).forEach((v, i) => this.put(v, act.to[i]));
      case 'weld':
        return this.weld(act.from.map((p, i): [number, number] => [this.known(p), this.known(act.onto[i])]).filter(([a, b]) => a !== b));
      case 'cut':
        return this.cut(act.edges, act.at, act.closed);
      case 'erase':
        return this.erase(act.faces, act.vertices);
    }
  }

  private known(p: Place): number {
    const v = this.vertexAt(p);
    if (v === undefined)
      throw new CageError(
        `The vertex at ${p
          .slice(0, 3)
          .map((x) => x.toFixed(2))
          .join(', ')} mm is not there any more.`
      );
    return v;
  }

  private vertexFor(p: Place): number {
    if (p[3] === 1) return this.known(p);
    const present = this.vertexAt(p);
    if (present !== undefined) return present;
    const v = this.cage.addVertex(p[0], p[1], p[2]);
    this.at.set(keyOf(p), v);
    return v;
  }

  private put(v: number, p: Place): void {
    this.cage.positions.set([p[0], p[1], p[2]], 3 * v);
    this.at.set(keyOf(p), v);
  }

  private addFaces(places: readonly Place[], faces: readonly number[][]): void {
    const before = this.cage.vertexCount;
    const vertices = places.map((p) => this.vertexFor(p));
    const wished = faces.map((corners) => corners.map((i) => vertices[i]).filter((v, i, all) => v !== all[(i + 1) % all.length]));
    const added = wished.filter((corners) => corners.length >= 3);
    // turned as what is there is turned
    const clash = (own: readonly number[][]) => own.some((corners) => corners.some((v, i) => this.isTaken(v, corners[(i + 1) % corners.length])));
    const turned = clash(added) ? added.map((corners) => [...corners].reverse()) : added;
    if (clash(turned)) {
      this.dropFresh(before, vertices);
      throw new CageError('An edge there has faces on both sides already.');
    }
    const { gone, again, standsFor } = this.fansJoined(places, vertices);
    const made = this.cage.vertexCount;
    const all = replaceFaces(this.cage, { gone, added: [...again, ...turned.map((corners) => ({ corners }))], standsFor, keepLone: true });
    for (const f of all.slice(again.length)) this.cage.setValue('laid', f, 1);
    for (const v of standsFor.keys()) if (this.cage.vertexEdge[v] === NONE) this.cage.freeVertex(v);
    if (this.cage.vertexCount !== made) this.takeIn();
  }

  /** Faces of fans that only touch at places where more is laid: they are put in again with one vertex for all. */
  private fansJoined(places: readonly Place[], vertices: readonly number[]): { gone: number[]; again: NewFace[]; standsFor: Map<number, number> } {
    const standsFor = new Map<number, number>();
    places.forEach((p, i) => {
      for (const twin of this.twins.get(keyOf(p)) ?? []) if (twin !== vertices[i]) standsFor.set(twin, vertices[i]);
    });
    const faces = new Set([...standsFor.keys()].flatMap((v) => this.cage.spokes(v).map((h) => this.cage.face[h])));
    faces.delete(NONE);
    const again = [...faces].map((f): NewFace => {
      const loop = this.cage.loopOf(this.cage.faceEdge[f]);
      return { corners: loop.map((h) => standsFor.get(this.cage.origin[h]) ?? this.cage.origin[h]), like: f, cornersLike: loop };
    });
    return { gone: [...faces], again, standsFor };
  }

  /** Whether a face has the edge from one vertex to another. */
  private isTaken(a: number, b: number): boolean {
    const h = this.cage.findHalfEdge(a, b);
    return h !== NONE && this.cage.face[h] !== NONE;
  }

  /** Takes vertices out again that were made for nothing. */
  private dropFresh(before: number, vertices: readonly number[]): void {
    for (const v of [...vertices].reverse()) {
      if (this.cage.vertexCount <= before || !this.cage.hasVertex(v) || this.cage.vertexEdge[v] !== NONE) continue;
      this.cage.freeVertex(v);
    }
  }

  private weld(pairs: readonly (readonly [from: number, onto: number])[]): void {
    const { cage } = this;
    const faced = pairs.filter(([from, onto]) => cage.vertexEdge[from] !== NONE && cage.vertexEdge[onto] !== NONE);
    for (const [from, onto] of pairs) {
      if (cage.vertexEdge[from] === NONE) cage.freeVertex(from);
      else if (cage.vertexEdge[onto] === NONE) {
        const at = cage.position(onto);
        cage.freeVertex(onto);
        this.put(from, at);
      }
    }
    const before = cage.vertexCount;
    if (faced.length > 0)
      mergeVertices(
        cage,
        faced.map(([from, onto]) => ({ vertices: [onto, from], at: cage.position(onto) }))
      );
    this.takeIn();
    if (before - cage.vertexCount < faced.length) throw new CageError('Faces would touch in a corner only: weld the edges there, both ends at once.');
  }

  private cut(edges: readonly (readonly [Place, Place])[], at: readonly Place[], closed: boolean): void {
    const { cage } = this;
    const halves = edges.map(([a, b]) => cage.findHalfEdge(this.known(a), this.known(b)));
    if (halves.includes(NONE)) throw new CageError('An edge that is cut is not there any more.');
    const row = halves.map((h, i) => {
      const v = splitEdge(cage, h >> 1, 0.5);
      this.put(v, at[i]);
      return v;
    });
    splitFacesAlong(cage, row, closed);
  }

  private erase(faces: readonly Place[][], vertices: readonly Place[]): void {
    const { cage } = this;
    const lone = vertices.map((p) => this.known(p));
    const gone = new Set(lone.flatMap((v) => cage.spokes(v).map((h) => cage.face[h])).filter((f) => f !== NONE));
    for (const corners of faces) {
      const own = corners.map((p) => this.known(p));
      const h = cage.findHalfEdge(own[0], own[1]);
      const f = h === NONE ? NONE : cage.face[h];
      if (f === NONE) throw new CageError('A face that is erased is not there any more.');
      gone.add(f);
    }
    replaceFaces(cage, { gone, added: [] });
    for (const v of lone) if (cage.hasVertex(v) && cage.vertexEdge[v] === NONE) cage.freeVertex(v);
    this.takeIn();
  }
}

/** Places are compared bit for bit; there is no minus zero. */
const keyOf = (p: Place): string => `${p[0] + 0} ${p[1] + 0} ${p[2] + 0}`;
