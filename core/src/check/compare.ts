import { type Cage } from '../mesh/cage.ts';
import { isClosed } from '../mesh/closed.ts';
import { surfaceArea } from '../mesh/normals.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { lengthInWords } from '../numeric/length-words.ts';
import { cross, dot, length, subtract, type Triple } from '../numeric/vectors.ts';
import { Reference } from '../reference/reference.ts';
import { deepestLevel, type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { limitDistance } from './limit-distance.ts';
import { measure, type Measures } from './measures.ts';

/** One of two states that are compared: a cage with its smooth surface, or a dense mesh as it is. */
export type ComparedState = { cage: Cage; settings: SurfaceSettings } | { dense: PolygonMesh };

/** What one state measures; what a dense mesh is not measured for is left out. */
export interface StateMeasures {
  faces: number;
  /** once all is cut into triangles */
  triangles: number;
  quads: number;
  poles?: number;
  /** standard deviation of the edge lengths over their mean */
  spread?: number;
  /** degrees that the worst corner is off a right angle */
  worstCorner?: number;
  /** mm3; nothing where it is open */
  volume?: number;
  /** mm2 */
  area: number;
  /** by cm2 */
  density: number;
}

/** A line of the table: a measure of both states, in words. */
export interface ComparedRow {
  label: string;
  before: string;
  now: string;
  /** from the one to the other; empty where that says nothing */
  change: string;
}

/** Faces that points of a smooth surface are taken of at most. */
const MOST_POINTS = 60_000;

/** Measures one of two states. */
export function stateMeasures(state: ComparedState): StateMeasures {
  if ('dense' in state) {
    const { dense } = state;
    const { triangles } = triangulate(dense);
    const faces = dense.faceStart.length - 1;
    const { area, volume } = sizeOf(dense, triangles);
    const sizes = Array.from({ length: faces }, (_, f) => dense.faceStart[f + 1] - dense.faceStart[f]);
    const vertices = dense.positions.length / 3;
    return { faces, triangles: triangles.length / 3, quads: sizes.filter((n) => n === 4).length, volume, area, density: per(vertices, area) };
  }
  const { cage } = state;
  const m: Measures = measure(cage);
  let triangles = 0;
  for (const f of cage.faces()) triangles += cage.faceSize(f) - 2;
  const area = surfaceArea(cage);
  return {
    faces: m.faces,
    triangles,
    quads: m.quads,
    poles: m.poles.reduce((sum, p) => sum + p.count, 0),
    spread: m.spacing,
    worstCorner: m.faces > 0 ? Math.max(m.corners.most - 90, 90 - m.corners.least) : undefined,
    volume: m.borders === 0 && m.faces > 0 ? enclosedVolume(cage) : undefined,
    area,
    density: per(m.vertices, area)
  };
}

/** Area in mm2 of a dense mesh, and the volume in mm3 that it encloses, where it is closed (signed tetrahedra). */
function sizeOf(dense: PolygonMesh, triangles: ArrayLike<number>): { area: number; volume?: number } {
  const p = dense.positions;
  let [area, six] = [0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [0, 1, 2].map((k): Triple => [p[3 * triangles[t + k]], p[3 * triangles[t + k] + 1], p[3 * triangles[t + k] + 2]]);
    const [a, b, c] = corners;
    area += length(cross(subtract(b, a), subtract(c, a))) / 2;
    six += dot(a, cross(b, c));
  }
  return { area, volume: isClosed(dense) ? six / 6 : undefined };
}

const per = (vertices: number, area: number): number => (area > 0 ? (100 * vertices) / area : 0);

/**
 * How far two states are apart, mm: their smooth surfaces at most, or a smooth surface from a dense mesh at points of it.
 * @returns nothing where one of them has no faces
 */
export function apart(a: ComparedState, b: ComparedState): number | undefined {
  if ('dense' in a && 'dense' in b) return farthestOff(a.dense, b.dense.positions);
  if ('dense' in a) return 'dense' in b ? undefined : farthestOff(a.dense, limitPoints(b));
  if ('dense' in b) return farthestOff(b.dense, limitPoints(a));
  return limitDistance({ mesh: a.cage.toPolygons(), settings: a.settings }, { mesh: b.cage.toPolygons(), settings: b.settings });
}

function limitPoints({ cage, settings }: { cage: Cage; settings: SurfaceSettings }): Float64Array {
  const mesh = cage.toPolygons();
  const levels = Math.max(deepestLevel(cage.faceCount, MOST_POINTS, 3, 1), settings.plan?.steps.length ?? 0);
  return new Subdivision(mesh, { ...settings, levels, limit: true }).evaluate(mesh.positions);
}

function farthestOff(dense: PolygonMesh, points: Float64Array): number | undefined {
  if (points.length === 0 || dense.faceVertices.length === 0) return undefined;
  return Reference.of(dense)
    .distances(points)
    .reduce((most, d) => Math.max(most, Math.abs(d)), 0);
}

const whole = (n: number) => Math.round(n).toLocaleString('en');
const signed = (n: number, digits: number) => `${n > 0 ? '+' : n < 0 ? '−' : '±'}${Math.abs(n).toFixed(digits)}`;
const inPercent = (a: number, b: number) => (a === 0 ? '' : `${signed((100 * (b - a)) / Math.abs(a), 1)} %`);
const quadShare = ({ faces, quads }: StateMeasures) => (faces > 0 ? (100 * quads) / faces : 0);

/** The table of two states. */
export function comparedRows(a: StateMeasures, b: StateMeasures): ComparedRow[] {
  const row = (label: string, of: (m: StateMeasures) => number | undefined, say: (n: number) => string, change = inPercent): ComparedRow => {
    const [before, now] = [of(a), of(b)];
    const known = before !== undefined && now !== undefined;
    return {
      label,
      before: before === undefined ? '' : say(before),
      now: now === undefined ? '' : say(now),
      change: known ? change(before, now) : ''
    };
  };
  const difference = (digits: number) => (x: number, y: number) => signed(y - x, digits);
  return [
    row('Faces', (m) => m.faces, whole),
    row('Cut into triangles', (m) => m.triangles, whole),
    row('Quads', quadShare, (n) => `${n.toFixed(1)} %`, difference(1)),
    row('Poles', (m) => m.poles, whole, difference(0)),
    row(
      'Spread of edges',
      (m) => m.spread,
      (n) => n.toFixed(3),
      difference(3)
    ),
    row(
      'Worst corner off 90°',
      (m) => m.worstCorner,
      (n) => `${n.toFixed(0)}°`,
      difference(0)
    ),
    row(
      'Volume',
      (m) => m.volume,
      (n) => `${whole(n)} mm³`
    ),
    row(
      'Area',
      (m) => m.area,
      (n) => `${whole(n)} mm²`
    ),
    row(
      'Vertices on 1 cm²',
      (m) => m.density,
      (n) => n.toFixed(1)
    )
  ].filter(({ before, now }) => before !== '' || now !== '');
}

/** What one state became, in a line to be quoted: faces, quads, poles, how far it is off, and the change of volume. @param distance mm */
export function comparedInWords(name: string, a: StateMeasures, b: StateMeasures, distance: number | undefined): string {
  const faces = ({ faces: many, quads }: StateMeasures) =>
    quads === many ? `${whole(many)} quads` : quads === 0 ? `${whole(many)} faces, no quads` : `${whole(many)} faces`;
  const said = [`${name}: ${faces(a)} became ${faces(b)}`];
  if (quadShare(b) < 100) said.push(`${quadShare(b).toFixed(1)} % quads`);
  if (b.poles !== undefined) said.push(`${whole(b.poles)} poles`);
  if (distance !== undefined) said.push(`within ${lengthInWords(distance)}`);
  if (a.volume && b.volume) said.push(`volume ${inPercent(a.volume, b.volume)}`);
  return `${said.join(', ')}.`;
}
