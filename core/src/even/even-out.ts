import { lengthStatistics } from '../check/measures.ts';
import { type Cage } from '../mesh/cage.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { changeInWords, lengthInWords } from '../numeric/length-words.ts';
import { lookingAlong, surfacePoint } from '../reference/triangle-bvh.ts';
import { type Reference } from '../reference/reference.ts';
import { freedomOf } from './mask.ts';
import { type Held, linesOfCage, type NetLines, CORNER } from './held-lines.ts';
import { EvenPasses, type MovingSurface, type Touched } from './passes.ts';
import { netOf, normalAt, type VertexNet } from './vertex-net.ts';
import { withVolumeKept } from './volume.ts';

/** Ways to even vertices out. */
export const evenWays = ['relax', 'smooth'] as const;

/** How a cage is evened out. */
export interface EvenSettings {
  way: (typeof evenWays)[number];
  passes: number;
  /** share of the way to the neighbours' mean in a pass, 0 to 1 */
  strength: number;
  held: Held;
  /** vertices that are moved; left out: all */
  vertices?: readonly number[];
  /** edges whose vertices stay, besides: the outline of what is picked */
  outline?: Iterable<number>;
  /** relaxing evens along the surface only, and leaves bumps */
  alongOnly?: boolean;
  /** vertices are put back on it after each pass */
  on?: Reference;
}

/** What evening out came to; mm, mm3, and the standard deviation of the edge lengths over their mean. */
export interface EvenReport {
  volume: { before: number; after: number };
  spread: { before: number; after: number };
  greatestMove: number;
  /** vertices that lie elsewhere */
  moved: number;
  /** whether there is a volume: the cage has no borders */
  closed: boolean;
}

/** Cosine between the normal of a vertex and that of where it is put on a reference: it does not go to the other side. */
const SAME_SIDE = 0.2;

/** Evens vertices of a cage out. @returns a copy, and what it came to */
export function evenedOut(cage: Cage, settings: EvenSettings): { cage: Cage; report: EvenReport } {
  const { way, passes, strength, held, outline, alongOnly = false, on } = settings;
  const copy = cage.clone();
  const net = netOf(cage);
  const surface: MovingSurface = { net, lines: linesOfCage(cage, held, outline), positions: copy.positions };
  const vertices = movable(cage, surface.lines, settings.vertices);
  const freedom = freedomOf(cage) ?? (() => 1);
  const touched: Touched = { vertices, weights: Float64Array.from(vertices, freedom) };
  const work = new EvenPasses(surface, touched);
  const all = () => {
    for (let i = 0; i < passes; i++) {
      if (way === 'smooth') work.smooth(strength);
      else work.relax(strength, !alongOnly);
      if (on) work.guarded(() => putOn(on, surface, vertices));
    }
  };
  // where the reference says where vertices lie, the volume is its own
  if (way === 'relax' && !on) withVolumeKept(surface, touched, work.faces, all);
  else all();
  return { cage: copy, report: reportOn(cage, copy, net, vertices) };
}

/** Those of some vertices, or of all, that are not held, nor masked wholly. */
const movable = (cage: Cage, { kind }: NetLines, vertices: Iterable<number> = cage.vertices()): Int32Array =>
  Int32Array.from(vertices).filter((v) => kind[v] < CORNER && cage.vertexEdge[v] >= 0 && cage.value('mask', v) < 1);

/** Whether nothing would move, as all of it is held. */
export const holdsAll = (cage: Cage, { held, outline, vertices }: EvenSettings): boolean =>
  movable(cage, linesOfCage(cage, held, outline), vertices).length === 0;

/** Puts vertices on what of a reference is closest to them and looks the same way. */
function putOn({ bvh, normals }: Reference, { net, positions: p }: MovingSurface, vertices: Int32Array): void {
  const normal = new Float64Array(3);
  const found = surfacePoint();
  for (const v of vertices) {
    normalAt(net, p, v, normal);
    bvh.closest(p[3 * v], p[3 * v + 1], p[3 * v + 2], found, Infinity, lookingAlong(normals, normal, SAME_SIDE));
    if (found.triangle >= 0) p.set([found.x, found.y, found.z], 3 * v);
  }
}

function reportOn(before: Cage, after: Cage, net: VertexNet, vertices: Int32Array): EvenReport {
  const [p, q] = [before.positions, after.positions];
  let [greatestMove, moved] = [0, 0];
  for (const v of vertices) {
    const by = Math.hypot(q[3 * v] - p[3 * v], q[3 * v + 1] - p[3 * v + 1], q[3 * v + 2] - p[3 * v + 2]);
    greatestMove = Math.max(greatestMove, by);
    if (by > 0) moved++;
  }
  return {
    volume: { before: enclosedVolume(before), after: enclosedVolume(after) },
    spread: { before: spreadAt(net, p, vertices), after: spreadAt(net, q, vertices) },
    greatestMove,
    moved,
    closed: net.border.every((border) => border === 0)
  };
}

/** Spread of the lengths of edges at some vertices; one between two of them counts for both. */
export function spreadAt({ start, ring }: VertexNet, p: Float64Array, vertices: Int32Array): number {
  const lengths: number[] = [];
  for (const v of vertices)
    for (let i = start[v]; i < start[v + 1]; i++) {
      const w = ring[i];
      lengths.push(Math.hypot(p[3 * v] - p[3 * w], p[3 * v + 1] - p[3 * w + 1], p[3 * v + 2] - p[3 * w + 2]));
    }
  return lengthStatistics(lengths).spread;
}

/** What evening out came to, in a sentence. */
export function describeEven({ volume, spread, greatestMove, moved, closed }: EvenReport): string {
  const kept = closed && volume.before !== 0 ? ` Volume ${changeInWords(100 * (volume.after / volume.before - 1), 2)}.` : '';
  return `Spread ${spread.before.toFixed(2)} to ${spread.after.toFixed(2)}; ${moved.toLocaleString('en')} vertices moved, by ${lengthInWords(greatestMove)} at most.${kept}`;
}
