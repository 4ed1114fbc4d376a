import Joi from 'joi';
import { lengthInWords } from '../../numeric/length-words.ts';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { replaceFaces, type NewFace } from '../../mesh/replace-faces.ts';
import { add, cross, dot, length, mean, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { isEmpty, selectEdges, selectFaces, selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { cornerPatch } from '../shared/corner-patch.ts';
import { faceGroups, outlineOf } from '../shared/extrude-walls.ts';
import { profilePoints, type ProfileKind } from '../shared/profile.ts';

interface BevelParams {
  width: number;
  segments: number;
  profile: ProfileKind;
  heights: number[];
  tooWide: 'refuse' | 'clamp';
}

/**
 * The corners of faces between two spokes of a vertex that are bevelled (or a border): together they get one new vertex.
 * `way` is where that lies, for a width of one millimetre; the zero vector: the vertex stays.
 */
interface Sector {
  corners: number[];
  way: Triple;
  vertex: number;
}

/** What becomes of one vertex at the end of bevelled edges. */
interface Corner {
  v: number;
  /** bevelled outgoing half-edges, in turn (clockwise seen from outside) */
  bevelled: number[];
  sectorOf: Map<number, Sector>;
  sectors: Sector[];
  /** the corner of a face that gets the whole cross-section, at a vertex of three edges where one bevelled edge ends */
  capped?: number;
  /** vertices across each bevelled half-edge, from its left to its right */
  across: Map<number, number[]>;
}

const along = (cage: Cage, h: number): Triple => unit(subtract(cage.position(cage.target(h)), cage.position(cage.origin[h])));

/** The direction in the face of h that leads at right angles away from its edge, into the face. */
const inward = (cage: Cage, h: number): Triple => unit(cross(faceNormal(cage, cage.face[h]), along(cage, h)));

/** How far to go along one spoke to be one millimetre away from another. */
const reach = (cage: Cage, spoke: number, edge: number): number => 1 / Math.max(0.15, length(cross(along(cage, spoke), along(cage, edge))));

/** Where a face corner between two bevelled edges goes: one millimetre from both. */
function betweenTwo(cage: Cage, corner: number): Triple {
  const out = along(cage, corner);
  const back = along(cage, cage.previous(corner) ^ 1);
  const sine = dot(cross(out, back), faceNormal(cage, cage.face[corner]));
  return Math.abs(sine) < 0.02 ? inward(cage, corner) : scaled(add(out, back), 1 / sine);
}

/** The shortest way that is one millimetre along both of two directions. */
function alongBoth(a: Triple, b: Triple): Triple {
  const c = dot(a, b);
  return c < -0.9 ? scaled(add(a, b), 0.5) : scaled(add(a, b), 1 / (1 + c));
}

/**
 * @param spokes outgoing half-edges from one side of the sector to the other, clockwise; the corners are those of all but the first
 * @param first whether the first spoke is bevelled; @param last whether the last one is
 */
function sectorBetween(cage: Cage, spokes: number[], first: boolean, last: boolean): Sector {
  const corners = spokes.slice(1);
  const n = spokes.length;
  let way: Triple;
  if (first && last && n === 2) way = betweenTwo(cage, spokes[1]);
  else if (first && last && n === 3)
    way = scaled(along(cage, spokes[1]), (reach(cage, spokes[1], spokes[0]) + reach(cage, spokes[1], spokes[2])) / 2);
  else if (first && last) way = alongBoth(inward(cage, spokes[0] ^ 1), inward(cage, spokes[n - 1]));
  else if (n === 2)
    way = first
      ? scaled(along(cage, spokes[1]), reach(cage, spokes[1], spokes[0]))
      : scaled(along(cage, spokes[0]), reach(cage, spokes[0], spokes[1]));
  else way = first ? inward(cage, spokes[0] ^ 1) : inward(cage, spokes[n - 1]);
  return { corners, way, vertex: NONE };
}

/** The sectors round a vertex; the half-edges of its spokes run clockwise, and corner i lies between spokes i - 1 and i. */
function cornerAt(cage: Cage, v: number, picked: ReadonlySet<number>): Corner {
  const onBorder = cage.isBorderVertex(v);
  let spokes = cage.spokes(v);
  const first = spokes.findIndex((h) => picked.has(h >> 1));
  // on a border the turn begins behind the gap, inside at a bevelled edge, which also ends it
  if (!onBorder) spokes = [...spokes.slice(first), ...spokes.slice(0, first), spokes[first]];
  const bevelled = (onBorder ? spokes : spokes.slice(0, -1)).filter((h) => picked.has(h >> 1));
  const result: Corner = { v, bevelled, sectorOf: new Map(), sectors: [], across: new Map() };
  const put = (sector: Sector) => {
    result.sectors.push(sector);
    for (const h of sector.corners) result.sectorOf.set(h, sector);
  };
  if (!onBorder && bevelled.length === 1) {
    const inner = spokes.slice(1, -1);
    if (inner.length === 2) {
      // a corner of three edges: the cross-section cuts it off
      put({ corners: [inner[0]], way: scaled(along(cage, inner[0]), reach(cage, inner[0], bevelled[0])), vertex: NONE });
      put({ corners: [bevelled[0]], way: scaled(along(cage, inner[1]), reach(cage, inner[1], bevelled[0])), vertex: NONE });
      result.capped = inner[1];
    } else put({ corners: [...inner, bevelled[0]], way: [0, 0, 0], vertex: v });
    return result;
  }
  let from = 0;
  for (let i = 1; i < spokes.length; i++)
    if (picked.has(spokes[i] >> 1) || i === spokes.length - 1) {
      put(sectorBetween(cage, spokes.slice(from, i + 1), picked.has(spokes[from] >> 1), picked.has(spokes[i] >> 1)));
      from = i;
    }
  return result;
}

/** Whether the strip of the one bevelled edge here narrows to the vertex, which stays. */
const endsInPoint = ({ bevelled, sectors }: Corner): boolean => bevelled.length === 1 && sectors.length === 1;

/** The width at which the first edge of a face would be used up, and that edge. */
function mostWidth(cage: Cage, faces: Iterable<number>, corners: Map<number, Corner>): { width: number; edge: number } {
  const wayOf = (h: number): Triple => corners.get(cage.origin[h])?.sectorOf.get(h)?.way ?? [0, 0, 0];
  let least = { width: Infinity, edge: NONE };
  for (const f of faces)
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      const edge = subtract(cage.position(cage.target(h)), cage.position(cage.origin[h]));
      const shrinks = -dot(subtract(wayOf(cage.next[h]), wayOf(h)), unit(edge));
      if (shrinks > 1e-9 && length(edge) / shrinks < least.width) least = { width: length(edge) / shrinks, edge: h >> 1 };
    }
  return least;
}

/** Makes the new vertices of a corner: one a sector, and those across its bevelled edges. */
function placeVertices(cage: Cage, corner: Corner, p: BevelParams, width: number, standsFor: Map<number, number>): void {
  const { v, bevelled, sectors, sectorOf } = corner;
  const origin = cage.position(v);
  const addAt = (at: Triple) => {
    const made = cage.addVertex(...at);
    cage.copyValues('vertex', v, made);
    return made;
  };
  for (const sector of sectors) {
    if (sector.vertex !== NONE) continue;
    sector.vertex = addAt(add(origin, scaled(sector.way, width)));
    standsFor.set(sector.vertex, v);
  }
  for (const h of bevelled) {
    const [left, right] = [sectorOf.get(h)!.vertex, sectorOf.get(cage.next[h ^ 1])!.vertex];
    const before = bevelled.length === 2 && sectors.length === 2 ? corner.across.get(bevelled[0]) : undefined;
    if (before) corner.across.set(h, [...before].reverse());
    else if (left === right) corner.across.set(h, Array<number>(p.segments + 1).fill(left));
    else {
      const [a, b] = [cage.position(left), cage.position(right)];
      const line = along(cage, h);
      const middle = mean([a, b]);
      // where three bevels meet, the cross-section stands across its own edge
      const tip = bevelled.length > 2 ? add(origin, scaled(line, dot(subtract(middle, origin), line))) : origin;
      const points = profilePoints(a, b, tip, p.profile, p.segments, p.heights);
      corner.across.set(h, [left, ...points.slice(1, -1).map(addAt), right]);
    }
  }
}

/** Neighbours in a closed row that are the same vertex become one. */
const withoutRepeats = (row: number[]): number[] => row.filter((v, i) => v !== row[(i + row.length - 1) % row.length]);

/** New faces: the old ones with their corners moved, a strip an edge, a patch where three bevels or more meet. */
function newFaces(cage: Cage, faces: number[], edges: number[], corners: Map<number, Corner>): { added: NewFace[]; strips: number } {
  const added: NewFace[] = faces.map((f) => {
    const like: number[] = [];
    const row = cage.loopOf(cage.faceEdge[f]).flatMap((h) => {
      const corner = corners.get(cage.origin[h]);
      const now = !corner
        ? [cage.origin[h]]
        : corner.capped === h
          ? [...corner.across.get(corner.bevelled[0])!].reverse()
          : [corner.sectorOf.get(h)!.vertex];
      like.push(...now.map(() => h));
      return now;
    });
    return { corners: row, like: f, cornersLike: like };
  });
  const kept = added.length;
  for (const e of edges) {
    const h = 2 * e;
    const near = corners.get(cage.origin[h])!.across.get(h)!;
    const far = [...corners.get(cage.target(h))!.across.get(h ^ 1)!].reverse();
    for (let i = 0; i + 1 < near.length; i++) {
      const row = withoutRepeats([far[i], near[i], near[i + 1], far[i + 1]]);
      if (row.length >= 3) added.push({ corners: row, like: cage.face[h] });
    }
  }
  const strips = added.length - kept;
  for (const { v, bevelled, sectors, across } of corners.values()) {
    const open = sectors.length > bevelled.length;
    if (bevelled.length < (open ? 2 : 3)) continue;
    const sides = [...bevelled].reverse().map((h) => [...across.get(h)!].reverse());
    const like = cage.face[bevelled[0]];
    const rows = open
      ? [[...sides.flatMap((side) => side.slice(0, -1)), sides[sides.length - 1].at(-1)!]]
      : cornerPatch(cage, sides, (p) => copyAt(cage, v, p));
    for (const row of rows) added.push({ corners: row, like });
  }
  return { added, strips };
}

function copyAt(cage: Cage, v: number, p: Triple): number {
  const made = cage.addVertex(...p);
  cage.copyValues('vertex', v, made);
  return made;
}

/** Edges to be bevelled: the picked ones, else the outline of picked faces. */
const edgesOf = (cage: Cage, s: Selection): number[] =>
  s.edges.length > 0 ? s.edges : [...new Set(faceGroups(cage, s.faces, true).flatMap((g) => outlineOf(cage, g).map((h) => h >> 1)))];

function bevelEdges(cage: Cage, edges: number[], p: BevelParams): CageResult {
  const picked = new Set(edges);
  const corners = new Map<number, Corner>();
  for (const e of edges) for (const v of [cage.origin[2 * e], cage.origin[2 * e + 1]]) if (!corners.has(v)) corners.set(v, cornerAt(cage, v, picked));
  const narrow = edges.filter((e) => endsInPoint(corners.get(cage.origin[2 * e])!) && endsInPoint(corners.get(cage.origin[2 * e + 1])!));
  if (narrow.length > 0)
    refuse(
      `${narrow.length === 1 ? 'An edge ends' : `${narrow.length} edges end`} inside the surface on both sides: a strip there would come to a point twice, and have no width.`,
      selectEdges(narrow),
      'Pick the next edge of its loop as well, or the whole loop.'
    );
  const faces = new Set<number>();
  for (const v of corners.keys()) for (const h of cage.spokes(v)) if (cage.face[h] !== NONE) faces.add(cage.face[h]);
  const width = widthThatFits(p, mostWidth(cage, faces, corners));
  const copy = cage.clone();
  const standsFor = new Map<number, number>();
  for (const corner of corners.values()) placeVertices(copy, corner, p, width, standsFor);
  const { added, strips } = newFaces(copy, [...faces], edges, corners);
  const ids = replaceFaces(copy, { gone: faces, added, standsFor });
  const bands = ids.slice(faces.size, faces.size + strips);
  const sharp = edges.filter((e) => cage.value('crease', e) > 0).length;
  // the rails would inherit the sharpness of the edge that they replace
  if (sharp > 0)
    for (const f of bands)
      for (const h of copy.loopOf(copy.faceEdge[f])) {
        const [a, b] = [copy.origin[h], copy.target(h)].map((v) => standsFor.get(v));
        if (a !== undefined && b !== undefined && a !== b) copy.setValue('crease', h >> 1, 0);
      }
  const notes = [`${strips} faces along ${edges.length} edge${edges.length === 1 ? '' : 's'}, ${lengthInWords(width)} to each side.`];
  if (width < p.width) notes.push(`Wider than ${width.toFixed(3)} mm, faces would run into each other: it was narrowed.`);
  if (sharp > 0) notes.push(`${sharp} of the edges had a sharpness: it was removed with them.`);
  return { cage: copy, selection: selectFaces(bands), notes };
}

function widthThatFits(p: BevelParams, most: { width: number; edge: number }): number {
  if (p.width < most.width) return p.width;
  const fits = 0.98 * most.width;
  if (p.tooWide === 'clamp') return fits;
  return refuse(
    `At ${p.width} mm the sides would run into each other here.`,
    selectEdges([most.edge]),
    `Up to ${fits.toFixed(3)} mm fits; or let it be clamped.`
  );
}

/** Cuts picked vertices off: a new vertex on every edge, one face in their place. */
function bevelVertices(cage: Cage, vertices: number[], p: BevelParams): CageResult {
  const chosen = new Set(vertices);
  let most = { width: Infinity, edge: NONE };
  for (const v of vertices)
    for (const h of cage.spokes(v)) {
      const room = cage.edgeLength(h >> 1) / (chosen.has(cage.target(h)) ? 2 : 1);
      if (room < most.width) most = { width: room, edge: h >> 1 };
    }
  const width = widthThatFits(p, most);
  const copy = cage.clone();
  const onSpoke = new Map<number, number>();
  const standsFor = new Map<number, number>();
  for (const v of vertices)
    for (const h of cage.spokes(v)) {
      const made = copyAt(copy, v, add(cage.position(v), scaled(along(cage, h), width)));
      onSpoke.set(h, made);
      standsFor.set(made, v);
    }
  const faces = new Set(vertices.flatMap((v) => cage.spokes(v).map((h) => cage.face[h])).filter((f) => f !== NONE));
  const added: NewFace[] = [...faces].map((f) => {
    const like: number[] = [];
    const row = cage.loopOf(cage.faceEdge[f]).flatMap((h) => {
      const now = chosen.has(cage.origin[h]) ? [onSpoke.get(cage.previous(h) ^ 1)!, onSpoke.get(h)!] : [cage.origin[h]];
      like.push(...now.map(() => h));
      return now;
    });
    return { corners: row, like: f, cornersLike: like };
  });
  for (const v of vertices) {
    const ring = cage.spokes(v).map((h) => onSpoke.get(h)!);
    if (ring.length >= 3) added.push({ corners: [...ring].reverse(), like: cage.face[cage.spokes(v).at(-1)!] });
  }
  const ids = replaceFaces(copy, { gone: faces, added, standsFor });
  return {
    cage: copy,
    selection: selectFaces(ids.slice(faces.size)),
    notes: [`${vertices.length} corner${vertices.length === 1 ? '' : 's'} cut off at ${width.toFixed(3)} mm.`]
  };
}

function check(cage: Cage, selection: Selection): Refusal | undefined {
  if (isEmpty(selection)) return { found: 'Nothing is picked.', instead: 'Pick edges, a loop, faces for their outline, or vertices.' };
  const edges = edgesOf(cage, selection);
  if (edges.length === 0 && selection.vertices.length === 0)
    return { found: 'These faces form a closed shell: they have no outline to bevel.', where: selection, instead: 'Pick edges.' };
  const border = edges.filter((e) => cage.isBorderEdge(e));
  if (border.length > 0)
    return {
      found: `${border.length} of the edges ${border.length === 1 ? 'lies' : 'lie'} on a border: a bevel needs a face on both sides.`,
      where: selectEdges(border),
      instead: 'Leave them out, or extrude the border first.'
    };
  const lone = edges.length > 0 ? [] : selection.vertices.filter((v) => cage.valence(v) < 3);
  if (lone.length > 0)
    return {
      found: `${lone.length} of the vertices ${lone.length === 1 ? 'has' : 'have'} fewer than three edges: nothing can be cut off.`,
      where: selectVertices(lone),
      instead: 'Pick vertices of three edges or more.'
    };
  return undefined;
}

/** Replaces edges by strips of faces with a cross-section, vertices by faces. */
export const bevel: CageOperation = {
  kind: 'cage',
  id: 'bevel',
  bench: 3,
  name: 'Bevel',
  purpose: 'Replace edges by strips of a width in mm with a round, flat, hollow, stepped or drawn profile; cut vertices off.',
  icon: 'Corner',
  needs: 'Pick edges, a loop, faces or vertices.',
  params: Joi.object({
    width: Joi.number().greater(0).max(1e6).default(1).label('Width').unit('mm').meta({ step: 0.25 }),
    segments: Joi.number().integer().min(1).max(64).default(2).label('Segments').meta({ step: 1 }),
    profile: Joi.string()
      .valid('round', 'flat', 'hollow', 'stepped', 'drawn')
      .default('round')
      .label('Profile')
      .meta({ labels: { round: 'Round', flat: 'Flat', hollow: 'Hollow', stepped: 'Stepped', drawn: 'Drawn' } }),
    heights: Joi.array()
      .items(Joi.number().min(-100).max(100))
      .min(1)
      .max(15)
      .default([60, 20, -40, 20, 60])
      .label('Drawn profile')
      .meta({ widget: 'profile', when: { field: 'profile', is: 'drawn' } }),
    tooWide: Joi.string()
      .valid('refuse', 'clamp')
      .default('refuse')
      .label('If too wide')
      .meta({ labels: { refuse: 'Stop', clamp: 'Narrow to fit' } })
  }),
  check,
  run: (cage, selection, params) => {
    const p = params as unknown as BevelParams;
    const edges = edgesOf(cage, selection);
    return edges.length > 0 ? bevelEdges(cage, edges, p) : bevelVertices(cage, selection.vertices, p);
  }
};
