import { quadQuality } from '../../check/quad-quality.ts';
import { Cage } from '../../mesh/cage.ts';
import { uniformMesh } from '../../mesh/polygon-mesh.ts';
import { isPole } from '../../mesh/topology.ts';
import { type QuadList } from '../base/quad-list.ts';
import { type Surface } from '../input/surface.ts';

/** A count is met within this share. */
const COUNT_MET = 0.015;
/** A count that is missed by twice as much speaks against a rounding more than anything else, one that is missed by more as much as six poles. */
export const [MISSED_COUNT, NEARLY_MET] = [100, 3];
/** How much a pole speaks against quads: as much as a strip that takes up an eighth of them. */
const POLE = 0.5;
/** How much it speaks against quads that a pole of the field is missing in them, and that a triangle of the map stayed folded: there they are mended. */
export const [LOST_POLE, LEFT_FOLD] = [2, 2];
/** How much it speaks against quads that one has a straight corner on a line: no moving of vertices mends that. */
const FLAT = 3;

/** What speaks against some quads: a count that is missed, poles, and those of the field that are missing, strips that are long or run beside themselves, corners off right angles. */
export function costOf(surface: Surface, list: QuadList, planned: number): number {
  const { positions, quads } = list;
  const count = quads.length / 4;
  const off = surface.countOff(count);
  const cage = Cage.fromPolygons(uniformMesh(positions, quads, 4));
  const { longest, spirals, mean, hundredth } = quadQuality(cage);
  // others than those of the field come where the map was torn
  const poles = [...cage.vertices()].filter((v) => isPole(cage, v)).length;
  return (
    [0, NEARLY_MET, MISSED_COUNT][Math.min(2, timesMissed(off))] +
    off / COUNT_MET +
    (4 * longest) / count +
    0.1 * spirals +
    POLE * Math.max(poles, planned) +
    LOST_POLE * Math.max(0, planned - poles) +
    FLAT * flatCorners(list) +
    20 * (1 - mean) +
    2 * (1 - hundredth)
  );
}

/** How many times the share within which a count is met it is off beyond that; 0 where it is met. */
export const timesMissed = (off: number): number => Math.ceil(Math.max(0, off - COUNT_MET) / COUNT_MET);

/** Corners of quads at which two edges go on along the same border or feature. */
function flatCorners({ positions: p, quads, hold }: QuadList): number {
  let flat = 0;
  for (let i = 0; i < quads.length; i++) {
    const [from, v, to] = [quads[(i & ~3) + ((i + 3) & 3)], quads[i], quads[(i & ~3) + ((i + 1) & 3)]];
    if (hold[v] !== 1 || hold[from] === 0 || hold[to] === 0) continue;
    const [a, b] = [[0, 1, 2].map((k) => p[3 * from + k] - p[3 * v + k]), [0, 1, 2].map((k) => p[3 * to + k] - p[3 * v + k])];
    const along = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    if (along < -STRAIGHT * Math.hypot(...a) * Math.hypot(...b)) flat++;
  }
  return flat;
}

/** Cosine between two edges that go on straight. */
const STRAIGHT = 0.95;
