import { boundsOf, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { cross, dot, length, mean, subtract, type Triple, unit } from '../numeric/vectors.ts';
import { Facets } from './facets.ts';
import { surfaceNear } from './near-surface.ts';
import {
  coneTouching,
  cylinderAlong,
  offPrimitive,
  planeThrough,
  type Primitive,
  type Probe,
  probeOf,
  radiusOf,
  refittedTorus,
  sphereThrough,
  torusThrough
} from './primitives.ts';

/** What a region is: a primitive, a fillet (a narrow round between two others), or free. */
export type RegionKind = Primitive['kind'] | 'fillet' | 'free';

/** A region of a triangle mesh. */
export interface FoundRegion {
  kind: RegionKind;
  /** mm; nothing where it has none */
  radius?: number;
  /** mm2 */
  area: number;
  triangles: number[];
}

/** How regions are found. */
export interface RegionSettings {
  /** degrees: edges that bend more part regions */
  angle: number;
  /** mm within which vertices lie on a surface; left out: what rounding leaves of the extent */
  tolerance?: number;
}

/** Vertices that have to lie on a surface for it to be believed: more than its numbers, which any few vertices would fit. */
const BELIEVED: Record<Primitive['kind'], number> = { plane: 3, cylinder: 10, cone: 10, sphere: 9, torus: 16 };
/** Share of the extent that vertices lie off their surface by rounding. */
const ROUNDING = 2e-5;
/** A surface has to hold so many times as much as a plainer one; a torus as another round one: three rings always lie on one. */
const [MORE, MUCH_MORE] = [1.05, 2];
/** Times that the middle of a facet lies off its surface that corners of cut ones may. */
const SAG = 1.3;
/** Facets that a torus is fitted to, fewer first; tries that may fail one after the other before it, or anything round, is no more looked for. */
const TORUS_FACETS = [24, 60, 150];
const [TORUS_TRIES, OTHER_TRIES] = [40, 3000];
/** Share of a round strip's border that runs on smoothly into others, for it to be a fillet; and of the extent that its radius is at most. */
const [SMOOTH, FILLET] = [0.5, 0.2];
/** Times that a torus is fitted again to what it holds, and vertices it is fitted to. */
const [REFITS, MOST_POINTS] = [3, 300];
/** Share of its area that the sum of a fillet's normals is at least. */
const ONE_WAY = 0.4;
/** Facets that are at least so many times as large as the largest of those round them are planes though they bend on into these. */
const LARGE = 3;

/** Regions of a triangulated part by what its surfaces are. */
export function findRegions(mesh: PolygonMesh, settings: RegionSettings): { regions: FoundRegion[]; regionOf: Int32Array; facets: Facets } {
  const facets = new Facets(mesh);
  const search = new Search(facets, settings);
  const owner = search.run();
  const { diagonal } = boundsOf(facets.positions);
  const regions = search.regions(owner).map((region): FoundRegion => {
    const like = region.kind === 'free' ? surfaceNear(facets, region.triangles, diagonal) : undefined;
    return like ? { ...region, kind: like.kind, radius: radiusOf(like) } : region;
  });
  const regionOf = Int32Array.from(facets.facetOf, (f) => owner[f]);
  return { regions: withFillets(facets, regions, regionOf, settings), regionOf, facets };
}

interface Grown {
  shape: Primitive;
  facets: number[];
  area: number;
}

/** Grows regions from the largest facets on, each by the surface that holds most. */
class Search {
  private readonly bends: number;
  private readonly cosine: number;
  private readonly tolerance: number;
  private readonly owner: Int32Array;
  private readonly found: { shape?: Primitive }[] = [];
  /** by facet the number of the growth that looked at it last */
  private readonly looked: Int32Array;
  private times = 0;
  private readonly normal = new Float64Array(3);
  private readonly first = new Float64Array(3);
  /** cosines of the turns that the normals of a facet's corners may have from its own, and from each other */
  private readonly atEnd: number;
  private readonly atBoth: number;
  /** area that belongs to nothing yet, mm2 */
  private left: number;
  private torusTries = TORUS_TRIES;
  private otherTries = OTHER_TRIES;

  constructor(
    private readonly facets: Facets,
    { angle, tolerance }: RegionSettings
  ) {
    this.bends = (angle * Math.PI) / 180;
    this.cosine = Math.cos(this.bends);
    this.atEnd = Math.cos(0.75 * this.bends);
    this.atBoth = Math.cos(1.5 * this.bends);
    this.looked = new Int32Array(facets.count);
    this.left = facets.facetArea.reduce((sum, area) => sum + area, 0);
    this.tolerance = tolerance ?? ROUNDING * boundsOf(facets.positions).diagonal;
    this.owner = new Int32Array(facets.count).fill(-1);
  }

  /** @returns region of each facet */
  run(): Int32Array {
    const { facets, owner } = this;
    const order = Int32Array.from(facets.facetArea.keys()).sort((a, b) => facets.facetArea[b] - facets.facetArea[a]);
    const loose: number[] = [];
    for (const seed of order) {
      if (owner[seed] >= 0) continue;
      const grown = this.bestFrom(seed);
      // a facet that is not flat lies on no plane of its own
      if (grown.facets.length === 0 || (grown.shape.kind === 'plane' && this.isLoose(grown))) {
        loose.push(seed);
        continue;
      }
      const id = this.found.push({ shape: grown.shape }) - 1;
      for (const f of grown.facets) owner[f] = id;
      this.left -= grown.area;
    }
    for (const seed of loose) if (owner[seed] < 0) this.gather(seed);
    return owner;
  }

  /** Whether a plane is only a facet of something bent: one that goes on smoothly into others that are about as large. */
  private isLoose({ facets: own, area }: Grown): boolean {
    if (own.length > 1) return false;
    let largest = 0;
    for (const [other, cosine] of this.facets.beside(own[0]))
      if (cosine > this.cosine && this.owner[other] < 0) largest = Math.max(largest, this.facets.facetArea[other]);
    return largest > 0 && area < LARGE * largest;
  }

  /** Everything bent that hangs together smoothly, and belongs to nothing yet, is one free region. */
  private gather(seed: number): void {
    const id = this.found.push({}) - 1;
    const stack = [seed];
    this.owner[seed] = id;
    while (stack.length > 0)
      for (const [other, cosine] of this.facets.beside(stack.pop()!))
        if (cosine >= this.cosine && this.owner[other] < 0) {
          this.owner[other] = id;
          stack.push(other);
        }
  }

  private bestFrom(seed: number): Grown {
    const { facets } = this;
    const normal = facets.normalOf(seed);
    const corners = [...facets.verticesOf(seed)].map((v) => facets.at(v));
    let best = this.grow(seed, planeThrough(corners[0], normal));
    const consider = (shape: Primitive | undefined): void => {
      if (!shape) return;
      const grown = this.grow(seed, shape);
      const more = shape.kind === 'torus' && best.shape.kind !== 'plane' ? MUCH_MORE : MORE;
      if (grown.area > more * best.area && this.isBelieved(grown)) best = grown;
    };
    const beside = [...facets.beside(seed)].filter(([other, cosine]) => cosine >= this.cosine && this.owner[other] < 0).map(([other]) => other);
    if (beside.length === 0 || this.otherTries <= 0) return best;
    const few = beside.slice(0, 4);
    for (const other of few) {
      const points = [...corners, ...[...facets.verticesOf(other)].map((v) => facets.at(v))];
      consider(cylinderAlong(points, unit(cross(normal, facets.normalOf(other)))));
    }
    few.forEach((a, i) => {
      for (const b of few.slice(i + 1)) {
        const three = [a, seed, b].map((f) => ({ at: this.middleOf(f), normal: facets.normalOf(f) }));
        consider(coneTouching(three, corners));
      }
    });
    consider(sphereThrough([...corners, ...beside.flatMap((f) => [...facets.verticesOf(f)]).map((v) => facets.at(v))]));
    // a torus that would hold so much more cannot be there
    const hasRoom = best.shape.kind === 'plane' || MUCH_MORE * best.area < this.left;
    for (const many of this.torusTries > 0 && hasRoom ? TORUS_FACETS : []) {
      let torus = this.torusAt(seed, many);
      if (!torus) continue;
      // few facets leave it loose: what it holds makes it firmer
      for (let time = 0; time < REFITS && torus?.kind === 'torus'; time++)
        torus = refittedTorus(torus, this.pointsOn(this.grow(seed, torus))) ?? torus;
      consider(torus);
      if (best.shape.kind === 'torus') break;
    }
    this.torusTries = best.shape.kind === 'torus' ? TORUS_TRIES : this.torusTries - 1;
    this.otherTries = best.shape.kind === 'plane' ? this.otherTries - 1 : OTHER_TRIES;
    return best;
  }

  /** Vertices of what was grown, some hundred at most. */
  private pointsOn({ facets: own }: Grown): Triple[] {
    const vertices = new Set<number>();
    for (const f of own) {
      if (vertices.size > MOST_POINTS) break;
      for (const v of this.facets.verticesOf(f)) vertices.add(v);
    }
    return [...vertices].map((v) => this.facets.at(v));
  }

  private isBelieved({ shape, facets: own }: Grown): boolean {
    const vertices = new Set<number>();
    for (const f of own) {
      // those that a cut left off it prove nothing
      for (const v of this.facets.verticesOf(f)) if (Math.abs(offPrimitive(shape, this.facets.at(v))) <= this.tolerance) vertices.add(v);
      if (vertices.size >= BELIEVED[shape.kind]) return own.length > 1;
    }
    return false;
  }

  private middleOf = (facet: number): Triple => mean([...this.facets.verticesOf(facet)].map((v) => this.facets.at(v)));

  /** The torus through a facet and those round it. */
  private torusAt(seed: number, many: number): Primitive | undefined {
    const { facets } = this;
    const around = new Set([seed]);
    for (const f of around) {
      if (around.size >= many) break;
      for (const [other, cosine] of facets.beside(f)) if (cosine >= this.cosine && cosine < 1 - 1e-9 && this.owner[other] < 0) around.add(other);
    }
    if (around.size < 5) return undefined;
    const points: Triple[] = [];
    const normals: Triple[] = [];
    const at = new Map<number, Triple>();
    for (const f of around)
      for (const v of facets.verticesOf(f)) {
        const n = facets.normalOf(f);
        const sum = at.get(v);
        at.set(v, sum ? [sum[0] + n[0], sum[1] + n[1], sum[2] + n[2]] : n);
      }
    for (const [v, n] of at) {
      points.push(facets.at(v));
      normals.push(unit(n));
    }
    return torusThrough(points, normals);
  }

  /** Facets that lie on a surface from a seed on, over edges that do not bend too much. */
  private grow(seed: number, shape: Primitive): Grown {
    const { facets, owner, looked } = this;
    const grown: Grown = { shape, facets: [], area: 0 };
    const probe = probeOf(shape);
    if (!this.lies(seed, shape, probe, 0)) return grown;
    // where a facet was cut its new corners lie in it, not on the surface: as far off as its middle at most
    const slack = SAG * probe(...this.middleOf(seed), this.normal);
    const time = ++this.times;
    looked[seed] = time;
    const reached = [seed];
    for (let i = 0; i < reached.length; i++) {
      const f = reached[i];
      grown.area += facets.facetArea[f];
      for (const t of facets.of(f))
        for (let c = 3 * t; c < 3 * t + 3; c++) {
          const other = facets.across[c] < 0 ? f : facets.facetOf[Math.floor(facets.across[c] / 3)];
          if (looked[other] === time || owner[other] >= 0 || facets.cosineAt(c) < this.cosine) continue;
          looked[other] = time;
          if (this.lies(other, shape, probe, slack)) reached.push(other);
        }
    }
    grown.facets = reached;
    return grown;
  }

  /**
   * Whether a facet is a piece of a surface: its vertices lie on it, it looks the way that does, and no edge of it spans too much of a turn.
   * @param slack mm that they may lie off to one side, where it is as far from the middle as the first one
   */
  private lies(facet: number, shape: Primitive, probe: Probe, slack: number): boolean {
    const { facets, tolerance, normal, first } = this;
    const { positions: p, triangles, normals } = facets;
    const n = 3 * facets.order[facets.start[facet]];
    const [low, high] = [Math.min(0, slack) - tolerance, Math.max(0, slack) + tolerance];
    let side = 0;
    let isCut = false;
    for (const t of facets.of(facet))
      for (let c = 3 * t; c < 3 * t + 3; c++) {
        const v = 3 * triangles[c];
        const off = probe(p[v], p[v + 1], p[v + 2], normal);
        if (off < low || off > high) return false;
        isCut ||= Math.abs(off) > tolerance;
        const facing = normal[0] * normals[n] + normal[1] * normals[n + 1] + normal[2] * normals[n + 2];
        if (side === 0) {
          side = Math.sign(facing);
          first.set(normal);
        }
        // a chord of the turn that is allowed leaves half of it at either end
        if (side * facing < this.atEnd || first[0] * normal[0] + first[1] * normal[1] + first[2] * normal[2] < this.atBoth) return false;
      }
    if (isCut) return this.isCutPiece(facet, shape, slack);
    return shape.kind !== 'plane' || Math.abs(dot(shape.normal, facets.normalOf(facet))) > 1 - 1e-6;
  }

  /** Whether a facet whose corners lie off a surface is what a cut left of one: its plane is as far inside the surface as those of whole ones. */
  private isCutPiece(facet: number, shape: Primitive, slack: number): boolean {
    if (shape.kind !== 'cylinder' && shape.kind !== 'sphere') return false;
    const { facets } = this;
    const normal = facets.normalOf(facet);
    if (shape.kind === 'cylinder' && Math.abs(dot(shape.axis, normal)) > 1e-4) return false;
    const middle = shape.kind === 'cylinder' ? shape.at : shape.centre;
    const [v] = facets.verticesOf(facet);
    const inside = Math.abs(dot(subtract(facets.at(v), middle), normal)) - shape.radius;
    // a ball's facets differ in size, those of a cylinder do not
    const expected = slack / SAG;
    return shape.kind === 'cylinder'
      ? Math.abs(inside - expected) < 3 * this.tolerance
      : inside < this.tolerance && inside > 2 * expected - this.tolerance;
  }

  regions(owner: Int32Array): FoundRegion[] {
    const { facets } = this;
    const regions = this.found.map(({ shape }): FoundRegion => ({
      kind: shape?.kind ?? 'free',
      radius: shape && radiusOf(shape),
      area: 0,
      triangles: []
    }));
    owner.forEach((id, f) => {
      regions[id].area += facets.facetArea[f];
      regions[id].triangles.push(...facets.of(f));
    });
    return regions;
  }
}

/** Round strips that run on smoothly on both sides are fillets. */
function withFillets(facets: Facets, regions: FoundRegion[], regionOf: Int32Array, { angle }: RegionSettings): FoundRegion[] {
  const { diagonal } = boundsOf(facets.positions);
  const smooth = new Float64Array(regions.length);
  const border = new Float64Array(regions.length);
  const beside = regions.map(() => new Set<number>());
  const least = Math.cos((angle * Math.PI) / 180);
  for (let c = 0; c < facets.triangles.length; c++) {
    const own = regionOf[Math.floor(c / 3)];
    const other = facets.across[c] < 0 ? -1 : regionOf[Math.floor(facets.across[c] / 3)];
    if (own === other) continue;
    const long = length(subtract(facets.at(facets.triangles[c]), facets.at(facets.triangles[c % 3 === 2 ? c - 2 : c + 1])));
    border[own] += long;
    if (other < 0 || facets.cosineAt(c) < least) continue;
    smooth[own] += long;
    beside[own].add(other);
  }
  return regions.map((region, id) => {
    const isRound = ['cylinder', 'torus', 'sphere'].includes(region.kind);
    const isNarrow = region.radius !== undefined && region.radius < FILLET * diagonal;
    return isRound && isNarrow && looksOneWay(facets, region) && beside[id].size >= 2 && smooth[id] > SMOOTH * border[id]
      ? { ...region, kind: 'fillet' }
      : region;
  });
}

/** Whether a round region looks one way in the mean, and does not go all round, as a pipe does. */
function looksOneWay({ normals, areas }: Facets, { triangles, area }: FoundRegion): boolean {
  const sum: Triple = [0, 0, 0];
  for (const t of triangles) for (let k = 0; k < 3; k++) sum[k] += areas[t] * normals[3 * t + k];
  return length(sum) > ONE_WAY * area;
}
