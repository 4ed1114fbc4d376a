import { FEATURE_ANGLE } from '../src/autoquad/base/limits.ts';
import { endsOf, withFeatures } from '../src/autoquad/lines/features.ts';
import { boundsOf, type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { between, length, subtract, type Triple } from '../src/numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../src/reference/triangle-bvh.ts';

/** Share of the diagonal by which a sharp edge and the crease that stands for it may lie apart. */
const APART = 0.01;
/** Pieces that the diagonal is divided into: a sharp edge is looked at once each. */
const PIECES = 200;

/** Share of a surface's sharp edges, by their length, that have a crease of the quads laid over it beside them. */
export function sharpEdgesKept(surface: PolygonMesh, quads: PolygonMesh): number {
  const { diagonal } = boundsOf(surface.positions);
  const ends = quads.creaseEdges ?? new Int32Array(0);
  // each crease as a triangle without area
  const creases = Array.from({ length: ends.length / 2 }, (_, i) => [ends[2 * i], ends[2 * i + 1], ends[2 * i + 1]]).flat();
  const tree = new TriangleBvh(quads.positions, Int32Array.from(creases));
  const found = surfacePoint();
  const sharp = withFeatures(surface, FEATURE_ANGLE, []);
  const lines = endsOf(sharp, sharp.featureEdges());
  let [all, kept] = [0, 0];
  for (let i = 0; i < lines.length; i += 6) {
    const [a, b] = [[...lines.subarray(i, i + 3)] as Triple, [...lines.subarray(i + 3, i + 6)] as Triple];
    const whole = length(subtract(b, a));
    const parts = Math.max(1, Math.round((PIECES * whole) / diagonal));
    for (let k = 0; k < parts; k++) {
      const at = (k + 0.5) / parts;
      all += whole / parts;
      if (Math.sqrt(tree.closest(...between(a, b, at), found).distance2) < APART * diagonal) kept += whole / parts;
    }
  }
  return all > 0 ? kept / all : 1;
}
