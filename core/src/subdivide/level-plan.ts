import { type BorderCorners, type LevelTopology } from './level-topology.ts';
import { RowBuilder, type WeightRows } from './weight-rows.ts';

export type Scheme = 'catmull-clark' | 'loop';

/** `divide` puts points in the middle of edges and faces and moves none; `smooth` follows the scheme's rules. */
export type LevelStep = 'divide' | 'smooth';

/** What each level does. */
export interface LevelPlan {
  /** step of level 1, 2, ...; levels beyond are smooth */
  steps: LevelStep[];
  /** level from which creases and corners are no sharper than `creaseCap` */
  creasesFrom?: number;
  /** 0, the default: they end there */
  creaseCap?: number;
}

/** How a cage is meant to be subdivided. */
export interface SurfaceSettings {
  scheme: Scheme;
  borderCorners: BorderCorners;
  plan?: LevelPlan;
}

export class LevelPlanError extends Error {}

export const MOST_PLANNED_LEVELS = 6;

/** Reads "divide,divide,smooth". @throws LevelPlanError naming the word that is neither */
export function levelSteps(text: string): LevelStep[] {
  const words = text
    .split(/[\s,]+/)
    .map((word) => word.toLowerCase())
    .filter(Boolean);
  for (const word of words)
    if (word !== 'divide' && word !== 'smooth') throw new LevelPlanError(`A level plan is made of "divide" and "smooth"; it has "${word}".`);
  if (words.length > MOST_PLANNED_LEVELS)
    throw new LevelPlanError(`A level plan has ${MOST_PLANNED_LEVELS} levels at most; this one has ${words.length}.`);
  return words as LevelStep[];
}

export const stepAt = (plan: LevelPlan | undefined, level: number): LevelStep => plan?.steps[level - 1] ?? 'smooth';

/**
 * The highest level up to `wanted` with no more faces than `most`, if `faces` are those of level 0; `least` at any rate.
 * @param faces counted as quads: each level has four times as many
 */
export function deepestLevel(faces: number, most: number, wanted: number, least: number): number {
  let level = wanted;
  while (level > least && faces * 4 ** level > most) level--;
  return level;
}

/** Lowers sharpness that is above what the plan allows at a level. */
export function capSharpness(level: LevelTopology, at: number, plan: LevelPlan | undefined): void {
  if (plan?.creasesFrom === undefined || at < plan.creasesFrom) return;
  const cap = plan.creaseCap ?? 0;
  for (const values of [level.edgeSharpness, level.vertexSharpness]) for (let i = 0; i < values.length; i++) if (values[i] > cap) values[i] = cap;
}

/** A level with the sharpness its edges and vertices will still be worth under a plan that caps them at a deeper level. */
export function sharpnessToCome(level: LevelTopology, at: number, plan: LevelPlan | undefined): LevelTopology {
  if (plan?.creasesFrom === undefined || at >= plan.creasesFrom) return level;
  const most = plan.creasesFrom - at + (plan.creaseCap ?? 0);
  const capped = (values: Float64Array) => values.map((s) => Math.min(s, most));
  return { ...level, edgeSharpness: capped(level.edgeSharpness), vertexSharpness: capped(level.vertexSharpness) };
}

/** The scheme that a mesh with so many faces and face corners is subdivided with: Loop takes triangles only. */
export const possibleScheme = (scheme: Scheme, faces: number, corners: number): Scheme =>
  scheme === 'loop' && corners === 3 * faces ? 'loop' : 'catmull-clark';

/** Rows of a step that only divides, in the order of the scheme's next level: vertices as they are, middles of edges and, for quads, of faces. */
export function divideRows(level: LevelTopology, scheme: Scheme): WeightRows {
  const { vertices, edges, faceStart, faceVertices, edgeVertices } = level;
  const faces = scheme === 'loop' ? 0 : faceStart.length - 1;
  const rows = new RowBuilder(vertices + edges + faces, vertices + 2 * edges + (faces > 0 ? faceVertices.length : 0));
  for (let v = 0; v < vertices; v++) {
    rows.append(v, 1);
    rows.endRow();
  }
  for (let e = 0; e < edges; e++) {
    rows.append(edgeVertices[2 * e], 0.5);
    rows.append(edgeVertices[2 * e + 1], 0.5);
    rows.endRow();
  }
  for (let f = 0; f < faces; f++) {
    const share = 1 / (faceStart[f + 1] - faceStart[f]);
    for (let c = faceStart[f]; c < faceStart[f + 1]; c++) rows.append(faceVertices[c], share);
    rows.endRow();
  }
  return rows.done();
}
