import { type Ring } from '../field/closed-rings.ts';
import { type CutMesh } from '../field/cut-graph.ts';
import { mod4 } from '../field/orientation-field.ts';
import { GRID, mapAreas } from '../map/map-plane.ts';
import { after, type WorkingMesh } from '../base/working-mesh.ts';

/** Quads read off a map, with what each vertex sits on. */
export interface ExtractedQuads {
  positions: Float64Array;
  /** four vertices a quad */
  quads: Int32Array;
  /** 0 on the surface, 1 on a feature line or border, 2 on a vertex of the working mesh that is on one */
  hold: Uint8Array;
  /** sides that found no neighbour although the surface goes on there: the map is torn */
  tornSides: number;
}

const DIRECTIONS = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1]
] as const;
/** corners of a cell counter-clockwise from (-, -); side d runs from corner d + 1 to corner d + 2 */
const CORNERS = [
  [-0.5, -0.5],
  [0.5, -0.5],
  [0.5, 0.5],
  [-0.5, 0.5]
] as const;

/** How near to a corner it is gone first. Neither on the way there nor from there on is there a point of the grid, which a vertex could lie on. */
const BESIDE = [61 * GRID, 127 * GRID];

/**
 * One quad for every unit cell of the map (in the spirit of Ebke, Bommes, Campen, Kobbelt 2013): a cell is found by its
 * centre, its neighbours by walking straight from centre to centre through the triangles. Coordinates are exact multiples
 * of a small power of two, so every sidedness test is exact. Faces are quads by construction, whatever the map does.
 */
export class QuadExtraction {
  private readonly areas: Float64Array;
  /** 1 by vertex of the working mesh that lies on a feature line or border */
  private readonly onFeature: Uint8Array;
  /** cells by triangle */
  private cellsIn: Map<number, number[]> = new Map();
  private cellTriangle: number[] = [];
  private cellU: number[] = [];
  private cellV: number[] = [];
  // where a walk ended
  private endTriangle = -1;
  private endU = 0;
  private endV = 0;
  private endTurn = 0;
  private hitBorder = false;
  /** half-edges the last walk crossed */
  private crossed: number[] = [];
  /** 4 times the cell across each side, plus its side there; -1 border, -2 torn */
  private neighbour: Int32Array = new Int32Array(0);

  constructor(
    private readonly mesh: WorkingMesh,
    private readonly cut: CutMesh,
    private readonly uv: Float64Array
  ) {
    this.areas = mapAreas(uv);
    this.onFeature = mesh.onFeatures();
  }

  run(): ExtractedQuads {
    this.findCells();
    const { neighbour, torn } = this.linkCells();
    this.neighbour = neighbour;
    return this.assemble(neighbour, torn);
  }

  private findCells(): void {
    const { uv, mesh } = this;
    for (let t = 0; t < mesh.triangles; t++) {
      if (this.areas[t] <= 0) continue;
      const i = 6 * t;
      const [lowU, highU] = [Math.min(uv[i], uv[i + 2], uv[i + 4]), Math.max(uv[i], uv[i + 2], uv[i + 4])];
      const [lowV, highV] = [Math.min(uv[i + 1], uv[i + 3], uv[i + 5]), Math.max(uv[i + 1], uv[i + 3], uv[i + 5])];
      for (let u = Math.ceil(lowU - 0.5) + 0.5; u <= highU; u++)
        for (let v = Math.ceil(lowV - 0.5) + 0.5; v <= highV; v++) if (this.holds(t, u, v)) this.addCell(t, u, v);
    }
  }

  private addCell(t: number, u: number, v: number): void {
    const list = this.cellsIn.get(t);
    if (list) list.push(this.cellTriangle.length);
    else this.cellsIn.set(t, [this.cellTriangle.length]);
    this.cellTriangle.push(t);
    this.cellU.push(u);
    this.cellV.push(v);
  }

  /** More than 0: (u, v) lies left of half-edge h. */
  private side(h: number, u: number, v: number): number {
    const { uv } = this;
    const n = after(h);
    return (uv[2 * n] - uv[2 * h]) * (v - uv[2 * h + 1]) - (uv[2 * n + 1] - uv[2 * h + 1]) * (u - uv[2 * h]);
  }

