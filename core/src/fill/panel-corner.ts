import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { faceNormal } from '../mesh/normals.ts';
import { between, dot, mean, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { type Hole } from './hole.ts';

/** A flat piece of the surroundings of a hole, which goes on in it. */
interface Panel {
  point: Triple;
  normal: Triple;
}

/** Border edges belong to one panel while the faces beside them differ by less, in degrees. */
const SAME_PANEL = Math.cos((20 * Math.PI) / 180);
const ROUNDS = 100;

/**
 * Moves the inner vertices of a fill onto the planes of the faces beside the hole, each onto those that its quads go on
 * from: where two panels meet there is an edge, where three meet a corner. Creases between panels outside go on inside. Changes the cage.
 * @param faces of the fill
 */
export function continuePanels(cage: Cage, hole: Hole, faces: readonly number[], inside: readonly number[]): void {
  const { panels, panelAt } = panelsRound(cage, hole);
  const own = new Map(faces.map((f) => [f, panelOfQuad(cage, f, panelAt)]));
  const planesAt = new Map(
    inside.map((v) => {
      const met = cage.spokes(v).flatMap((h) => own.get(cage.face[h]) ?? []);
      return [v, [...new Set(met)].map((p) => panels[p])] as const;
    })
  );
  for (let round = 0; round < ROUNDS; round++)
    for (const [v, planes] of planesAt) {
      const middle = mean(cage.spokes(v).map((h) => cage.position(cage.target(h))));
      cage.positions.set(ontoAll(round + 1 < ROUNDS / 4 ? between(cage.position(v), middle, 0.5) : middle, planes), 3 * v);
    }
  goOnWithCreases(cage, hole, faces, own, panelAt);
}

/** The place on all planes, as near as they allow (cyclic projection, Kaczmarz 1937). */
function ontoAll(p: Triple, planes: readonly Panel[]): Triple {
  for (let round = 0; round < (planes.length > 1 ? 30 : 1); round++)
    for (const { point, normal } of planes) p = subtract(p, scaled(normal, dot(normal, subtract(p, point))));
  return p;
}

/** The panels round a hole, and the panel of each border edge. */
function panelsRound(cage: Cage, hole: Hole): { panels: Panel[]; panelAt: Map<number, number> } {
  const panels: { points: Triple[]; normals: Triple[] }[] = [];
  const panelAt = new Map<number, number>();
  for (const h of hole.halves) {
    const f = cage.face[h ^ 1];
    if (f === NONE) continue;
    const normal = faceNormal(cage, f);
    const point = cage.position(cage.origin[h]);
    const near = ({ points, normals }: (typeof panels)[number]) =>
      dot(unit(mean(normals)), normal) > SAME_PANEL && Math.abs(dot(normal, subtract(point, mean(points)))) < 0.05 * hole.length;
    let p = panels.findIndex(near);
    if (p < 0) p = panels.push({ points: [], normals: [] }) - 1;
    panels[p].points.push(point, cage.position(cage.target(h)));
    panels[p].normals.push(normal);
    panelAt.set(h >> 1, p);
  }
  return { panels: panels.map(({ points, normals }) => ({ point: mean(points), normal: unit(mean(normals)) })), panelAt };
}

/** The panel that two of the four ends of a quad's strips lie on, the nearest such; else that of the nearest end. */
function panelOfQuad(cage: Cage, f: number, panelAt: ReadonlyMap<number, number>): number {
  const ends = cage
    .loopOf(cage.faceEdge[f])
    .map((h) => stripEnd(cage, h, panelAt))
    .filter((end) => end !== undefined)
    .sort((a, b) => a.steps - b.steps);
  const sum = (p: number) => {
    const own = ends.filter((end) => end.panel === p).slice(0, 2);
    return own.length === 2 ? own[0].steps + own[1].steps : Infinity;
  };
  return [...new Set(ends.map((end) => end.panel))].sort((a, b) => sum(a) - sum(b) || 0)[0] ?? 0;
}

/** Where the strip of quads that leaves a face across a half-edge meets the hole's border, and after how many faces. */
function stripEnd(cage: Cage, h: number, panelAt: ReadonlyMap<number, number>): { panel: number; steps: number } | undefined {
  for (let steps = 0; steps < 10_000; steps++) {
    const panel = panelAt.get(h >> 1);
    if (panel !== undefined) return { panel, steps };
    const f = cage.face[h ^ 1];
    if (f === NONE || cage.faceSize(f) !== 4) return undefined;
    h = cage.next[cage.next[h ^ 1]];
  }
  return undefined;
}

/** Edges between quads of two panels get the sharpness of the edge between those panels outside. */
function goOnWithCreases(
  cage: Cage,
  hole: Hole,
  faces: readonly number[],
  own: ReadonlyMap<number, number>,
  panelAt: ReadonlyMap<number, number>
): void {
  if (!cage.layers.has('crease')) return;
  const fill = new Set(faces);
  const pair = (a: number, b: number) => `${Math.min(a, b)} ${Math.max(a, b)}`;
  const sharpness = new Map<string, number>();
  hole.halves.forEach((h, i) => {
    const before = hole.halves[(i + hole.halves.length - 1) % hole.halves.length];
    const [a, b] = [panelAt.get(before >> 1), panelAt.get(h >> 1)];
    if (a === undefined || b === undefined || a === b) return;
    const outside = cage.spokes(cage.origin[h]).filter((s) => !fill.has(cage.face[s]) && !fill.has(cage.face[s ^ 1]));
    sharpness.set(pair(a, b), Math.max(sharpness.get(pair(a, b)) ?? 0, ...outside.map((s) => cage.value('crease', s >> 1))));
  });
  for (const f of faces)
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      const [a, b] = [own.get(f), own.get(cage.face[h ^ 1])];
      if (a === undefined || b === undefined || a === b) continue;
      const value = sharpness.get(pair(a, b)) ?? 0;
      if (value > 0) cage.setValue('crease', h >> 1, value);
    }
}
