import Joi from 'joi';
import { Cage } from '../../mesh/cage.ts';
import { faceCount, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { repairPolygons } from '../../mesh/repair.ts';
import { emptySelection } from '../../select/selection.ts';
import { type CageOperation, type Params } from '../operation.ts';

interface MirrorParams {
  axis: 'X' | 'Y' | 'Z';
  keep: 'positive' | 'negative';
  weld: number;
}

const axisOf = (p: MirrorParams) => 'XYZ'.indexOf(p.axis);

/** Faces whose middle lies on the kept side. */
function keptFaces(mesh: PolygonMesh, p: MirrorParams): number[] {
  const k = axisOf(p);
  const sign = p.keep === 'positive' ? 1 : -1;
  const kept: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    let sum = 0;
    for (let c = mesh.faceStart[f]; c < mesh.faceStart[f + 1]; c++) sum += mesh.positions[3 * mesh.faceVertices[c] + k];
    if (sum * sign >= 0) kept.push(f);
  }
  return kept;
}

/** Keeps the faces on one side of a coordinate plane and puts their mirror image beside them, welded on the plane. */
export const mirror: CageOperation = {
  kind: 'cage',
  id: 'mirror',
  bench: 3,
  name: 'Mirror',
  purpose: 'Make one half of the part the mirror image of the other (make symmetric).',
  icon: 'ReflectHorizontal',
  key: 'B',
  needs: 'A cage with faces.',
  params: Joi.object({
    axis: Joi.string().valid('X', 'Y', 'Z').default('X').label('Across'),
    keep: Joi.string()
      .valid('positive', 'negative')
      .default('positive')
      .label('Keep the side')
      .meta({ labels: { positive: 'Positive', negative: 'Negative' } }),
    weld: Joi.number().min(0).max(1e4).default(0.05).label('Weld width').unit('mm').meta({ step: 0.01 })
  }),
  check: (cage, _selection, params) => {
    const p = params as unknown as MirrorParams;
    if (cage.faceCount === 0) return { found: 'This part has no faces to mirror.' };
    if (keptFaces(cage.toPolygons(), p).length === 0)
      return { found: `No face lies on the ${p.keep} side of the plane ${p.axis} = 0.`, instead: 'Keep the other side, or move the part.' };
    return undefined;
  },
  run: (cage, _selection, params: Params) => {
    const p = params as unknown as MirrorParams;
    const mesh = cage.toPolygons();
    const doubled = doubledMesh(mesh, keptFaces(mesh, p), axisOf(p), p.weld);
    const { mesh: welded, report } = repairPolygons(doubled, { weld: false, outward: false });
    const result = Cage.fromPolygons(welded);
    result.regionNames = cage.regionNames.slice();
    const notes = report.splitEdges.count > 0 ? [`${report.splitEdges.count} edges would have had more than two faces and were split.`] : [];
    return { cage: result, selection: emptySelection(), notes };
  }
};

/** Kept faces and their images; vertices closer to the plane than `weld` are put on it and shared. */
function doubledMesh(mesh: PolygonMesh, kept: number[], axis: number, weld: number): PolygonMesh {
  const positions: number[] = [];
  const own = new Map<number, number>();
  const image = new Map<number, number>();
  const place = (v: number) => {
    let i = own.get(v);
    if (i === undefined) {
      const p = [...mesh.positions.subarray(3 * v, 3 * v + 3)];
      const onPlane = Math.abs(p[axis]) <= weld;
      if (onPlane) p[axis] = 0;
      i = positions.length / 3;
      own.set(v, i);
      image.set(v, i);
      positions.push(...p);
      if (!onPlane) {
        image.set(v, i + 1);
        p[axis] = -p[axis];
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
