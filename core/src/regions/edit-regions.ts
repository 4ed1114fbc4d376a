import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { faceArea, faceNormal } from '../mesh/normals.ts';
import { dot } from '../numeric/vectors.ts';

/** Name of what is in no region, where a cage had none before. */
const REST = 'rest';

/** A region of a cage: faces with one number of the layer `region`. */
export interface Region {
  id: number;
  name: string;
  faces: number[];
}

/** Name of a region by its number. */
export const regionName = (cage: Cage, id: number): string => cage.regionNames[id] ?? (id === 0 ? REST : `Region ${id}`);

/** The regions of a cage that have faces, by number; none where all faces are in the same. */
export function regionList(cage: Cage): Region[] {
  const faces = new Map<number, number[]>();
  for (const f of cage.faces()) {
    const id = cage.value('region', f);
    const known = faces.get(id);
    if (known) known.push(f);
    else faces.set(id, [f]);
  }
  if (faces.size < 2) return [];
  return [...faces].sort(([a], [b]) => a - b).map(([id, own]) => ({ id, name: regionName(cage, id), faces: own }));
}

/** Whether an edge has faces of two regions. */
export const isBetweenRegions = (cage: Cage, e: number): boolean =>
  !cage.isBorderEdge(e) && cage.value('region', cage.face[2 * e]) !== cage.value('region', cage.face[2 * e + 1]);

/** The number of a region by its name, or of a new one. @param cage gets its name */
export function regionNamed(cage: Cage, name: string): number {
  const wished = name.trim();
  const known = wished === '' ? -1 : cage.regionNames.indexOf(wished);
  if (known >= 0) return known;
  let last = 0;
  for (const f of cage.faces()) last = Math.max(last, cage.value('region', f));
  for (let id = cage.regionNames.length; id <= last; id++) cage.regionNames.push(regionName(cage, id));
  return cage.regionNames.push(wished || freeName(cage)) - 1;
}

function freeName({ regionNames }: Cage): string {
  for (let n = Math.max(1, regionNames.length); ; n++) if (!regionNames.includes(`Region ${n}`)) return `Region ${n}`;
}

/** Cosine of the angle that the surface turns by at an edge; 1 at borders. */
export function cosineAt(cage: Cage, e: number): number {
  const [f, g] = [cage.face[2 * e], cage.face[2 * e + 1]];
  return f === NONE || g === NONE ? 1 : dot(faceNormal(cage, f), faceNormal(cage, g));
}

/** Faces reached from some over edges that `crosses` lets through, themselves among them. */
export function spreadFrom(cage: Cage, faces: Iterable<number>, crosses: (e: number, to: number) => boolean): Set<number> {
  const found = new Set(faces);
  for (const f of found)
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      const g = cage.face[h ^ 1];
      if (g !== NONE && !found.has(g) && crosses(h >> 1, g)) found.add(g);
    }
  return found;
}

/** Faces reached from some without crossing a crease or an edge at which the surface turns by more than an angle, degrees. */
export function floodedTo(cage: Cage, faces: Iterable<number>, degrees: number): Set<number> {
  const least = Math.cos((degrees * Math.PI) / 180);
  return spreadFrom(cage, faces, (e) => cage.value('crease', e) === 0 && cosineAt(cage, e) >= least);
}

/** Faces of the flat panels of a cage: what hangs together and looks the way its largest face does, to an angle in degrees; the largest first. */
export function flatPanels(cage: Cage, degrees: number): number[][] {
  const least = Math.cos((degrees * Math.PI) / 180);
  const area = new Map([...cage.faces()].map((f) => [f, faceArea(cage, f)]));
  const taken = new Set<number>();
  const panels: number[][] = [];
  for (const [seed] of [...area].sort(([, a], [, b]) => b - a)) {
    if (taken.has(seed)) continue;
    const looks = faceNormal(cage, seed);
    const panel = [...spreadFrom(cage, [seed], (_e, f) => !taken.has(f) && dot(faceNormal(cage, f), looks) >= least)];
    for (const f of panel) taken.add(f);
    panels.push(panel);
  }
  const sizeOf = (faces: number[]) => faces.reduce((sum, f) => sum + area.get(f)!, 0);
  return panels.sort((a, b) => sizeOf(b) - sizeOf(a));
}

/** Some faces, and those that share an edge with one of them. */
export function withNeighbours(cage: Cage, faces: Iterable<number>): Set<number> {
  const found = new Set(faces);
  for (const f of [...found]) for (const h of cage.loopOf(cage.faceEdge[f])) if (cage.face[h ^ 1] !== NONE) found.add(cage.face[h ^ 1]);
  return found;
}
