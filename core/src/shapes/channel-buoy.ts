import { polygonMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { lathe, listFaces, listPoints } from './start-shapes.ts';

const SIDES = 24;
/** radius and height in mm, from the keel weight up to the lantern */
const PROFILE: [number, number][] = [
  [0, -52],
  [9, -50],
  [12, -44],
  [12, -34],
  [16, -28],
  [34, -20],
  [42, -12],
  [44, -4],
  [43, 4],
  [36, 11],
  [27, 16],
  [22, 24],
  [18, 34],
  [14.5, 44],
  [11.5, 54],
  [11.5, 60],
  [14, 63],
  [14, 70],
  [9, 75],
  [0, 77]
];

/**
 * The demo mess: a buoy as it comes from careless hands. Six holes (four even, two odd, one of them round an island), n-gons on flat and on curved
 * places, triangles across bends, faces turned over, vertices that lie on each other.
 */
export function channelBuoy(): PolygonMesh {
  const clean = lathe(PROFILE, SIDES);
  const points = listPoints(clean);
  const faces: (number[] | undefined)[] = listFaces(clean);
  const at = (row: number, side: number) => row * SIDES + (side % SIDES);
  const remove = (...cells: [number, number][]) => cells.forEach(([row, side]) => (faces[at(row, side)] = undefined));
  const take = (row: number, side: number) => faces[at(row, side)]!;

  // holes: one face; two by two; an L; a ring round an island
  remove([8, 3]);
  remove([12, 6], [12, 7], [13, 6], [13, 7]);
  remove([5, 10], [6, 10], [7, 10], [7, 11]);
  for (let row = 10; row <= 12; row++) for (let side = 14; side <= 16; side++) if (row !== 11 || side !== 15) remove([row, side]);
  // odd ones: a quad of which one half is left, twice, far apart
  for (const [row, side] of [
    [6, 18],
    [13, 21]
  ])
    faces[at(row, side)] = take(row, side).slice(0, 3);
  // n-gons: pairs and a three made one
  for (const [row, side] of [
    [4, 1],
    [9, 8],
    [14, 12]
  ]) {
    const [a, b, c] = take(row, side);
    const [, , e, f] = take(row, side + 1);
    const d = take(row, side)[3];
    faces[at(row, side)] = [a, b, c, e, f, d];
    faces[at(row, side + 1)] = undefined;
  }
  // triangles across the bends of the float
  for (const side of [0, 5, 13, 20]) {
    const [a, b, c, d] = take(6, side);
    faces[at(6, side)] = [a, b, c];
    faces.push([a, c, d]);
  }
  // turned over: a patch and three single ones
  for (const [row, side] of [
    [15, 2],
    [15, 3],
    [16, 2],
    [16, 3],
    [3, 9],
    [11, 20],
    [7, 22]
  ])
    take(row, side).reverse();
  // torn off: a column of faces gets vertices of its own
  for (let row = 8; row < 12; row++) {
    const own = take(row, 0).map((v) => points.push([...points[v]]) - 1);
    faces[at(row, 0)] = own;
  }
  return polygonMesh(
    points,
    faces.filter((f): f is number[] => f !== undefined)
  );
}
