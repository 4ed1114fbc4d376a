import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh, polygonMesh } from '../mesh/polygon-mesh.ts';
import { repairPolygons } from '../mesh/repair.ts';
import { mean, type Triple } from '../numeric/vectors.ts';
import { Facets } from './facets.ts';
import { flatRegion } from './flatten.ts';
import { type FoundRegion, findRegions, type RegionSettings } from './find-regions.ts';
import { middleOfSide, type RegionSides, sidesAlong, sidesOf } from './region-sides.ts';
import { facesOfRegions } from './region-faces.ts';

/** A region with what its border says. */
export interface KnownRegion extends FoundRegion, RegionSides {
  id: number;
}

/** Regions of a part with what their borders say, and where they lie. */
export interface KnownRegions {
  regions: KnownRegion[];
  /** by triangle */
  regionOf: Int32Array;
  /** the triangles that they are made of */
  facets: Facets;
}

/** Regions of a triangulated part, each with its borders, corners, and why it can be no face of a cage. */
export function knownRegions(mesh: PolygonMesh, settings: RegionSettings): KnownRegions {
  return withSides(findRegions(mesh, settings));
}

function withSides({ regions, regionOf, facets }: ReturnType<typeof findRegions>): KnownRegions {
  const sides = sidesOf(facets, regionOf, regions.length);
  return { regions: regions.map((region, id) => ({ ...region, ...sides[id], id })), regionOf, facets };
}

/** The regions that a mesh carries, each part of one that hangs together by itself: what a region in two pieces is. */
export function carriedRegions(mesh: PolygonMesh): KnownRegions {
  const facets = new Facets(mesh);
  const many = facets.triangles.length / 3;
  const own = (t: number) => mesh.faceRegion?.[facets.polygonOf[t]] ?? 0;
  const regionOf = new Int32Array(many).fill(-1);
  const regions: FoundRegion[] = [];
  for (let seed = 0; seed < many; seed++) {
    if (regionOf[seed] >= 0) continue;
    const triangles = [seed];
    regionOf[seed] = regions.length;
    for (let i = 0; i < triangles.length; i++)
      for (let c = 3 * triangles[i]; c < 3 * triangles[i] + 3; c++) {
        const t = facets.across[c] < 0 ? -1 : Math.floor(facets.across[c] / 3);
        if (t < 0 || regionOf[t] >= 0 || own(t) !== own(seed)) continue;
        regionOf[t] = regions.length;
        triangles.push(t);
      }
    regions.push({ kind: 'free', area: triangles.reduce((sum, t) => sum + facets.areas[t], 0), triangles });
  }
  return withSides({ regions, regionOf, facets });
}

/** What regions came to as a cage. */
export interface CageOfRegions {
  cage: Cage;
  /** those that could be no face, with the reason */
  left: LeftRegion[];
  /** their share of the surface */
  leftShare: number;
}

type LeftRegion = KnownRegion & { problem: string };

/** How a cage is made from regions. */
export interface CageSettings extends RegionSettings {
  /** corners that a border without any gets; 0: rings and discs are left out */
  cuts: number;
  /** the regions that the mesh carries are read, and none is looked for */
  asCarried?: boolean;
}

/**
 * The cage that has a face for each region with three to six corners, and quads between the borders of each that runs round as a ring. Where not all
 * of these are quads, every face is cut from its middle to the middles of its sides, so that all are.
 */
export function cageFromRegions(mesh: PolygonMesh, settings: CageSettings): CageOfRegions {
  const { regions, facets } = settings.asCarried ? carriedRegions(mesh) : knownRegions(mesh, settings);
  const at = (v: number): Triple => [mesh.positions[3 * v], mesh.positions[3 * v + 1], mesh.positions[3 * v + 2]];
  const flat = (id: number) => flatRegion(facets, regions[id].triangles, regions[id].loops);
  const cut = settings.cuts > 0 ? facesOfRegions({ regions, cuts: settings.cuts, at, flat }) : undefined;
  const said = cut ?? regions.map(({ problem, corners }) => problem ?? [corners[0]]);
  const left = regions.flatMap((region, i): LeftRegion[] => {
    const problem = said[i];
    return typeof problem === 'string' ? [{ ...region, problem }] : [];
  });
  const areaOf = (some: readonly KnownRegion[]) => some.reduce((sum, { area }) => sum + area, 0);
  const leftShare = areaOf(left) / (areaOf(regions) || 1);
  const faces = said.map((own) => (typeof own === 'string' ? [] : own));
  const points: Triple[] = [];
  const index = new Map<string, number>();
  const put = (key: string, p: () => Triple): number => {
    let i = index.get(key);
    if (i === undefined) index.set(key, (i = points.push(p()) - 1));
    return i;
  };
  const corner = (v: number) => put(`v${v}`, () => at(v));
  const all = faces.flat();
  if (all.every((corners) => corners.length === 4))
    return {
      cage: soundCage(
        points,
        all.map((corners) => corners.map(corner))
      ),
      left,
      leftShare
    };
  const isCorner = new Set(all.flat());
  const plan = faces.flatMap((own, i) => {
    const sides = sidesAlong(regions[i].loops, isCorner);
    return own.map((corners) => ({ corners, sides }));
  });
  const quads = plan.flatMap(({ corners, sides }, f) => {
    const half = corners.map((v, i) => {
      const w = corners[(i + 1) % corners.length];
      // a cut has no vertices on its way
      const side = sides.get(`${v} ${w}`);
      const [a, b] = side ? middleOfSide(side) : [v, w];
      return put(`${side ? 's' : 'c'}${Math.min(a, b)} ${Math.max(a, b)}`, () => mean([at(a), at(b)]));
    });
    // borders bulge: the middle of their middles lies better than that of the corners
    const middle = put(`f${f}`, () => mean(half.map((i) => points[i])));
    return corners.map((v, i) => [corner(v), half[i], middle, half[(i + corners.length - 1) % corners.length]]);
  });
  return { cage: soundCage(points, quads), left, leftShare };
}

/** A cage of faces that may touch in vertices only, or have three at an edge: it comes apart there. */
const soundCage = (points: readonly Triple[], faces: readonly number[][]): Cage =>
  Cage.fromPolygons(repairPolygons(polygonMesh(points, faces), { weld: false }).mesh);
