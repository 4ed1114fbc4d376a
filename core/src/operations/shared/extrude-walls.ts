import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { replaceFaces, type NewFace } from '../../mesh/replace-faces.ts';
import { type Triple } from '../../numeric/vectors.ts';

/** Groups of faces that hang together over edges, or every face by itself. */
export function faceGroups(cage: Cage, faces: number[], together: boolean): number[][] {
  if (!together) return faces.map((f) => [f]);
  const left = new Set(faces);
  const groups: number[][] = [];
  for (const seed of faces) {
    if (!left.delete(seed)) continue;
    const group = [seed];
    for (const f of group)
      for (const h of cage.loopOf(cage.faceEdge[f])) {
        const g = cage.face[h ^ 1];
        if (g !== NONE && left.delete(g)) group.push(g);
      }
    groups.push(group);
  }
  return groups;
}

/** Half-edges round a group of faces, on the group's side. */
export function outlineOf(cage: Cage, group: number[]): number[] {
  const inside = new Set(group);
  return group.flatMap((f) => cage.loopOf(cage.faceEdge[f])).filter((h) => !inside.has(cage.face[h ^ 1]));
}

/** Runs of half-edges, each starting where the one before it ends. */
export function runs(cage: Cage, halves: readonly number[]): { halves: number[]; closed: boolean }[] {
  const from = new Map(halves.map((h) => [cage.origin[h], h]));
  const reached = new Set(halves.map((h) => cage.target(h)));
  const found: { halves: number[]; closed: boolean }[] = [];
  const left = new Set(halves);
  // open runs begin where none leads to; what is left after them is closed
  for (const start of [...halves.filter((h) => !reached.has(cage.origin[h])), ...halves]) {
    if (!left.has(start)) continue;
    const run: number[] = [];
    for (let h: number | undefined = start; h !== undefined && left.delete(h); h = from.get(cage.target(h))) run.push(h);
    found.push({ halves: run, closed: cage.target(run[run.length - 1]) === cage.origin[start] });
  }
  return found;
}

/**
 * Moves a group of faces to new places and puts a wall of quads between its outline and where that was.
 * @param place where each vertex of the group goes; vertices inside the group move, those on its outline get a copy
 * @returns the moved faces
 */
export function wallRound(cage: Cage, group: number[], place: (v: number) => Triple): number[] {
  const outline = outlineOf(cage, group);
  const rim = new Set(outline.flatMap((h) => [cage.origin[h], cage.target(h)]));
  const vertices = [...new Set(group.flatMap((f) => cage.faceVertices(f)))];
  const places = vertices.map(place);
  const moved = new Map<number, number>();
  const standsFor = new Map<number, number>();
  vertices.forEach((v, i) => {
    if (!rim.has(v)) {
      moved.set(v, v);
      cage.positions.set(places[i], 3 * v);
      return;
    }
    const copy = cage.addVertex(...places[i]);
    cage.copyValues('vertex', v, copy);
    moved.set(v, copy);
    standsFor.set(copy, v);
  });
  const added: NewFace[] = group.map((f) => {
    const loop = cage.loopOf(cage.faceEdge[f]);
    return { corners: loop.map((h) => moved.get(cage.origin[h])!), like: f, cornersLike: loop };
  });
  for (const h of outline) {
    const [a, b] = [cage.origin[h], cage.target(h)];
    added.push({ corners: [a, b, moved.get(b)!, moved.get(a)!], like: cage.face[h], cornersLike: [h, cage.next[h], cage.next[h], h] });
  }
  return replaceFaces(cage, { gone: group, added, standsFor }).slice(0, group.length);
}
