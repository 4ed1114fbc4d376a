import { pickedPoints, usedVertices } from '../../mesh/polygon-mesh.ts';
import { surfacePoint, TriangleBvh } from '../../reference/triangle-bvh.ts';
import { straightenNormals } from './straight-normals.ts';
import { after, before, WorkingMesh } from './working-mesh.ts';

/** What a feature vertex may do: nothing, move along its line, or anything. */
const FREE = 0;
const ON_LINE = 1;
const FIXED = 2;

/** A triangle is thin whose area is less than this share of the square of its longest edge. */
const THIN = 0.15;
/** A triangle that would be left with less than this share of its area is taken for one that turns over. */
const FLATTENED = 1e-3;
/** Passes over all edges or triangles, at most. */
const PASSES = 5;

/**
 * Isotropic remeshing (Botsch, Kobbelt 2004): edges that are too long are split, too short ones collapsed, valences
 * evened out by flips, vertices moved along the surface and put back on it. Features stay lines, their corners stay.
 */
export class Remesher {
  private kind: Uint8Array = new Uint8Array(0);
  private lineBvh?: TriangleBvh;
  private ring: number[] = [];
  private other: number[] = [];
  private found = surfacePoint();

  /**
   * @param mesh changed in place
   * @param surface the input surface that vertices are put back on
   * @param sizeOf wanted edge length by triangle of that surface
   */
  constructor(
    private mesh: WorkingMesh,
    private readonly surface: TriangleBvh,
    private readonly sizeOf: Float64Array
  ) {
    this.lineBvh = linesOf(mesh, mesh.featureEdges());
  }

  /** @param freed whether triangles and edges between lines are split, so that a map over the mesh is not tied there */
  run(rounds: number, freed = true): WorkingMesh {
    this.classify();
    for (let i = 0; i < 3; i++) this.collapseShort();
    this.mesh = this.mesh.packed();
    for (let round = 0; round < rounds; round++) {
      this.classify();
      this.splitLong();
      this.flipThin();
      this.classify();
      this.collapseShort();
      this.mesh = this.mesh.packed();
      this.flipForValence();
      this.classify();
      this.moveAlong();
    }
    this.flipThin();
    if (freed) this.freeFeatures();
    return this.mesh.packed();
  }

  private wanted(h: number): number {
    return (this.mesh.size[this.mesh.corner[h]] + this.mesh.size[this.mesh.corner[after(h)]]) / 2;
  }

  private classify(): void {
    this.kind = lineKinds(this.mesh);
  }

