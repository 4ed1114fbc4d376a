import { lengthInWords } from '../../numeric/length-words.ts';
import { selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { bulgeAt } from '../bulge.ts';
import { loopThrough } from '../../select/loops.ts';
import { cutEndAt, STRAIGHT } from '../without-defect.ts';
import { type CheckGround, type Finding, type FindingKind, type Fix, FLAT_FOLD, SEEN } from './finding.ts';

/** Faces whose bulge is measured at most; of more the predicted ones stand. */
const MOST_MEASURED = 400;
/** Share of the edge times the bend in radians that a face that is no quad bulges by, about. */
const PREDICTED = 0.02;

interface Uneven {
  faces: number[];
  kind: 'triangle' | 'n-gon' | 'cut-end';
  bend: number;
  predicted: number;
}

/** The triangle beside a triangle that it is one quad with: across the longest of its sides that have one; nothing where there is none. */
function otherHalf(cage: Cage, f: number): number | undefined {
  const [best] = cage
    .loopOf(cage.faceEdge[f])
    .filter((h) => cage.face[h ^ 1] !== NONE && cage.faceSize(cage.face[h ^ 1]) === 3)
    .sort((a, b) => cage.edgeLength(b >> 1) - cage.edgeLength(a >> 1) || a - b);
  return best === undefined ? undefined : cage.face[best ^ 1];
}

/** Faces that are no quads; two triangles that each are the other half of the other are one quad cut in two. */
function unevenFaces(ground: CheckGround): Uneven[] {
  const { cage } = ground;
  const found: Uneven[] = [];
  for (const f of ground.faces()) {
    const size = cage.faceSize(f);
    if (size === 4) continue;
    const other = size === 3 ? otherHalf(cage, f) : undefined;
    const isHalf = other !== undefined && otherHalf(cage, other) === f;
    // told with the other one
    if (isHalf && other < f) continue;
    const faces = isHalf ? [f, other] : [f];
    const bend = ground.bendRound(faces.flatMap((g) => cage.faceVertices(g)));
    const kind = size === 3 ? 'triangle' : size === 5 && cutEndAt(cage, f) !== undefined ? 'cut-end' : 'n-gon';
    found.push({ faces, kind, bend, predicted: PREDICTED * ground.edgeOf(f) * ((bend * Math.PI) / 180) });
  }
  return found.sort((a, b) => b.predicted - a.predicted);
}

const NAMES = { triangle: 'A triangle', 'n-gon': 'An n-gon', 'cut-end': 'A face of five sides where a cut ends' };

function fixesOf({ cage }: CheckGround, { faces, kind }: Uneven): Fix[] {
  const [f, other] = faces;
  if (kind === 'cut-end') {
    const end = cage.origin[cutEndAt(cage, f)!];
    const fixes: Fix[] = [{ label: 'Run the cut out', operation: 'run-cut-out', params: {}, pick: selectFaces([f]) }];
    // back along the edges that the cut came by
    const last = cage.spokes(end).find((h) => cage.face[h] !== f && cage.face[h ^ 1] !== f);
    const came = last === undefined ? [] : loopThrough(cage, last, STRAIGHT).halves.map((h) => h >> 1);
    if (came.length > 0) fixes.push({ label: 'Dissolve the cut', operation: 'dissolve', params: {}, pick: selectEdges(came) });
    return fixes;
  }
  if (kind === 'triangle') {
    const shared = other === undefined ? undefined : cage.loopOf(cage.faceEdge[f]).find((h) => cage.face[h ^ 1] === other);
    const fixes: Fix[] = [{ label: 'Make it a quad', operation: 'triangle-to-quad', params: {}, pick: selectFaces([f]) }];
    if (shared !== undefined)
      fixes.unshift({ label: 'Dissolve the edge between them', operation: 'dissolve', params: {}, pick: selectEdges([shared >> 1]) });
    return fixes;
  }
  const loop = cage.loopOf(cage.faceEdge[f]);
  if (loop.length === 6) {
    // the split that leaves the fewest poles
    const pairs = [0, 1, 2].map((i) => [loop[i], loop[i + 3]].map((h) => cage.origin[h]));
    const after = (v: number) => Math.abs(cage.valence(v) - 3);
    const best = pairs.reduce((a, b) => (after(b[0]) + after(b[1]) < after(a[0]) + after(a[1]) ? b : a));
    return [{ label: 'Connect two of its corners', operation: 'connect', params: {}, pick: selectVertices(best) }];
  }
  return [{ label: 'Divide everything once', operation: 'divide-once', params: {}, pick: selectFaces([f]) }];
}

/** Why one shows, or does not. */
function whyOf({ faces, kind, bend }: Uneven, size: number, visible: boolean, isMeasured: boolean): string {
  const what = faces.length > 1 ? 'Two triangles in place of a quad' : NAMES[kind];
  if (bend < FLAT_FOLD) return `${what}, harmless: nothing bends round it, so nothing shows.`;
  const by = `${isMeasured ? '' : 'about '}${lengthInWords(size)}`;
  if (!visible) return `${what}, harmless: the smooth surface leaves its form by ${by} only.`;
  return `${what} on a bend of ${Math.round(bend)}°: the smooth surface bulges by ${by}.`;
}

/** Triangles and n-gons: on a bend they bulge, by as much as is measured; while flat they are harmless. */
export const unevenFaceKind: FindingKind = {
  id: 'uneven-face',
  name: 'Triangles and n-gons',
  goesBy: 'what is near',
  find(ground) {
    const { cage, settings } = ground;
    // Loop's scheme wants triangles
    if (settings.scheme === 'loop') return [];
    return unevenFaces(ground).map((uneven, i): Finding => {
      const { faces, kind, bend, predicted } = uneven;
      const where = selectFaces(faces);
      const isFlat = bend < FLAT_FOLD;
      const measured = isFlat || i >= MOST_MEASURED ? undefined : bulgeAt(cage, faces[0], settings);
      const size = isFlat ? 0 : (measured?.size ?? predicted);
      const visible = size > SEEN * ground.edgeOf(faces[0]);
      return {
        kind,
        place: ground.middle(where),
        where,
        size,
        unit: 'mm',
        visible,
        rank: visible ? size : 0,
        why: whyOf(uneven, size, visible, measured !== undefined),
        fixes: fixesOf(ground, uneven)
      };
    });
  }
};
