import { lengthInWords } from '../numeric/length-words.ts';
import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { borderLoops, isPole } from '../mesh/topology.ts';

/** What can be picked. */
export type ElementKind = 'vertex' | 'edge' | 'face';

/** Picked elements of one cage, by id; each list without repeats. */
export interface Selection {
  vertices: number[];
  edges: number[];
  faces: number[];
}

/** Nothing picked. */
export const emptySelection = (): Selection => ({ vertices: [], edges: [], faces: [] });
/** Some vertices, each once, and nothing else. */
export const selectVertices = (vertices: Iterable<number>): Selection => ({ vertices: [...new Set(vertices)], edges: [], faces: [] });
/** Some edges, each once, and nothing else. */
export const selectEdges = (edges: Iterable<number>): Selection => ({ vertices: [], edges: [...new Set(edges)], faces: [] });
/** Some faces, each once, and nothing else. */
export const selectFaces = (faces: Iterable<number>): Selection => ({ vertices: [], edges: [], faces: [...new Set(faces)] });

/** Whether nothing is picked. */
export const isEmpty = (s: Selection): boolean => s.vertices.length + s.edges.length + s.faces.length === 0;

/** The same selection without elements the cage does not have. */
export function onlyPresent(cage: Cage, s: Selection): Selection {
  return {
    vertices: s.vertices.filter((v) => cage.hasVertex(v)),
    edges: s.edges.filter((e) => cage.hasEdge(e)),
    faces: s.faces.filter((f) => cage.hasFace(f))
  };
}

/** Elements of `added` put in, or taken out where all of them are in already. */
export function toggled(s: Selection, added: Selection): Selection {
  const mix = (have: number[], more: number[]) => {
    const set = new Set(have);
    const out = more.length > 0 && more.every((x) => set.has(x));
    for (const x of more)
      if (out) set.delete(x);
      else set.add(x);
    return [...set];
  };
  return { vertices: mix(s.vertices, added.vertices), edges: mix(s.edges, added.edges), faces: mix(s.faces, added.faces) };
}

/** What is in either of two selections, once. */
export function united(a: Selection, b: Selection): Selection {
  const mix = (x: number[], y: number[]) => [...new Set([...x, ...y])];
  return { vertices: mix(a.vertices, b.vertices), edges: mix(a.edges, b.edges), faces: mix(a.faces, b.faces) };
}

/** What is selected in the first and not in the second. */
export function without(s: Selection, gone: Selection): Selection {
  const rest = (have: number[], out: number[]) => {
    const set = new Set(out);
    return have.filter((x) => !set.has(x));
  };
  return { vertices: rest(s.vertices, gone.vertices), edges: rest(s.edges, gone.edges), faces: rest(s.faces, gone.faces) };
}

/** Every vertex that a selected element has. */
export function verticesOf(cage: Cage, s: Selection): number[] {
  const all = new Set(s.vertices);
  for (const e of s.edges) all.add(cage.origin[2 * e]).add(cage.origin[2 * e + 1]);
  for (const f of s.faces) for (const v of cage.faceVertices(f)) all.add(v);
  return [...all];
}

/** Faces that are selected, and those round which all vertices are selected by themselves or by edges. */
export function facesOf(cage: Cage, s: Selection): number[] {
  const vertices = new Set(verticesOf(cage, { ...s, faces: [] }));
  const picked = new Set(s.faces);
  for (const v of vertices)
    for (const h of cage.spokes(v)) {
      const f = cage.face[h];
      if (f !== NONE && !picked.has(f) && cage.faceVertices(f).every((w) => vertices.has(w))) picked.add(f);
    }
  return [...picked];
}

/** Edges of the border that edge e lies on; empty where it lies on none. */
export function borderOf(cage: Cage, e: number): number[] {
  const h = cage.face[2 * e] === NONE ? 2 * e : cage.face[2 * e + 1] === NONE ? 2 * e + 1 : NONE;
  return h === NONE ? [] : cage.loopOf(h).map((k) => k >> 1);
}

