import { faceCount, vertexCount, type PolygonMesh } from '../src/mesh/polygon-mesh.ts';

type Point = [number, number, number];

/** Mesh as nested lists with the sharpness of every edge ("a b", a < b) and vertex. */
export interface SlowMesh {
  points: Point[];
  faces: number[][];
  edges: Map<string, number>;
  corners: number[];
}

const key = (a: number, b: number) => (a < b ? `${a} ${b}` : `${b} ${a}`);
const mean = (points: Point[]): Point => [0, 1, 2].map((k) => points.reduce((sum, p) => sum + p[k], 0) / points.length) as Point;
const mix = (...parts: [number, Point][]): Point => [0, 1, 2].map((k) => parts.reduce((sum, [w, p]) => sum + w * p[k], 0)) as Point;

export function slowMesh(mesh: PolygonMesh, borderCorners: 'sharp' | 'rounded'): SlowMesh {
  const points = Array.from({ length: vertexCount(mesh) }, (_, v) => [...mesh.positions.subarray(3 * v, 3 * v + 3)] as Point);
  const faces = Array.from({ length: faceCount(mesh) }, (_, f) => [...mesh.faceVertices.subarray(mesh.faceStart[f], mesh.faceStart[f + 1])]);
  const edges = new Map<string, number>();
  mesh.creaseSharpness?.forEach((s, i) => edges.set(key(mesh.creaseEdges![2 * i], mesh.creaseEdges![2 * i + 1]), s));
  const corners = points.map(() => 0);
  mesh.cornerVertices?.forEach((v, i) => (corners[v] = mesh.cornerSharpness![i]));
  const facesAt = points.map((_, v) => faces.filter((f) => f.includes(v)));
  const onBorder = points.map((_, v) => facesAt[v].some((f) => neighboursIn(f, v).some((w) => faces.filter((g) => hasEdge(g, v, w)).length === 1)));
  if (borderCorners === 'sharp') points.forEach((_, v) => onBorder[v] && facesAt[v].length === 1 && (corners[v] = 10));
  return { points, faces, edges, corners };
}

const neighboursIn = (f: number[], v: number) => [f[(f.indexOf(v) + 1) % f.length], f[(f.indexOf(v) + f.length - 1) % f.length]];
const hasEdge = (f: number[], a: number, b: number) => f.includes(a) && neighboursIn(f, a).includes(b);
const softer = (s: number) => (s >= 10 ? s : Math.max(0, s - 1));

/**
 * One level of Catmull-Clark with semi-sharp creases, straight from the papers (Catmull and Clark 1978; DeRose, Kass and
 * Truong 1998), without any table and without caring for speed. Vertex points come first, then edge points in the order
 * of the faces' corners, then face points.
 */
export function slowCatmullClark({ points, faces, edges, corners }: SlowMesh): SlowMesh {
  const facePoint = faces.map((f) => mean(f.map((v) => points[v])));
  const edgeList: [number, number][] = [];
  const edgeIndex = new Map<string, number>();
  for (const f of faces)
    f.forEach((a, i) => {
      const b = f[(i + 1) % f.length];
      if (!edgeIndex.has(key(a, b))) {
        edgeIndex.set(key(a, b), edgeList.length);
        edgeList.push([a, b]);
      }
    });
  const facesOf = (a: number, b: number) => faces.flatMap((f, i) => (hasEdge(f, a, b) ? [i] : []));
  const sharpnessOf = (a: number, b: number) => (facesOf(a, b).length === 1 ? 10 : (edges.get(key(a, b)) ?? 0));
  const edgePoint = edgeList.map(([a, b]) => {
    const middle = mean([points[a], points[b]]);
    const s = Math.min(1, sharpnessOf(a, b));
    if (s === 1) return middle;
    const smooth = mean([points[a], points[b], ...facesOf(a, b).map((f) => facePoint[f])]);
    return mix([s, middle], [1 - s, smooth]);
  });
  const vertexPoint = points.map((p, v): Point => {
    const around = edgeList.filter((e) => e.includes(v)).map(([a, b]) => (a === v ? b : a));
    if (around.length === 0) return p;
    const touching = faces.flatMap((f, i) => (f.includes(v) ? [i] : []));
    const n = around.length;
    const sharp = around.filter((w) => sharpnessOf(v, w) > 0);
    const smooth =
      touching.length === n
        ? mix([1 / n, mean(touching.map((f) => facePoint[f]))], [2 / n, mean(around.map((w) => mean([p, points[w]])))], [(n - 3) / n, p])
        : p;
    const creased = sharp.length === 2 ? mix([0.75, p], [0.125, points[sharp[0]]], [0.125, points[sharp[1]]]) : p;
    const ruled = sharp.length < 2 ? smooth : creased;
    const blend = sharp.length < 2 ? 1 : Math.min(1, sharp.reduce((sum, w) => sum + sharpnessOf(v, w), 0) / sharp.length);
    const byEdges = mix([blend, ruled], [1 - blend, smooth]);
    const corner = Math.min(1, corners[v]);
    return mix([corner, p], [1 - corner, byEdges]);
  });
  const V = points.length;
  const E = edgeList.length;
  const newEdges = new Map<string, number>();
  edgeList.forEach(([a, b], e) => {
    const s = softer(edges.get(key(a, b)) ?? 0);
    if (s > 0) for (const end of [a, b]) newEdges.set(key(end, V + e), s);
  });
  const newFaces = faces.flatMap((f, i) =>
    f.map((v, k) => [v, V + edgeIndex.get(key(v, f[(k + 1) % f.length]))!, V + E + i, V + edgeIndex.get(key(v, f[(k + f.length - 1) % f.length]))!])
  );
  return {
    points: [...vertexPoint, ...edgePoint, ...facePoint],
    faces: newFaces,
    edges: newEdges,
    corners: [...corners.map(softer), ...edgePoint.map(() => 0), ...facePoint.map(() => 0)]
  };
}

