import { quadQuality } from '../check/quad-quality.ts';
import { Cage } from '../mesh/cage.ts';
import { boundsOf, uniformMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangleNormals } from '../reference/reference.ts';
import { type Triple } from '../numeric/vectors.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { TriangleBvh } from '../reference/triangle-bvh.ts';
import { silent, type TaskReport } from '../task/steps.ts';
import { curvatureDirections, triangleFrames, type Frames } from './curvature.ts';
import { closedRings } from './closed-rings.ts';
import { cutOpen, type CutMesh } from './cut-graph.ts';
import { markFeatures, markTagged } from './features.ts';
import { asRing, guideOnThisSide, layGuides, onThisSide, runsAcross, sizeShare, type Guide, type GuideRing, type SizeDab } from './guides.ts';
import { matches, mended, withoutDoublets, type QuadList, type Topology } from './mend.ts';
import { openNarrowCorners } from './narrow-corners.ts';
import { narrowParts } from './narrow-parts.ts';
import { orientationField, type OrientationField } from './orientation-field.ts';
import { QuadExtraction } from './quad-extraction.ts';
import { reachTips } from './reach-tips.ts';
import { linesOf, Remesher, vertexNormals } from './remesh.ts';
import { mapAreas, MapError, SeamlessMap } from './seamless-map.ts';
import { settleQuads, type FeatureLines } from './settle-quads.ts';
import { straightenQuads } from './straighten-quads.ts';
import { smoothNormals, workingSizes } from './sizing.ts';
import { halved, mirrored, mirrorsOf, reflected, type Mirror, type Symmetry } from './symmetry.ts';
import { after, WorkingMesh } from './working-mesh.ts';

export interface AutoQuadsOptions {
  /** how many quads; left out when `edgeSizes` is given */
  count?: number;
  /** finest and coarsest quad edge, in the mesh's unit: fine where the surface bends, coarse where it is flat */
  edgeSizes?: { finest: number; coarsest: number };
  /** 0 to 100: how closely loops follow the curvature */
  curvaturePull?: number;
  /** edges at least this sharp, in degrees, become edges of quads */
  featureAngle?: number;
  /** planes the result is mirrored in: those that are found, none, or one across an axis */
  symmetry?: Symmetry;
  /** strokes on the surface that loops follow */
  guides?: Guide[];
  /** where quads are to be smaller or larger */
  sizes?: SizeDab[];
}

export interface AutoQuadsResult {
  mesh: PolygonMesh;
  /** what was given up or found on the way, a sentence each */
  notes: string[];
}

/** Thrown where no valid quads can be laid; the message says why and what may help. */
export class AutoQuadsError extends Error {}

const LEAST = 24;
/** A count is met within this share. */
const COUNT_MET = 0.015;
/** A count that is missed by twice as much speaks against a rounding more than anything else. */
const MISSED_COUNT = 100;
/** Shares of the wanted quad size that are tried, and how many of the roundings are read as quads. */
const TRIED_SIZES = [0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6, -6, 7, -7, 8, -8].map((k) => 1 + 0.006 * k);
const MOST_READ = 3;
/** Rings are closed that miss themselves by so many quads: more closes more, and bends more. */
const NEARS = [0.75, 4];

/**
 * Quads over a surface: working mesh, field of crosses, seamless map, one quad a cell, evening out. Of a surface that is
 * mirrored in planes one part is laid, and mirrored.
 * The result has quads only, is manifold, and has the surface's topology; otherwise an error tells why.
 * @param mesh manifold, consistently turned polygons (see `repairPolygons`)
 * @throws AutoQuadsError
 */
