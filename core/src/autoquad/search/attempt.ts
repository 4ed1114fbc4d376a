import { type Triple } from '../../numeric/vectors.ts';
import { type TaskReport } from '../../task/steps.ts';
import { withImages, reflected } from '../base/mirror.ts';
import { type Guide } from '../base/options.ts';
import { edgeEnds, type QuadList } from '../base/quad-list.ts';
import { vertexNormals } from '../base/remesh.ts';
import { smoothNormals, workingSizes } from '../base/sizing.ts';
import { onThisSide } from '../base/strokes.ts';
import { type WorkingMesh } from '../base/working-mesh.ts';
import { closedRings, type Ring } from '../field/closed-rings.ts';
import { type CutMesh, cutOpen } from '../field/cut-graph.ts';
import { asRing, type GuideRing } from '../field/guides.ts';

import { polesOf } from '../field/pole-plan.ts';
import { type Surface } from '../input/surface.ts';
import { MapError } from '../map/map-constraints.ts';
import { mapAreas } from '../map/map-plane.ts';
import { narrowParts } from '../map/narrow-parts.ts';
import { waysBetweenPoles, waysToLines } from '../map/pole-ways.ts';
import { SeamlessMap } from '../map/seamless-map.ts';
import { thinLimbs } from '../map/thin-limbs.ts';
import { mended } from '../quads/mend.ts';
import { QuadExtraction } from '../quads/quad-extraction.ts';
import { costOf, LEFT_FOLD, MISSED_COUNT } from './cost.ts';
import { type Directions, DirectionSteps } from './directions.ts';
import { MANY_WHOLES, type Rounding, SizeSearch } from './size-search.ts';
import { type Way } from './ways.ts';

/** With so many of them a map takes seconds to be rounded: it is made stiffer for as long as that leaves less than so many of its folds. */
const [LONG_ROUNDING, UNFOLDED] = [250, 0.8];
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
/** Within so many quads of weak places the map is made so much stiffer: whole numbers there come nearer to what they stand for. */
const [WEAK_WITHIN, STIFFER] = [2, 3];
/** Poles that lie nearer to each other than so many quads are kept from falling together. */
const POLES_APART = 2;
/** Poles that lie nearer to a line than so many quads are kept on their side of it. */
const LINES_APART = 6;
/** Where edge sizes are asked for, quads get finer at bends that are so many times as wide. */
const WIDER_BENDS = 2.5;
/** Times that strips which run beside themselves are looked for and closed; of a map with many whole unknowns, where it takes long. */
const [MORE_RINGS, FEWER_RINGS] = [3, 1];

/** Quads that one way has led to, and what is to be said of them. */
export interface Candidate {
  quads: QuadList;
  /** what speaks against them: a pole counts `POLE` */
  cost: number;
  notes: string[];
  /** name of the way */
  way: string;
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
  /** where poles lay that were cancelled, in pairs */
  cancelled: readonly Triple[] = [];
  /** poles of the directions */
  poles = 0;
  /** whole unknowns of the map that was rounded last */
  wholes = 0;
  /** roundings that were read as quads */
  readings = 0;
  private readonly steps: DirectionSteps;
  /** what has been told of last */
  private shown?: QuadList;

  constructor(
    private readonly surface: Surface,
    private readonly way: Way,
    private readonly report: TaskReport
  ) {
    this.steps = new DirectionSteps(surface, way.fineness, way.pull, way.cancelWithin, report);
  }

  /**
   * @param weak places where quads of an earlier run came out poorly, in the mesh's unit
   * @returns quads that were found, those first that the least speaks against; none where `failure` tells why
   */
  run(weak: readonly Triple[] = []): Candidate[] {
    const { report, surface } = this;
    this.notes.length = 0;
    const directions = this.steps.directions();
    const poles = polesOf(directions.mesh, directions.field);
    report.poles?.(poles);
    this.poles = poles.length;
    if (poles.length > MOST_POLES * surface.target) {
      this.failure = `their directions have ${poles.length} poles.`;
      return [];
    }
    report.phase(weak.length > 0 ? 'Map, with more care' : 'Map', 0.5);
    this.notes.push(...directions.notes);
    if (directions.size !== surface.size) this.notes.push(`Poles and directions were kept from quads of ${directions.size.toPrecision(3)} mm.`);
    this.cancelled = directions.cancelled;
    directions.cut ??= cutOpen(directions.mesh, directions.field);
    for (const beside of this.way.beside)
      try {
        const found = this.mapAndExtract(directions, directions.cut, beside, weak);
        if (found.length > 0) return found;
      } catch (error) {
        if (!(error instanceof MapError)) throw error;
        this.failure = error.message;
      }
    return [];
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
    this.wholes = map.wholes;
    // without rings all come to the same
    const bounds = rings.length === 0 ? [0] : weak.length > 0 ? WITHIN.slice(1) : WITHIN;
    let foldedBefore = Infinity;
    for (let round = 0; round < (beside > 0 ? 2 : 5); round++) {
      report.phase(round === 0 ? 'Rounding' : 'Unfolding', 0.65 + 0.03 * round);
      const search = new SizeSearch(surface, map);
      const tries = search.run(bounds);
      const read = this.readOff(tries, map, mesh, cut);
      // strips that run beside themselves tell what else is to close
      const found = [...rings];
      const rounds = map.wholes > MANY_WHOLES ? FEWER_RINGS : MORE_RINGS;
      for (let more = 0; beside > 0 && read.length > 0 && more < rounds; more++) {
        found.push(...read[0].extraction.spirals());
        // what is asked for already comes out the same
        if (!map.close(found)) break;
        const better = this.readOff(search.run([WITHIN[1]]), map, mesh, cut);
        if (better.length === 0 || better[0].cost >= read[0].cost) break;
        read.unshift(...better);
      }
      if (read.length > 0) {
        this.show(read[0].quads);
        // those that miss the count are no better than poor quads
        const taken = read.filter(({ cost }) => cost < read[0].cost + MISSED_COUNT / 2).slice(0, MOST_TAKEN);
        const notes = [...this.notes, ...describeOpen(map, mesh)];
        return taken.map(({ quads, cost, counts }) => ({
          quads,
          cost,
          notes: [...notes, ...describePins(guided, counts, surface.guides)],
          way: this.way.name
        }));
      }
      const { folded } = tries[0];
      this.failure = folded > 0 ? `the map folds over in ${folded} places.` : 'they would change the topology.';
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
      this.readings++;
      const extraction = new QuadExtraction(mesh, cut, map.coordinates(x));
      const quads = mended(extraction.run(), this.surface.topology);
      if (!quads) continue;
      const left = folded > 0 ? map.tally(x).folded : 0;
      const cost = costOf(this.surface, quads, map.poles) + folded / mesh.triangles + OPEN_LIMB * map.openLimbs(x) + LEFT_FOLD * left;
      found.push({ quads, cost, counts: map.pinCounts(x), extraction });
      // the first ones are the best yet, and are hardly ever other ones than those that are taken
      if (!this.shown) this.show(quads);
    }
    return found.sort((a, b) => a.cost - b.cost);
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

/** Tells of rings that were to close, where that would have torn the map apart. */
function describeOpen(map: SeamlessMap, mesh: WorkingMesh): string[] {
  const open = map.leftOpen();
  if (open.length === 0) return [];
  const at = mesh.centre(Math.floor(open[0].crossed[0] / 3));
  const near = at.map((x) => x.toFixed(1)).join(', ');
  return [`Loops round the form that were left open, as closing them would tear the quads apart: ${open.length}, the first near ${near}.`];
}

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
