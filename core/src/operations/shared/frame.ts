import { type Cage } from '../../mesh/cage.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { faceMiddle, faceAreaVector, vertexNormal } from '../../mesh/normals.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { bestFitPlane } from '../../numeric/best-fit.ts';
import { add, between, cross, dot, length, mean, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { facesOf, verticesOf, type Selection } from '../../select/selection.ts';

/** Three directions at right angles, right-handed, and the point that turning and scaling happen about. */
export interface Frame {
  axes: [Triple, Triple, Triple];
  pivot: Triple;
}

export type FrameKind = 'world' | 'selection';
export type PivotKind = 'mean' | 'middle' | 'last' | 'border' | 'origin' | 'typed';

export const WORLD_AXES: Frame['axes'] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1]
];

/** Mean normal of what is picked, and how far its normals agree: 1 all the way, 0 where they cancel out. */
function meanNormal(cage: Cage, selection: Selection): { normal: Triple; agreement: number } {
  const faces = facesOf(cage, selection);
  const normals = faces.length > 0 ? faces.map((f) => faceAreaVector(cage, f)) : verticesOf(cage, selection).map((v) => vertexNormal(cage, v));
  const sum = normals.reduce<Triple>(add, [0, 0, 0]);
  const all = normals.reduce((total, n) => total + length(n), 0);
  return { normal: unit(sum), agreement: all > 0 ? length(sum) / all : 0 };
}

/** Mean normal of what is picked; the zero vector where it has none. */
export const averageNormal = (cage: Cage, selection: Selection): Triple => meanNormal(cage, selection).normal;

/** Frame of the selection: Y along its average normal, X along the first picked edge, else along its longest extent. */
function selectionAxes(cage: Cage, selection: Selection): Frame['axes'] {
  const normal = averageNormal(cage, selection);
  if (length(normal) < 0.5) return WORLD_AXES;
  const [e] = selection.edges;
  const along =
    e !== undefined
      ? subtract(cage.position(cage.origin[2 * e + 1]), cage.position(cage.origin[2 * e]))
      : bestFitPlane(verticesOf(cage, selection).map((v) => cage.position(v))).u;
  const flat = (p: Triple) => subtract(p, scaled(normal, dot(p, normal)));
  let x = unit(flat(along));
  if (length(x) < 0.5) x = unit(flat(Math.abs(normal[0]) < 0.9 ? [1, 0, 0] : [0, 0, 1]));
  return [x, normal, cross(x, normal)];
}

/** Agreement of normals below which something bends right round. */
const BENDS_ROUND = 0.2;

/**
 * From where something picked is seen squarely: its middle, and the unit direction from there to the eye. What bends right round has no
 * average normal: it is looked at across the plane that fits it best, from its upper side.
 */
export function squareTo(cage: Cage, selection: Selection): { middle: Triple; towards: Triple } {
  const points = verticesOf(cage, selection).map((v) => cage.position(v));
  const { min, max } = boundsOf(points.flat());
  const middle = between(min, max, 0.5);
  const { normal, agreement } = meanNormal(cage, selection);
  if (agreement > BENDS_ROUND) return { middle, towards: normal };
  const { normal: across } = bestFitPlane(points);
  const [x, y, z] = across;
  const isUpper = y > 1e-9 || (Math.abs(y) <= 1e-9 && (z > 1e-9 || (Math.abs(z) <= 1e-9 && x > 0)));
  return { middle, towards: isUpper ? across : scaled(across, -1) };
}

/** The middle of the border that the selection touches, else of the nearest one. */
function borderMiddle(cage: Cage, vertices: number[], near: Triple): Triple {
  const picked = new Set(vertices);
  const loops = borderLoops(cage).map((loop) => loop.map((h) => cage.origin[h]));
  const middles = loops.map((loop) => mean(loop.map((v) => cage.position(v))));
  const touched = loops.findIndex((loop) => loop.some((v) => picked.has(v)));
  if (touched >= 0) return middles[touched];
  return middles.reduce((a, b) => (length(subtract(b, near)) < length(subtract(a, near)) ? b : a), middles[0] ?? near);
}

/** Where turning and scaling happen about, and along which directions handles and numbers run. */
export function frameOf(cage: Cage, selection: Selection, frame: FrameKind, pivot: PivotKind, typed: Triple): Frame {
  const vertices = verticesOf(cage, selection);
  const points = vertices.map((v) => cage.position(v));
  const axes = frame === 'world' ? WORLD_AXES : selectionAxes(cage, selection);
  const centre = mean(points);
  const { min, max } = boundsOf(points.flat());
  const last = (): Triple => {
    if (selection.faces.length > 0) return faceMiddle(cage, selection.faces.at(-1)!);
    if (selection.edges.length === 0) return points.at(-1) ?? centre;
    const e = selection.edges.at(-1)!;
    return between(cage.position(cage.origin[2 * e]), cage.position(cage.origin[2 * e + 1]), 0.5);
  };
  const places: Record<PivotKind, () => Triple> = {
    mean: () => centre,
    middle: () => between(min, max, 0.5),
    last,
    border: () => borderMiddle(cage, vertices, centre),
    origin: () => [0, 0, 0],
    typed: () => typed
  };
  return { axes, pivot: places[pivot]() };
}

/** A point's coordinates in a frame, from its pivot. */
export const intoFrame = ({ axes, pivot }: Frame, p: Triple): Triple => {
  const d = subtract(p, pivot);
  return [dot(d, axes[0]), dot(d, axes[1]), dot(d, axes[2])];
};

/** The point at coordinates in a frame. */
export const outOfFrame = ({ axes, pivot }: Frame, [x, y, z]: Triple): Triple =>
  add(pivot, add(scaled(axes[0], x), add(scaled(axes[1], y), scaled(axes[2], z))));
