import { NONE } from '../../mesh/half-edges.ts';
import { withoutPinches } from '../../mesh/polygons-of-faces.ts';
import { facesRound } from '../../mesh/topology.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { dot, mean, subtract, type Triple } from '../../numeric/vectors.ts';
import { counted } from '../../operations/shared/words.ts';
import { limitPatch } from '../../refit/limit-patch.ts';
import { selectEdges, verticesOf } from '../../select/selection.ts';
import { type CheckGround, type Finding, type FindingKind } from './finding.ts';

/** Degrees from which an edge is a corner of the form, and below which what lies beside it is flat; from so many on a face between two is one flat. */
const [CORNER, FLAT, BETWEEN] = [40, 5, 60];
/** Share of its edges by which a flat face has to leave its plane for that to be told. */
const LEFT = 0.02;
/** Width of the support loops that are proposed, as a share of the shorter face beside. */
const BRACE = 0.15;
/** Groups of edges whose surface is measured at most. */
const MOST = 40;

/** Whether the faces on both sides of an edge go on flat beyond it: nothing braces the corner between them. */
function isUnbraced(ground: CheckGround, e: number): boolean {
  const { cage } = ground;
  if (cage.isBorderEdge(e) || ground.foldAt(e) < CORNER || cage.value('crease', e) >= 1 || cage.value('braced', e) > 0) return false;
  return [2 * e, 2 * e + 1].some((h) => {
    if (cage.faceSize(cage.face[h]) !== 4) return false;
    const far = cage.next[cage.next[h]];
    // a flat that goes on past the next edge, or lies between two corners: they pull it in
    const fold = ground.foldAt(far >> 1);
    return cage.face[far ^ 1] !== NONE && (fold < FLAT || Math.min(fold, ground.foldAt(e)) >= BETWEEN);
  });
}

/** Edges that hang together at their ends. */
function chainsOf(ground: CheckGround, edges: readonly number[]): number[][] {
  const { cage } = ground;
  const left = new Set(edges);
  const groups: number[][] = [];
  for (const e of edges) {
    if (!left.delete(e)) continue;
    const group = [e];
    for (let i = 0; i < group.length; i++)
      for (const v of [cage.origin[2 * group[i]], cage.origin[2 * group[i] + 1]])
        for (const h of cage.spokes(v)) if (left.delete(h >> 1)) group.push(h >> 1);
    groups.push(group);
  }
  return groups.sort((a, b) => b.length - a.length);
}

/** How far the limit surface leaves the planes of the faces beside some edges, at the faces' middles, mm. */
function leavesFlats(ground: CheckGround, edges: readonly number[]): { size: number; at: Triple; width: number } {
  const { cage, settings } = ground;
  const beside = new Set(edges.flatMap((e) => [cage.face[2 * e], cage.face[2 * e + 1]]));
  const vertices = edges.flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]);
  const near = facesRound(cage, vertices, 3);
  const faces = withoutPinches(cage, near) ?? near;
  const { surface, places: points } = limitPatch(cage, faces, settings, 1);
  const { vertices: own, edges: many } = surface.levels[0];
  let [size, at]: [number, Triple] = [0, cage.position(vertices[0])];
  let width = Infinity;
  faces.forEach((f, i) => {
    if (!beside.has(f)) return;
    const corners = cage.faceVertices(f).map((v) => cage.position(v));
    const centre = mean(corners);
    const p: Triple = [0, 1, 2].map((k) => points[3 * (own + many + i) + k]) as Triple;
    const off = Math.abs(dot(subtract(p, centre), ground.normalOf(f)));
    if (off > size) [size, at] = [off, p];
    for (const h of cage.loopOf(cage.faceEdge[f])) width = Math.min(width, cage.edgeLength(h >> 1));
  });
  return { size, at, width };
}

/** Corners of clean quads that nothing holds: the smooth surface rounds them far in, and pulls the flats beside them along. */
export const unbracedKind: FindingKind = {
  id: 'unbraced-corner',
  name: 'Corners without a brace',
  goesBy: 'everything',
  find(ground) {
    const { cage, settings } = ground;
    if (settings.scheme !== 'catmull-clark') return [];
    const groups = chainsOf(
      ground,
      ground.foldedFrom(CORNER).filter((e) => isUnbraced(ground, e))
    );
    return groups.slice(0, MOST).flatMap((edges): Finding[] => {
      const { size, at, width } = leavesFlats(ground, edges);
      const edge = edges.reduce((sum, e) => sum + cage.edgeLength(e), 0) / edges.length;
      if (size < LEFT * edge) return [];
      const where = selectEdges(edges);
      const isMeant = ground.isOnReference(verticesOf(cage, where), edge);
      return [
        {
          kind: 'unbraced-corner',
          place: at,
          where,
          size,
          unit: 'mm',
          visible: !isMeant,
          rank: size,
          why: `${edges.length === 1 ? 'An edge bends sharply with nothing to hold it' : `${counted(edges.length, 'edge')} bend sharply with nothing to hold them`}: the smooth surface leaves the flats beside them by ${lengthInWords(size)}${isMeant ? ', as the reference does' : ''}.`,
          fixes: [
            { label: 'Support loops there', operation: 'brace', params: { width: Number((BRACE * width).toPrecision(2)) }, pick: where },
            { label: 'Crease it', operation: 'crease', params: {}, pick: where }
          ]
        }
      ];
    });
  }
};
