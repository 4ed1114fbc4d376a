import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { selectFaces } from '../../select/selection.ts';
import { type CheckGround, type Finding, type FindingKind, FLAT_FOLD } from './finding.ts';

/** Times that quads may grow from one to the next. */
const JUMP = 3;

/** Quads that are much longer than the next ones across the edge between them. */
export const spacingKind: FindingKind = {
  id: 'size-jump',
  name: 'Sudden changes of size',
  goesBy: 'what is near',
  find(ground) {
    const { cage } = ground;
    const found: Finding[] = [];
    for (const e of ground.edges()) {
      const times = jumpAt(ground, e);
      const [f, g] = [cage.face[2 * e], cage.face[2 * e + 1]];
      if (times < JUMP || !isLargest(ground, e, times)) continue;
      const bend = ground.bendRound([cage.origin[2 * e], cage.target(2 * e)]);
      const where = selectFaces([f, g]);
      found.push({
        kind: 'size-jump',
        place: ground.middle(where),
        where,
        size: times,
        unit: '×',
        visible: bend >= FLAT_FOLD && times > 2 * JUMP,
        rank: 0.002 * Math.max(depthFrom(cage, 2 * e), depthFrom(cage, 2 * e + 1)),
        why: `Quads become ${times.toFixed(1)} times as long from one to the next: the bend between them is uneven.`,
        fixes: [{ label: 'Even out there', operation: 'relax-area', params: {}, pick: where }]
      });
    }
    return found;
  }
};

/** How deep the face of a half-edge is behind it, mm. */
const depthFrom = (cage: Cage, h: number): number => 0.5 * (cage.edgeLength(cage.next[h] >> 1) + cage.edgeLength(cage.previous(h) >> 1));

/** Degrees of fold from which on an edge is held by a support loop beside it. */
const SUPPORTED = 15;

/** Whether a support loop runs along a face, or over it. */
const isBraced = (cage: Cage, f: number): boolean =>
  cage.layers.has('braceAnchor') && cage.faceVertices(f).some((v) => cage.value('braceAnchor', v) >= 0);

/** How many times as deep the one quad at an edge is as the other; 0 where they are meant to differ. */
function jumpAt(ground: CheckGround, e: number): number {
  const { cage } = ground;
  const [f, g] = [cage.face[2 * e], cage.face[2 * e + 1]];
  if (f === NONE || g === NONE || cage.faceSize(f) !== 4 || cage.faceSize(g) !== 4) return 0;
  const [a, b] = [depthFrom(cage, 2 * e), depthFrom(cage, 2 * e + 1)];
  const times = Math.max(a, b) / Math.max(Math.min(a, b), 1e-12);
  // support loops are meant to be near
  const isSupport = (h: number) => ground.foldAt(cage.next[cage.next[h]] >> 1) > SUPPORTED || isBraced(cage, cage.face[h]);
  return times < JUMP || isSupport(2 * e) || isSupport(2 * e + 1) ? 0 : times;
}

/** Whether no other edge of both quads has a larger jump. */
function isLargest(ground: CheckGround, e: number, times: number): boolean {
  const { cage } = ground;
  return [2 * e, 2 * e + 1].every((own) =>
    cage.loopOf(own).every((h) => {
      const other = h >> 1 === e ? 0 : jumpAt(ground, h >> 1);
      return other < times || (other === times && h >> 1 > e);
    })
  );
}
