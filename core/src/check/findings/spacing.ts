import { NONE } from '../../mesh/half-edges.ts';
import { selectFaces } from '../../select/selection.ts';
import { type Finding, type FindingKind, FLAT_FOLD } from './finding.ts';

/** Times that quads may grow from one to the next. */
const JUMP = 3;

/** Quads that are much longer than the next ones across the edge between them. */
export const spacingKind: FindingKind = {
  id: 'size-jump',
  name: 'Sudden changes of size',
  find(ground) {
    const { cage } = ground;
    const found: Finding[] = [];
    const done = new Set<number>();
    for (const e of cage.edges()) {
      const [f, g] = [cage.face[2 * e], cage.face[2 * e + 1]];
      if (f === NONE || g === NONE || done.has(f) || done.has(g) || cage.faceSize(f) !== 4 || cage.faceSize(g) !== 4) continue;
      const depth = (h: number) => 0.5 * (cage.edgeLength(cage.next[h] >> 1) + cage.edgeLength(cage.previous(h) >> 1));
      const [a, b] = [depth(2 * e), depth(2 * e + 1)];
      const times = Math.max(a, b) / Math.max(Math.min(a, b), 1e-12);
      // support loops are meant to be near
      if (times < JUMP || [2 * e, 2 * e + 1].some((h) => isSupport(ground.foldAt.bind(ground), cage.next[cage.next[h]] >> 1))) continue;
      const bend = ground.bendRound([cage.origin[2 * e], cage.target(2 * e)]);
      const where = selectFaces([f, g]);
      done.add(f).add(g);
      found.push({
        kind: 'size-jump',
        place: ground.middle(where),
        where,
        size: times,
        unit: '×',
        visible: bend >= FLAT_FOLD && times > 2 * JUMP,
        rank: 0.002 * Math.max(a, b),
        why: `Quads become ${times.toFixed(1)} times as long from one to the next: the bend between them is uneven.`,
        fixes: [{ label: 'Even out there', operation: 'relax-area', params: {}, pick: where }]
      });
    }
    return found;
  }
};

const isSupport = (foldAt: (e: number) => number, e: number): boolean => foldAt(e) > 15;