export function autoQuads(mesh: PolygonMesh, options: AutoQuadsOptions, report: TaskReport = silent): AutoQuadsResult {
  report.phase('Preparing', 0);
  const input = prepared(mesh, options);
  const { notes, target, topology, mirrors } = input;
  const laid = (planes: readonly Mirror[]) => {
    const surface = partOf(input, planes, options);
    const result = layOver(surface, report);
    if ('failure' in result) return result;
    let whole: QuadList = result.quads;
    for (const mirror of [...planes].reverse()) whole = mirrored(whole, mirror, 0.25 * surface.size);
    if (planes.length > 0) whole = withoutDoublets(whole);
    const told = planes.map(describeMirror);
    return matches(whole, topology) ? { quads: whole, notes: [...told, ...result.notes] } : { failure: 'the halves do not join.' };
  };
  let result = laid(mirrors);
  // a middle line can stand in the way
  if ('failure' in result && mirrors.length > 0) {
    notes.push('The surface is mirrored, but no quads were found for one half of it: it was laid whole.');
    result = laid([]);
  }
  if ('failure' in result)
    throw new AutoQuadsError(
      `No valid quads were found for ${target} quads: ${result.failure} Try more quads (thin parts need at least four round them), or another curvature pull.`
    );
  report.phase('Done', 1);
  return { mesh: uniformMesh(result.quads.positions, result.quads.quads, 4), notes: [...new Set([...notes, ...result.notes])] };
}

/** A pole that quads will have. */
export interface PlannedPole {
  at: Triple;
  valence: number;
}

/**
 * Where the field has its poles, before quads are laid: a third of the way, and what guides and pulls change is seen in it.
 * @throws AutoQuadsError
 */
export function planPoles(mesh: PolygonMesh, options: AutoQuadsOptions, report: TaskReport = silent): PlannedPole[] {
  report.phase('Preparing', 0);
  const input = prepared(mesh, options);
  const surface = partOf(input, input.mirrors, options);
  const { mesh: working, field } = new Attempt(surface, 1, pullOf(options), [], report).directions();
  const poles: PlannedPole[] = [];
  field.index.forEach((index, v) => {
    if (index !== 0) poles.push({ at: working.point(v), valence: 4 - index });
  });
  report.phase('Done', 1);
  return input.mirrors.reduce((all, mirror) => [...all, ...all.map(({ at, valence }) => ({ at: reflected(mirror, at), valence }))], poles);
}

const pullOf = ({ curvaturePull = 50 }: AutoQuadsOptions): number => curvaturePull / 100;

/** The whole surface, or what lies on one side of planes it is mirrored in. */
function partOf({ dense, target, diagonal, bvh }: ReturnType<typeof prepared>, planes: readonly Mirror[], options: AutoQuadsOptions): Surface {
  const part = planes.reduce((half, mirror) => halved(half, mirror, diagonal), dense);
  return new Surface(part, planes, options, target / 2 ** planes.length, planes.length === 0 ? bvh : undefined);
}

const describeMirror = ({ normal, offset, error }: Mirror): string => {
  const axis = ['X', 'Y', 'Z'].find((_, k) => Math.abs(normal[k]) > 1 - 1e-9);
  const plane = axis
    ? `${axis} = ${(offset * Math.sign(normal['XYZ'.indexOf(axis)])).toFixed(2)}`
    : `a plane across ${normal.map((n) => n.toFixed(2)).join(', ')}`;
  return `Laid on one side of ${plane} and mirrored; the surface itself is mirrored there to within ${error.toFixed(4)} mm.`;
};

/** Lays quads over a surface; rings that need not close, a finer working mesh, and a field without pull, are what helps where a first attempt fails. */
function layOver(surface: Surface, report: TaskReport): { quads: QuadList; notes: string[] } | { failure: string } {
  const pull = pullOf(surface.options);
  let failure = '';
  for (const [fineness, strength, beside] of [
    [1, pull, [1, 0]],
    [0.7, pull, [0]],
    [0.7, 0, [0]]
  ] as const) {
    const attempt = new Attempt(surface, fineness, strength, beside, report);
    const quads = attempt.run();
    if (quads) {
      report.phase('Evening out', 0.85);
      const settle = (rounds: number) => settleQuads(quads, surface.bvh, surface.normals, surface.lines, rounds, surface.shareAt);
      settle(12);
      const tips = reachTips(quads, surface.dense.positions, surface.size);
      for (const v of tips) quads.hold[v] = 2;
      settle(5);
      for (const v of tips) quads.hold[v] = 0;
      straightenQuads(quads, surface.bvh, surface.normals, surface.lines);
      return { quads, notes: attempt.notes };
    }
    failure = attempt.failure;
  }
  return { failure };
}

