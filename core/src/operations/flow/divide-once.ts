import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { edgeMarks, putEdgeMarks } from '../../mesh/edge-marks.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceMiddle } from '../../mesh/normals.ts';
import { replaceFaces, type NewFace } from '../../mesh/replace-faces.ts';
import { add, between, mean, scaled, type Triple } from '../../numeric/vectors.ts';
import { facesOf, isEmpty, selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params } from '../operation.ts';
import { tooMany } from '../refusal.ts';
import { orientedChains } from '../shared/chains.ts';
import { counted } from '../shared/words.ts';

interface DivideParams {
  places: 'flat' | 'smooth';
  seam: 'quads' | 'ngons';
}

/** One division of some faces: the vertices it makes, by what they stand in. */
class Division {
  readonly copy: Cage;
  readonly inside: Set<number>;
  /** inner copies of the vertices on the seam */
  readonly inner = new Map<number, number>();
  private readonly onEdge = new Map<number, number>();
  private readonly faceMiddle = new Map<number, Triple>();

  constructor(
    readonly cage: Cage,
    readonly faces: number[],
    readonly p: DivideParams,
    seam: number[]
  ) {
    this.copy = cage.clone();
    this.inside = new Set(faces);
    for (const f of faces) this.faceMiddle.set(f, faceMiddle(cage, f));
    if (p.places === 'smooth') this.smoothVertices();
    if (p.seam === 'quads')
      for (const v of new Set(seam.flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]))) {
        const middles = cage.spokes(v).flatMap((h) => (this.inside.has(cage.face[h]) ? [this.faceMiddle.get(cage.face[h])!] : []));
        this.inner.set(v, this.made(v, between(cage.position(v), mean(middles), 0.4)));
      }
  }

  private made(like: number, p: Triple): number {
    const v = this.copy.addVertex(...p);
    this.copy.copyValues('vertex', like, v);
    return v;
  }

  middleOf(f: number): Triple {
    return this.faceMiddle.get(f)!;
  }

  /** The vertex that stands at a corner of a divided face. */
  corner(v: number): number {
    return this.inner.get(v) ?? v;
  }

  /** The vertex in the middle of an edge, on the inner side of a seam. */
  edge(h: number): number {
    const known = this.onEdge.get(h >> 1);
    if (known !== undefined) return known;
    const [a, b] = [this.corner(this.cage.origin[h]), this.corner(this.cage.target(h))];
    let p = between(this.copy.position(a), this.copy.position(b), 0.5);
    const both = [this.cage.face[h], this.cage.face[h ^ 1]];
    if (this.p.places === 'smooth' && both.every((f) => this.inside.has(f)) && this.cage.value('crease', h >> 1) === 0)
      p = mean([this.cage.position(this.cage.origin[h]), this.cage.position(this.cage.target(h)), ...both.map((f) => this.middleOf(f))]);
    const v = this.copy.addVertex(...p);
    this.onEdge.set(h >> 1, v);
    return v;
  }

  /** Vertices whose faces are all divided move as in Catmull and Clark 1978; those at creases stay. */
  private smoothVertices(): void {
    const { cage, copy } = this;
    for (const v of new Set(this.faces.flatMap((f) => cage.faceVertices(f)))) {
      const spokes = cage.spokes(v);
      if (!spokes.every((h) => this.inside.has(cage.face[h]) && cage.value('crease', h >> 1) === 0)) continue;
      const n = spokes.length;
      const faces = mean(spokes.map((h) => this.middleOf(cage.face[h])));
      const edges = mean(spokes.map((h) => between(cage.position(v), cage.position(cage.target(h)), 0.5)));
      copy.positions.set(scaled(add(add(faces, scaled(edges, 2)), scaled(cage.position(v), n - 3)), 1 / n), 3 * v);
    }
  }
}

/** Outline edges of the faces where others go on. */
function seamOf(cage: Cage, inside: ReadonlySet<number>): number[] {
  const seam: number[] = [];
  for (const f of inside)
    for (const h of cage.loopOf(cage.faceEdge[f])) if (cage.face[h ^ 1] !== NONE && !inside.has(cage.face[h ^ 1])) seam.push(h >> 1);
  return seam;
}

/** Turned to run along the divided faces' side, begun where a corner of the outline lies over an even number. */
function seamChains(cage: Cage, seam: number[], inside: ReadonlySet<number>): { halves: number[]; closed: boolean }[] {
  return orientedChains(cage, seam).map((chain) => {
    const halves = inside.has(cage.face[chain[0]]) ? chain : [...chain].reverse().map((h) => h ^ 1);
    const closed = cage.target(halves[halves.length - 1]) === cage.origin[halves[0]];
    if (!closed) return { halves, closed };
    const cornersAt = (shift: number) =>
      halves.filter((h, i) => (i + shift) % 2 === 0 && cage.spokes(cage.origin[h]).filter((k) => inside.has(cage.face[k])).length !== 2).length;
    return { halves: cornersAt(1) > cornersAt(0) ? [...halves.slice(1), halves[0]] : halves, closed };
  });
}

/**
 * Faces between a seam, whose edges stay whole, and the divided edges inside it: three quads for two edges; a single edge
 * that is left over gets a quad and a triangle.
 */
