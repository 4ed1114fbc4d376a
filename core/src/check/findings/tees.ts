import { NONE } from '../../mesh/half-edges.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { PointGrid } from '../../numeric/point-grid.ts';
import { between, closestOnSegment, length, subtract } from '../../numeric/vectors.ts';
import { selectEdges, selectVertices, united } from '../../select/selection.ts';
import { type Finding, type FindingKind } from './finding.ts';

/** Share of an edge within which a vertex lies on it, and from its ends on. */
const [ON, ENDS] = [0.01, 0.05];

/** Border vertices that lie on another border edge, which has no vertex there. */
export const teeKind: FindingKind = {
  id: 'tee',
  name: 'Vertices on edges',
  goesBy: 'everything',
  find({ cage }) {
    const border: number[] = [];
    for (let e = 0; e < cage.edgeSlots; e++) if (cage.hasEdge(e) && (cage.face[2 * e] === NONE || cage.face[2 * e + 1] === NONE)) border.push(e);
    if (border.length === 0) return [];
    const longest = border.reduce((most, e) => Math.max(most, cage.edgeLength(e)), 0);
    const mean = border.reduce((sum, e) => sum + cage.edgeLength(e), 0) / border.length;
    const grid = new PointGrid(0.5 * longest || Number.MIN_VALUE, Math.max(0.5 * longest, mean) || Number.MIN_VALUE);
    for (const v of new Set(border.flatMap((e) => [cage.origin[2 * e], cage.origin[2 * e + 1]]))) grid.put(v, ...cage.position(v));
    return border.flatMap((e): Finding[] => {
      const [v, w] = [cage.origin[2 * e], cage.origin[2 * e + 1]];
      const [a, b] = [cage.position(v), cage.position(w)];
      const long = cage.edgeLength(e);
      const lying: number[] = [];
      grid.visitNear(...between(a, b, 0.5), (u) => {
        if (u === v || u === w) return;
        const p = cage.position(u);
        const isOn = length(subtract(p, closestOnSegment(p, a, b))) < ON * long;
        if (isOn && Math.min(length(subtract(p, a)), length(subtract(p, b))) > ENDS * long) lying.push(u);
      });
      if (lying.length === 0) return [];
      const where = united(selectVertices(lying), selectEdges([e]));
      return [
        {
          kind: 'tee',
          place: cage.position(lying[0]),
          where,
          size: long,
          unit: 'mm',
          visible: true,
          rank: 0.5 * long,
          why: `${lying.length === 1 ? 'A vertex lies' : `${lying.length} vertices lie`} on an edge of ${lengthInWords(long)} that has none there: the smooth surface opens between them.`,
          fixes: [{ label: 'Weld it, with a vertex there', operation: 'weld-borders', params: { distance: ON * long, junctions: true }, pick: where }]
        }
      ];
    });
  }
};