/** The whole input, its features marked, and what is asked of it. */
function prepared(mesh: PolygonMesh, options: AutoQuadsOptions) {
  const { triangles: made, faceOf } = triangulate(mesh);
  const triangles = Int32Array.from(made);
  if (triangles.length === 0) throw new AutoQuadsError('There are no faces to lay quads over.');
  const dense = new WorkingMesh(mesh.positions, triangles);
  const area = sumOver(dense, (t) => dense.area(t));
  if (!(area > 0)) throw new AutoQuadsError('The surface has no area: nothing can be laid over it.');
  const { size, target } = wantedSize(options, area);
  const { diagonal } = boundsOf(mesh.positions);
  const sharp = markFeatures(dense, diagonal, options.featureAngle);
  const tagged = markTagged(dense, mesh, faceOf);
  const notes = sharp > 0 ? [`${sharp.toLocaleString('en')} sharp edges of the reference are kept as edges of quads.`] : [];
  if (tagged > 0) notes.push(`${tagged.toLocaleString('en')} creased edges and edges between regions are kept as edges of quads.`);
  const bvh = new TriangleBvh(mesh.positions, triangles);
  const planes = mirrorsOf(dense, bvh, Math.min(0.1 * size, 0.003 * diagonal), options.symmetry ?? 'auto');
  const mirrors = planes.filter((mirror) => {
    const across = (options.guides ?? []).findIndex((guide) => (guide.count ?? 0) > 0 && runsAcross(guide, mirror, size));
    if (across >= 0) notes.push(`Not mirrored: guide ${across + 1}, which has a count, runs across the plane.`);
    return across < 0;
  });
  return { dense, notes, target, diagonal, bvh, topology: topologyOf(dense), mirrors };
}

/** What all attempts share: the surface, or the part of it that is laid. */
class Surface {
  readonly triangles: Int32Array;
  readonly bvh: TriangleBvh;
  readonly normals: Float64Array;
  readonly lines: FeatureLines;
  readonly topology: Topology;
  readonly smoothed: Float64Array;
  /** quad edge length where no dab says otherwise */
  readonly size: number;
  readonly dabs: readonly SizeDab[];
  readonly guides: readonly Guide[];

  /** @param target quads */
  constructor(
    readonly dense: WorkingMesh,
    mirrors: readonly Mirror[],
    readonly options: AutoQuadsOptions,
    readonly target: number,
    bvh?: TriangleBvh
  ) {
    const { positions, corner } = dense;
    dense.mirrors = mirrors;
    this.triangles = corner;
    this.bvh = bvh ?? new TriangleBvh(positions, corner);
    this.normals = triangleNormals(positions, corner);
    const lines = dense.featureEdges();
    const isBorder = (h: number) => dense.opposite[h] < 0;
    this.lines = {
      border: linesOf(dense, lines.filter(isBorder)),
      sharp: linesOf(
        dense,
        lines.filter((h) => !isBorder(h))
      )
    };
    this.topology = topologyOf(dense);
    const area = sumOver(dense, (t) => dense.area(t));
    this.dabs = (options.sizes ?? []).map((dab) => ({ ...dab, at: onThisSide(dab.at, mirrors) }));
    const inSizes = this.dabs.length > 0 ? sumOver(dense, (t) => dense.area(t) / this.shareOf(dense, t) ** 2) : area;
    this.size = options.edgeSizes ? wantedSize(options, 1).size : Math.sqrt(inSizes / target);
    const { size } = this;
    this.guides = (options.guides ?? []).map((guide) => guideOnThisSide(guide, mirrors, size));
    const meanEdge = Math.sqrt((area / dense.triangles) * 2.3);
    this.smoothed = smoothNormals(vertexNormals(dense), dense, 0.35 * size, meanEdge);
  }

