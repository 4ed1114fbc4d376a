import { type Cage } from '../../mesh/cage.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { PointGrid } from '../../numeric/point-grid.ts';
import { length, subtract } from '../../numeric/vectors.ts';
import { faceGroups } from '../../operations/shared/extrude-walls.ts';
import { counted } from '../../operations/shared/words.ts';
import { Reference } from '../../reference/reference.ts';
import { emptySelection, selectFaces, selectVertices } from '../../select/selection.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { type Finding, type FindingKind } from './finding.ts';

/** Share of its edge by which a face's vertices have to lie off the reference. */
const FAR = 0.5;
/** Vertices of a part that have a partner, as a share, for it to be meant symmetric; and shares of the diagonal that are near, and the same. */
const [MEANT, NEAR, SAME] = [0.8, 2e-3, 1e-6];

/** Faces that lie far off the reference. */
export const farKind: FindingKind = {
  id: 'far-off',
  name: 'Far from the reference',
  find(ground) {
    const { cage, reference } = ground;
    if (!reference) return [];
    const vertices = [...cage.vertices()];
    const off = Reference.of(reference).distances(Float64Array.from(vertices.flatMap((v) => cage.position(v))));
    const byVertex = new Map(vertices.map((v, i) => [v, Math.abs(off[i])]));
    const far = [...cage.faces()].filter((f) => Math.max(...cage.faceVertices(f).map((v) => byVertex.get(v)!)) > FAR * ground.edgeOf(f));
    return faceGroups(cage, far, true).map((group): Finding => {
      const farthest = group.flatMap((f) => cage.faceVertices(f)).reduce((a, b) => (byVertex.get(b)! > byVertex.get(a)! ? b : a));
      const size = byVertex.get(farthest)!;
      const where = selectFaces(group);
      return {
        kind: 'far-off',
        place: cage.position(farthest),
        where,
        size,
        unit: 'mm',
        visible: true,
        rank: 0.1 * size,
        why: `${counted(group.length, 'face lies', 'faces lie')} up to ${lengthInWords(size)} off the reference.`,
        fixes: [{ label: 'Hold them to it', operation: 'hold', params: {}, pick: where }]
      };
    });
  }
};

/** Vertices that are tried before a whole part is looked through for partners. */
const TRIED = 400;

/** By vertex how far the image of its place in a mirror at 0 is from the nearest vertex, mm; `Infinity` beyond a reach. */
function partnerDistances(cage: Cage, vertices: readonly number[], axis: number, grid: PointGrid): Float64Array {
  return Float64Array.from(vertices, (v) => {
    const p = cage.position(v);
    p[axis] = -p[axis];
    let least = Infinity;
    grid.visitNear(...p, (w) => (least = Math.min(least, length(subtract(cage.position(w), p)))));
    return least;
  });
}

/** Vertices without an exact partner in a part that is nearly symmetric. */
export const symmetryKind: FindingKind = {
  id: 'nearly-symmetric',
  name: 'Nearly symmetric',
  find(ground) {
    const { cage } = ground;
    const vertices = [...cage.vertices()];
    if (vertices.length < 8) return [];
    const { diagonal } = boundsOf(Float64Array.from(vertices.flatMap((v) => cage.position(v))));
    const grid = new PointGrid(NEAR * diagonal);
    for (const v of vertices) grid.put(v, ...cage.position(v));
    const share = (off: Float64Array, within: number) => off.reduce((sum, d) => sum + Number(d <= within), 0) / off.length;
    const step = Math.ceil(vertices.length / TRIED);
    const some = vertices.filter((_, i) => i % step === 0);
    for (const axis of [0, 1, 2]) {
      if (share(partnerDistances(cage, some, axis, grid), SAME * diagonal) < MEANT) continue;
      const off = partnerDistances(cage, vertices, axis, grid);
      if (share(off, SAME * diagonal) < MEANT) continue;
      const alone = vertices.filter((_, i) => off[i] > SAME * diagonal && off[i] <= NEAR * diagonal);
      if (alone.length === 0) continue;
      return [
        {
          kind: 'nearly-symmetric',
          place: cage.position(alone[0]),
          where: selectVertices(alone),
          size: alone.length,
          unit: '',
          visible: false,
          rank: 0,
          why: `${counted(alone.length, 'vertex has', 'vertices have')} a partner in ${'XYZ'[axis]} only nearly: what is mirrored later comes out uneven.`,
          fixes: [{ label: 'Mirror the part', operation: 'mirror', params: {}, pick: emptySelection() }]
        }
      ];
    }
    return [];
  }
};
