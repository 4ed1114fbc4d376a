import { dot, length, scaled, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, type TriangleBvh } from '../../reference/triangle-bvh.ts';
import { followsLine } from '../lines/follows-line.ts';
import { chunks, type QuadList } from '../base/quad-list.ts';

/** Cosine of the angle between two ways that go on the same way. */
const ONWARD = 0.7;

/**
 * Where quads leave a line for a single vertex, as beside a pole that fell on the line in the map, that vertex is put on it: of those
 * beside both ends of the gap the nearest one. Quads there come out stretched, and are to be evened out.
 * @param sharp lines inside the surface, an edge a triangle, see `linesOf`
 * @returns a new list; nothing where no line has a gap
 */
export function withLineGapsClosed(list: QuadList, sharp: TriangleBvh): QuadList | undefined {
  const { quads } = list;
  const [p, hold] = [list.positions.slice(), list.hold.slice()];
  const beside = Array.from(hold, () => new Set<number>());
  for (const quad of chunks(quads))
    quad.forEach((v, k) => {
      beside[v].add(quad[(k + 1) & 3]);
      beside[quad[(k + 1) & 3]].add(v);
    });
  const found = surfacePoint();
  const place = (v: number): Triple => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  /** Whether the line goes on from a vertex towards a place. */
  const goesOn = (v: number, towards: Triple): boolean =>
    [...beside[v]].some(
      (w) => hold[w] > 0 && dot(unit(subtract(place(w), place(v))), towards) > ONWARD && followsLine(sharp, place(v), place(w), found)
    );
  let closed = 0;
  for (let v = 0; v < hold.length; v++) {
    if (hold[v] !== 1) continue;
    let best: { vertex: number; at: Triple; far: number } | undefined;
    for (const w of beside[v]) {
      if (hold[w] > 0) continue;
      for (const u of beside[w]) {
        if (u === v || hold[u] === 0 || beside[v].has(u)) continue;
        const way = unit(subtract(place(u), place(v)));
        if (!followsLine(sharp, place(v), place(u), found)) continue;
        const at: Triple = [found.x, found.y, found.z];
        if (goesOn(v, way) || goesOn(u, scaled(way, -1))) continue;
        const far = length(subtract(place(w), at));
        if (!best || far < best.far) best = { vertex: w, at, far };
      }
    }
    if (!best) continue;
    p.set(best.at, 3 * best.vertex);
    hold[best.vertex] = 1;
    closed++;
  }
  return closed > 0 ? { positions: p, quads, hold } : undefined;
}