function seamFaces(d: Division, halves: number[]): { added: NewFace[]; triangles: number } {
  const { cage } = d;
  const added: NewFace[] = [];
  let triangles = 0;
  for (let i = 0; i < halves.length; i += 2) {
    const like = cage.face[halves[i]];
    const [a, b] = [cage.origin[halves[i]], cage.target(halves[i])];
    const first = d.edge(halves[i]);
    const put = (...corners: number[]) => added.push({ corners, like });
    if (i + 1 === halves.length) {
      put(a, b, first, d.corner(a));
      put(b, d.corner(b), first);
      triangles++;
      continue;
    }
    const c = cage.target(halves[i + 1]);
    const second = d.edge(halves[i + 1]);
    put(a, b, first, d.corner(a));
    put(b, second, d.corner(b), first);
    put(b, c, d.corner(c), second);
  }
  return { added, triangles };
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const p = params as unknown as DivideParams;
  const faces = isEmpty(selection) ? [...cage.faces()] : facesOf(cage, selection);
  const inside = new Set(faces);
  const seam = seamOf(cage, inside);
  const d = new Division(cage, faces, p, seam);
  const added: NewFace[] = faces.flatMap((f) => {
    const centre = d.copy.addVertex(...d.middleOf(f));
    return cage.loopOf(cage.faceEdge[f]).map((h) => ({
      corners: [d.corner(cage.origin[h]), d.edge(h), centre, d.edge(cage.previous(h))],
      like: f,
      cornersLike: [h, NONE, NONE, NONE]
    }));
  });
  const divided = added.length;
  const beside = new Set<number>();
  let triangles = 0;
  if (p.seam === 'quads')
    for (const { halves } of seamChains(cage, seam, inside)) {
      const ring = seamFaces(d, halves);
      added.push(...ring.added);
      triangles += ring.triangles;
    }
  else {
    for (const e of seam) for (const f of [cage.face[2 * e], cage.face[2 * e + 1]]) if (!inside.has(f)) beside.add(f);
    const split = new Set(seam);
    for (const f of beside) {
      const like: number[] = [];
      const corners = cage.loopOf(cage.faceEdge[f]).flatMap((h) => {
        const row = split.has(h >> 1) ? [cage.origin[h], d.edge(h)] : [cage.origin[h]];
        like.push(...(row.length > 1 ? [h, NONE] : [h]));
        return row;
      });
      added.push({ corners, like: f, cornersLike: like });
    }
  }
  const marked = [...new Set(faces.flatMap((f) => cage.loopOf(cage.faceEdge[f]).map((h) => h >> 1)))].filter((e) => edgeMarks(cage, e));
  const ids = replaceFaces(d.copy, { gone: [...faces, ...beside], added });
  // an edge on the seam is still there, whole; all others have become two
  const whole = new Set(p.seam === 'quads' ? seam : []);
  for (const e of marked.filter((e) => !whole.has(e)))
    for (const v of [cage.origin[2 * e], cage.origin[2 * e + 1]]) {
      const h = d.copy.findHalfEdge(d.corner(v), d.edge(2 * e));
      if (h !== NONE) putEdgeMarks(d.copy, h >> 1, edgeMarks(cage, e));
    }
  mixCornerUv(d, ids.slice(0, divided));
  const notes = [`${counted(faces.length, 'face')} became ${divided}.`];
  if (p.seam === 'quads' && seam.length > 0)
    notes.push(
      triangles === 0
        ? `The seam of ${counted(seam.length, 'edge')} has quads only.`
        : `${triangles} triangle${triangles === 1 ? '' : 's'} in the seam: its edges are odd in number there.`
    );
  else if (beside.size > 0) notes.push(`${counted(beside.size, 'face')} beside got more corners.`);
  return { cage: d.copy, selection: selectFaces(ids.slice(0, divided)), notes };
}

/** Texture coordinates at the middles of edges and faces: the means of their corners. */
function mixCornerUv(d: Division, ids: number[]): void {
  const from = d.cage.layers.get('uv');
  if (!from) return;
  const to = d.copy.layers.get('uv')!.data;
  const at = (h: number) => [from.data[2 * h], from.data[2 * h + 1]];
  let i = 0;
  for (const f of d.faces) {
    const loop = d.cage.loopOf(d.cage.faceEdge[f]);
    const middle = (halves: number[]) => halves.map(at).reduce((s, p) => [s[0] + p[0] / halves.length, s[1] + p[1] / halves.length], [0, 0]);
    for (let k = 0; k < loop.length; k++) {
      const corners = d.copy.loopOf(d.copy.faceEdge[ids[i++]]);
      const [here, ahead, behind] = [loop[k], loop[(k + 1) % loop.length], loop[(k + loop.length - 1) % loop.length]];
      [at(here), middle([here, ahead]), middle(loop), middle([behind, here])].forEach((uv, c) => to.set(uv, 2 * corners[c]));
    }
  }
}

/** Divides faces into quads once, with a seam towards the others. */
export const divideOnce: CageOperation = {
  kind: 'cage',
  id: 'divide-once',
  seconds: (cage) => 3e-5 * cage.faceCount,
  bench: 3,
  name: 'Divide once',
  purpose: 'Divide picked faces, or the whole part, into quads once, flat or smooth, with a seam of quads to the rest.',
  icon: 'Grid',
  needs: 'A cage with faces.',
  params: Joi.object({
    places: Joi.string()
      .valid('flat', 'smooth')
      .default('flat')
      .label('Places')
      .meta({ labels: { flat: 'Flat: the shape stays', smooth: 'Smooth: as the surface' } }),
    seam: Joi.string()
      .valid('quads', 'ngons')
      .default('quads')
      .label('Seam')
      .meta({ labels: { quads: 'Quads, inside the picks', ngons: 'Faces beside get corners' } })
  }),
  check: (cage, selection) => {
    const faces = isEmpty(selection) ? [...cage.faces()] : facesOf(cage, selection);
    if (faces.length === 0) return { found: 'No face is picked.', where: selection, instead: 'Pick faces, or nothing for the whole part.' };
    const corners = faces.reduce((sum, f) => sum + cage.faceSize(f), 0);
    return tooMany('The divided part', cage.faceCount - faces.length + corners, 'Pick fewer faces.', selectFaces(faces));
  },
  run
};
