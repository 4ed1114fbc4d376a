import { isPole } from '../../mesh/topology.ts';
import { selectEdges, selectVertices } from '../../select/selection.ts';
import { type Finding, type FindingKind, FLAT_FOLD } from './finding.ts';

/** Poles from so many edges on pinch on a bend. */
const MANY = 6;
/** Share of the edge times the bend in radians that a pole pinches by, for each edge over four. */
const PINCH = 0.006;

/** Poles of six edges and more, and poles next to each other, on a bend. */
export const poleKind: FindingKind = {
  id: 'pole',
  name: 'Poles',
  goesBy: 'what is near',
  find(ground) {
    const { cage } = ground;
    const found: Finding[] = [];
    const inner = (v: number) => isPole(cage, v) && !cage.isBorderVertex(v);
    for (const v of ground.vertices()) {
      if (!inner(v)) continue;
      const spokes = cage.spokes(v);
      // triangles and n-gons are told by themselves
      if (spokes.some((h) => cage.faceSize(cage.face[h]) !== 4)) continue;
      const valence = spokes.length;
      const beside = spokes.find((h) => cage.target(h) > v && inner(cage.target(h)) && valence + cage.valence(cage.target(h)) !== 8);
      if (valence < MANY && beside === undefined) continue;
      const bend = ground.bendRound([v]);
      const edge = spokes.reduce((sum, h) => sum + cage.edgeLength(h >> 1), 0) / spokes.length;
      const size = PINCH * Math.max(1, valence - 4) * edge * ((bend * Math.PI) / 180);
      const visible = bend >= FLAT_FOLD && valence >= MANY;
      const where = beside === undefined ? selectVertices([v]) : selectVertices([v, cage.target(beside)]);
      const what = valence >= MANY ? `A pole of ${valence} edges` : 'Two poles next to each other';
      found.push({
        kind: valence >= MANY ? 'pole' : 'poles-together',
        place: cage.position(v),
        where,
        size,
        unit: 'mm',
        visible,
        rank: visible ? size : 0,
        why: visible ? `${what} on a bend of ${Math.round(bend)}°: the surface pinches there.` : `${what}, where it hardly shows.`,
        fixes:
          beside === undefined
            ? [{ label: 'Move it', operation: 'move-pole', params: {}, pick: selectVertices([v]) }]
            : [
                { label: 'Join them', operation: 'join-poles', params: {}, pick: where },
                { label: 'Swing the edge between them', operation: 'swing-edge', params: {}, pick: selectEdges([beside >> 1]) }
              ]
      });
    }
    return found;
  }
};
