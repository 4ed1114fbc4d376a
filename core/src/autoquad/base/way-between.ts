import { cheapestWay } from '../../numeric/cheapest-way.ts';
import { after, type WorkingMesh } from './working-mesh.ts';

/**
 * Half-edges stepped along on the shortest way along edges from one vertex to another.
 * @param open whether a vertex may be passed; the last one always may be reached
 * @returns nothing where no way leads there
 */
export function wayAlongEdges(mesh: WorkingMesh, from: number, to: number, open: (v: number) => boolean): number[] | undefined {
  const spokes: number[] = [];
  return cheapestWay(from, to, (v) =>
    mesh.spokes(v, spokes).flatMap((h) => {
      const next = mesh.corner[after(h)];
      return next === to || open(next) ? [{ to: next, cost: Math.sqrt(mesh.edgeLength2(h)), by: h }] : [];
    })
  );
}

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