  private splitLong(): void {
    const { mesh } = this;
    const long: { h: number; length: number }[] = [];
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (mesh.corner[h] < 0 || (mesh.opposite[h] >= 0 && mesh.opposite[h] < h)) continue;
      const length = mesh.edgeLength2(h);
      if (length > (1.333 * this.wanted(h)) ** 2) long.push({ h, length });
    }
    long.sort((a, b) => b.length - a.length || a.h - b.h);
    const limit = 4 * long.length + 1000;
    for (let i = 0; i < long.length && i < limit; i++) {
      const { h, length } = long[i];
      if (Math.abs(mesh.edgeLength2(h) - length) > 1e-12 * length) continue;
      mesh.split(h);
      if (mesh.edgeLength2(h) > (1.333 * this.wanted(h)) ** 2) long.push({ h, length: mesh.edgeLength2(h) });
    }
  }

  private collapseShort(): void {
    const { mesh, kind, ring, other } = this;
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (mesh.corner[h] < 0) continue;
      const length2 = mesh.edgeLength2(h);
      const size = this.wanted(h);
      if (length2 > (0.8 * size) ** 2) continue;
      const a = mesh.corner[h];
      // a moves into b: only along its own line, and never a fixed one
      if (kind[a] === FIXED || (kind[a] === ON_LINE && !mesh.feature[h])) continue;
      // what speaks against most of them comes first
      if (!this.keepsShape(h, size) || !mesh.canCollapse(h, ring, other) || this.joinsLines(h)) continue;
      mesh.collapse(h, ring);
    }
  }

  /** Whether collapsing h would lay two features over each other. */
  private joinsLines(h: number): boolean {
    const { mesh } = this;
    for (const side of [h, mesh.opposite[h]]) if (side >= 0 && mesh.feature[after(side)] && mesh.feature[before(side)]) return true;
    return false;
  }

  /** Whether, with the start of h moved to its end, no edge gets too long and no triangle turns over. */
  private keepsShape(h: number, size: number): boolean {
    const { mesh } = this;
    const p = mesh.positions;
    const a = mesh.corner[h];
    const b = mesh.corner[after(h)];
    const longest = (1.333 * size) ** 2;
    const spokes = mesh.spokes(a, this.other);
    for (const s of spokes) {
      const c = mesh.corner[after(s)];
      if (c !== b && distance2(p, c, b) > longest) return false;
    }
    for (const s of spokes) {
      const c = mesh.corner[after(s)];
      const d = mesh.corner[before(s)];
      if (c !== b && d !== b && turned(p, a, b, c, d)) return false;
    }
    return true;
  }

  /** Flips edges where that brings valences closer to six (four on borders and lines) and triangles keep their side. */
  private flipForValence(): void {
    const { mesh } = this;
    this.classify();
    const valence = new Int32Array(mesh.vertices);
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      valence[mesh.corner[h]]++;
      if (mesh.opposite[h] < 0) valence[mesh.corner[after(h)]]++;
    }
    const off = (v: number, change: number) => Math.abs(valence[v] + change - (mesh.isBorder(v) ? 4 : 6));
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const g = mesh.opposite[h];
      if (g < 0 || mesh.feature[h] || h > g) continue;
      const a = mesh.corner[h];
      const b = mesh.corner[g];
      const c = mesh.corner[before(h)];
      const d = mesh.corner[before(g)];
      const gain = off(a, 0) + off(b, 0) + off(c, 0) + off(d, 0) - off(a, -1) - off(b, -1) - off(c, 1) - off(d, 1);
      if (gain <= 0 || c === d || this.joined(c, d) || !flipsWell(mesh.positions, a, b, c, d)) continue;
      mesh.flip(h);
      valence[a]--;
      valence[b]--;
      valence[c]++;
      valence[d]++;
    }
  }

  /** Flips edges of thin triangles where that makes the least angle larger: mechanical parts come as long thin triangles. */
  private flipThin(): void {
    const { mesh } = this;
    const p = mesh.positions;
    for (let pass = 0; pass < PASSES; pass++) {
      let flipped = 0;
      for (let h = 0; h < 3 * mesh.triangles; h++) {
        const g = mesh.opposite[h];
        if (mesh.corner[h] < 0 || g < h || mesh.feature[h]) continue;
        const [a, b, c, d] = [mesh.corner[h], mesh.corner[g], mesh.corner[before(h)], mesh.corner[before(g)]];
        const now = Math.min(roundness(p, a, b, c), roundness(p, b, a, d));
        if (now > THIN || c === d) continue;
        if (Math.min(roundness(p, c, d, b), roundness(p, d, c, a)) <= 1.1 * now || this.joined(c, d) || !staysFlat(p, a, b, c, d)) continue;
        mesh.flip(h);
        flipped++;
      }
      if (flipped === 0) return;
    }
  }

  private joined(c: number, d: number): boolean {
    return this.mesh.neighbours(c, this.ring).includes(d);
  }

  /** One step of tangential smoothing, then back on the surface, or on the feature line. */
  private moveAlong(): void {
    const { mesh, kind, found } = this;
    const p = mesh.positions;
    const moved = p.slice();
    const normal = vertexNormals(mesh);
    for (let v = 0; v < mesh.vertices; v++) {
      if (kind[v] === FIXED || mesh.outgoing[v] < 0) continue;
      const target = kind[v] === ON_LINE ? this.lineMiddle(v) : this.ringMiddle(v);
      let x = target[0] - p[3 * v];
      let y = target[1] - p[3 * v + 1];
      let z = target[2] - p[3 * v + 2];
      if (kind[v] === FREE) {
        const along = x * normal[3 * v] + y * normal[3 * v + 1] + z * normal[3 * v + 2];
        x -= along * normal[3 * v];
        y -= along * normal[3 * v + 1];
        z -= along * normal[3 * v + 2];
      }
      const tree = kind[v] === ON_LINE ? this.lineBvh! : this.surface;
      tree.closest(p[3 * v] + 0.8 * x, p[3 * v + 1] + 0.8 * y, p[3 * v + 2] + 0.8 * z, found);
      moved[3 * v] = found.x;
      moved[3 * v + 1] = found.y;
      moved[3 * v + 2] = found.z;
      if (kind[v] === FREE) mesh.size[v] = this.sizeOf[found.triangle];
    }
    this.keepTurned(moved);
    mesh.positions.set(moved);
  }

  /** Takes moves back that turn a triangle over, or leave nothing of it. @param moved places that vertices are to go to; changed */
  private keepTurned(moved: Float64Array): void {
    const { mesh } = this;
    const p = mesh.positions;
    for (let pass = 0; pass < PASSES; pass++) {
      let kept = 0;
      for (let t = 0; t < mesh.triangles; t++) {
        const [a, b, c] = [mesh.corner[3 * t], mesh.corner[3 * t + 1], mesh.corner[3 * t + 2]];
        crossInto(one, p, a, b, c);
        crossInto(two, moved, a, b, c);
        const own2 = one[0] * one[0] + one[1] * one[1] + one[2] * one[2];
        if (one[0] * two[0] + one[1] * two[1] + one[2] * two[2] > FLATTENED * own2) continue;
        for (const v of [a, b, c])
          for (let k = 3 * v; k < 3 * v + 3; k++) {
            if (moved[k] !== p[k]) kept++;
            moved[k] = p[k];
          }
      }
      if (kept === 0) return;
    }
  }

  private lineMiddle(v: number): [number, number, number] {
    const { mesh } = this;
    const p = mesh.positions;
    const sum: [number, number, number] = [0, 0, 0];
    for (const s of mesh.spokes(v, this.ring)) {
      if (mesh.feature[s]) for (let k = 0; k < 3; k++) sum[k] += p[3 * mesh.corner[after(s)] + k] / 2;
      const b = before(s);
      if (mesh.opposite[b] < 0) for (let k = 0; k < 3; k++) sum[k] += p[3 * mesh.corner[b] + k] / 2;
    }
    return sum;
  }

  private ringMiddle(v: number): [number, number, number] {
    const { mesh } = this;
    const p = mesh.positions;
    const ring = mesh.neighbours(v, this.ring);
    const sum: [number, number, number] = [0, 0, 0];
    for (const w of ring) for (let k = 0; k < 3; k++) sum[k] += p[3 * w + k] / ring.length;
    return sum;
  }

  /** Splits what would tie the map: triangles with two feature edges, and edges between two feature vertices that are none. */
  private freeFeatures(): void {
    for (let round = 0; round < 3; round++) {
      this.classify();
      const { mesh, kind } = this;
      const tight: number[] = [];
      for (let h = 0; h < 3 * mesh.triangles; h++) {
        if (mesh.corner[h] < 0 || mesh.feature[h] || mesh.opposite[h] < h) continue;
        if (kind[mesh.corner[h]] !== FREE && kind[mesh.corner[after(h)]] !== FREE) tight.push(h);
      }
      if (tight.length === 0) return;
      for (const h of tight) mesh.split(h);
    }
  }
}

