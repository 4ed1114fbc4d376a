import { faceCount, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { refinedColours, refinedCorners } from './carried-values.ts';
import { CatmullClarkRefinement } from './catmull-clark-refinement.ts';
import { cageLevel, refineQuads, refineTriangles, SubdivisionError, type BorderCorners, type LevelTopology } from './level-topology.ts';
import { capSharpness, divideRows, sharpnessToCome, stepAt, type LevelPlan, type Scheme } from './level-plan.ts';
import { limitRows } from './limit.ts';
import { loopRows } from './loop.ts';
import { TableRefinement, type Refinement } from './refinement.ts';
import { composeRows, type WeightRows } from './weight-rows.ts';

/** How a cage is subdivided. */
export interface SubdivisionOptions {
  scheme?: Scheme;
  levels: number;
  borderCorners?: BorderCorners;
  /** what each level does; all smooth without one */
  plan?: LevelPlan;
  /** push the last level's points to the limit surface */
  limit?: boolean;
}

/** Quads a subdivided surface may have: about 150 bytes each in connectivity and points. */
const MOST_FACES = 24e6;

/**
 * The smooth surface of a cage as a chain of steps, one a level, each from the points of the level before. A chain costs
 * far less than one table from the cage to the last level; `combinedRows` multiplies it out where rows over the cage
 * itself are wanted. Catmull and Clark 1978, Loop 1987; creases after DeRose, Kass and Truong 1998.
 * @example const fine = new Subdivision(mesh, { levels: 2, limit: true }).toPolygons(mesh);
 */
export class Subdivision {
  /** connectivity of level 0 (the cage) to the last */
  readonly levels: LevelTopology[];
  readonly scheme: Scheme;
  /** points of every level after `evaluate` */
  readonly points: Float64Array[] = [];
  private readonly steps: Refinement[] = [];
  private readonly limit?: Refinement;
  private limitPoints?: Float64Array;

  /** @throws SubdivisionError naming the first face that is no triangle (Loop), or the size the result would have */
  constructor(mesh: PolygonMesh, options: SubdivisionOptions) {
    this.scheme = options.scheme ?? 'catmull-clark';
    refuse(mesh, this.scheme, options.levels);
    this.levels = [cageLevel(mesh, options.borderCorners ?? 'sharp')];
    capSharpness(this.levels[0], 0, options.plan);
    for (let k = 0; k < options.levels; k++) {
      const level = this.levels[k];
      const smooth = stepAt(options.plan, k + 1) === 'smooth';
      if (!smooth) this.steps.push(new TableRefinement(divideRows(level, this.scheme)));
      else this.steps.push(this.scheme === 'loop' ? new TableRefinement(loopRows(level)) : new CatmullClarkRefinement(level));
      const next = this.scheme === 'loop' ? refineTriangles(level, smooth) : refineQuads(level, smooth);
      capSharpness(next, k + 1, options.plan);
      this.levels.push(next);
    }
    const last = this.levels[options.levels];
    if (options.limit) {
      if (this.scheme === 'catmull-clark' && options.levels === 0 && last.faceStart.some((s, f) => f > 0 && s - last.faceStart[f - 1] !== 4))
        throw new SubdivisionError('Limit positions need quads: subdivide at least once.');
      this.limit = new TableRefinement(limitRows(sharpnessToCome(last, options.levels, options.plan), this.scheme));
    }
  }

  get last(): LevelTopology {
    return this.levels[this.levels.length - 1];
  }

  /** All points of the last level (or its limit) for these cage positions. The array is kept and overwritten by later calls. */
  evaluate(cage: Float64Array): Float64Array {
    this.points[0] = cage;
    this.steps.forEach((step, k) => {
      this.points[k + 1] ??= new Float64Array(3 * this.levels[k + 1].vertices);
      step.apply(this.points[k], this.points[k + 1]);
    });
    const last = this.points[this.levels.length - 1];
    if (!this.limit) return last;
    this.limitPoints ??= new Float64Array(last.length);
    this.limit.apply(last, this.limitPoints);
    return this.limitPoints;
  }

  /**
   * Brings the points up to date after some cage vertices moved; `evaluate` has been called before with the same array.
   * @returns the points of the last level that changed
   */
  update(moved: Iterable<number>): Int32Array {
    let changed: Int32Array = Int32Array.from(moved);
    this.steps.forEach((step, k) => (changed = step.update(changed, this.points[k], this.points[k + 1])));
    return this.limit ? this.limit.update(changed, this.points[this.steps.length], this.limitPoints!) : changed;
  }

  /** Weights of the last level's points over the cage vertices, multiplied out. */
  combinedRows(): WeightRows {
    const vertices = this.levels[0].vertices;
    const identity: WeightRows = {
      start: Int32Array.from({ length: vertices + 1 }, (_, i) => i),
      index: Int32Array.from({ length: vertices }, (_, i) => i),
      weight: new Float64Array(vertices).fill(1)
    };
    const chain = this.limit ? [...this.steps, this.limit] : this.steps;
    return chain.reduce((whole, step) => composeRows(step.rows(), whole, vertices), identity);
  }

  /** The last level as polygons, with the cage's regions, colours and texture coordinates, and the creases and corners that are left. */
  toPolygons(cage: PolygonMesh): PolygonMesh {
    const { last } = this;
    const mesh: PolygonMesh = { positions: this.evaluate(cage.positions).slice(), faceStart: last.faceStart, faceVertices: last.faceVertices };
    if (cage.faceRegion) {
      mesh.faceRegion = this.cageFaces().map((f) => cage.faceRegion![f]);
      mesh.regionNames = cage.regionNames;
    }
    if (cage.vertexColour)
      mesh.vertexColour = this.levels.slice(0, -1).reduce((c, level) => refinedColours(level, this.scheme, c), cage.vertexColour);
    if (cage.cornerUv) mesh.cornerUv = this.levels.slice(0, -1).reduce((uv, level) => refinedCorners(level, this.scheme, uv), cage.cornerUv);
    const creased = [...last.edgeSharpness.keys()].filter((e) => last.edgeSharpness[e] > 0);
    if (creased.length > 0) {
      mesh.creaseEdges = Int32Array.from(creased.flatMap((e) => [last.edgeVertices[2 * e], last.edgeVertices[2 * e + 1]]));
      mesh.creaseSharpness = Float64Array.from(creased, (e) => last.edgeSharpness[e]);
    }
    // corners that borders make of themselves are no marks
    const given = new Set(cage.cornerVertices);
    const corners = [...given].filter((v) => last.vertexSharpness[v] > 0);
    if (corners.length > 0) {
      mesh.cornerVertices = Int32Array.from(corners);
      mesh.cornerSharpness = Float64Array.from(corners, (v) => last.vertexSharpness[v]);
    }
    return mesh;
  }

  /** The cage face that each face of the last level lies in. */
  cageFaces(): Int32Array {
    let of = Int32Array.from({ length: this.levels[0].faceStart.length - 1 }, (_, f) => f);
    for (let k = 0; k + 1 < this.levels.length; k++) {
      const { faceStart, faceVertices } = this.levels[k];
      const finer = new Int32Array(this.scheme === 'loop' ? 4 * of.length : faceVertices.length);
      for (let f = 0; f < of.length; f++)
        if (this.scheme === 'loop') finer.fill(of[f], 4 * f, 4 * f + 4);
        else finer.fill(of[f], faceStart[f], faceStart[f + 1]);
      of = finer;
    }
    return of;
  }
}

function refuse(mesh: PolygonMesh, scheme: Scheme, levels: number): void {
  if (!Number.isInteger(levels) || levels < 0) throw new SubdivisionError(`The number of levels must be 0 or more; it is ${levels}.`);
  const bad = mesh.creaseSharpness?.findIndex((s) => !(s >= 0)) ?? -1;
  if (bad >= 0) throw new SubdivisionError(`Crease ${bad} has the sharpness ${mesh.creaseSharpness![bad]}; it must be 0 or more.`);
  const badCorner = mesh.cornerSharpness?.findIndex((s) => !(s >= 0)) ?? -1;
  if (badCorner >= 0) throw new SubdivisionError(`Corner ${badCorner} has the sharpness ${mesh.cornerSharpness![badCorner]}; it must be 0 or more.`);
  if (scheme === 'loop')
    for (let f = 0; f < faceCount(mesh); f++)
      if (mesh.faceStart[f + 1] - mesh.faceStart[f] !== 3)
        throw new SubdivisionError(`Loop subdivision takes triangles only; face ${f} has ${mesh.faceStart[f + 1] - mesh.faceStart[f]} corners.`);
  const first = scheme === 'loop' ? faceCount(mesh) : mesh.faceVertices.length / 4;
  if (first * 4 ** levels > MOST_FACES && levels > 0) {
    const fits = Math.max(0, Math.floor(Math.log(MOST_FACES / first) / Math.log(4)));
    const gigabytes = ((first * 4 ** levels * 150) / 1e9).toFixed(1);
    throw new SubdivisionError(
      `Level ${levels} would have ${Math.round(first * 4 ** levels).toLocaleString('en')} faces (about ${gigabytes} GB); level ${fits} fits.`
    );
  }
}