/** One level of Loop (Loop 1987; creases after Hoppe and others 1994 with the midpoint on every sharp edge), in the same plain way. */
export function slowLoop({ points, faces, edges, corners }: SlowMesh): SlowMesh {
  const edgeList = [
    ...new Map(faces.flatMap((f) => f.map((a, i): [string, [number, number]] => [key(a, f[(i + 1) % 3]), [a, f[(i + 1) % 3]]]))).values()
  ];
  const facesOf = (a: number, b: number) => faces.filter((f) => hasEdge(f, a, b));
  const sharpnessOf = (a: number, b: number) => (facesOf(a, b).length === 1 ? 10 : (edges.get(key(a, b)) ?? 0));
  const edgePoint = edgeList.map(([a, b]) => {
    const s = Math.min(1, sharpnessOf(a, b));
    const wings = facesOf(a, b).map((f) => points[f.find((v) => v !== a && v !== b)!]);
    const smooth: Point = wings.length < 2 ? [0, 0, 0] : mix([3 / 8, points[a]], [3 / 8, points[b]], [1 / 8, wings[0]], [1 / 8, wings[1]]);
    return mix([s, mean([points[a], points[b]])], [1 - s, smooth]);
  });
  const vertexPoint = points.map((p, v): Point => {
    const around = edgeList.filter((e) => e.includes(v)).map(([a, b]) => (a === v ? b : a));
    if (around.length === 0) return p;
    const n = around.length;
    const beta = (5 / 8 - (3 / 8 + Math.cos((2 * Math.PI) / n) / 4) ** 2) / n;
    const smooth = mix([1 - n * beta, p], ...around.map((w): [number, Point] => [beta, points[w]]));
    const sharp = around.filter((w) => sharpnessOf(v, w) > 0);
    const creased = sharp.length === 2 ? mix([3 / 4, p], [1 / 8, points[sharp[0]]], [1 / 8, points[sharp[1]]]) : p;
    const blend = sharp.length < 2 ? 0 : Math.min(1, sharp.reduce((total, w) => total + sharpnessOf(v, w), 0) / sharp.length);
    const own = Math.min(1, corners[v]);
    return mix([own, p], [(1 - own) * blend, creased], [(1 - own) * (1 - blend), smooth]);
  });
  const V = points.length;
  const numberOf = new Map(edgeList.map(([a, b], i) => [key(a, b), V + i]));
  const newEdges = new Map<string, number>();
  for (const [a, b] of edgeList) {
    const s = softer(edges.get(key(a, b)) ?? 0);
    if (s > 0) for (const end of [a, b]) newEdges.set(key(end, numberOf.get(key(a, b))!), s);
  }
  const newFaces = faces.flatMap(([a, b, c]) => {
    const [x, y, z] = [numberOf.get(key(a, b))!, numberOf.get(key(b, c))!, numberOf.get(key(c, a))!];
    return [
      [a, x, z],
      [x, b, y],
      [z, y, c],
      [x, y, z]
    ];
  });
  return { points: [...vertexPoint, ...edgePoint], faces: newFaces, edges: newEdges, corners: [...corners.map(softer), ...edgePoint.map(() => 0)] };
}