/** By vertex whether it is free (0), on a line (1), or an end, junction or sharp turn of lines, which is fixed (2). */
export function lineKinds(mesh: WorkingMesh): Uint8Array {
  const kind = new Uint8Array(mesh.vertices);
  const count = new Uint8Array(mesh.vertices);
  const direction = new Float64Array(3 * mesh.vertices);
  const p = mesh.positions;
  for (const h of mesh.featureEdges()) {
    const a = mesh.corner[h];
    const b = mesh.corner[after(h)];
    const length = Math.sqrt(mesh.edgeLength2(h)) || 1;
    for (let k = 0; k < 3; k++) {
      const d = (p[3 * b + k] - p[3 * a + k]) / length;
      direction[3 * a + k] += d;
      direction[3 * b + k] -= d;
    }
    count[a]++;
    count[b]++;
  }
  for (let v = 0; v < mesh.vertices; v++) {
    if (count[v] === 0) continue;
    // two unit directions away from v add up to 2 sin(turn / 2)
    const turn = Math.hypot(direction[3 * v], direction[3 * v + 1], direction[3 * v + 2]);
    kind[v] = count[v] === 2 && turn < 0.76 ? ON_LINE : FIXED;
  }
  return kind;
}

function distance2(p: Float64Array, a: number, b: number): number {
  return (p[3 * a] - p[3 * b]) ** 2 + (p[3 * a + 1] - p[3 * b + 1]) ** 2 + (p[3 * a + 2] - p[3 * b + 2]) ** 2;
}

const one = new Float64Array(3);
const two = new Float64Array(3);

function crossInto(out: Float64Array, p: Float64Array, a: number, b: number, c: number): void {
  const ux = p[3 * b] - p[3 * a],
    uy = p[3 * b + 1] - p[3 * a + 1],
    uz = p[3 * b + 2] - p[3 * a + 2];
  const vx = p[3 * c] - p[3 * a],
    vy = p[3 * c + 1] - p[3 * a + 1],
    vz = p[3 * c + 2] - p[3 * a + 2];
  out[0] = uy * vz - uz * vy;
  out[1] = uz * vx - ux * vz;
  out[2] = ux * vy - uy * vx;
}