/** All faces connected with the given ones over edges. */
export function islandOf(cage: Cage, faces: Iterable<number>): number[] {
  const seen = new Set(faces);
  const stack = [...seen];
  while (stack.length > 0)
    for (const h of cage.loopOf(cage.faceEdge[stack.pop()!])) {
      const g = cage.face[h ^ 1];
      if (g === NONE || seen.has(g)) continue;
      seen.add(g);
      stack.push(g);
    }
  return [...seen];
}

/** One ring of neighbours more. */
export function grown(cage: Cage, s: Selection): Selection {
  const vertices = new Set(verticesOf(cage, s));
  const out = emptySelection();
  if (s.vertices.length > 0) out.vertices = [...new Set([...vertices, ...[...vertices].flatMap((v) => cage.spokes(v).map((h) => cage.target(h)))])];
  if (s.edges.length > 0) out.edges = [...new Set([...vertices].flatMap((v) => cage.spokes(v).map((h) => h >> 1)))];
  if (s.faces.length > 0)
    out.faces = [
      ...new Set(
        [...vertices].flatMap((v) =>
          cage
            .spokes(v)
            .map((h) => cage.face[h])
            .filter((f) => f !== NONE)
        )
      )
    ];
  return out;
}

/** One ring less: what touches something of its kind that is not selected goes. */
export function shrunk(cage: Cage, s: Selection): Selection {
  const vertices = new Set(s.vertices);
  const edges = new Set(s.edges);
  const faces = new Set(s.faces);
  const edgesInside = (v: number) => cage.spokes(v).every((h) => edges.has(h >> 1));
  const facesInside = (v: number) => cage.spokes(v).every((h) => cage.face[h] === NONE || faces.has(cage.face[h]));
  return {
    vertices: s.vertices.filter((v) => cage.spokes(v).every((h) => vertices.has(cage.target(h)))),
    edges: s.edges.filter((e) => edgesInside(cage.origin[2 * e]) && edgesInside(cage.origin[2 * e + 1])),
    faces: s.faces.filter((f) => cage.faceVertices(f).every(facesInside))
  };
}

export type Findable = 'triangles' | 'quads' | 'n-gons' | 'poles' | 'borders';

/** Everything that is of one sort. @param valence with poles: only those with so many edges */
export function findAll(cage: Cage, what: Findable, valence?: number): Selection {
  if (what === 'borders') return selectEdges(borderLoops(cage).flatMap((loop) => loop.map((h) => h >> 1)));
  if (what === 'poles')
    return selectVertices([...cage.vertices()].filter((v) => isPole(cage, v) && (valence === undefined || cage.valence(v) === valence)));
  const fits = { triangles: (n: number) => n === 3, quads: (n: number) => n === 4, 'n-gons': (n: number) => n > 4 }[what];
  return selectFaces([...cage.faces()].filter((f) => fits(cage.faceSize(f))));
}

/** Length of edges together: "214.5 mm", "0.015 mm". */
function lengthOf(cage: Cage, edges: readonly number[]): string {
  const mm = edges.reduce((sum, e) => sum + cage.edgeLength(e), 0);
  return mm >= 1 ? `${mm.toFixed(1)} mm` : lengthInWords(mm);
}

/** "18 edges, closed loop, 214.5 mm": what the card says of a selection. */
export function describeSelection(cage: Cage, s: Selection): string {
  const parts: string[] = [];
  const count = (n: number, one: string, more: string) => n > 0 && parts.push(`${n.toLocaleString('en')} ${n === 1 ? one : more}`);
  count(s.vertices.length, 'vertex', 'vertices');
  count(s.edges.length, 'edge', 'edges');
  count(s.faces.length, 'face', 'faces');
  if (s.edges.length > 1 && s.vertices.length + s.faces.length === 0) {
    const chain = chainKind(cage, s.edges);
    if (chain) parts.push(chain);
  }
  if (s.edges.length > 0) parts.push(lengthOf(cage, s.edges));
  if (s.vertices.length === 1 && parts.length === 1) parts.push(`valence ${cage.valence(s.vertices[0])}`);
  return parts.join(', ') || 'nothing picked';
}