  /** How large quads are to be at a place, against `size`. */
  readonly shareAt = (x: number, y: number, z: number): number => sizeShare(this.dabs, x, y, z);

  /** The same in the middle of a triangle. */
  shareOf = (mesh: WorkingMesh, t: number): number => (this.dabs.length > 0 ? this.shareAt(...mesh.centre(t)) : 1);
}

function wantedSize(options: AutoQuadsOptions, area: number): { size: number; target: number } {
  if (options.edgeSizes) {
    const { finest, coarsest } = options.edgeSizes;
    if (!(finest > 0) || !(coarsest >= finest))
      throw new AutoQuadsError(`Edge sizes must be more than 0 and the coarsest not below the finest; they are ${finest} and ${coarsest}.`);
    const size = Math.sqrt(finest * coarsest);
    return { size, target: Math.round(area / size ** 2) };
  }
  const count = options.count ?? 4000;
  if (!(count >= LEAST)) throw new AutoQuadsError(`At least ${LEAST} quads can be asked for; it was ${count}.`);
  return { size: Math.sqrt(area / count), target: count };
}

/** Sum of something over all triangles. */
function sumOver(mesh: WorkingMesh, of: (t: number) => number): number {
  let sum = 0;
  for (let t = 0; t < mesh.triangles; t++) sum += of(t);
  return sum;
}

function topologyOf(mesh: WorkingMesh): Topology {
  let edges = 0;
  const borderNext = new Map<number, number>();
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (mesh.opposite[h] < 0) borderNext.set(mesh.corner[h], mesh.corner[after(h)]);
    if (mesh.opposite[h] < h) edges++;
  }
  let used = 0;
  for (let v = 0; v < mesh.vertices; v++) if (mesh.outgoing[v] >= 0) used++;
  let borders = 0;
  while (borderNext.size > 0) {
    borders++;
    let v = borderNext.keys().next().value!;
    for (let next = borderNext.get(v); next !== undefined; next = borderNext.get(v)) {
      borderNext.delete(v);
      v = next;
    }
  }
  return { euler: used - edges + mesh.triangles, borders };
}

/** One way through the steps, from the working mesh to the quads. */
class Attempt {
  failure = '';
  notes: string[] = [];

  constructor(
    private readonly surface: Surface,
    private readonly fineness: number,
    private readonly pull: number,
    /** ways round that come back beside themselves by less than so many quads are to close; what is tried one after the other */
    private readonly beside: readonly number[],
    private readonly report: TaskReport
  ) {}

  run(): QuadList | undefined {
    const { report } = this;
    const { mesh, frames, field, rings } = this.directions();
    const cut = cutOpen(mesh, field);
    report.phase('Map', 0.5);
    for (const beside of this.beside)
      try {
        const quads = this.mapAndExtract(mesh, frames, field, cut, rings, beside);
        if (quads) return quads;
      } catch (error) {
        if (!(error instanceof MapError)) throw error;
        this.failure = error.message;
      }
    return undefined;
  }

  /** The working mesh, its field of crosses, and closed guides on it. */
  directions(): { mesh: WorkingMesh; frames: Frames; field: OrientationField; rings: GuideRing[] } {
    const { report, surface } = this;
    report.phase('Working mesh', 0.05);
    const mesh = this.workingMesh();
    report.phase('Directions', 0.35);
    const frames = triangleFrames(mesh);
    const guided = surface.guides.length > 0 ? layGuides(mesh, frames, surface.guides, surface.size) : undefined;
    for (const g of guided?.lost ?? []) this.notes.push(`Guide ${g + 1} lies off the surface, or is too short: it was left out.`);
    const field = orientationField(mesh, frames, curvatureDirections(mesh, frames, surface.size), this.pull, guided?.field);
    openNarrowCorners(mesh, frames, field);
    return { mesh, frames, field, rings: guided?.rings ?? [] };
  }

