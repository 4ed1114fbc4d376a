import { NONE, type Cage } from '../mesh/cage.ts';
import { replaceFaces, type NewFace } from '../mesh/replace-faces.ts';
import { PlaceFit } from '../numeric/place-fit.ts';
import { faceNormal } from '../mesh/normals.ts';
import { add, dot, length, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { runIn, type Hole } from './hole.ts';

export interface GridSettings {
  /** edges along one pair of sides; chosen where it is missing */
  rows?: number;
  /** vertices by which the corners are turned on from the best place */
  offset?: number;
  /** 0: as a stretched skin; 1: the curvature around goes on */
  swell: number;
  /** place, in the hole's row of vertices, of the one triangle of an odd hole */
  pinch?: number;
}

/** Where a grid's corners lie: at `start`, `start + a`, `start + a + b` and `start + 2 a + b` of the hole's vertices. */
export interface GridPlace {
  start: number;
  a: number;
  b: number;
}

/**
 * The best corners for a grid in a hole of an even number of edges: where the hole has right angles and is straight elsewhere,
 * where vertices get four edges, where opposite sides are equally long, and as far apart as
 * the edges between them are long.
 */
export function bestGridPlace(hole: Hole, rows?: number): GridPlace {
  const n = hole.vertices.length;
  const reached = [0];
  hole.lengths.forEach((l, i) => reached.push(reached[i] + l));
  const between = (i: number, count: number) => {
    const end = i + count;
    return (end <= n ? reached[end] : reached[n] + reached[end - n]) - reached[i];
  };
  // what a corner costs more than a vertex of a side does
  const corner = hole.angles.map((angle, i) => {
    const asCorner = (angle - Math.PI / 2) ** 2 + 0.5 * (hole.valences[i] - 4) ** 2;
    const asSide = 0.5 * (angle - Math.PI) ** 2 + 0.5 * (hole.valences[i] + 1 - 4) ** 2;
    return asCorner - asSide;
  });
  const spacing = hole.length / n;
  let best: GridPlace = { start: 0, a: rows ?? 1, b: n / 2 - (rows ?? 1) };
  let least = Infinity;
  for (let a = rows ?? 1; a <= (rows ?? n / 2 - 1); a++)
    for (let start = 0; start < n; start++) {
      const b = n / 2 - a;
      const at = [start, start + a, start + a + b, start + 2 * a + b].map((i) => i % n);
      const sides = [between(at[0], a), between(at[1], b), between(at[2], a), between(at[3], b)];
      const unequal = Math.log(sides[0] / sides[2] || 1) ** 2 + Math.log(sides[1] / sides[3] || 1) ** 2;
      const across = (first: number, second: number, edges: number) => {
        const [p, q] = [first, second].map((i) => hole.places[Math.floor(i) % n]);
        return Math.log(length(subtract(p, q)) / edges / spacing || 1) ** 2;
      };
      const squat = across(start + a / 2, start + a + b + a / 2, b) + across(start + a + b / 2, start + 2 * a + b + b / 2, a);
      const cost = at.reduce((sum, i) => sum + corner[i], 0) + 2 * unequal + 0.5 * squat;
      if (cost < least - 1e-12) [least, best] = [cost, { start, a, b }];
    }
  return best;
}

/**
 * Fills a hole with a grid of quads. A hole of an odd number of edges gets one triangle, at `pinch`: two lines of the grid meet
 * there. Changes the cage.
 * @returns the new faces
 */
export function fillWithGrid(cage: Cage, hole: Hole, settings: GridSettings): number[] {
  if (hole.vertices.length % 2 !== 0) hole = doubledAt(hole, settings.pinch ?? flattest(cage, hole));
  const n = hole.vertices.length;
  const place = bestGridPlace(hole, settings.rows);
  const start = (((place.start + (settings.offset ?? 0)) % n) + n) % n;
  const grid = new Grid(cage, hole, { ...place, start });
  grid.settle(settings.swell);
  return grid.put();
}

/** A hole with one vertex counted twice, as a side's. */
function doubledAt(hole: Hole, i: number): Hole {
  const twice = <T>(list: T[], extra: T) => [...list.slice(0, i + 1), extra, ...list.slice(i + 1)];
  const lengths = twice(hole.lengths, hole.lengths[i]);
  lengths[i] = 0;
  const angles = twice(hole.angles, Math.PI);
  angles[i] = Math.PI;
  return {
    ...hole,
    vertices: twice(hole.vertices, hole.vertices[i]),
    places: twice(hole.places, hole.places[i]),
    lengths,
    angles,
    valences: twice(hole.valences, hole.valences[i])
  };
}

/** The vertex round which the faces bend least, away from corners: a triangle is seen least there. */
export function flattest(cage: Cage, hole: Hole): number {
  const bends = hole.vertices.map((v, i) => {
    const normals = cage.spokes(v).flatMap((h) => (cage.face[h] === NONE ? [] : [faceNormal(cage, cage.face[h])]));
    const bend = normals.reduce((most, n) => Math.max(most, 1 - dot(n, normals[0])), 0);
    return bend + 0.2 * Math.abs(hole.angles[i] - Math.PI);
  });
  return bends.reduce((best, bend, i) => (bend < bends[best] - 1e-9 ? i : best), 0);
}

/** Vertices of a grid of a by b quads; (i, j) is number i * (b + 1) + j. */
class Grid {
  private readonly a: number;
  private readonly b: number;
  private readonly places: Triple[] = [];
  /** mean distance of neighbours, mm */
  private size = 1;
  /** cage vertices on the hole's border */
  private readonly onBorder = new Map<number, number>();
  /** how what lies outside runs on at each border point */
  private readonly runs: Map<number, ReturnType<typeof runIn>>;

  constructor(
    private readonly cage: Cage,
    private readonly hole: Hole,
    { start, a, b }: GridPlace
  ) {
    this.a = a;
    this.b = b;
    const n = hole.vertices.length;
    const around = (k: number) => hole.vertices[(start + k) % n];
    for (let i = 0; i <= a; i++) {
      this.onBorder.set(this.at(i, 0), around(i));
      this.onBorder.set(this.at(i, b), around(2 * a + b - i));
    }
    for (let j = 0; j <= b; j++) {
      this.onBorder.set(this.at(a, j), around(a + j));
      this.onBorder.set(this.at(0, j), around(n - j));
    }
    this.runs = new Map([...this.onBorder].map(([p, v]) => [p, runIn(cage, v)]));
    this.blend();
  }

  private at(i: number, j: number): number {
    return i * (this.b + 1) + j;
  }

  /** Between the sides: the transfinite patch over them (Coons 1967). */
  private blend(): void {
    const { a, b, places } = this;
    const rim = (i: number, j: number) => this.cage.position(this.onBorder.get(this.at(i, j))!);
    for (let i = 0; i <= a; i++)
      for (let j = 0; j <= b; j++) {
        if (this.onBorder.has(this.at(i, j))) {
          places[this.at(i, j)] = rim(i, j);
          continue;
        }
        const [u, v] = [i / a, j / b];
        const ruled = add(add(scaled(rim(i, 0), 1 - v), scaled(rim(i, b), v)), add(scaled(rim(0, j), 1 - u), scaled(rim(a, j), u)));
        const corners = add(
          add(scaled(rim(0, 0), (1 - u) * (1 - v)), scaled(rim(a, 0), u * (1 - v))),
          add(scaled(rim(0, b), (1 - u) * v), scaled(rim(a, b), u * v))
        );
        places[this.at(i, j)] = subtract(ruled, corners);
      }
  }

  /**
   * Moves what lies inside to where the curvature of its rows changes least (Moreton, Sequin 1992), running on from the faces
   * around, or, the less swell, to where the grid is stretched least. How far apart rows lie is found in a few rounds.
   */
  settle(swell: number): void {
    if (this.a < 2 || this.b < 2) return;
    for (let round = 0; round < (swell > 0 ? 8 : 1); round++) this.solve(swell);
  }

  private solve(swell: number): void {
    const { a, b, places } = this;
    this.size = this.spacing(places.map((_, p) => p));
    const fit = new PlaceFit(
      [...places.keys()].filter((p) => !this.onBorder.has(p)),
      (p) => places[p]
    );
    const [plate, skin] = [swell, 1 - swell + 1e-6];
    const line = (count: number, point: (k: number) => number) => Array.from({ length: count + 1 }, (_, k) => point(k));
    const rows = [
      ...Array.from({ length: b - 1 }, (_, j) => line(a, (i) => this.at(i, j + 1))),
      ...Array.from({ length: a - 1 }, (_, i) => line(b, (j) => this.at(i + 1, j)))
    ];
    for (const row of rows) this.alongRow(row, plate, skin, fit);
    for (let i = 0; i < a; i++)
      for (let j = 0; j < b; j++)
        fit.wish(0.02 * plate, [
          [this.at(i, j), 1],
          [this.at(i + 1, j), -1],
          [this.at(i, j + 1), -1],
          [this.at(i + 1, j + 1), 1]
        ]);
    for (const [p, place] of fit.places()) places[p] = place;
  }

  /** Third differences along a row, which at its ends runs on from the edges outside, and first ones. */
  private alongRow(row: number[], plate: number, skin: number, fit: PlaceFit): void {
    const h = this.spacing(row);
    // rows whose points lie closer count more, within bounds that numbers can hold
    const dense = Math.min(100, Math.max(0.01, this.size / h));
    const last = row.length - 1;
    /** a point of the row as grid point or, beyond its ends, as a place outside that runs on evenly */
    const point = (k: number): { grid: number } | { place: Triple } | undefined => {
      if (k >= 0 && k <= last) return { grid: row[k] };
      const end = row[k < 0 ? 0 : last];
      const run = this.runs.get(end);
      const s = (k < 0 ? -k : k - last) * h;
      return run && { place: add(this.places[end], add(scaled(run.tangent, -s), scaled(run.curvature, (s * s) / 2))) };
    };
    for (let k = -2; k < last; k++) {
      const four = [0, 1, 2, 3].map((d) => point(k + d));
      if (four.some((p) => !p)) continue;
      const weights = [-1, 3, -3, 1];
      const points: [number, number][] = [];
      let sum: Triple = [0, 0, 0];
      four.forEach((p, d) => {
        if ('grid' in p!) points.push([p.grid, weights[d]]);
        else sum = subtract(sum, scaled(p!.place, weights[d]));
      });
      fit.wish(plate * dense ** 6, points, sum);
    }
    // where nothing comes from outside, the row is as straight as can be
    for (let k = 1; k < last; k++)
      fit.wish(1e-3 * plate * dense ** 4, [
        [row[k - 1], 1],
        [row[k], -2],
        [row[k + 1], 1]
      ]);
    for (let k = 1; k <= last; k++)
      fit.wish(skin * dense ** 2, [
        [row[k - 1], -1],
        [row[k], 1]
      ]);
  }

  /** Mean distance along a row of points. */
  private spacing(row: number[]): number {
    const { places } = this;
    let sum = 0;
    for (let k = 1; k < row.length; k++) sum += length(subtract(places[row[k]], places[row[k - 1]]));
    return sum / Math.max(1, row.length - 1) || 1;
  }

  put(): number[] {
    const { cage, a, b, places, hole } = this;
    const vertex = places.map((p, k) => this.onBorder.get(k) ?? cage.addVertex(...p));
    const beside = hole.halves.map((h) => cage.face[h ^ 1]).find((f) => f !== NONE);
    const added: NewFace[] = [];
    for (let i = 0; i < a; i++)
      for (let j = 0; j < b; j++)
        added.push({
          corners: [this.at(i, j), this.at(i + 1, j), this.at(i + 1, j + 1), this.at(i, j + 1)]
            .map((p) => vertex[p])
            .filter((v, k, all) => v !== all[(k + 1) % 4]),
          like: beside
        });
    return replaceFaces(cage, { gone: [], added });
  }
}
