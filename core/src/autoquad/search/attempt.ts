import { quadQuality } from '../../check/quad-quality.ts';
import { Cage } from '../../mesh/cage.ts';
import { uniformMesh } from '../../mesh/polygon-mesh.ts';
import { isPole } from '../../mesh/topology.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { type TaskReport } from '../../task/steps.ts';
import { countSpread, type Guide } from '../base/options.ts';
import { closedRings, type Ring } from '../field/closed-rings.ts';
import { curvatureDirections, gradedFrames, type Frames, triangleFrames } from '../field/curvature.ts';
import { type CutMesh, cutOpen } from '../field/cut-graph.ts';
import { asRing, type GuideRing, layGuides } from '../field/guides.ts';
import { onThisSide } from '../base/strokes.ts';
import { mended } from '../quads/mend.ts';
import { edgeEnds, type QuadList } from '../base/quad-list.ts';
import { movePoles } from '../field/move-poles.ts';
import { openNarrowCorners } from '../field/narrow-corners.ts';
import { narrowParts } from '../map/narrow-parts.ts';
import { orientationField, type OrientationField, PULLED } from '../field/orientation-field.ts';
import { polesOf } from '../field/pole-plan.ts';
import { waysBetweenPoles, waysToLines } from '../map/pole-ways.ts';
import { QuadExtraction } from '../quads/quad-extraction.ts';
import { Remesher, vertexNormals } from '../base/remesh.ts';
import { mapAreas } from '../map/map-plane.ts';
import { MapError, SeamlessMap, type SizeWish } from '../map/seamless-map.ts';
import { smoothNormals, workingSizes } from '../base/sizing.ts';
import { withImages, reflected } from '../base/mirror.ts';
import { thinLimbs } from '../map/thin-limbs.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { type Surface } from '../input/surface.ts';

/** A count is met within this share. */
const COUNT_MET = 0.015;
/** A count that is missed by twice as much speaks against a rounding more than anything else, one that is missed by more as much as six poles. */
const [MISSED_COUNT, NEARLY_MET] = [100, 3];
/** Sizes that are tried, in steps of a share of the wanted one to both sides of it. */
const TRIED_SIZES = [0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6, -6, 7, -7, 8, -8];
const SIZE_STEP = 0.006;
/** Where a map has less than this share of the quads asked for, or is turned over as a whole, the size is corrected no further. */
const LEAST_STEP = 0.25;
/** How many of the roundings are read as quads: more of a range of counts. */
const [MOST_READ, MOST_OF_RANGE] = [3, 6];
/** With so many whole unknowns the count jumps less from size to size, and rounding takes longer: fewer sizes are tried. */
const [MANY_WHOLES, FEWER_SIZES] = [150, 7];
/** With so many of them a map takes seconds to be rounded: it is made stiffer for as long as that leaves less than so many of its folds. */
const [LONG_ROUNDING, UNFOLDED] = [250, 0.8];
/** With few of them the count jumps much: where it is missed, roundings next to the nearest are tried, for some of the sizes. */
const [FEW_WHOLES, MOST_NEXT, SIZES_NEXT] = [60, 8, 5];
/** Directions with more poles than so many times the quads asked for are those of noise: a map of them takes minutes, and folds over everywhere. */
const MOST_POLES = 2;
/** More than so many times the quads asked for are not read: that would take minutes, and is no answer. */
const MOST_COUNT = 5;
/** The same for the boxes round the map's triangles, which turned ones cannot cancel: in a sound map they cover two to three times the count. */
const MOST_SPREAD = 25;
/** How many of them are handed on: the next one is taken where one turns out poor. */
const MOST_TAKEN = 4;
/** Rings are closed that miss themselves by so many standard deviations, as the map sees them: more closes more, and bends more. */
const WITHIN = [0.5, 1.5, 5];
/** How much it speaks against quads that they do not close round a limb or finger. */
const OPEN_LIMB = 3;
/** How much a pole speaks against quads: as much as a strip that takes up an eighth of them. */
const POLE = 0.5;
/** How much it speaks against quads that a pole of the field is missing in them, and that a triangle of the map stayed folded: there they are mended. */
const [LOST_POLE, LEFT_FOLD] = [2, 2];
/** Within so many quads of weak places the map is made so much stiffer: whole numbers there come nearer to what they stand for. */
const [WEAK_WITHIN, STIFFER] = [2, 3];
/** How much it speaks against quads that one has a straight corner on a line: no moving of vertices mends that. */
const FLAT = 3;
/** Poles that lie nearer to each other than so many quads are kept from falling together. */
const POLES_APART = 2;
/** Poles that lie nearer to a line than so many quads are kept on their side of it. */
const LINES_APART = 6;
/** Where edge sizes are asked for, quads get finer at bends that are so many times as wide. */
const WIDER_BENDS = 2.5;
/** Times that strips which run beside themselves are looked for and closed. */
const MORE_RINGS = 3;

