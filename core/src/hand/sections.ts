import { evenlyAlong, waysAlong } from '../numeric/curve.ts';
import { add, areaVector, between, cross, dot, length, scaled, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { type Act } from './acts.ts';
import { turnedOutward } from './intents.ts';
import { untwisted } from './limb-loops.ts';
import { outlineOf } from './outline.ts';
import { type SurfaceWalk } from './surface-walk.ts';

type Faces = Extract<Act, { do: 'faces' }>;

/** How strokes become a skin. */
export interface SkinSettings {
  /** quads along every stroke */
  along: number;
  /** quads from stroke to stroke; 0: as many as make them about square */
  between: number;
  /** every stroke is a ring */
  closed: boolean;
}

/** A skin through strokes, row by row. */
export interface Skin {
  /** equal counts; they lie on the reference */
  rows: Triple[][];
  faces: number[][];
}

/** A row that runs the way the one before does: strokes are drawn from either end. */
function besides(from: readonly Triple[], row: Triple[], closed: boolean): Triple[] {
  const turned = [...row].reverse();
  const far = (other: readonly Triple[]) => from.reduce((sum, p, i) => sum + dot(subtract(p, other[i]), subtract(p, other[i])), 0);
  if (!closed) return far(turned) < far(row) ? turned : row;
  const [a, b] = [untwisted(from, row), untwisted(from, turned)];
  return far(b) < far(a) ? b : a;
}

/**
 * A skin of quads through cross strokes on a reference: strokes of any density are spaced evenly, turned to run the same way, and joined.
 * @param strokes two or more of two places or more, in order
 */
export function skinThrough(walk: SurfaceWalk, strokes: readonly (readonly Triple[])[], { along, between: many, closed }: SkinSettings): Skin {
  const given = strokes.map((stroke) => evenlyAlong(stroke, along, closed));
  for (let i = 1; i < given.length; i++) given[i] = besides(given[i - 1], given[i], closed);
  const rows = [given[0]];
  for (let i = 1; i < given.length; i++) {
    const [a, b] = [given[i - 1], given[i]];
    const far = a.reduce((sum, p, k) => sum + length(subtract(b[k], p)), 0) / a.length;
    const edge = (waysAlong(a).at(-1)! + waysAlong(b).at(-1)!) / (2 * (closed ? along - 1 : along));
    const steps = many > 0 ? many : Math.max(1, Math.round(far / (edge || 1)));
    for (let s = 1; s <= steps; s++) rows.push(a.map((p, k) => between(p, b[k], s / steps)));
  }
  const per = rows[0].length;
  const onIt = rows.map((row) => row.map((p): Triple => walk.nearest(p)!.at));
  const faces = rows.slice(1).flatMap((_, i) =>
    Array.from({ length: along }, (__, k) => {
      const [a, b] = [i * per + k, i * per + ((k + 1) % per)];
      return [a, b, b + per, a + per];
    })
  );
  const isTurned = turnedOutward(walk, onIt.flat(), faces[0])[0] !== faces[0][0];
  return { rows: onIt, faces: isTurned ? faces.map((corners) => [...corners].reverse()) : faces };
}

/** A skin as an act. */
export const skinAct = ({ rows, faces }: Skin): Faces => ({ do: 'faces', places: rows.flat(), faces });

/** How a skin becomes a plate. */
export interface PlateSettings {
  /** mm outwards */
  thickness: number;
  /** mm by which the outline of its outer side is drawn in */
  rim: number;
  /** whether it has an inner side, on the reference */
  inner: boolean;
}

/**
 * A plate on a skin: its outer side lies off the reference by the thickness, walls run round its outline, and an inner side closes it by choice.
 * @param openAt whether an edge of the outline between two places gets no wall: it lies on a mirror
 */
export function plateOn({ rows, faces }: Skin, { thickness, rim, inner }: PlateSettings, openAt: (a: Triple, b: Triple) => boolean): Faces {
  const places = rows.flat();
  const many = places.length;
  const normals = places.map((): Triple => [0, 0, 0]);
  for (const corners of faces) {
    const area = areaVector(corners.map((i) => places[i]));
    for (const i of corners) normals[i] = add(normals[i], area);
  }
  const walled = outlineOf(faces).filter(([a, b]) => !openAt(places[a], places[b]));
  // to the left of the outline lies the skin
  const inwards = new Map<number, Triple[]>();
  for (const [a, b] of walled) {
    const left = unit(cross(unit(add(normals[a], normals[b])), subtract(places[b], places[a])));
    for (const i of [a, b]) inwards.set(i, [...(inwards.get(i) ?? []), left]);
  }
  const outer = places.map((p, i): Triple => {
    const lefts = inwards.get(i) ?? [];
    const sum = lefts.reduce<Triple>(add, [0, 0, 0]);
    // at a corner both sides are drawn in
    const share = lefts.length > 1 ? 2 / Math.max(0.5, dot(sum, sum)) : 1;
    return add(add(p, scaled(unit(normals[i]), thickness)), scaled(sum, rim * share));
  });
  const walls = walled.map(([a, b]) => [a, b, many + b, many + a]);
  return {
    do: 'faces',
    places: [...places, ...outer],
    faces: [...faces.map((corners) => corners.map((i) => many + i)), ...walls, ...(inner ? faces.map((corners) => [...corners].reverse()) : [])]
  };
}
