import { type WorkingMesh } from './working-mesh.ts';

/**
 * Half-edges crossed on a shortest way from one triangle to another.
 * @param most triangles it may pass
 * @param open whether a half-edge may be crossed
 * @returns nothing where they lie farther apart
 */
export function wayBetween(
  mesh: WorkingMesh,
  from: number,
  to: number,
  most: number,
  open: (h: number) => boolean = () => true
): number[] | undefined {
  let front = [{ t: from, way: [] as number[] }];
  const seen = new Set([from]);
  for (let depth = 0; depth <= most; depth++) {
    const next: typeof front = [];
    for (const { t, way } of front) {
      if (t === to) return way;
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const s = Math.floor(mesh.opposite[h] / 3);
        if (mesh.opposite[h] < 0 || !open(h) || seen.has(s)) continue;
        seen.add(s);
        next.push({ t: s, way: [...way, h] });
      }
    }
    front = next;
  }
  return undefined;
}