/** "closed loop", "2 closed loops", "open chain", "3 open chains"; nothing for other edges. */
function chainKind(cage: Cage, edges: number[]): string | undefined {
  const at = new Map<number, number[]>();
  for (const e of edges) for (const v of [cage.origin[2 * e], cage.origin[2 * e + 1]]) at.set(v, [...(at.get(v) ?? []), e]);
  if ([...at.values()].some((here) => here.length > 2)) return undefined;
  const left = new Set(edges);
  let [closed, open] = [0, 0];
  for (const start of edges) {
    if (!left.delete(start)) continue;
    const piece = [start];
    for (const e of piece)
      for (const v of [cage.origin[2 * e], cage.origin[2 * e + 1]]) for (const f of at.get(v)!) if (left.delete(f)) piece.push(f);
    const ends = piece.flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]).filter((v) => at.get(v)!.length === 1);
    if (ends.length === 0) closed++;
    else open++;
  }
  if (closed > 0 && open > 0) return undefined;
  return closed > 0 ? (closed === 1 ? 'closed loop' : `${closed} closed loops`) : open === 1 ? 'open chain' : `${open} open chains`;
}

/** Every element of one kind. */
export const allOf = (cage: Cage, kind: ElementKind): Selection => ({
  vertices: kind === 'vertex' ? [...cage.vertices()] : [],
  edges: kind === 'edge' ? [...cage.edges()] : [],
  faces: kind === 'face' ? [...cage.faces()] : []
});

/** The kind of element a selection is of; faces where nothing is picked. */
export const kindOf = ({ vertices, edges, faces }: Selection): ElementKind =>
  faces.length > 0 || vertices.length + edges.length === 0 ? 'face' : edges.length > 0 ? 'edge' : 'vertex';

/** What of a selection lies on some faces; all of it without them. */
export function onlyShown(cage: Cage, selection: Selection, faces: readonly number[] | undefined): Selection {
  if (!faces) return selection;
  const shown = new Set(faces);
  const isEdgeShown = (e: number) => shown.has(cage.face[2 * e]) || shown.has(cage.face[2 * e + 1]);
  return {
    vertices: selection.vertices.filter((v) => cage.spokes(v).some((h) => isEdgeShown(h >> 1))),
    edges: selection.edges.filter(isEdgeShown),
    faces: selection.faces.filter((f) => shown.has(f))
  };
}

/** Everything of the kinds that are selected now that is not selected; all faces where nothing is. */
export function inverted(cage: Cage, s: Selection): Selection {
  const rest = (have: number[], all: Iterable<number>, wanted: boolean) => {
    const set = new Set(have);
    return wanted ? [...all].filter((id) => !set.has(id)) : [];
  };
  return {
    vertices: rest(s.vertices, cage.vertices(), s.vertices.length > 0),
    edges: rest(s.edges, cage.edges(), s.edges.length > 0),
    faces: rest(s.faces, cage.faces(), s.faces.length > 0 || isEmpty(s))
  };
}

/** The selection as elements of one kind: vertices of it, edges and faces of which all vertices are in it. */
export function converted(cage: Cage, s: Selection, kind: ElementKind): Selection {
  if (kind === 'face') return selectFaces(facesOf(cage, s));
  if (kind === 'vertex') return selectVertices(verticesOf(cage, s));
  const vertices = new Set(verticesOf(cage, s));
  return selectEdges([...cage.edges()].filter((e) => vertices.has(cage.origin[2 * e]) && vertices.has(cage.origin[2 * e + 1])));
}

/** Faces that are selected; where none is, those that touch a selected vertex or have a selected edge. */
export function facesAround(cage: Cage, s: Selection): number[] {
  const faces = facesOf(cage, s);
  if (faces.length > 0) return faces;
  const vertices = new Set(s.vertices);
  const edges = new Set(s.edges);
  return [...cage.faces()].filter((f) => cage.loopOf(cage.faceEdge[f]).some((h) => vertices.has(cage.origin[h]) || edges.has(h >> 1)));
}
