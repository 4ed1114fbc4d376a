import { type Cage } from '../../mesh/cage.ts';
import { surfaceArea } from '../../mesh/normals.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { PointGrid } from '../../numeric/point-grid.ts';
import { length, subtract } from '../../numeric/vectors.ts';
import { counted } from '../../operations/shared/words.ts';
import { selectEdges, selectVertices } from '../../select/selection.ts';
import { type CheckGround, type Finding, type FindingKind } from './finding.ts';

/** Share of an edge within which two border vertices lie in one place. */
const SAME = 0.01;
/** Borders shorter than this share of the root of the part's area are holes in it; others are its rim. */
const HOLE = Math.SQRT1_2;

/** Border vertices that lie where others do, by vertex. */
function doubled(cage: Cage, loops: readonly number[][]): { twins: Map<number, number>; within: number } {
  const vertices = [...new Set(loops.flat().map((h) => cage.origin[h]))];
  const edge = loops.flat().reduce((sum, h) => sum + cage.edgeLength(h >> 1), 0) / (loops.flat().length || 1);
  const near = SAME * edge;
  const grid = new PointGrid(near || Number.MIN_VALUE);
  const twins = new Map<number, number>();
  for (const v of vertices) {
    const p = cage.position(v);
    grid.visitNear(...p, (w) => {
      if (length(subtract(cage.position(w), p)) > near) return;
      twins.set(v, w);
      twins.set(w, v);
    });
    grid.put(v, ...p);
  }
  return { twins, within: near };
}

/** Half-edges of a border that go together: runs of those with some property, round the loop. */
function runs(loop: readonly number[], has: (h: number) => boolean): number[][] {
  const start = loop.findIndex((h) => !has(h));
  if (start < 0) return [[...loop]];
  const found: number[][] = [];
  for (let i = 0; i < loop.length; i++) {
    const h = loop[(start + i) % loop.length];
    if (!has(h)) continue;
    const last = found.at(-1);
    const goesOn = last && i > 0 && last.at(-1) === loop[(start + i - 1) % loop.length];
    if (goesOn) last.push(h);
    else found.push([h]);
  }
  return found;
}

/** Cracks between doubled vertices, holes, and the open rim. */
export const openEdgeKind: FindingKind = {
  id: 'open-edge',
  name: 'Cracks and holes',
  goesBy: 'everything',
  find(ground: CheckGround) {
    const { cage } = ground;
    const loops = borderLoops(cage);
    if (loops.length === 0) return [];
    const { twins, within } = doubled(cage, loops);
    const isCracked = (h: number) => twins.has(cage.origin[h]) || twins.has(cage.target(h));
    const found: Finding[] = [];
    const long = (halves: readonly number[]) => halves.reduce((sum, h) => sum + cage.edgeLength(h >> 1), 0);
    const extent = Math.sqrt(surfaceArea(cage));
    const seen = new Set<number>();
    for (const loop of loops) {
      const cracked = loop.some(isCracked) ? runs(loop, isCracked) : [];
      for (const halves of cracked) {
        const vertices = [...new Set(halves.flatMap((h) => [cage.origin[h], cage.target(h)]))].filter((v) => twins.has(v));
        const all = vertices.flatMap((v) => [v, twins.get(v)!]);
        if (vertices.every((v) => seen.has(v))) continue;
        for (const v of all) seen.add(v);
        const where = selectVertices([...new Set(all)]);
        found.push({
          kind: 'crack',
          place: cage.position(vertices[0]),
          where,
          size: long(halves),
          unit: 'mm',
          visible: true,
          rank: long(halves) / halves.length,
          why: `${counted(vertices.length, 'vertex lies', 'vertices lie')} twice in one place, not joined: the smooth surface opens there.`,
          fixes: [{ label: 'Weld them', operation: 'weld-near-pairs', params: { distance: within }, pick: where }]
        });
      }
      if (cracked.length > 0) continue;
      const isHole = long(loop) < HOLE * extent;
      const where = selectEdges(loop.map((h) => h >> 1));
      found.push({
        kind: isHole ? 'hole' : 'open-border',
        place: isHole ? ground.middle(where) : cage.position(cage.origin[loop[0]]),
        where,
        size: long(loop),
        unit: 'mm',
        visible: isHole,
        rank: isHole ? long(loop) / loop.length : 0,
        why: isHole
          ? `A hole of ${counted(loop.length, 'edge')}, ${lengthInWords(long(loop))} round.`
          : `The part is open along ${counted(loop.length, 'edge')}: meant so, if it is a sheet.`,
        fixes: isHole ? [{ label: 'Fill it', operation: loop.length % 2 === 0 ? 'quad-grid' : 'one-face-cap', params: {}, pick: where }] : []
      });
    }
    return found;
  }
};
