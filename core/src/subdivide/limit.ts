import { dartMasks } from './dart-masks.ts';
import { type Scheme } from './level-plan.ts';
import { cornerOn, sectorsAt } from './sectors.ts';
import { STAYS_SHARP, type LevelTopology } from './level-topology.ts';
import { loopBeta } from './loop.ts';
import { otherEnd, sharpSpokes, vertexRings, type SharpSpokes, type VertexRings } from './vertex-rings.ts';
import { RowBuilder, type WeightRows } from './weight-rows.ts';

/**
 * Rows that push the vertices of a level to the limit surface. Interior: Halstead, Kass, DeRose 1993 (Catmull-Clark,
 * whose level must be all quads) or Loop 1987; creases that stay and borders: (1, 4, 1) / 6; corners: themselves; darts:
 * `dartMasks`.
 * Sharpness that is left at this level pulls a crease or corner away from its sharp place by what `smoothShare` says.
 */
export function limitRows(level: LevelTopology, scheme: Scheme): WeightRows {
  const rings = vertexRings(level);
  const rows = new RowBuilder(level.vertices, 9 * level.vertices);
  const [all, last]: SharpSpokes[] = [0, 1].map(() => ({ count: 0, first: 0, second: 0, mean: 0 }));
  const lasting = { ...level, edgeSharpness: level.edgeSharpness.map((s) => (s >= STAYS_SHARP ? s : 0)) };
  const settled = (v: number, share: number) =>
    last.count > 0 ? sharpLimit(level, scheme, rings, v, last, share, rows) : smoothLimit(level, scheme, rings, v, share, rows);
  for (let v = 0; v < level.vertices; v++) {
    sharpSpokes(level, rings, v, all);
    sharpSpokes(lasting, rings, v, last);
    const alone = rings.edgeStart[v] === rings.edgeStart[v + 1];
    const soft = alone ? 0 : smoothShare(level.vertexSharpness[v]);
    if (soft < 1) rows.add(v, 1 - soft);
    const [fading, sharpnessLeft] = [all.count - last.count, all.count * all.mean - last.count * last.mean];
    // one crease edge that fades makes no crease
    const later = fading === 0 || all.count < 2 ? 1 : smoothShare(sharpnessLeft / fading);
    if (soft > 0 && later < 1) sharpLimit(level, scheme, rings, v, all, soft * (1 - later), rows);
    if (soft > 0) settled(v, soft * later);
    rows.endRow();
  }
  return rows.done();
}

/**
 * How much of the way from its sharp to its smooth limit place a vertex goes whose crease is still so sharp: each sharp level halves it,
 * and the last, fractional one counts by its fraction (DeRose, Kass, Truong 1998). Exact for a straight crease among regular quads.
 */
export function smoothShare(sharpness: number): number {
  if (sharpness >= STAYS_SHARP) return 0;
  const whole = Math.floor(sharpness);
  return 2 ** -whole * (1 - (sharpness - whole) / 2);
}

/** The limit place of a vertex of creases that stay. */
function sharpLimit(level: LevelTopology, scheme: Scheme, rings: VertexRings, v: number, spokes: SharpSpokes, share: number, rows: RowBuilder): void {
  if (spokes.count > 2) return rows.add(v, share);
  if (spokes.count === 2) {
    rows.add(v, (share * 2) / 3);
    rows.add(otherEnd(level, spokes.first, v), share / 6);
    rows.add(otherEnd(level, spokes.second, v), share / 6);
    return;
  }
  const [{ corners }] = sectorsAt(level, rings, v);
  const n = corners.length;
  const { position } = dartMasks(scheme, n);
  const size = scheme === 'loop' ? 3 : 4;
  const turned = (c: number, by: number) => level.faceVertices[cornerOn(c, by, size)];
  rows.add(v, share * position[0]);
  corners.forEach((c, i) => {
    rows.add(turned(c, 1), share * position[1 + i]);
    if (size === 4) rows.add(turned(c, 2), share * position[1 + n + i]);
  });
}

/** The limit place of a vertex without creases. */
function smoothLimit(level: LevelTopology, scheme: Scheme, rings: VertexRings, v: number, share: number, rows: RowBuilder): void {
  const n = rings.edgeStart[v + 1] - rings.edgeStart[v];
  if (scheme === 'loop') {
    const beta = share / (3 / (8 * loopBeta(n)) + n);
    rows.add(v, share - n * beta);
    for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.add(otherEnd(level, rings.edge[k], v), beta);
    return;
  }
  const part = share / (n * (n + 5));
  rows.add(v, n * n * part);
  for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.add(otherEnd(level, rings.edge[k], v), 4 * part);
  for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) {
    const c = rings.corner[k];
    const start = level.faceStart[rings.cornerFace[c]];
    rows.add(level.faceVertices[start + ((c - start + 2) % 4)], part);
  }
}
