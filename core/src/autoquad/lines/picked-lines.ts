import { cheapestWay } from '../../numeric/cheapest-way.ts';
import { cross, dot, length, subtract, unit, type Triple } from '../../numeric/vectors.ts';
import { surfacePoint, TriangleBvh } from '../../reference/triangle-bvh.ts';
import { type LinePick } from '../base/options.ts';
import { pathPoints } from '../base/strokes.ts';
import { after, before, type WorkingMesh } from '../base/working-mesh.ts';

/** Strokes are taken in steps of this share of the diagonal; edges that are not to be followed lie no farther from them. */
const STEP = 0.01;
/** A line goes on from a picked edge along edges with at least this angle between their faces' normals, and turns no more than that. */
const FOLD = 10;
const TURN = 40;

/**
 * Marks what was picked as features, or takes marks away, pick by pick. A click on an edge stands for the whole line it is on.
 * @returns half-edges that were marked, one of each edge
 */
export function markPicked(mesh: WorkingMesh, picks: readonly LinePick[], diagonal: number): number[] {
  if (picks.length === 0) return [];
  const bvh = new TriangleBvh(mesh.positions, mesh.corner);
  const marked: number[] = [];
  const mark = (h: number, on: boolean) => {
    if (mesh.opposite[h] < 0 || (mesh.feature[h] === 1) === on) return;
    mesh.feature[h] = mesh.feature[mesh.opposite[h]] = on ? 1 : 0;
    if (on) marked.push(h);
  };
  for (const { points, follow } of picks) {
    if (follow)
      for (const h of points.length === 1 ? lineThrough(mesh, nearestEdge(mesh, bvh, points[0])) : edgesAlong(mesh, bvh, points, diagonal))
        mark(h, true);
    else for (const h of markedNear(mesh, points, STEP * diagonal)) mark(h, false);
  }
  return marked.filter((h) => mesh.feature[h] === 1);
}

/** Angle between the normals of an edge's faces, in degrees; 180 on a border. */
export function foldOf(mesh: WorkingMesh, h: number): number {
  const g = mesh.opposite[h];
  if (g < 0) return 180;
  const normal = (k: number): Triple => {
    const [a, b, c] = [k, after(k), before(k)].map((x) => mesh.point(mesh.corner[x]));
    return unit(cross(subtract(b, a), subtract(c, a)));
  };
  return (Math.acos(Math.min(1, Math.max(-1, dot(normal(h), normal(g))))) * 180) / Math.PI;
}

/** The edge nearest to a place on the surface, of the triangle there. */
function nearestEdge(mesh: WorkingMesh, bvh: TriangleBvh, at: Triple): number {
  const { triangle, x, y, z } = bvh.closest(...at, surfacePoint());
  const off = (h: number) => {
    const [a, b] = mesh.ends(h);
    return length(cross(subtract([x, y, z], a), unit(subtract(b, a))));
  };
  return [0, 1, 2].map((k) => 3 * triangle + k).reduce((best, h) => (off(h) < off(best) ? h : best));
}

/** The line of folded edges that an edge is part of, as far as it runs on without a sharp turn. */
function lineThrough(mesh: WorkingMesh, start: number): number[] {
  const line = [start];
  const passed = new Set([mesh.corner[start], mesh.corner[after(start)]]);
  const spokes: number[] = [];
  for (const first of [after(start), start]) {
    let v = mesh.corner[first];
    let way = unit(subtract(mesh.point(v), mesh.point(mesh.corner[first === start ? after(start) : start])));
    for (;;) {
      const straight = (h: number) => dot(unit(subtract(mesh.point(mesh.corner[after(h)]), mesh.point(v))), way);
      const on = mesh
        .spokes(v, spokes)
        .filter((h) => mesh.opposite[h] >= 0 && straight(h) > Math.cos((TURN * Math.PI) / 180) && foldOf(mesh, h) > FOLD);
      if (on.length === 0) break;
      const next = on.reduce((best, h) => (foldOf(mesh, h) * straight(h) > foldOf(mesh, best) * straight(best) ? h : best));
      line.push(next);
      const to = mesh.corner[after(next)];
      if (passed.has(to)) break;
      passed.add(to);
      way = unit(subtract(mesh.point(to), mesh.point(v)));
      v = to;
    }
  }
  return line;
}

/** Edges from the start of a stroke to its end, along folds where there are any. */
function edgesAlong(mesh: WorkingMesh, bvh: TriangleBvh, points: readonly Triple[], diagonal: number): number[] {
  const found = surfacePoint();
  const snapped = pathPoints(points, STEP * diagonal).map((p) => {
    bvh.closest(...p, found);
    const corners = [0, 1, 2].map((k) => mesh.corner[3 * found.triangle + k]);
    const off = (v: number) => length(subtract(mesh.point(v), p));
    return corners.reduce((best, v) => (off(v) < off(best) ? v : best));
  });
  const spokes: number[] = [];
  const steps = (v: number) =>
    mesh.spokes(v, spokes).flatMap((h) => {
      const cost = (side: number) => Math.sqrt(mesh.edgeLength2(side)) / (0.2 + Math.min(1, foldOf(mesh, side) / 40));
      const b = before(h);
      // the last spoke of a border vertex is reached from its other side
      const border = mesh.opposite[b] < 0 ? [{ to: mesh.corner[b], cost: cost(b), by: b }] : [];
      return [{ to: mesh.corner[after(h)], cost: cost(h), by: h }, ...border];
    });
  return snapped.slice(1).flatMap((v, i) => cheapestWay(snapped[i], v, steps) ?? []);
}

/** Marked edges whose middle lies near a stroke. */
function markedNear(mesh: WorkingMesh, points: readonly Triple[], reach: number): number[] {
  const path = pathPoints(points, reach);
  return mesh.featureEdges().filter((h) => {
    const [a, b] = mesh.ends(h);
    const reached = reach + length(subtract(b, a)) / 4;
    return path.some((p) => length(subtract(p, [0, 1, 2].map((k) => (a[k] + b[k]) / 2) as Triple)) < reached);
  });
}
