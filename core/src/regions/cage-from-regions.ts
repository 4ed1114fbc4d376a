import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh, polygonMesh } from '../mesh/polygon-mesh.ts';
import { mean, type Triple } from '../numeric/vectors.ts';
import { type FoundRegion, findRegions, type RegionSettings } from './find-regions.ts';
import { type RegionSides, sidesOf } from './region-sides.ts';

/** A region with what its border says. */
export interface KnownRegion extends FoundRegion, RegionSides {
  id: number;
}

/** Regions of a triangulated part, each with its borders, corners, and why it can be no face of a cage. */
export function knownRegions(mesh: PolygonMesh, settings: RegionSettings): { regions: KnownRegion[]; regionOf: Int32Array; polygonOf: Uint32Array } {
  const { regions, regionOf, facets } = findRegions(mesh, settings);
  const sides = sidesOf(facets, regionOf, regions.length);
  return { regions: regions.map((region, id) => ({ ...region, ...sides[id], id })), regionOf, polygonOf: facets.polygonOf };
}

/** What regions came to as a cage. */
export interface CageOfRegions {
  cage: Cage;
  /** those that could be no face */
  left: KnownRegion[];
}

/**
 * The cage that has a face for each region with three to six corners. Where not all of these are quads, every face is cut from its middle to the
 * middles of its sides, so that all are.
 */
export function cageFromRegions(mesh: PolygonMesh, settings: RegionSettings): CageOfRegions {
  const { regions } = knownRegions(mesh, settings);
  const usable = regions.filter(({ problem }) => !problem);
  const left = regions.filter(({ problem }) => problem);
  const at = (v: number): Triple => [mesh.positions[3 * v], mesh.positions[3 * v + 1], mesh.positions[3 * v + 2]];
  const index = new Map<string, number>();
  const points: Triple[] = [];
  const put = (key: string, p: () => Triple): number => {
    let i = index.get(key);
    if (i === undefined) index.set(key, (i = points.push(p()) - 1));
    return i;
  };
  const faces: number[][] = [];
  const allQuads = usable.every(({ corners }) => corners[0].length === 4);
  for (const { id, loops, corners } of usable) {
    const [own] = corners;
    if (allQuads) {
      faces.push(own.map((v) => put(`v${v}`, () => at(v))));
      continue;
    }
    const middle = put(`f${id}`, () => mean(own.map(at)));
    const half = own.map((v, i) => {
      const w = own[(i + 1) % own.length];
      const side = v < w ? `e${v} ${w}` : `e${w} ${v}`;
      return put(side, () => middleOfSide(loops[0], v, w, at));
    });
    own.forEach((v, i) => faces.push([put(`v${v}`, () => at(v)), half[i], middle, half[(i + own.length - 1) % own.length]]));
  }
  return { cage: Cage.fromPolygons(polygonMesh(points, faces)), left };
}

/** The vertex of a border that lies half way from one corner to the next, or the middle of a side without one between. */
function middleOfSide(loop: readonly number[], from: number, to: number, at: (v: number) => Triple): Triple {
  const [a, b] = [loop.indexOf(from), loop.indexOf(to)];
  const steps = (b - a + loop.length) % loop.length;
  if (steps % 2 === 0 && steps > 0) return at(loop[(a + steps / 2) % loop.length]);
  const k = (a + Math.floor(steps / 2)) % loop.length;
  return mean([at(loop[k]), at(loop[(k + 1) % loop.length])]);
}
