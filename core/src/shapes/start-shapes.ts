import { polygonMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';

/** Box with `across`, `up` and `deep` faces along X, Y and Z. @param size mm @param faces 1 or more each */
export function box(size: { x: number; y: number; z: number }, faces: { x: number; y: number; z: number }): PolygonMesh {
  const lines = (length: number, n: number) => Array.from({ length: n + 1 }, (_, i) => (length * i) / n - length / 2);
  return boxUnion(lines(size.x, faces.x), lines(size.y, faces.y), lines(size.z, faces.z));
}

/**
 * The skin of some cells of a box grid, as quads that look outward: a cage made of blocks.
 * @param inside whether cell (i, j, k) is solid; all are where it is missing
 */
export function boxUnion(xs: number[], ys: number[], zs: number[], inside?: (i: number, j: number, k: number) => boolean): PolygonMesh {
  const points: number[][] = [];
  const faces: number[][] = [];
  const index = new Map<number, number>();
  const vertex = (i: number, j: number, k: number) => {
    const key = (i * ys.length + j) * zs.length + k;
    let v = index.get(key);
    if (v === undefined) {
      v = points.length;
      index.set(key, v);
      points.push([xs[i], ys[j], zs[k]]);
    }
    return v;
  };
  const solid = (i: number, j: number, k: number) =>
    i >= 0 && j >= 0 && k >= 0 && i < xs.length - 1 && j < ys.length - 1 && k < zs.length - 1 && (!inside || inside(i, j, k));
  const isEnd = (i: number, line: number[]) => i === 0 || i === line.length - 2;
  for (let i = 0; i < xs.length - 1; i++)
    for (let j = 0; j < ys.length - 1; j++)
      for (let k = 0; k < zs.length - 1; k++) {
        // deep in a whole box there is no skin
        if (!inside && k === 1 && !isEnd(i, xs) && !isEnd(j, ys)) k = Math.max(1, zs.length - 2);
        if (!solid(i, j, k)) continue;
        const side = (open: boolean, ...corners: [number, number, number][]) => {
          if (open) faces.push(corners.map(([a, b, c]) => vertex(i + a, j + b, k + c)));
        };
        side(!solid(i + 1, j, k), [1, 0, 0], [1, 1, 0], [1, 1, 1], [1, 0, 1]);
        side(!solid(i - 1, j, k), [0, 0, 0], [0, 0, 1], [0, 1, 1], [0, 1, 0]);
        side(!solid(i, j + 1, k), [0, 1, 0], [0, 1, 1], [1, 1, 1], [1, 1, 0]);
        side(!solid(i, j - 1, k), [0, 0, 0], [1, 0, 0], [1, 0, 1], [0, 0, 1]);
        side(!solid(i, j, k + 1), [0, 0, 1], [1, 0, 1], [1, 1, 1], [0, 1, 1]);
        side(!solid(i, j, k - 1), [0, 0, 0], [0, 1, 0], [1, 1, 0], [1, 0, 0]);
      }
  return polygonMesh(points, faces);
}

/** A flat grid in the XZ plane, looking up. @param sizeX mm; counts of faces are 1 or more */
export function plane(sizeX: number, sizeZ: number, facesX: number, facesZ: number): PolygonMesh {
  const points: number[][] = [];
  const faces: number[][] = [];
  for (let k = 0; k <= facesZ; k++)
    for (let i = 0; i <= facesX; i++) points.push([(sizeX * i) / facesX - sizeX / 2, 0, (sizeZ * k) / facesZ - sizeZ / 2]);
  const at = (i: number, k: number) => k * (facesX + 1) + i;
  for (let k = 0; k < facesZ; k++) for (let i = 0; i < facesX; i++) faces.push([at(i, k), at(i, k + 1), at(i + 1, k + 1), at(i + 1, k)]);
  return polygonMesh(points, faces);
}

/**
 * A profile turned about Y. Points of the profile are (radius, height), from the bottom up; a radius of 0 is a point on
 * the axis that all sides share.
 */
export function lathe(profile: readonly (readonly [number, number])[], sides: number): PolygonMesh {
  const points: number[][] = [];
  const faces: number[][] = [];
  const first = profile.map(([radius, height]) => {
    const start = points.length;
    if (radius === 0) points.push([0, height, 0]);
    else
      for (let s = 0; s < sides; s++)
        points.push([radius * Math.cos((2 * Math.PI * s) / sides), height, radius * Math.sin((2 * Math.PI * s) / sides)]);
    return start;
  });
  const at = (row: number, s: number) => first[row] + (profile[row][0] === 0 ? 0 : s % sides);
  for (let row = 0; row + 1 < profile.length; row++)
    for (let s = 0; s < sides; s++) {
      const corners = [at(row, s), at(row + 1, s), at(row + 1, s + 1), at(row, s + 1)];
      faces.push(corners.filter((v, i) => corners.indexOf(v) === i));
    }
  return polygonMesh(points, faces);
}

/** Open or capped cylinder about Y; caps are single faces. */
export function cylinder(radius: number, height: number, sides: number, rows: number, caps: boolean): PolygonMesh {
  const profile = Array.from({ length: rows + 1 }, (_, r) => [radius, (height * r) / rows - height / 2] as [number, number]);
  const tube = lathe(profile, sides);
  if (!caps) return tube;
  const ring = (row: number) => Array.from({ length: sides }, (_, s) => row * sides + s);
  const faces = [...listFaces(tube), ring(0), ring(rows).reverse()];
  return polygonMesh(listPoints(tube), faces);
}

/** A cube of `faces` by `faces` quads a side, blown up to a sphere: eight poles of valence 3, no triangles. */
export function quadSphere(radius: number, faces: number): PolygonMesh {
  const cube = box({ x: 2, y: 2, z: 2 }, { x: faces, y: faces, z: faces });
  const p = cube.positions;
  for (let i = 0; i < p.length; i += 3) {
    // equal angles instead of equal lengths on the cube's sides keep the quads even
    const q = [0, 1, 2].map((k) => Math.tan((p[i + k] * Math.PI) / 4));
    const length = Math.hypot(q[0], q[1], q[2]);
    for (let k = 0; k < 3; k++) p[i + k] = (radius * q[k]) / length;
  }
  return cube;
}

/**
 * Torus about Y.
 * @param radius of its middle line, mm
 * @param tubeRadius mm
 * @param sides round the hole, 3 or more
 * @param tubeSides round the tube, 3 or more
 */
export function torus(radius: number, tubeRadius: number, sides: number, tubeSides: number): PolygonMesh {
  const points: number[][] = [];
  const faces: number[][] = [];
  for (let i = 0; i < sides; i++)
    for (let j = 0; j < tubeSides; j++) {
      const a = (2 * Math.PI * i) / sides;
      const b = (2 * Math.PI * j) / tubeSides;
      const r = radius + tubeRadius * Math.cos(b);
      points.push([r * Math.cos(a), tubeRadius * Math.sin(b), r * Math.sin(a)]);
    }
  const at = (i: number, j: number) => (i % sides) * tubeSides + (j % tubeSides);
  for (let i = 0; i < sides; i++) for (let j = 0; j < tubeSides; j++) faces.push([at(i, j), at(i, j + 1), at(i + 1, j + 1), at(i + 1, j)]);
  return polygonMesh(points, faces);
}

/** One point and no face: the beginning of drawing by hand. */
export function singleVertex(): PolygonMesh {
  return polygonMesh([[0, 0, 0]], []);
}

export const listPoints = (mesh: PolygonMesh): number[][] =>
  Array.from({ length: mesh.positions.length / 3 }, (_, v) => [...mesh.positions.subarray(3 * v, 3 * v + 3)]);
export const listFaces = (mesh: PolygonMesh): number[][] =>
  Array.from({ length: mesh.faceStart.length - 1 }, (_, f) => [...mesh.faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1])]);