/** The crosses over a working mesh, and what is made of them alone. */
export interface Directions {
  mesh: WorkingMesh;
  frames: Frames;
  field: OrientationField;
  /** closed guides */
  rings: GuideRing[];
  notes: string[];
  /** pairs of poles that lay near each other */
  cancelled: number;
  /** of quads that they were made for, mm */
  size: number;
  cut?: CutMesh;
  /** by how far beside themselves rings may come back */
  maps: Map<number, SeamlessMap>;
}

/** Unknowns of the map rounded for a size, mm, how many triangles are folded over in it, and by what share its count of quads misses. */
interface Rounding {
  size: number;
  /** as `RoundingOptions` has it */
  next: number;
  x: Float64Array;
  folded: number;
  count: number;
  /** quads that the boxes round the map's triangles would hold */
  spread: number;
  off: number;
}

/** Quads that one way has led to, and what is to be said of them. */
export interface Candidate {
  quads: QuadList;
  /** what speaks against them: a pole counts `POLE` */
  cost: number;
  notes: string[];
}

/** Quads of a rounding, what speaks against them, quads along pins, and what they were read by. */
interface ReadQuads {
  quads: QuadList;
  cost: number;
  counts: (number | undefined)[];
  extraction: QuadExtraction;
}

/** One way through the steps, from the working mesh to the quads. */
export class Attempt {
  failure = '';
  /** places where the map folds over, where that is what it failed of */
  folded: Triple[] = [];
  private readonly notes: string[] = [];
  /** pairs of poles that lay near each other */
  cancelled = 0;
  /** what has been told of last */
  private shown?: QuadList;

  constructor(
    private readonly surface: Surface,
    private readonly fineness: number,
    private readonly pull: number,
    /** poles that lie so many quads apart cancel */
    private readonly cancelWithin: number,
    /** ways round that come back beside themselves by less than so many quads are to close; what is tried one after the other */
    private readonly beside: readonly number[],
    private readonly report: TaskReport
  ) {}

  /**
   * @param weak places where quads of an earlier run came out poorly, in the mesh's unit
   * @returns quads that were found, those first that the least speaks against; none where `failure` tells why
   */
  run(weak: readonly Triple[] = []): Candidate[] {
    const { report, surface } = this;
    this.notes.length = 0;
    const directions = this.directions();
    const poles = polesOf(directions.mesh, directions.field);
    report.poles?.(poles);
    if (poles.length > MOST_POLES * surface.target) {
      this.failure = `their directions have ${poles.length} poles.`;
      return [];
    }
    report.phase(weak.length > 0 ? 'Map, with more care' : 'Map', 0.5);
    this.notes.push(...directions.notes);
    if (directions.size !== surface.size) this.notes.push(`Poles and directions were kept from quads of ${directions.size.toPrecision(3)} mm.`);
    this.cancelled = directions.cancelled;
    directions.cut ??= cutOpen(directions.mesh, directions.field);
    for (const beside of this.beside)
      try {
        const found = this.mapAndExtract(directions, directions.cut, beside, weak);
        if (found.length > 0) return found;
      } catch (error) {
        if (!(error instanceof MapError)) throw error;
        this.failure = error.message;
      }
    return [];
  }

  /** The working mesh, its field of crosses, and closed guides on it; those of an earlier run where they would come out the same. */
  directions(): Directions {
    const { surface, fineness, pull, cancelWithin } = this;
    const { from, dabs, guides, options, kept, size } = surface;
    // one of each way that is tried is kept
    const way = `directions ${fineness} ${pull > 0} ${cancelWithin > 0}`;
    return kept.step(way, [...from, dabs, guides, options.poleMoves, pull, cancelWithin], () => this.foundDirections(), size);
  }

