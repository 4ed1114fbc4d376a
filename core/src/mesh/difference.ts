import { type Cage } from './cage.ts';
import { sameTopology } from './topology.ts';

/** Half-edges that start, lead or lie elsewhere than before, that are new or gone. Elements are the same where their ids are. */
export function changedHalves(before: Cage, now: Cage): number[] {
  const changed: number[] = [];
  const both = Math.min(before.origin.length, now.origin.length);
  const [o, n, f] = [before.origin, before.next, before.face];
  const [o2, n2, f2] = [now.origin, now.next, now.face];
  for (let h = 0; h < both; h++) if (o[h] !== o2[h] || n[h] !== n2[h] || f[h] !== f2[h]) changed.push(h);
  for (let h = both; h < 2 * now.edgeSlots; h++) changed.push(h);
  return changed;
}

/** Vertices of the second that lie elsewhere than in the first, or are new. */
export function movedVertices(before: Cage, now: Cage): number[] {
  const moved: number[] = [];
  const [p, q] = [before.positions, now.positions];
  const both = Math.min(before.vertexSlots, now.vertexSlots);
  for (let v = 0, i = 0; v < both; v++, i += 3) if (p[i] !== q[i] || p[i + 1] !== q[i + 1] || p[i + 2] !== q[i + 2]) moved.push(v);
  for (let v = both; v < now.vertexSlots; v++) moved.push(v);
  return moved.filter((v) => now.hasVertex(v));
}

/** Elements whose sharpness, or mask, is another one. */
export function changedValues(before: Cage, now: Cage, layer: 'crease' | 'corner' | 'mask'): number[] {
  const [a, b] = [before.layers.get(layer)?.data, now.layers.get(layer)?.data];
  if (!a && !b) return [];
  const changed: number[] = [];
  for (let i = 0; i < Math.max(a?.length ?? 0, b?.length ?? 0); i++) if ((a?.[i] ?? 0) !== (b?.[i] ?? 0)) changed.push(i);
  return changed;
}

/** Vertices at changed half-edges and moved ones, those of the first cage and those of the second. */
export function touchedVertices(before: Cage, now: Cage): { before: number[]; now: number[] } {
  const [was, is] = [new Set<number>(), new Set<number>()];
  for (const h of changedHalves(before, now)) {
    if (before.hasEdge(h >> 1)) was.add(before.origin[h]).add(before.target(h));
    if (now.hasEdge(h >> 1)) is.add(now.origin[h]).add(now.target(h));
  }
  for (const v of movedVertices(before, now)) {
    if (before.hasVertex(v)) was.add(v);
    is.add(v);
  }
  // what the one has at a touched vertex is touched in the other
  for (const v of [...was]) if (now.hasVertex(v)) is.add(v);
  for (const v of [...is]) if (before.hasVertex(v)) was.add(v);
  return { before: [...was], now: [...is] };
}

/** Those too whose own sharpness, or that of an edge at them, is another one: whatever the smooth surface goes by. */
export function influencedVertices(before: Cage, now: Cage): { before: number[]; now: number[] } {
  const touched = touchedVertices(before, now);
  const [was, is] = [new Set(touched.before), new Set(touched.now)];
  const add = (v: number) => {
    if (before.hasVertex(v)) was.add(v);
    if (now.hasVertex(v)) is.add(v);
  };
  for (const e of changedValues(before, now, 'crease'))
    for (const cage of [before, now]) if (cage.hasEdge(e)) for (const h of [2 * e, 2 * e + 1]) add(cage.origin[h]);
  changedValues(before, now, 'corner').forEach(add);
  return { before: [...was], now: [...is] };
}

/** Whether two cages differ by the places of their vertices alone, sharpness and masks included. */
export const onlyMoved = (before: Cage, now: Cage): boolean =>
  sameTopology(before, now) && (['crease', 'corner', 'mask'] as const).every((layer) => changedValues(before, now, layer).length === 0);

/** Whether two cages are the same: connectivity, places and every mark. */
export function isUnchanged(before: Cage, now: Cage): boolean {
  if (before === now) return true;
  if (before.vertexCount !== now.vertexCount || changedHalves(before, now).length > 0 || movedVertices(before, now).length > 0) return false;
  return [...new Set([...before.layers.keys(), ...now.layers.keys()])].every((name) => {
    const [a, b] = [before.layers.get(name)?.data ?? [], now.layers.get(name)?.data ?? []];
    for (let i = 0; i < Math.max(a.length, b.length); i++) if (a[i] !== b[i] && (a[i] || b[i])) return false;
    return true;
  });
}
