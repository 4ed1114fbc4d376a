import { uniformMesh } from '../../mesh/polygon-mesh.ts';
import { areaVector, between, leastSine, mean, unit, type Triple } from '../../numeric/vectors.ts';
import { lookingAlong, surfacePoint } from '../../reference/triangle-bvh.ts';
import { matches } from '../quads/mend.ts';
import { type QuadList } from '../base/quad-list.ts';
import { QuadsRound } from '../quads/quads-round.ts';
import { lineKinds, Remesher } from '../base/remesh.ts';
import { type Surface } from '../input/surface.ts';
import { after, before, type WorkingMesh } from '../base/working-mesh.ts';

/** Edge length of triangles against that of quads, where nearly all triangles pair up. */
const COARSER = 2.15;
/** Rounds in which triangles are made coarse, and times that this is done over to come near the count. */
const [ROUNDS, TRIES] = [5, 4];
/** A count is near enough within this share. */
const NEAR = 0.03;
/** A vertex goes to the surface, or as far, where no quad round it gets a lower shape by it. */
const [SHARES, STAYS_SHAPED] = [[1, 0.6, 0.3], 0.4];
/** Two triangles are not joined to a quad with a lower scaled Jacobian. */
const WELL_SHAPED = 0.35;

/**
 * Quads without directions: the surface in coarse triangles, most of them joined to quads in pairs, and each face divided once, in as many
 * quads as it has corners. Sharp edges and borders are kept, and there is always such a mesh, with many poles. No quad is turned over,
 * as vertices go to the surface only as far as that leaves them well.
 * @returns the quads that come nearest to the count; nothing where the coarse triangles would not have the surface's topology
 */
export function quadsFromTriangles(surface: Surface): QuadList | undefined {
  let best: QuadList | undefined;
  const offOf = ({ quads }: QuadList) => surface.countOff(quads.length / 4);
  for (let time = 0, edge = COARSER * surface.size; time < TRIES; time++) {
    const mesh = coarsened(surface, edge);
    const list = divided(mesh, facesOf(mesh));
    if (matches(list, surface.topology) && (!best || offOf(list) < offOf(best))) best = list;
    if (best && offOf(best) < NEAR) break;
    edge *= Math.sqrt(list.quads.length / 4 / surface.target);
  }
  if (best) putOnSurface(best, surface);
  return best;
}

function coarsened({ dense, bvh, shareAt }: Surface, edge: number): WorkingMesh {
  const share = (at: Triple) => edge * (shareAt?.(...at) ?? 1);
  const mesh = dense.copy();
  for (let v = 0; v < mesh.vertices; v++) mesh.size[v] = share(mesh.point(v));
  const sizes = Float64Array.from({ length: dense.triangles }, (_, t) => share(dense.centre(t)));
  return new Remesher(mesh, bvh, sizes).run(ROUNDS, false);
}

/** Half-edges of each face, in turn: of two triangles that are joined, or of one. */
function facesOf(mesh: WorkingMesh): number[][] {
  const { opposite, corner, feature } = mesh;
  const outline = (h: number) => [after(opposite[h]), before(opposite[h]), after(h), before(h)];
  const shapeOf = (h: number) => {
    const corners = outline(h).map((side) => mesh.point(corner[side]));
    return leastSine(corners, unit(areaVector(corners)));
  };
  const pairs = [...mesh.edges()]
    .filter((h) => opposite[h] >= 0 && feature[h] === 0)
    .map((h) => ({ h, shape: shapeOf(h) }))
    .filter(({ shape }) => shape > WELL_SHAPED)
    .sort((a, b) => b.shape - a.shape);
  // faces that are left at each vertex: three at least inside, where the border may be a mirror too
  const left = new Int32Array(mesh.vertices);
  for (const v of corner) left[v]++;
  const fewest = (v: number) => (mesh.isBorder(v) ? Math.min(2, 1 + mesh.mirrors.length) : 3);
  const partner = new Int32Array(mesh.triangles).fill(-1);
  for (const { h } of pairs) {
    const [t, s] = [Math.floor(h / 3), Math.floor(opposite[h] / 3)];
    const ends = [corner[h], corner[after(h)]];
    if (partner[t] >= 0 || partner[s] >= 0 || ends.some((v) => left[v] <= fewest(v))) continue;
    partner[t] = h;
    partner[s] = opposite[h];
    for (const v of ends) left[v]--;
  }
  return [...partner.keys()].flatMap((t) => {
    if (partner[t] < 0) return [[3 * t, 3 * t + 1, 3 * t + 2]];
    return Math.floor(opposite[partner[t]] / 3) > t ? [outline(partner[t])] : [];
  });
}

/** Each face in as many quads as it has corners, round its middle: flat, so that none turns over. */
function divided(mesh: WorkingMesh, faces: readonly number[][]): QuadList {
  const { corner, opposite, feature } = mesh;
  const positions = [...mesh.positions];
  const hold = [...lineKinds(mesh)];
  const put = (at: Triple, kind: number): number => {
    positions.push(...at);
    hold.push(kind);
    return hold.length - 1;
  };
  const middles = new Map<number, number>();
  const middleOf = (h: number): number => {
    const edge = Math.max(h, opposite[h]);
    const v = middles.get(edge) ?? put(mean(mesh.ends(h)), feature[h]);
    middles.set(edge, v);
    return v;
  };
  const quads = faces.flatMap((sides) => {
    const middle = put(mean(sides.map((h) => mesh.point(corner[h]))), 0);
    return sides.flatMap((h, i) => [corner[h], middleOf(h), middle, middleOf(sides[(i + sides.length - 1) % sides.length])]);
  });
  return { positions: Float64Array.from(positions), quads: Int32Array.from(quads), hold: Uint8Array.from(hold) };
}

/** Vertices go to the surface, those on lines to these, as far as no quad round them gets poor. Changes the list. */
function putOnSurface({ positions, quads, hold }: QuadList, { bvh, normals, lines }: Surface): void {
  const round = new QuadsRound(uniformMesh(positions, quads, 4));
  const found = surfacePoint();
  const goalOf = (v: number, at: Triple, normal: Triple): Triple => {
    const trees = hold[v] === 0 ? [bvh] : [lines.border, lines.sharp].filter((tree) => tree !== undefined);
    const looks = hold[v] === 0 ? lookingAlong(normals, normal, 0.2) : undefined;
    let [goal, within2] = [at, Infinity];
    for (const tree of trees) {
      tree.closest(...at, found, within2, looks);
      if (found.triangle >= 0) [goal, within2] = [[found.x, found.y, found.z], found.distance2];
    }
    return goal;
  };
  for (const v of hold.keys()) {
    if (hold[v] === 2 || round.at[v].length === 0) continue;
    const at: Triple = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
    const { shapes, normals: looks } = round.lookAt(v);
    const goal = goalOf(v, at, unit(mean([...shapes.keys()].map((i) => [...looks.subarray(3 * i, 3 * i + 3)]))));
    const least = Math.min(STAYS_SHAPED, ...shapes);
    const isSound = () => round.at[v].every((_, i) => round.shapeNow(v, i) >= least);
    const goesBy = SHARES.find((share) => {
      round.put(v, ...between(at, goal, share));
      return isSound();
    });
    if (goesBy === undefined) round.put(v, ...at);
  }
}