  private foundDirections(): Directions {
    const { report, surface, cancelWithin } = this;
    const { size } = surface;
    const mesh = this.workingMesh();
    report.phase('Directions', 0.35);
    const notes: string[] = [];
    const frames = triangleFrames(mesh);
    const guided = surface.guides.length > 0 ? layGuides(mesh, frames, surface.guides, size) : undefined;
    for (const g of guided?.lost ?? [])
      if (!surface.guides[g].silent) notes.push(`Guide ${g + 1} lies off the surface, or is too short: it was left out.`);
    const curvature = curvatureDirections(mesh, frames, size);
    const shares = this.shares(mesh);
    const graded = shares ? gradedFrames(mesh, frames, shares) : frames;
    const field = orientationField(mesh, frames, curvature, this.pull, guided?.field.weight.some((w) => w > 0) ? guided.field : undefined, graded);
    const { poleMoves = [] } = surface.options;
    let cancelled = 0;
    if (poleMoves.length > 0 || cancelWithin > 0) {
      const stays = curvature.weight.map((w, t) => PULLED * this.pull * w + (guided?.field.weight[t] ?? 0));
      const moves = poleMoves.map(({ from, to }) => ({ from: onThisSide(from, mesh.mirrors), to: onThisSide(to, mesh.mirrors) }));
      const moved = movePoles(mesh, graded, field, stays, { moves, cancelWithin: cancelWithin * size, quad: size, near: 1.5 * size });
      for (const m of moved.lost) notes.push(`Pole move ${m + 1} was left out: no pole is there, or a sharp edge or another pole is in its way.`);
      cancelled = moved.cancelled;
      if (cancelled > 0) notes.push(`Pairs of near poles that were cancelled: ${cancelled}.`);
    }
    openNarrowCorners(mesh, frames, field);
    return { mesh, frames, field, rings: guided?.rings ?? [], notes, cancelled, size, maps: new Map() };
  }

  /** The surface with triangles as large as quads, or smaller where it bends; that of an earlier run where it would come out the same. */
  workingMesh(): WorkingMesh {
    const { from, dabs, size, kept } = this.surface;
    return kept.step(`working mesh ${this.fineness}`, [...from, dabs], () => this.remeshed(), size);
  }

