import { dartMasks } from './dart-masks.ts';
import { type Scheme } from './level-plan.ts';
import { cornerOn, sectorsAt } from './sectors.ts';
import { STAYS_SHARP, type LevelTopology } from './level-topology.ts';
import { loopBeta } from './loop.ts';
import { otherEnd, sharpSpokes, vertexRings, type SharpSpokes } from './vertex-rings.ts';
import { RowBuilder, type WeightRows } from './weight-rows.ts';

/**
 * Rows that push the vertices of a level to the limit surface. Interior: Halstead, Kass, DeRose 1993 (Catmull-Clark,
 * whose level must be all quads) or Loop 1987; creases that stay and borders: (1, 4, 1) / 6; corners: themselves; darts:
 * `dartMasks`.
 * An edge that is still semi-sharp at this level is taken as smooth: refine until its sharpness is used up.
 */
export function limitRows(level: LevelTopology, scheme: Scheme): WeightRows {
  const rings = vertexRings(level);
  const rows = new RowBuilder(level.vertices, 9 * level.vertices);
  const spokes: SharpSpokes = { count: 0, first: 0, second: 0, mean: 0 };
  const lasting = { ...level, edgeSharpness: level.edgeSharpness.map((s) => (s >= STAYS_SHARP ? s : 0)) };
  for (let v = 0; v < level.vertices; v++) {
    sharpSpokes(lasting, rings, v, spokes);
    const n = rings.edgeStart[v + 1] - rings.edgeStart[v];
    if (n === 0 || level.vertexSharpness[v] >= STAYS_SHARP || spokes.count > 2) rows.append(v, 1);
    else if (spokes.count === 2) {
      rows.append(v, 2 / 3);
      rows.append(otherEnd(level, spokes.first, v), 1 / 6);
      rows.append(otherEnd(level, spokes.second, v), 1 / 6);
    } else if (spokes.count === 1) {
      const [{ corners }] = sectorsAt(level, rings, v);
      const { position } = dartMasks(scheme, n);
      const size = scheme === 'loop' ? 3 : 4;
      const turned = (c: number, by: number) => level.faceVertices[cornerOn(c, by, size)];
      rows.append(v, position[0]);
      corners.forEach((c, i) => {
        rows.add(turned(c, 1), position[1 + i]);
        if (size === 4) rows.add(turned(c, 2), position[1 + n + i]);
      });
    } else if (scheme === 'loop') {
      const beta = 1 / (3 / (8 * loopBeta(n)) + n);
      rows.append(v, 1 - n * beta);
      for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.append(otherEnd(level, rings.edge[k], v), beta);
    } else {
      const whole = n * (n + 5);
      rows.append(v, (n * n) / whole);
      for (let k = rings.edgeStart[v]; k < rings.edgeStart[v + 1]; k++) rows.append(otherEnd(level, rings.edge[k], v), 4 / whole);
      for (let k = rings.cornerStart[v]; k < rings.cornerStart[v + 1]; k++) {
        const c = rings.corner[k];
        const start = level.faceStart[rings.cornerFace[c]];
        rows.add(level.faceVertices[start + ((c - start + 2) % 4)], 1 / whole);
      }
    }
    rows.endRow();
  }
  return rows.done();
}
