import { polygonMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { lathe, listFaces, listPoints } from './start-shapes.ts';

/** Edges along each side of the square flange. */
const SIDE = 3;

/** The demo throat: a square flange with a square collar of 12 edges, and a round horn of 20 sides, 30 mm above it; the gap between them is open. */
export function hornThroat(): PolygonMesh {
  const flange = squares([
    [50, 0],
    [50, 10],
    [38, 10],
    [25, 10],
    [25, 20]
  ]);
  const horn = lathe(
    [
      [18, 50],
      [19, 62],
      [22, 76],
      [28, 92],
      [38, 108],
      [54, 122]
    ],
    20
  );
  const points = listPoints(flange);
  return polygonMesh([...points, ...listPoints(horn)], [...listFaces(flange), ...listFaces(horn).map((f) => f.map((v) => v + points.length))]);
}

/** Walls between squares of half a side each, one above the other. */
function squares(profile: [half: number, height: number][]): PolygonMesh {
  const n = 4 * SIDE;
  const ring = ([half, y]: [number, number]) =>
    Array.from({ length: n }, (_, k) => {
      const [side, along] = [Math.floor(k / SIDE), half * (1 - (2 * (k % SIDE)) / SIDE)];
      return [
        [half, y, along],
        [along, y, -half],
        [-half, y, -along],
        [-along, y, half]
      ][side];
    });
  const faces = profile
    .slice(1)
    .flatMap((_, r) => Array.from({ length: n }, (_, k) => [r * n + k, r * n + ((k + 1) % n), (r + 1) * n + ((k + 1) % n), (r + 1) * n + k]));
  return polygonMesh(profile.flatMap(ring), faces);
}