  private remeshed(): WorkingMesh {
    this.report.phase('Working mesh', 0.05);
    const { dense, area, size, bvh, shareAt } = this.surface;
    const { corner: triangles } = dense;
    const meanEdge = Math.sqrt((area / dense.triangles) * 2.3);
    const smoothed = smoothNormals(vertexNormals(dense), dense, 0.35 * size, meanEdge);
    const sizes = workingSizes(dense, smoothed, size * this.fineness);
    const p = dense.positions;
    if (shareAt) for (let v = 0; v < sizes.length; v++) sizes[v] *= shareAt(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    const mesh = dense.copy();
    mesh.size.set(sizes);
    const bySurface = new Float64Array(triangles.length / 3);
    for (let t = 0; t < bySurface.length; t++)
      bySurface[t] = (sizes[triangles[3 * t]] + sizes[triangles[3 * t + 1]] + sizes[triangles[3 * t + 2]]) / 3;
    return new Remesher(mesh, bvh, bySurface).run(5);
  }

  /** The map that is to be rounded, and the ways round that are to close in it. */
  private askedMap(directions: Directions, cut: CutMesh, beside: number, weak: readonly Triple[]): { map: SeamlessMap; rings: Ring[] } {
    const { surface } = this;
    const { mesh, frames, field, rings: guided, maps } = directions;
    const factors = this.sizeFactors(mesh);
    const size = (t: number) => factors[t] * surface.size;
    const pins = guided.map((guide) => ({ ring: asRing(guide, frames, cut), count: guide.count }));
    const map = maps.get(beside) ?? new SeamlessMap(mesh, frames, cut, field.index, pins);
    maps.set(beside, map);
    const narrow = mesh.feature.includes(1) ? narrowParts(mesh, frames, cut, size) : undefined;
    const thin = thinLimbs(mesh, frames, cut, size);
    map.aim(factors, narrow && thin ? narrow.map((share, i) => share * thin[i]) : (narrow ?? thin));
    if (weak.length > 0) {
      // what is kept is to serve other sizes too
      maps.delete(beside);
      map.stiffen(this.stiffNear(weak, mesh));
    }
    const narrowest = (t: number) => size(t) * (thin ? Math.min(thin[2 * t], thin[2 * t + 1]) : 1);
    const rings = beside > 0 ? closedRings(mesh, frames, cut, narrowest, beside) : [];
    map.close(rings);
    map.keepApart(waysBetweenPoles(mesh, cut, field.index, POLES_APART * surface.size));
    map.keepSides(waysToLines(mesh, frames, cut, field.index, LINES_APART * surface.size));
    return { map, rings };
  }

  /** Of the roundings near the wanted count the one whose strips run best is taken; where the map folds too much it is made stiffer. */
  private mapAndExtract(directions: Directions, cut: CutMesh, beside: number, weak: readonly Triple[]): Candidate[] {
    const { surface, report } = this;
    const { mesh, rings: guided, maps } = directions;
    const { map, rings } = this.askedMap(directions, cut, beside, weak);
    // without rings all come to the same
    const bounds = rings.length === 0 ? [0] : weak.length > 0 ? WITHIN.slice(1) : WITHIN;
    let foldedBefore = Infinity;
    for (let round = 0; round < (beside > 0 ? 2 : 5); round++) {
      report.phase(round === 0 ? 'Rounding' : 'Unfolding', 0.65 + 0.03 * round);
      const tries = this.roundings(map, bounds);
      const read = this.readOff(tries, map, mesh, cut);
      // strips that run beside themselves tell what else is to close
      const found = [...rings];
      for (let more = 0; beside > 0 && read.length > 0 && more < MORE_RINGS; more++) {
        found.push(...read[0].extraction.spirals());
        // what is asked for already comes out the same
        if (!map.close(found)) break;
        const better = this.readOff(this.roundings(map, [WITHIN[1]]), map, mesh, cut);
        if (better.length === 0 || better[0].cost >= read[0].cost) break;
        read.unshift(...better);
      }
      if (read.length > 0) {
        this.show(read[0].quads);
        // those that miss the count are no better than poor quads
        const taken = read.filter(({ cost }) => cost < read[0].cost + MISSED_COUNT / 2).slice(0, MOST_TAKEN);
        return taken.map(({ quads, cost, counts }) => ({ quads, cost, notes: [...this.notes, ...describePins(guided, counts, surface.guides)] }));
      }
      const { folded } = tries[0];
      this.failure = folded > 0 ? `the map folds over in ${folded} places.` : 'they would not hang together as the surface does.';
      const areas = mapAreas(map.coordinates(tries[0].x));
      this.folded = [...areas.keys()].filter((t) => areas[t] <= 0).map((t) => mesh.centre(t));
      // without folds nothing would come out other than it has
      if (this.folded.length === 0) break;
      if (map.wholes > LONG_ROUNDING && this.folded.length > UNFOLDED * foldedBefore) break;
      foldedBefore = this.folded.length;
      // what is kept is to serve other sizes too
      maps.delete(beside);
      map.stiffen(foldedNeighbourhood(mesh, areas));
    }
    return [];
  }

  /** Tells of quads as they have been read, their images in mirrors too. */
  private show(quads: QuadList): void {
    const { report, surface } = this;
    if (!report.edges || this.shown === quads) return;
    this.shown = quads;
    report.edges(Float32Array.from(withImages(edgeEnds(quads), surface.dense.mirrors, (p, mirror) => reflected(mirror, p)).flat()));
  }

  /** Reads quads off some roundings; those that the least speaks against come first. */
  private readOff(tries: readonly Rounding[], map: SeamlessMap, mesh: WorkingMesh, cut: CutMesh): ReadQuads[] {
    const found: ReadQuads[] = [];
    const fewest = tries.reduce((least, t) => Math.min(least, t.folded), Infinity);
    const read = new Set<string>();
    for (const { size: edge, x, folded, count, spread } of tries) {
      if (found.length > 0 && folded > 2 * fewest + 10) continue;
      // a map that has come apart covers its plane many times over, and one that went wild holds no numbers any more
      if (count > MOST_COUNT * this.surface.target || !(spread <= MOST_SPREAD * this.surface.target)) continue;
      // sizes next to each other, and several bounds where all rings come near enough, are rounded to the same
      const wholes = map.wholesOf(x).join();
      if (read.has(wholes)) continue;
      read.add(wholes);
      // a few folds may be left: tears are mended, and what cannot be is found by its topology
      if (folded > 0) map.untangle(x, edge);
      const extraction = new QuadExtraction(mesh, cut, map.coordinates(x));
      const quads = mended(extraction.run(), this.surface.topology);
      if (!quads) continue;
      const left = folded > 0 ? map.tally(x).folded : 0;
      const cost = this.costOf(quads, map.poles) + folded / mesh.triangles + OPEN_LIMB * map.openLimbs(x) + LEFT_FOLD * left;
      found.push({ quads, cost, counts: map.pinCounts(x), extraction });
      // the first ones are the best yet, and are hardly ever other ones than those that are taken
      if (!this.shown) this.show(quads);
    }
    return found.sort((a, b) => a.cost - b.cost);
  }

  /** What speaks against some quads: a count that is missed, poles, and those of the field that are missing, strips that are long or run beside themselves, corners off right angles. */
  private costOf(list: QuadList, planned: number): number {
    const { positions, quads } = list;
    const count = quads.length / 4;
    const off = this.surface.countOff(count);
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

  /** The best roundings where rings close that miss themselves by up to one bound after the other; what a wider one leaves as it is comes once. */
  private roundings(map: SeamlessMap, bounds: readonly number[]): Rounding[] {
    let before = '';
    return bounds.flatMap((within) => {
      const tries = this.triedSizes(map, within);
      const same = tries.map(({ size, count, folded }) => `${size} ${count} ${folded}`).join(' ');
      if (same === before) return [];
      before = same;
      return this.bestOf(tries, map, within);
    });
  }

  /** Solutions for sizes round the wanted one. */
  private triedSizes(map: SeamlessMap, within: number): Rounding[] {
    const { surface } = this;
    let size = surface.size;
    // with edge sizes asked for, the count falls out; with a count, the size is corrected to it
    if (!surface.options.edgeSizes)
      for (let i = 0; i < 3; i++) size *= Math.sqrt(Math.max(LEAST_STEP, this.rounded(map, [{ size, within }])[0].count / surface.target));
    // rounding makes the count jump: sizes are taken from a wide range
    const steps = map.wholes > MANY_WHOLES ? TRIED_SIZES.slice(0, FEWER_SIZES) : TRIED_SIZES;
    // the outermost ones of a range of counts are its ends
    const step = Math.max(SIZE_STEP, Math.log(countSpread(surface.options)) / (steps.length - 1));
    return this.rounded(
      map,
      steps.map((k) => ({ size: size * (step > SIZE_STEP ? Math.exp(step * k) : 1 + SIZE_STEP * k), within }))
    );
  }

  /** Those that meet the count, fewest folds first, then the others; poles kept apart. */
  private bestOf(tries: readonly Rounding[], map: SeamlessMap, within: number): Rounding[] {
    const missed = (t: Rounding) => timesMissed(t.off);
    const bestFirst = (list: readonly Rounding[]) => [...list].sort((a, b) => missed(a) - missed(b) || a.folded - b.folded || a.off - b.off);
    let found = bestFirst(tries);
    if (missed(found[0]) > 0 && map.wholes <= FEW_WHOLES) {
      const different = [...new Map(found.map((t) => [t.count, t])).values()].slice(0, SIZES_NEXT);
      const steps = Array.from({ length: MOST_NEXT }, (_, i) => i + 1);
      const others = different.flatMap(({ size }) => steps.map((next) => ({ size, within, next })));
      found = bestFirst([...found, ...this.rounded(map, others)]);
    }
    const best = countSpread(this.surface.options) > 1 ? bestFirst(leastOfBands(found)) : found.slice(0, MOST_READ);
    const parted = this.rounded(
      map,
      best.map(({ size, next }) => ({ size, within, next, parted: true }))
    );
    return best.map((t, i) => (missed(parted[i]) > missed(t) + 1 || parted[i].folded > 2 * t.folded + 10 ? t : parted[i]));
  }

  private rounded(map: SeamlessMap, wanted: readonly Omit<SizeWish, 'scale'>[]): Rounding[] {
    const { surface } = this;
    // bounds are those of the size that is aimed at, so that all sizes close the same rings
    const solved = map.solve(wanted.map((wish) => ({ ...wish, scale: wish.size / surface.size })));
    return solved.map((x, i) => {
      const { folded, area, spread } = map.tally(x);
      const count = area / 2;
      const { size, next = 0 } = wanted[i];
      return { size, next, x, folded, count, spread: spread / 2, off: surface.countOff(count) };
    });
  }

  /** Factors for `stiffen`: triangles near weak places. */
  private stiffNear(weak: readonly Triple[], mesh: WorkingMesh): Float64Array {
    const { size, dense } = this.surface;
    const within = (WEAK_WITHIN * size) ** 2;
    // of places in the same part of a quad one is enough
    const cell = (p: Triple) => p.map((x) => Math.floor((2 * x) / size)).join(' ');
    const places = [...new Map(weak.map((p) => onThisSide(p, dense.mirrors)).map((p) => [cell(p), p])).values()];
    return Float64Array.from({ length: mesh.triangles }, (_, t) => {
      const [x, y, z] = mesh.centre(t);
      return places.some((p) => (p[0] - x) ** 2 + (p[1] - y) ** 2 + (p[2] - z) ** 2 < within) ? STIFFER : 1;
    });
  }

  /** By vertex, how large quads are to be against others; nothing where all are to be equal. */
  private shares(mesh: WorkingMesh): Float64Array | undefined {
    const { shareAt } = this.surface;
    return shareAt && Float64Array.from({ length: mesh.vertices }, (_, v) => shareAt(...mesh.point(v)));
  }

  /** Relative quad size by triangle: less where the surface bends tightly, within the sizes asked for or by the share that quads may be finer. */
  private sizeFactors(mesh: WorkingMesh): Float64Array {
    const { size, options } = this.surface;
    const { edgeSizes, finerBy = 0 } = options;
    const [finest, coarsest] = edgeSizes ? [edgeSizes.finest, edgeSizes.coarsest] : [(1 - finerBy / 100) * size, size];
    const factors = Float64Array.from({ length: mesh.triangles }, (_, t) => this.surface.shareOf(mesh, t));
    if (finest === coarsest) return factors;
    const normals = smoothNormals(vertexNormals(mesh), mesh, 1, 1);
    const wider = edgeSizes ? WIDER_BENDS : 1;
    const sizes = workingSizes(mesh, normals, coarsest * wider, true);
    for (let t = 0; t < mesh.triangles; t++) {
      const mean = (sizes[mesh.corner[3 * t]] + sizes[mesh.corner[3 * t + 1]] + sizes[mesh.corner[3 * t + 2]]) / 3 / wider;
      factors[t] *= Math.min(coarsest, Math.max(finest, mean)) / size;
    }
    return factors;
  }
}

/** Of roundings, the best first, the best of each band of sizes: those of a range of counts are to come from all of it. */
function leastOfBands(found: readonly Rounding[]): Rounding[] {
  const bySize = [...found].sort((a, b) => a.size - b.size);
  const band = Math.ceil(bySize.length / MOST_OF_RANGE);
  return Array.from({ length: Math.ceil(bySize.length / band) }, (_, i) => {
    const own = new Set(bySize.slice(i * band, (i + 1) * band));
    return found.find((rounding) => own.has(rounding))!;
  });
}

/** How many times the share within which a count is met it is off beyond that; 0 where it is met. */
const timesMissed = (off: number): number => Math.ceil(Math.max(0, off - COUNT_MET) / COUNT_MET);

/** What became of closed guides with a count: those that did not get it contradict an earlier one, or a pole lies within. */
function describePins(guides: readonly GuideRing[], counts: readonly (number | undefined)[], drawn: readonly Guide[]): string[] {
  return guides.flatMap(({ guide, count }, i) => {
    if (drawn[guide].silent) return [];
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
