import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { counted } from '../../operations/shared/words.ts';
import { ringThrough } from '../../select/loops.ts';
import { selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { spiralsAmong, stripsOf } from '../quad-quality.ts';
import { type Finding, type FindingKind } from './finding.ts';

/** Strips of quads that run beside themselves, or cross themselves. */
export const spiralKind: FindingKind = {
  id: 'spiral',
  name: 'Strips that spiral',
  goesBy: 'connectivity',
  find(ground) {
    const { cage } = ground;
    const { of, lengths } = stripsOf(cage);
    return [...spiralsAmong(cage, of)].map(([strip, half]): Finding => {
      const where = selectFaces([
        ...new Set(
          ringThrough(cage, half)
            .halves.map((k) => cage.face[k])
            .filter((f) => f !== NONE)
        )
      ]);
      return {
        kind: 'spiral',
        place: cage.position(cage.origin[half]),
        where,
        size: lengths[strip],
        unit: '',
        visible: false,
        rank: 0,
        why: `A strip of ${counted(lengths[strip], 'quad')} runs beside itself: a loop added there goes round and round.`,
        fixes: []
      };
    });
  }
};

const creasedAt = (cage: Cage, v: number): number => cage.spokes(v).filter((h) => cage.value('crease', h >> 1) > 0).length;

/** The crease from where it ends in the open to where it ends or meets others. */
function creaseFrom(cage: Cage, end: number, first: number): number[] {
  const edges = [first];
  let [at, e] = [end, first];
  while (true) {
    at = cage.origin[2 * e] === at ? cage.origin[2 * e + 1] : cage.origin[2 * e];
    const on = cage.spokes(at).filter((h) => h >> 1 !== e && cage.value('crease', h >> 1) > 0);
    if (on.length !== 1 || edges.includes(on[0] >> 1)) return edges;
    e = on[0] >> 1;
    edges.push(e);
  }
}

/** Creases that end in the open, where only one creased edge meets a vertex. */
export const openCreaseKind: FindingKind = {
  id: 'open-crease',
  name: 'Creases that end in the open',
  goesBy: 'what is near',
  find(ground) {
    const { cage } = ground;
    if (!cage.layers.has('crease')) return [];
    const creased = new Map<number, number[]>();
    for (const e of ground.edges())
      if (cage.value('crease', e) > 0) for (const v of [cage.origin[2 * e], cage.origin[2 * e + 1]]) creased.set(v, [...(creased.get(v) ?? []), e]);
    return [...creased].flatMap(([v, edges]): Finding[] => {
      if (creasedAt(cage, v) > 1 || cage.isBorderVertex(v) || cage.value('corner', v) > 0) return [];
      const bend = ground.foldAt(edges[0]);
      return [
        {
          kind: 'open-crease',
          place: cage.position(v),
          where: selectVertices([v]),
          size: cage.value('crease', edges[0]),
          unit: '',
          visible: bend > 1,
          rank: 0.004 * cage.edgeLength(edges[0]) * (bend / 90),
          why: 'A crease ends here in the open: the sharp edge fades out over one face.',
          fixes: [
            { label: 'Take the sharpness off it', operation: 'crease', params: { sharpness: 0 }, pick: selectEdges(creaseFrom(cage, v, edges[0])) }
          ]
        }
      ];
    });
  }
};