  private workingMesh(): WorkingMesh {
    const { dense, smoothed, size, bvh, triangles, dabs, shareAt } = this.surface;
    const sizes = workingSizes(dense, smoothed, size * this.fineness);
    const p = dense.positions;
    if (dabs.length > 0) for (let v = 0; v < sizes.length; v++) sizes[v] *= shareAt(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    const mesh = new WorkingMesh(dense.positions, triangles);
    mesh.feature.set(dense.feature);
    mesh.size.set(sizes);
    mesh.mirrors = dense.mirrors;
    const bySurface = new Float64Array(triangles.length / 3);
    for (let t = 0; t < bySurface.length; t++)
      bySurface[t] = (sizes[triangles[3 * t]] + sizes[triangles[3 * t + 1]] + sizes[triangles[3 * t + 2]]) / 3;
    return new Remesher(mesh, bvh, bySurface).run(5);
  }

  /** Of the roundings near the wanted count the one whose strips run best is taken; where the map folds too much it is made stiffer. */
  private mapAndExtract(
    mesh: WorkingMesh,
    frames: Frames,
    field: OrientationField,
    cut: CutMesh,
    guided: readonly GuideRing[],
    beside: number
  ): QuadList | undefined {
    const { surface, report } = this;
    const factors = this.sizeFactors(mesh);
    const size = (t: number) => factors[t] * surface.size;
    const rings = beside > 0 ? closedRings(mesh, frames, cut, size, beside) : [];
    const pins = guided.map((guide) => ({ ring: asRing(guide, frames, cut), count: guide.count }));
    const narrow = mesh.feature.includes(1) ? narrowParts(mesh, frames, cut, size) : undefined;
    const map = new SeamlessMap(mesh, frames, cut, field.index, factors, rings, pins, narrow);
    for (let round = 0; round < (beside > 0 ? 2 : 5); round++) {
      report.phase(round === 0 ? 'Rounding' : 'Unfolding', 0.65 + 0.03 * round);
      // without rings all come to the same
      const tries = (rings.length > 0 ? NEARS : [0]).flatMap((near) => this.triedSizes(map, near).slice(0, MOST_READ));
      let best: { quads: QuadList; cost: number; counts: (number | undefined)[] } | undefined;
      const fewest = tries.reduce((least, t) => Math.min(least, t.folded), Infinity);
      for (const { size: edge, x, folded } of tries) {
        if (best && folded > 2 * fewest + 10) continue;
        // a few folds may be left: tears are mended, and what cannot be is found by its topology
        if (folded > 0) map.untangle(x, edge);
        const quads = mended(new QuadExtraction(mesh, cut, map.coordinates(x)).run(), surface.topology);
        if (!quads) continue;
        const cost = this.costOf(quads) + folded / mesh.triangles;
        if (!best || cost < best.cost) best = { quads, cost, counts: map.pinCounts(x) };
      }
      if (best) {
        this.notes.push(...describePins(guided, best.counts));
        return best.quads;
      }
      this.failure = `the map folds over in ${tries[0].folded} places.`;
      map.stiffen(foldedNeighbourhood(mesh, mapAreas(map.coordinates(tries[0].x))));
    }
    return undefined;
  }

  /** What speaks against some quads: a count that is missed, strips that are long or run beside themselves, corners off right angles. */
  private costOf({ positions, quads }: QuadList): number {
    const count = quads.length / 4;
    const off = this.surface.options.edgeSizes ? 0 : Math.abs(count / this.surface.target - 1);
    const { longest, spirals, mean, hundredth } = quadQuality(Cage.fromPolygons(uniformMesh(positions, quads, 4)));
    const missed = off > 2 * COUNT_MET ? MISSED_COUNT : 0;
    return missed + off / COUNT_MET + (4 * longest) / count + 0.1 * spirals + 20 * (1 - mean) + 2 * (1 - hundredth);
  }

  /** Solutions for sizes round the wanted one: those that meet the count, fewest folds first, then the others. */
  private triedSizes(map: SeamlessMap, near: number): { size: number; x: Float64Array; folded: number; off: number }[] {
    const { surface } = this;
    const free = surface.options.edgeSizes !== undefined;
    const tryOf = (size: number) => {
      const x = map.solve(size, near);
      let [folded, whole] = [0, 0];
      for (const a of mapAreas(map.coordinates(x))) {
        whole += a;
        if (a <= 0) folded++;
      }
      return { size, x, folded, count: whole / 2, off: free ? 0 : Math.abs(whole / 2 / surface.target - 1) };
    };
    let size = surface.size;
    // with edge sizes asked for, the count falls out; with a count, the size is corrected to it
    if (!free) for (let i = 0; i < 3; i++) size *= Math.sqrt(tryOf(size).count / surface.target);
    // rounding makes the count jump: sizes are taken from a wide range
    const tries = TRIED_SIZES.map((factor) => tryOf(size * factor));
    const missed = (t: { off: number }) => Math.ceil(Math.max(0, t.off - COUNT_MET) / COUNT_MET);
    return tries.sort((a, b) => missed(a) - missed(b) || a.folded - b.folded || a.off - b.off);
  }

  /** Relative quad size by triangle: 1 everywhere, or between the sizes asked for by how tightly the surface bends. */
  private sizeFactors(mesh: WorkingMesh): Float64Array {
    const { edgeSizes } = this.surface.options;
    const factors = Float64Array.from({ length: mesh.triangles }, (_, t) => this.surface.shareOf(mesh, t));
    if (!edgeSizes || edgeSizes.finest === edgeSizes.coarsest) return factors;
    const normals = smoothNormals(vertexNormals(mesh), mesh, 1, 1);
    const sizes = workingSizes(mesh, normals, edgeSizes.coarsest * 2.5);
    for (let t = 0; t < mesh.triangles; t++) {
      const mean = (sizes[mesh.corner[3 * t]] + sizes[mesh.corner[3 * t + 1]] + sizes[mesh.corner[3 * t + 2]]) / 3 / 2.5;
      factors[t] *= Math.min(edgeSizes.coarsest, Math.max(edgeSizes.finest, mean)) / this.surface.size;
    }
    return factors;
  }
}

/** What became of closed guides with a count: those that did not get it contradict an earlier one, or a pole lies within. */
function describePins(guides: readonly GuideRing[], counts: readonly (number | undefined)[]): string[] {
  return guides.flatMap(({ guide, count }, i) => {
    const got = counts[i];
    if (got === undefined) return [`Guide ${guide + 1} does not close: loops turn a corner inside it.`];
    if (count === 0) return [];
    if (got === count) return [`Guide ${guide + 1}: ${count} quads round it.`];
    const other = guides.findIndex((g, j) => j < i && g.count > 0 && g.count !== count && counts[j] === got);
    return [
      `Guide ${guide + 1} asks for ${count} quads round it and got ${got}${other >= 0 ? `: it contradicts guide ${guides[other].guide + 1}, which asks for ${guides[other].count} on the same way round` : ''}.`
    ];
  });
}

/** Factors for `stiffen`: triangles turned over or nearly flat, and those round them. */
function foldedNeighbourhood(mesh: WorkingMesh, areas: Float64Array): Float64Array {
  const factors = new Float64Array(areas.length).fill(1);
  for (let t = 0; t < areas.length; t++) {
    if (areas[t] > 0) continue;
    for (const h of [3 * t, 3 * t + 1, 3 * t + 2]) {
      const g = mesh.opposite[h];
      if (g >= 0) factors[Math.floor(g / 3)] = Math.max(factors[Math.floor(g / 3)], 1.6);
    }
    factors[t] = 2.5;
  }
  return factors;
}