/** Area of a triangle over the square of its longest edge, about: 0.43 where all are equal, next to 0 where it is thin. */
function roundness(p: Float64Array, a: number, b: number, c: number): number {
  crossInto(one, p, a, b, c);
  const longest2 = Math.max(distance2(p, a, b), distance2(p, b, c), distance2(p, c, a));
  return Math.sqrt(one[0] * one[0] + one[1] * one[1] + one[2] * one[2]) / (2 * longest2 + 1e-300);
}

/** Whether turning the edge a-b to c-d leaves triangles that face the way both did together. */
function staysFlat(p: Float64Array, a: number, b: number, c: number, d: number): boolean {
  crossInto(one, p, a, b, c);
  crossInto(two, p, b, a, d);
  const n = [one[0] + two[0], one[1] + two[1], one[2] + two[2]];
  const size = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
  for (const [u, v, w] of [
    [c, d, b],
    [d, c, a]
  ]) {
    crossInto(one, p, u, v, w);
    const own = Math.sqrt(one[0] * one[0] + one[1] * one[1] + one[2] * one[2]);
    if (one[0] * n[0] + one[1] * n[1] + one[2] * n[2] < 0.9 * own * size) return false;
  }
  return true;
}

/** Whether triangle (a, c, d) turns by more than 45 degrees, or nearly loses its area, when a moves to b. */
function turned(p: Float64Array, a: number, b: number, c: number, d: number): boolean {
  crossInto(one, p, a, c, d);
  crossInto(two, p, b, c, d);
  const dot = one[0] * two[0] + one[1] * two[1] + one[2] * two[2];
  const lengths2 = (one[0] ** 2 + one[1] ** 2 + one[2] ** 2) * (two[0] ** 2 + two[1] ** 2 + two[2] ** 2);
  if (dot < 0.7 * Math.sqrt(lengths2)) return true;
  // one that was thin may be so afterwards
  const round = roundness(p, b, c, d);
  return round < 0.05 && round < roundness(p, a, c, d);
}

/** Whether turning the edge a-b to c-d leaves two triangles that face the way the former did. */
function flipsWell(p: Float64Array, a: number, b: number, c: number, d: number): boolean {
  crossInto(one, p, a, b, c);
  crossInto(two, p, b, a, d);
  const n = [one[0] + two[0], one[1] + two[1], one[2] + two[2]];
  const whole = Math.hypot(n[0], n[1], n[2]);
  const flat = one[0] * two[0] + one[1] * two[1] + one[2] * two[2] > 0.7 * Math.hypot(one[0], one[1], one[2]) * Math.hypot(two[0], two[1], two[2]);
  if (!flat) return false;
  for (const [u, v, w] of [
    [c, d, b],
    [d, c, a]
  ]) {
    crossInto(one, p, u, v, w);
    if (one[0] * n[0] + one[1] * n[1] + one[2] * n[2] < 0.1 * whole * whole) return false;
  }
  return true;
}

/** A tree of some edges, each a triangle whose last two corners are one; nothing where there are none. */
export function linesOf({ positions, corner }: WorkingMesh, edges: readonly number[]): TriangleBvh | undefined {
  if (edges.length === 0) return undefined;
  const lines = edges.flatMap((h) => [corner[h], corner[after(h)], corner[after(h)]]);
  const { used, indices } = usedVertices(lines, positions.length / 3);
  return new TriangleBvh(pickedPoints(positions, used), indices);
}

/** Unit normals at vertices, weighted by area. */
export function vertexNormals(mesh: WorkingMesh): Float64Array {
  const normals = new Float64Array(3 * mesh.vertices);
  const p = mesh.positions;
  for (let t = 0; t < mesh.triangles; t++) {
    if (!mesh.isAlive(t)) continue;
    crossInto(one, p, mesh.corner[3 * t], mesh.corner[3 * t + 1], mesh.corner[3 * t + 2]);
    for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) normals[3 * mesh.corner[3 * t + c] + k] += one[k];
  }
  for (let v = 0; v < normals.length; v += 3) {
    const length = Math.sqrt(normals[v] ** 2 + normals[v + 1] ** 2 + normals[v + 2] ** 2) || 1;
    for (let k = 0; k < 3; k++) normals[v + k] /= length;
  }
  straightenNormals(normals, mesh);
  return normals;
}