  /** Whether a point belongs to triangle t; points on an edge belong to the side with the smaller half-edge. */
  private holds(t: number, u: number, v: number): boolean {
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const s = this.side(h, u, v);
      const g = this.mesh.opposite[h];
      if (s < 0 || (s === 0 && g >= 0 && g < h && this.areas[Math.floor(g / 3)] > 0)) return false;
    }
    return true;
  }

  /**
   * Walks straight from (u, v) in triangle t to (toU, toV). @returns whether it arrived; the place, in the coordinates of
   * the triangle it ended in, is left in `end...`
   */
  private walk(t: number, u: number, v: number, toU: number, toV: number): boolean {
    let turn = 0;
    this.hitBorder = false;
    this.crossed.length = 0;
    for (let step = 0; step < 500; step++) {
      if (this.areas[t] <= 0) return false;
      let exit = -1;
      let inside = true;
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        if (this.side(h, toU, toV) >= 0) continue;
        inside = false;
        if (this.offLine(h, u, v, toU, toV) < 0 && this.offLine(after(h), u, v, toU, toV) > 0) exit = h;
      }
      if (inside) {
        this.endTriangle = t;
        this.endU = toU;
        this.endV = toV;
        this.endTurn = turn;
        return true;
      }
      if (exit < 0) return false;
      const g = this.mesh.opposite[exit];
      if (g < 0) {
        this.hitBorder = true;
        return false;
      }
      this.crossed.push(exit);
      const jump = this.cut.jump[exit];
      const [shiftU, shiftV] = this.shift(exit, g, jump);
      [u, v] = turnBy(u, v, -jump);
      [toU, toV] = turnBy(toU, toV, -jump);
      u += shiftU;
      v += shiftV;
      toU += shiftU;
      toV += shiftV;
      turn = mod4(turn - jump);
      t = Math.floor(g / 3);
    }
    return false;
  }

  /** Translation across half-edge h to g, once turned. */
  private shift(h: number, g: number, jump: number): [number, number] {
    const { uv } = this;
    const [u, v] = turnBy(uv[2 * h], uv[2 * h + 1], -jump);
    const n = after(g);
    return [uv[2 * n] - u, uv[2 * n + 1] - v];
  }

  /** More than 0: the start of h lies left of the line from (u, v) to (toU, toV). */
  private offLine(h: number, u: number, v: number, toU: number, toV: number): number {
    return (toU - u) * (this.uv[2 * h + 1] - v) - (toV - v) * (this.uv[2 * h] - u);
  }

  /** The cell with its centre where the last walk ended, looked for also across edges the centre lies on. */
  private cellAtEnd(): number {
    const find = (t: number, u: number, v: number) => this.cellsIn.get(t)?.find((c) => this.cellU[c] === u && this.cellV[c] === v) ?? -1;
    const here = find(this.endTriangle, this.endU, this.endV);
    if (here >= 0) return here;
    for (let h = 3 * this.endTriangle; h < 3 * this.endTriangle + 3; h++) {
      const g = this.mesh.opposite[h];
      if (g < 0 || this.side(h, this.endU, this.endV) !== 0) continue;
      const jump = this.cut.jump[h];
      const [shiftU, shiftV] = this.shift(h, g, jump);
      const [u, v] = turnBy(this.endU, this.endV, -jump);
      const across = find(Math.floor(g / 3), u + shiftU, v + shiftV);
      if (across >= 0) {
        this.endTurn = mod4(this.endTurn - jump);
        return across;
      }
    }
    return -1;
  }

  /**
   * Ways along strips of cells that come back beside where they were, and on to there: what keeps those strips from closing. One of each
   * strip, after `run`.
   */
  spirals(): Ring[] {
    const { neighbour } = this;
    const seen = new Uint8Array(neighbour.length);
    const rings: Ring[] = [];
    for (let start = 0; start < neighbour.length; start++) {
      if (seen[start] || neighbour[start] < 0) continue;
      const strip = this.stripFrom(start);
      for (const s of strip) seen[s] = seen[s ^ 2] = 1;
      const placeOf = new Map(strip.map((s, i) => [s, i]));
      for (const [i, s] of strip.entries()) {
        // the strip to the left of this place, were it to go the same way
        const left = neighbour[(s & ~3) | ((s + 1) & 3)];
        const j = left < 0 ? undefined : placeOf.get((left & ~3) | ((left + 1) & 3));
        if (j === undefined || j === i) continue;
        const way = strip.slice(Math.min(i, j), Math.max(i, j));
        const back = i < j ? left : (s & ~3) | ((s + 1) & 3);
        const crossed = [...way, back].map((side) => this.crossedFrom(side));
        if (crossed.every((list) => list !== undefined)) rings.push({ crossed: crossed.flat(), arm: way[0] & 3 });
        break;
      }
    }
    return rings;
  }

  /** Sides that a strip is left by, one after the other, until it ends or closes. */
  private stripFrom(start: number): number[] {
    const { neighbour } = this;
    const ahead = (s: number): number => (neighbour[s] < 0 ? -1 : neighbour[s] ^ 2);
    let first = start;
    // to where it begins
    for (let s = start ^ 2; ;) {
      const next = ahead(s);
      if (next < 0 || next === (start ^ 2)) break;
      s = next;
      first = s ^ 2;
    }
    const strip: number[] = [];
    for (let s = first; s >= 0 && neighbour[s] >= 0; s = ahead(s)) {
      strip.push(s);
      if (ahead(s) === first) break;
    }
    return strip;
  }

  /** Half-edges crossed from the middle of a cell to that of the one across a side. */
  private crossedFrom(side: number): number[] | undefined {
    const [c, d] = [side >> 2, side & 3];
    const [u, v] = [this.cellU[c], this.cellV[c]];
    if (!this.walk(this.cellTriangle[c], u, v, u + DIRECTIONS[d][0], v + DIRECTIONS[d][1])) return undefined;
    // where the middle lies on an edge, the cell belongs to the other side
    const other = this.neighbour[side] >> 2;
    const way = this.crossed.slice();
    if (this.endTriangle === this.cellTriangle[other]) return way;
    const last = [0, 1, 2].map((k) => 3 * this.endTriangle + k).find((h) => Math.floor(this.mesh.opposite[h] / 3) === this.cellTriangle[other]);
    return last === undefined ? undefined : [...way, last];
  }

  /** neighbour[4 c + d]: 4 times the cell across side d of cell c, plus its side; -1 border, -2 torn. */
  private linkCells(): { neighbour: Int32Array; torn: number } {
    const cells = this.cellTriangle.length;
    const neighbour = new Int32Array(4 * cells).fill(-2);
    for (let c = 0; c < cells; c++)
      for (let d = 0; d < 4; d++) {
        const s = 4 * c + d;
        // the way back is the same
        if (neighbour[s] >= 0) continue;
        const [u, v] = [this.cellU[c], this.cellV[c]];
        if (this.walk(this.cellTriangle[c], u, v, u + DIRECTIONS[d][0], v + DIRECTIONS[d][1])) {
          const other = this.cellAtEnd();
          if (other < 0) continue;
          const back = 4 * other + mod4(d + this.endTurn + 2);
          neighbour[s] = back;
          if (neighbour[back] < 0) neighbour[back] = s;
        } else if (this.hitBorder) neighbour[s] = -1;
      }
    let torn = 0;
    for (let s = 0; s < neighbour.length; s++) {
      if (neighbour[s] >= 0 && neighbour[neighbour[s]] !== s) neighbour[s] = -2;
      if (neighbour[s] === -2) torn++;
    }
    return { neighbour, torn };
  }

  private assemble(neighbour: Int32Array, tornSides: number): ExtractedQuads {
    const cells = this.cellTriangle.length;
    const parent = Int32Array.from({ length: 4 * cells }, (_, i) => i);
    const root = (i: number) => {
      while (parent[i] !== i) i = parent[i] = parent[parent[i]];
      return i;
    };
    for (let s = 0; s < 4 * cells; s++) {
      const o = neighbour[s];
      if (o < 0) continue;
      const [c, d, e, f] = [s >> 2, s & 3, o >> 2, o & 3];
      parent[root(4 * c + ((d + 1) & 3))] = root(4 * e + ((f + 2) & 3));
      parent[root(4 * c + ((d + 2) & 3))] = root(4 * e + ((f + 1) & 3));
    }
    const vertexOf = new Int32Array(4 * cells).fill(-1);
    const quads = new Int32Array(4 * cells);
    let vertices = 0;
    for (let i = 0; i < 4 * cells; i++) {
      const r = root(i);
      if (vertexOf[r] < 0) vertexOf[r] = vertices++;
      quads[i] = vertexOf[r];
    }
    return { quads, tornSides, ...this.placeVertices(quads, vertices) };
  }

  /**
   * Each vertex goes to where its cells say it is: to the mean of that where the map is folded and they may differ; one on a feature only to
   * where it is seen there.
   */
  private placeVertices(quads: Int32Array, vertices: number): { positions: Float64Array; hold: Uint8Array } {
    const isFolded = this.areas.some((area) => area <= 0);
    const positions = new Float64Array(3 * vertices);
    const count = new Int32Array(vertices);
    const kinds = new Int8Array(vertices).fill(-1);
    const at = [0, 0, 0];
    for (let i = 0; i < quads.length; i++) {
      const v = quads[i];
      if (!isFolded && kinds[v] >= 0) continue;
      const kind = this.placeCorner(i >> 2, i & 3, at);
      if (kind < kinds[v]) continue;
      if (kind > kinds[v]) {
        kinds[v] = kind;
        count[v] = 0;
        positions.fill(0, 3 * v, 3 * v + 3);
      }
      count[v]++;
      for (let k = 0; k < 3; k++) positions[3 * v + k] += (at[k] - positions[3 * v + k]) / count[v];
    }
    return { positions, hold: Uint8Array.from(kinds, (kind) => Math.max(kind, 0)) };
  }

  /** Finds the place of corner k of a cell in space. @returns its kind, as in `hold`; -1 where it was not come to, and it is the cell's middle */
  private placeCorner(c: number, k: number, at: number[]): number {
    const [u, v] = [this.cellU[c], this.cellV[c]];
    const [du, dv] = CORNERS[k];
    // not quite to the corner, and not quite along the diagonal: features and poles lie on the corner itself
    const [besideU, besideV] = [2 * du * BESIDE[0], 2 * dv * BESIDE[1]];
    const arrived = this.walk(this.cellTriangle[c], u, v, u + du - besideU, v + dv - besideV);
    if (!arrived) {
      this.pointIn(this.cellTriangle[c], u, v, at);
      return -1;
    }
    const [offU, offV] = turnBy(besideU, besideV, this.endTurn);
    const [t, cornerU, cornerV] = [this.endTriangle, this.endU + offU, this.endV + offV];
    // a vertex of the working mesh may lie between: the corner is in another triangle then, and so may be the line it lies on
    if (this.walk(t, this.endU, this.endV, cornerU, cornerV)) return this.pointIn(this.endTriangle, this.endU, this.endV, at);
    return this.pointIn(t, cornerU, cornerV, at);
  }

  private pointIn(t: number, u: number, v: number, at: number[]): number {
    const { mesh, uv } = this;
    const p = mesh.positions;
    const whole = this.areas[t];
    let b = this.side(3 * t + 2, u, v) / whole;
    let c = this.side(3 * t, u, v) / whole;
    b = Math.min(1, Math.max(0, b));
    c = Math.min(1 - b, Math.max(0, c));
    for (let k = 0; k < 3; k++)
      at[k] = (1 - b - c) * p[3 * mesh.corner[3 * t] + k] + b * p[3 * mesh.corner[3 * t + 1] + k] + c * p[3 * mesh.corner[3 * t + 2] + k];
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (uv[2 * h] !== u || uv[2 * h + 1] !== v) continue;
      for (let k = 0; k < 3; k++) at[k] = p[3 * mesh.corner[h] + k];
      return this.onFeature[mesh.corner[h]] ? 2 : 0;
    }
    for (let h = 3 * t; h < 3 * t + 3; h++) if (mesh.feature[h] && this.side(h, u, v) === 0) return 1;
    return 0;
  }
}

function turnBy(u: number, v: number, quarters: number): [number, number] {
  switch (mod4(quarters)) {
    case 1:
      return [-v, u];
    case 2:
      return [-u, -v];
    case 3:
      return [v, -u];
    default:
      return [u, v];
  }
}
