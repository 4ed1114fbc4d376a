import { FREE, type NetLines, ON_LINE } from './held-lines.ts';
import { normalAt, type VertexNet } from './vertex-net.ts';

/** A surface whose vertices are moved: its net, its lines, and x, y, z by vertex, which are changed. */
export interface MovingSurface {
  readonly net: VertexNet;
  readonly lines: NetLines;
  readonly positions: Float64Array;
}

/** Vertices that are moved, and by how much each follows: 0 to 1. */
export interface Touched {
  readonly vertices: Int32Array;
  readonly weights: Float64Array;
}

/**
 * Shares of the way to the neighbours' mean that a vertex goes along its normal, there and back again by more: noise goes, and what is wide
 * stays (Taubin 1995, for a pass band of 0.1).
 */
const [THERE, BACK] = [0.5, -0.5263];
/** Times that faces which a pass turned over are looked for; what is left goes back as a whole. */
const MOST_GUARDED = 6;

/** Moves some vertices of a surface pass by pass; what passes share is found once. */
export class EvenPasses {
  /** faces with one of them */
  readonly faces: Int32Array;
  private readonly before: Float64Array;
  private readonly after: Float64Array;
  /** 1 by face that has a corner turned over */
  private turned?: Uint8Array;
  private readonly normal = new Float64Array(3);

  constructor(
    private readonly surface: MovingSurface,
    private readonly touched: Touched
  ) {
    this.faces = facesAt(surface.net, touched.vertices);
    this.before = new Float64Array(3 * touched.vertices.length);
    this.after = new Float64Array(3 * touched.vertices.length);
  }

  /**
   * Plain smoothing: vertices go to the mean of their neighbours; those on lines along them. Rounded forms shrink.
   * @param strength share of the way, 0 to 1
   */
  smooth(strength: number): void {
    this.pass(strength, strength);
  }

  /**
   * Evens vertices out along the surface, and takes out what is uneven across it as Taubin (1995) does it, so that rounded forms keep their
   * size. No face is turned over that was not.
   * @param strength share of the way, 0 to 1
   * @param across whether the surface is smoothed as well; otherwise vertices stay in its tangent planes
   */
  relax(strength: number, across: boolean): void {
    this.guarded(() => {
      this.pass(strength, across ? strength * THERE : 0);
      if (across) this.pass(0, strength * BACK);
    });
  }

  /** Does something with the vertices, and puts back those of faces that are turned over by it and were not. */
  guarded(work: () => void): void {
    const { surface, touched, faces, before } = this;
    const { net, positions: p } = surface;
    const { vertices } = touched;
    const turned = (this.turned ??= Uint8Array.from(faces, (f) => Number(isTurned(net, p, f))));
    for (let i = 0; i < vertices.length; i++) for (let k = 0; k < 3; k++) before[3 * i + k] = p[3 * vertices[i] + k];
    work();
    const isNew = (f: number, i: number) => turned[i] === 0 && isTurned(net, p, f);
    let found = faces.filter(isNew);
    if (found.length === 0) {
      for (let i = 0; i < faces.length; i++) if (turned[i] === 1 && !isTurned(net, p, faces[i])) turned[i] = 0;
      return;
    }
    const numberOf = new Map<number, number>();
    vertices.forEach((v, i) => numberOf.set(v, i));
    for (let time = 0; time < MOST_GUARDED && found.length > 0; time++) {
      for (const f of found) for (let c = net.faceStart[f]; c < net.faceStart[f + 1]; c++) this.putBack(numberOf.get(net.corners[c]));
      found = faces.filter(isNew);
    }
    if (found.length > 0) for (let i = 0; i < vertices.length; i++) this.putBack(i);
    this.turned = undefined;
  }

  private putBack(i: number | undefined): void {
    if (i === undefined) return;
    const v = this.touched.vertices[i];
    for (let k = 0; k < 3; k++) this.surface.positions[3 * v + k] = this.before[3 * i + k];
  }

