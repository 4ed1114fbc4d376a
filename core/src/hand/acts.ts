import Joi from 'joi';
import { type Triple } from '../numeric/vectors.ts';
import { type Axis } from '../select/counterparts.ts';

/** A place on the reference, mm; with a 1 behind it that of a vertex that is there already. */
export type Place = readonly [x: number, y: number, z: number] | readonly [x: number, y: number, z: number, there: 1];

/**
 * One thing done while laying by hand, as data. Vertices are named by where they lie: so an act means the same however they are numbered, and one whose
 * vertices are gone is noticed.
 */
export type Act =
  | { do: 'point'; at: Place }
  /** faces by the numbers of their corners among the places */
  | { do: 'faces'; places: Place[]; faces: number[][] }
  | { do: 'move'; from: Place[]; to: Place[] }
  /** vertices each onto another: edges go together with both their ends */
  | { do: 'weld'; from: Place[]; onto: Place[] }
  /** edges that follow each other across quads are cut, each at a place, and the cuts are joined */
  | { do: 'cut'; edges: [Place, Place][]; at: Place[]; closed: boolean }
  /** faces by their corners, and vertices with the faces at them */
  | { do: 'erase'; faces: Place[][]; vertices: Place[] };

/** Acts that one entry may hold. */
const MOST_ACTS = 20_000;

const number = Joi.number().required();
const one = Joi.array().ordered(number, number, number, Joi.number().valid(1));
const [place, places] = [one.required(), Joi.array().items(one).required()];

/** Schema of a list of acts. */
export const actsSchema = Joi.array()
  .max(MOST_ACTS)
  .items(
    Joi.object({ do: Joi.valid('point').required(), at: place }),
    Joi.object({
      do: Joi.valid('faces').required(),
      places,
      faces: Joi.array()
        .items(Joi.array().items(Joi.number().integer().min(0)).min(3))
        .required()
    }),
    Joi.object({ do: Joi.valid('move').required(), from: places, to: places }),
    Joi.object({ do: Joi.valid('weld').required(), from: places, onto: places }),
    Joi.object({
      do: Joi.valid('cut').required(),
      edges: Joi.array().items(Joi.array().ordered(place, place)).required(),
      at: places,
      closed: Joi.boolean().required()
    }),
    Joi.object({ do: Joi.valid('erase').required(), faces: Joi.array().items(Joi.array().items(one).min(3)).required(), vertices: places })
  )
  .default([]);

/** An axis of a mirror at 0, and the distance within which places belong on it, mm. */
export interface MirrorSettings {
  axis: number;
  width: number;
}

/** The mirror that a card's choice means. @param width mm */
export const mirrorOf = (mirrored: 'none' | Axis, width: number): MirrorSettings | undefined =>
  mirrored === 'none' ? undefined : { axis: 'XYZ'.indexOf(mirrored), width };

/** An act with its places put on the mirror where they belong there. */
function snapped(act: Act, { axis, width }: MirrorSettings): Act {
  return eachPlace(act, (p) => (p[3] !== 1 && Math.abs(p[axis]) < width ? withAxis(p, axis, 0) : p));
}

/** An act as it is done on both sides of a mirror: its own, and its image where that is another one. */
export function onBothSides(act: Act, mirror: MirrorSettings | undefined): Act[] {
  if (!mirror) return [act];
  const own = snapped(act, mirror);
  const image = reflectedAct(own, mirror);
  return image ? [own, image] : [own];
}

/**
 * Faces with their places near a mirror put on it: of every face two at most, those that lie nearest, so that no side of it closes up.
 */
export function ontoMirror(act: Extract<Act, { do: 'faces' }>, { axis, width }: MirrorSettings): Extract<Act, { do: 'faces' }> {
  const off = act.places.map((p) => Math.abs(p[axis]));
  const stays = new Set<number>();
  for (const corners of act.faces) for (const i of [...corners].sort((a, b) => off[a] - off[b]).slice(2)) stays.add(i);
  return { ...act, places: act.places.map((p, i) => (off[i] < width && !stays.has(i) && p[3] !== 1 ? withAxis(p, axis, 0) : p)) };
}

/** What an act is on the other side of a mirror; nothing where it lies on the mirror itself. */
function reflectedAct(act: Act, { axis }: MirrorSettings): Act | undefined {
  const isOnMirror = placesOf(act).every((p) => p[axis] === 0);
  if (isOnMirror) return undefined;
  const image = eachPlace(act, (p) => withAxis(p, axis, -p[axis]));
  // a loop that runs through both sides is cut once
  if (act.do === 'cut' && image.do === 'cut' && sharesEdge(act, image)) return undefined;
  return image.do === 'faces' ? { ...image, faces: image.faces.map((corners) => [...corners].reverse()) } : image;
}

function sharesEdge(a: Extract<Act, { do: 'cut' }>, b: Extract<Act, { do: 'cut' }>): boolean {
  const keys = new Set(a.edges.flatMap(([p, q]) => [`${p} ${q}`, `${q} ${p}`]));
  return b.edges.some(([p, q]) => keys.has(`${p} ${q}`));
}

function withAxis(p: Place, axis: number, value: number): Place {
  const moved = [...p];
  // no minus zero: places are compared
  moved[axis] = value === 0 ? 0 : value;
  return moved as unknown as Place;
}

const placesOf = (act: Act): readonly Place[] => {
  const found: Place[] = [];
  eachPlace(act, (p) => (found.push(p), p));
  return found;
};

/** An act with each of its places changed. */
function eachPlace(act: Act, change: (p: Place) => Place): Act {
  switch (act.do) {
    case 'point':
      return { ...act, at: change(act.at) };
    case 'faces':
      return { ...act, places: act.places.map(change) };
    case 'move':
      return { ...act, from: act.from.map(change), to: act.to.map(change) };
    case 'weld':
      return { ...act, from: act.from.map(change), onto: act.onto.map(change) };
    case 'cut':
      return { ...act, edges: act.edges.map(([a, b]): [Place, Place] => [change(a), change(b)]), at: act.at.map(change) };
    case 'erase':
      return { ...act, faces: act.faces.map((corners) => corners.map(change)), vertices: act.vertices.map(change) };
  }
}

/** The place of a vertex that is there. */
export const there = ([x, y, z]: Triple): Place => [x, y, z, 1];
