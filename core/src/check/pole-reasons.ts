import { type Cage } from '../mesh/cage.ts';
import { facesRound, isPole } from '../mesh/topology.ts';
import { dot, length, subtract } from '../numeric/vectors.ts';
import { CheckGround } from './findings/finding.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';

/** What asks for a pole. */
export type PoleReason = 'border' | 'sharp edge' | 'pinned count' | "the form's turning" | 'free';

/** A pole, and why it is there. */
export interface ReasonedPole {
  vertex: number;
  valence: number;
  reason: PoleReason;
  /** one sentence */
  why: string;
}

/** Rings of vertices round a pole that its reason is looked for in. */
const RINGS = 6;
/** Share of the turning that a pole stands for which the form has to have round it. */
const ASKED = 0.35;
/** Degrees from which an edge is sharp. */
const SHARP = 35;

const SENTENCES: Record<PoleReason, (valence: number) => string> = {
  border: () => 'a border near by asks for it: rows end there, or meet a count that differs.',
  'sharp edge': () => 'a sharp edge near by asks for it: rows that follow it have to part there.',
  'pinned count': () => 'a pinned count asks for it: rows begin or end so that the count comes out.',
  "the form's turning": (valence) =>
    valence < 4
      ? 'the form asks for it: it closes there like the end of a limb or a corner.'
      : 'the form asks for it: it opens there like a saddle, where a limb leaves a body.',
  free: () => 'nothing asks for it: it can be moved, or joined with another.'
};

/** The turning of the form in degrees that a pole takes up: 90 for each edge that it lacks of four. */
const turningOf = (valence: number): number => 90 * (4 - valence);

/** Why every inner pole of a cage is there. */
export function poleReasons(cage: Cage, settings: SurfaceSettings): ReasonedPole[] {
  const ground = new CheckGround({ cage, settings });
  return [...cage.vertices()]
    .filter((v) => isPole(cage, v) && !cage.isBorderVertex(v))
    .map((vertex) => {
      const valence = cage.valence(vertex);
      const reason = reasonOf(ground, vertex, valence);
      return { vertex, valence, reason, why: `Pole of ${valence}: ${SENTENCES[reason](valence)}` };
    });
}

function reasonOf(ground: CheckGround, vertex: number, valence: number): PoleReason {
  const { cage } = ground;
  const near = ringsRound(cage, vertex, 2);
  const edges = [...near].flatMap((v) => cage.spokes(v).map((h) => h >> 1));
  if (edges.some((e) => cage.value('pinned', e) > 0)) return 'pinned count';
  if ([...near].some((v) => cage.isBorderVertex(v))) return 'border';
  if (edges.some((e) => cage.value('crease', e) > 0 || ground.foldAt(e) > SHARP)) return 'sharp edge';
  // poles of the other sign within reach would take each other's turning
  const goal = turningOf(valence);
  let most = 0;
  for (let rings = 1; rings <= RINGS; rings++) {
    const within = ringsRound(cage, vertex, rings);
    const other = [...within].some((v) => v !== vertex && isPole(cage, v) && !cage.isBorderVertex(v));
    if (other && rings > 2) break;
    most = Math.max(most, (turnWithin(cage, within) * Math.sign(goal)) / Math.abs(goal));
  }
  return most >= ASKED ? "the form's turning" : 'free';
}

/** Vertices within some steps over faces. */
const ringsRound = (cage: Cage, vertex: number, rings: number): Set<number> =>
  new Set([vertex, ...facesRound(cage, [vertex], rings).flatMap((f) => cage.faceVertices(f))]);

/** Degrees that the surface turns by within some vertices: the sum of their angle defects (Gauss, Bonnet). */
function turnWithin(cage: Cage, vertices: ReadonlySet<number>): number {
  let sum = 0;
  for (const v of vertices) {
    if (cage.isBorderVertex(v)) continue;
    let angles = 0;
    for (const h of cage.spokes(v)) {
      const [at, a, b] = [cage.position(v), cage.position(cage.target(h)), cage.position(cage.origin[cage.previous(h)])];
      const [u, w] = [subtract(a, at), subtract(b, at)];
      angles += Math.acos(Math.min(1, Math.max(-1, dot(u, w) / (length(u) * length(w) || 1))));
    }
    sum += 360 - (angles * 180) / Math.PI;
  }
  return sum;
}