  /** Moves all vertices at once by shares of their ways to their neighbours' mean, along the surface (or their line) and across it. */
  private pass(along: number, across: number): void {
    const { surface, touched, after, normal } = this;
    const { net, lines, positions: p } = surface;
    const { vertices, weights } = touched;
    const { start, ring } = net;
    for (let i = 0; i < vertices.length; i++) {
      const v = vertices[i];
      const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
      const kind = lines.kind[v];
      const onLine = kind === ON_LINE;
      const near = onLine ? lines.along : ring;
      const from = onLine ? 2 * v : start[v];
      const to = onLine ? 2 * v + 2 : start[v + 1];
      const w = kind === FREE || onLine ? weights[i] : 0;
      after[3 * i] = x;
      after[3 * i + 1] = y;
      after[3 * i + 2] = z;
      if (w === 0 || to === from) continue;
      let [gx, gy, gz] = [0, 0, 0];
      for (let j = from; j < to; j++) {
        const n = 3 * near[j];
        gx += p[n];
        gy += p[n + 1];
        gz += p[n + 2];
      }
      const over = 1 / (to - from);
      gx = gx * over - x;
      gy = gy * over - y;
      gz = gz * over - z;
      if (onLine) directionBetween(p, near[from], near[from + 1], normal);
      else normalAt(net, p, v, normal);
      const own = gx * normal[0] + gy * normal[1] + gz * normal[2];
      // of a line the direction is known, of a surface what stands on it
      const rest = w * (onLine ? across : along);
      const part = w * ((onLine ? along : across) * own) - rest * own;
      after[3 * i] += rest * gx + part * normal[0];
      after[3 * i + 1] += rest * gy + part * normal[1];
      after[3 * i + 2] += rest * gz + part * normal[2];
    }
    for (let i = 0; i < vertices.length; i++) {
      const v = 3 * vertices[i];
      p[v] = after[3 * i];
      p[v + 1] = after[3 * i + 1];
      p[v + 2] = after[3 * i + 2];
    }
  }
}

function directionBetween(p: Float64Array, a: number, b: number, into: Float64Array): void {
  let long = 0;
  for (let k = 0; k < 3; k++) {
    into[k] = p[3 * b + k] - p[3 * a + k];
    long += into[k] * into[k];
  }
  const over = long > 0 ? 1 / Math.sqrt(long) : 0;
  for (let k = 0; k < 3; k++) into[k] *= over;
}

/** Faces with one of some vertices, each once. */
export function facesAt(net: VertexNet, vertices: Int32Array): Int32Array {
  const { facesStart, faces } = net;
  let visits = visited.get(net);
  if (!visits) visited.set(net, (visits = { stamp: new Int32Array(net.faceStart.length - 1), time: 0 }));
  const { stamp } = visits;
  const time = ++visits.time;
  const found: number[] = [];
  for (let n = 0; n < vertices.length; n++)
    for (let i = facesStart[vertices[n]]; i < facesStart[vertices[n] + 1]; i++) {
      const f = faces[i];
      if (stamp[f] === time) continue;
      stamp[f] = time;
      found.push(f);
    }
  return Int32Array.from(found);
}

/** By net and face, the visit that came by it last. */
const visited = new WeakMap<VertexNet, { stamp: Int32Array; time: number }>();

/** Whether a corner of a face turns against its own area. */
function isTurned({ faceStart, corners }: VertexNet, p: Float64Array, f: number): boolean {
  const from = faceStart[f];
  const to = faceStart[f + 1];
  const o = 3 * corners[from];
  let [nx, ny, nz] = [0, 0, 0];
  for (let i = from + 1; i + 1 < to; i++) {
    const a = 3 * corners[i];
    const b = 3 * corners[i + 1];
    const ax = p[a] - p[o];
    const ay = p[a + 1] - p[o + 1];
    const az = p[a + 2] - p[o + 2];
    const bx = p[b] - p[o];
    const by = p[b + 1] - p[o + 1];
    const bz = p[b + 2] - p[o + 2];
    nx += ay * bz - az * by;
    ny += az * bx - ax * bz;
    nz += ax * by - ay * bx;
  }
  for (let i = from; i < to; i++) {
    const v = 3 * corners[i];
    const a = 3 * corners[i === from ? to - 1 : i - 1];
    const b = 3 * corners[i + 1 === to ? from : i + 1];
    const ax = p[v] - p[a];
    const ay = p[v + 1] - p[a + 1];
    const az = p[v + 2] - p[a + 2];
    const bx = p[b] - p[v];
    const by = p[b + 1] - p[v + 1];
    const bz = p[b + 2] - p[v + 2];
    if ((ay * bz - az * by) * nx + (az * bx - ax * bz) * ny + (ax * by - ay * bx) * nz <= 0) return true;
  }
  return false;
}
