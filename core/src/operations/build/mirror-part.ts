import Joi from 'joi';
import { Cage } from '../../mesh/cage.ts';
import { faceCount, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { repairPolygons } from '../../mesh/repair.ts';
import { sliceFaces } from '../../mesh/slice.ts';
import { bestFitPlane, planeAcross, type Plane } from '../../numeric/best-fit.ts';
import { mean, scaled, type Triple } from '../../numeric/vectors.ts';
import { emptySelection, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Params } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';
import { intoFrame, outOfFrame, type Frame } from '../shared/frame.ts';

interface MirrorParams {
  axis: 'X' | 'Y' | 'Z' | 'picked';
  at: number;
  keep: 'positive' | 'negative';
  crossing: 'cut' | 'drawn';
  weld: number;
}

/** The plane of symmetry as a frame: its third axis is across the plane, which runs through the pivot. */
function planeOf(cage: Cage, selection: Selection, { axis, at }: MirrorParams): Frame {
  let plane: Plane;
  if (axis === 'picked') {
    plane = bestFitPlane(verticesOf(cage, selection).map((v) => cage.position(v)));
    // turned so that its positive side is the one a person would call so
    const most = plane.normal.reduce((best, n, k) => (Math.abs(n) > Math.abs(plane.normal[best]) ? k : best), 0);
    if (plane.normal[most] < 0) plane = { ...plane, normal: scaled(plane.normal, -1), v: scaled(plane.v, -1) };
  } else {
    const k = 'XYZ'.indexOf(axis);
    const direction: Triple = [Number(k === 0), Number(k === 1), Number(k === 2)];
    plane = planeAcross(scaled(direction, at), direction);
  }
  return { axes: [plane.u, plane.v, plane.normal], pivot: plane.centre };
}

/** Distance of a vertex from the plane, positive on the kept side. */
const sideOf = (frame: Frame, p: Triple, keep: MirrorParams['keep']): number => intoFrame(frame, p)[2] * (keep === 'positive' ? 1 : -1);

/** Faces whose middle lies on the kept side; what lies in the plane altogether would be a wall inside. */
function keptFaces(cage: Cage, frame: Frame, { keep, weld }: MirrorParams): number[] {
  return [...cage.faces()].filter((f) => {
    const corners = cage.faceVertices(f).map((v) => cage.position(v));
    return corners.some((p) => sideOf(frame, p, keep) > weld) && sideOf(frame, mean(corners), keep) >= 0;
  });
}

/** The kept half, cut at the plane or with what crosses it drawn to it, as polygons in the plane's own coordinates. */
function keptHalf(cage: Cage, frame: Frame, p: MirrorParams): { mesh: PolygonMesh; kept: number[] } {
  const half = cage.clone();
  if (p.crossing === 'cut') sliceFaces(half, { point: frame.pivot, normal: frame.axes[2] }, {}, Math.max(p.weld, 1e-9));
  const kept = new Set(keptFaces(half, frame, p));
  const mesh = half.toPolygons();
  for (let v = 0; v < mesh.positions.length; v += 3) {
    const at = mesh.positions.subarray(v, v + 3) as unknown as Triple;
    const own = intoFrame(frame, [at[0], at[1], at[2]]);
    // what is kept and lies beyond the plane is drawn to it
    if (sideOf(frame, [at[0], at[1], at[2]], p.keep) <= p.weld) own[2] = 0;
    mesh.positions.set(own, v);
  }
  return { mesh, kept: Array.from(mesh.faceIds.keys()).filter((i) => kept.has(mesh.faceIds[i])) };
}

/** Keeps the faces on one side of a plane and puts their mirror image beside them, welded on the plane. */
export const mirror: CageOperation = {
  kind: 'cage',
  id: 'mirror',
  bench: 3,
  name: 'Mirror',
  purpose: 'Make one half of the part the mirror image of the other (make symmetric), across an axis or the plane of the picks.',
  icon: 'ReflectHorizontal',
  key: 'B',
  needs: 'A cage with faces.',
  params: Joi.object({
    axis: Joi.string()
      .valid('X', 'Y', 'Z', 'picked')
      .default('X')
      .label('Across')
      .meta({ labels: { picked: 'The plane of the picks' } }),
    at: Joi.number()
      .min(-1e6)
      .max(1e6)
      .default(0)
      .label('At')
      .unit('mm')
      .meta({ step: 1, when: { field: 'axis', is: 'X|Y|Z' } }),
    keep: Joi.string()
      .valid('positive', 'negative')
      .default('positive')
      .label('Keep the side')
      .meta({ labels: { positive: 'Positive', negative: 'Negative' } }),
    crossing: Joi.string()
      .valid('cut', 'drawn')
      .default('cut')
      .label('Crossing faces')
      .meta({ labels: { cut: 'Cut', drawn: 'Snapped to the plane' } }),
    weld: Joi.number().min(0).max(1e4).default(0.05).label('Weld distance').unit('mm').meta({ step: 0.01 })
  }),
  check: (cage, selection, params) => {
    const p = params as unknown as MirrorParams;
    if (cage.faceCount === 0) return { found: 'This part has no faces to mirror.', instead: 'Begin with a start shape, or lay quads.' };
    if (p.axis === 'picked' && verticesOf(cage, selection).length < 3)
      return {
        numbers: true,
        found: 'Fewer than three vertices are picked: they make no plane.',
        where: selection,
        instead: 'Pick a loop or faces that lie in the plane.'
      };
    if (keptFaces(cage, planeOf(cage, selection, p), p).length === 0)
      return {
        numbers: true,
        found:
          p.axis === 'picked'
            ? `No face lies on the ${p.keep} side of the picked plane.`
            : `No face lies on the ${p.keep} side of the plane ${p.axis} = ${p.at}.`,
        instead: 'Keep the other side, or move the part.'
      };
    return undefined;
  },
  run: (cage, selection, params: Params) => {
    const p = params as unknown as MirrorParams;
    const frame = planeOf(cage, selection, p);
    const { mesh, kept } = keptHalf(cage, frame, p);
    const doubled = doubledMesh(mesh, kept);
    for (let v = 0; v < doubled.positions.length; v += 3)
      doubled.positions.set(outOfFrame(frame, [doubled.positions[v], doubled.positions[v + 1], doubled.positions[v + 2]]), v);
    const { mesh: welded, report } = repairPolygons(doubled, { weld: false, outward: false });
    if (faceCount(welded) === 0) refuse('Snapped to the plane, no face would be left.', undefined, 'Let crossing faces be cut.');
    const result = Cage.fromPolygons(welded);
    result.regionNames = cage.regionNames.slice();
    const notes = report.splitEdges.count > 0 ? [`${counted(report.splitEdges.count, 'edge')} would have had more than two faces: split.`] : [];
    return { cage: result, selection: emptySelection(), notes };
  }
};

/** Kept faces and their images across the third coordinate; vertices where that is 0 are shared. */
function doubledMesh(mesh: PolygonMesh, kept: number[]): PolygonMesh {
  const positions: number[] = [];
  const own = new Map<number, number>();
  const image = new Map<number, number>();
  const place = (v: number) => {
    let i = own.get(v);
    if (i === undefined) {
      const p = [...mesh.positions.subarray(3 * v, 3 * v + 3)];
      const onPlane = p[2] === 0;
      i = positions.length / 3;
      own.set(v, i);
      image.set(v, i);
      positions.push(...p);
      if (!onPlane) {
        image.set(v, i + 1);
        p[2] = -p[2];
        positions.push(...p);
      }
    }
    return i;
  };
  const faceVertices: number[] = [];
  const faceStart = [0];
  const faceRegion: number[] = [];
  for (const side of [own, image])
    for (const f of kept) {
      const corners = [...mesh.faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1])].map((v) => (place(v), side.get(v)!));
      faceVertices.push(...(side === image ? corners.reverse() : corners));
      faceStart.push(faceVertices.length);
      faceRegion.push(mesh.faceRegion?.[f] ?? 0);
    }
  const pairs = (map: Map<number, number>, ids: Int32Array) => [...ids].map((v) => map.get(v) ?? -1);
  const sharp: { edges: number[]; values: number[] } = { edges: [], values: [] };
  for (const side of [own, image])
    mesh.creaseSharpness?.forEach((s, i) => {
      const [a, b] = pairs(side, mesh.creaseEdges!.subarray(2 * i, 2 * i + 2));
      if (a >= 0 && b >= 0) {
        sharp.edges.push(a, b);
        sharp.values.push(s);
      }
    });
  return {
    positions: Float64Array.from(positions),
    faceStart: Int32Array.from(faceStart),
    faceVertices: Int32Array.from(faceVertices),
    ...(mesh.faceRegion && { faceRegion: Int32Array.from(faceRegion), regionNames: mesh.regionNames }),
    ...(sharp.values.length > 0 && { creaseEdges: Int32Array.from(sharp.edges), creaseSharpness: Float64Array.from(sharp.values) })
  };
}
