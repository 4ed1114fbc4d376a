import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { polygonsOfFaces } from '../../mesh/polygons-of-faces.ts';
import { enclosedVolume, facesByIsland } from '../../mesh/topology.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { counted } from '../../operations/shared/words.ts';
import { Reference } from '../../reference/reference.ts';
import { selectFaces } from '../../select/selection.ts';
import { type Finding, type FindingKind } from './finding.ts';

/** A piece that hangs together and is closed. */
interface Piece {
  faces: number[];
  /** mm3; below 0 where it looks inwards */
  volume: number;
  least: readonly number[];
  most: readonly number[];
  at: Triple;
}

function closedPieces(cage: Cage): Piece[] {
  return facesByIsland(cage).flatMap((faces): Piece[] => {
    if (faces.some((f) => cage.loopOf(cage.faceEdge[f]).some((h) => cage.face[h ^ 1] === NONE))) return [];
    const vertices = faces.flatMap((f) => cage.faceVertices(f));
    const { min, max } = boundsOf(Float64Array.from(vertices.flatMap((v) => cage.position(v))));
    return [{ faces, volume: enclosedVolume(cage, faces), least: min, most: max, at: cage.position(vertices[0]) }];
  });
}

/** Whether a piece lies in the box of another, and in that: a ray from it meets the other an odd number of times. */
function liesIn(cage: Cage, { least, most, at }: Piece, other: Piece): boolean {
  if (least.some((x, k) => x < other.least[k]) || most.some((x, k) => x > other.most[k])) return false;
  const { bvh } = Reference.of(polygonsOfFaces(cage, other.faces).mesh);
  // askew, so that it runs along no side
  const way: Triple = [0.577, 0.61, 0.543];
  const met = new Set<number>();
  for (let hit = bvh.raycast(at, way); hit; hit = bvh.raycast(at, way, (t) => !met.has(t))) met.add(hit.triangle);
  return met.size % 2 === 1;
}

/** Closed pieces that look inwards, and those that lie in another one. */
export const pieceKind: FindingKind = {
  id: 'piece',
  name: 'Pieces turned, or inside others',
  goesBy: 'connectivity',
  find({ cage }) {
    const pieces = closedPieces(cage);
    return pieces.flatMap((piece): Finding[] => {
      const isInside = pieces.some((other) => other !== piece && liesIn(cage, piece, other));
      const size = Math.cbrt(Math.abs(piece.volume));
      const where = selectFaces(piece.faces);
      const common = { place: piece.at, where, size, unit: 'mm' as const };
      const what = `A piece of ${counted(piece.faces.length, 'face')}, about ${lengthInWords(size)} across,`;
      // the wall of a hollow looks inwards, and is meant to
      if (isInside)
        return [
          {
            ...common,
            kind: 'inside',
            visible: false,
            rank: 0,
            why: `${what} lies inside another: nobody sees it, and printers and joins stumble over it.`,
            fixes: [{ label: 'Delete it', operation: 'delete', params: {}, pick: where }]
          }
        ];
      if (piece.volume >= 0) return [];
      return [
        {
          ...common,
          kind: 'turned',
          visible: true,
          rank: 0.1 * size,
          why: `${what} is turned inside out: it is shaded wrong, or not seen at all elsewhere.`,
          fixes: [{ label: 'Turn it outward', operation: 'flip', params: {}, pick: where }]
        }
      ];
    });
  }
};
