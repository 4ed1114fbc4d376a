import { Cage } from '../../mesh/cage.ts';
import { quadsAtVertices, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { facesRound } from '../../mesh/topology.ts';
import { quadJacobians } from '../../numeric/quad-shape.ts';
import { add, length, mean, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { type MirroredPlaces } from '../symmetry/mirrored-places.ts';

/** Steps for the vertices within some rings of poor quads; where that is not enough, within twice as many. */
const STEPS = 60;
/** Steps where all vertices may move. */
const LAST_STEPS = 1000;
/** How far vertices go of the whole way in a step: within one ring, and the more the more rings there are. */
const FIRST_SHARE = 0.1;

/**
 * Turns quads the right way round by moving vertices off the surface, its borders and its sharp edges: each to the middle of where the
 * squares nearest to its quads have it (Bouaziz and others 2012), those of poor quads first and ever more as long as there are any.
 * @param mesh quads; its positions change
 * @param least scaled Jacobian that they are to have
 * @param places the mesh's vertices, where some are images of others, and stay so
 * @param stays vertices that do not move
 */
export function turnBack(mesh: PolygonMesh, least: number, places?: MirroredPlaces, stays: (v: number) => boolean = () => false): void {
  const { positions, faceVertices: quads } = mesh;
  const at = quadsAtVertices(quads, positions.length / 3);
  const cage = Cage.fromPolygons(mesh);
  const poor = () => [...quadJacobians(positions, quads).entries()].flatMap(([q, shape]) => (shape < least ? [q] : []));
  const free = new Set<number>();
  for (let left = poor(), rings = 1; left.length > 0; rings *= 2) {
    const before = free.size;
    const corners = left.flatMap((q) => cage.faceVertices(q));
    for (const f of [...left, ...facesRound(cage, corners, rings - 1)]) for (const v of cage.faceVertices(f)) if (!stays(v)) free.add(v);
    // there are no more of them
    const isLast = rings > 1 && free.size === before;
    for (let step = 0; step < (isLast ? LAST_STEPS : STEPS) && left.length > 0; step++) {
      stepToSquares(positions, quads, at, free, Math.min(1, rings * FIRST_SHARE));
      places?.settleAll();
      left = poor();
    }
    if (isLast) return;
  }
}

/** Free vertices go by a share of the way to the mean of their places in the squares nearest to their quads. */
function stepToSquares(p: Float64Array, quads: Int32Array, at: readonly (readonly number[])[], free: ReadonlySet<number>, share: number): void {
  const placeOf = (v: number): Triple => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  const goals = [...free].map((v): [number, Triple] => {
    const own = at[v].map((q) => {
      const corners = [...quads.subarray(4 * q, 4 * q + 4)];
      return squareNear(corners.map(placeOf))[corners.indexOf(v)];
    });
    return [v, add(scaled(placeOf(v), 1 - share), scaled(mean(own), share))];
  });
  for (const [v, goal] of goals) p.set(goal, 3 * v);
}

/** The square that is nearest to four corners, with diagonals as long as theirs in the mean. */
function squareNear(corners: readonly Triple[]): Triple[] {
  const [a, b, c, d] = corners;
  const middle = mean(corners);
  const [own, other] = [scaled(subtract(c, a), 0.5), scaled(subtract(d, b), 0.5)];
  // at right angles, each turned by as much
  const [between, beside] = [unit(add(unit(own), unit(other))), unit(subtract(unit(own), unit(other)))];
  const half = (length(own) + length(other)) / 2 / Math.SQRT2;
  const [reach, aside] = [scaled(add(between, beside), half), scaled(subtract(between, beside), half)];
  return [subtract(middle, reach), subtract(middle, aside), add(middle, reach), add(middle, aside)];
}
