import { Cage } from '../mesh/cage.ts';
import { pickedPoints, polygonMesh, uniformMesh, usedVertices, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { randomNumbers } from '../numeric/random.ts';
import { type Triple } from '../numeric/vectors.ts';
import { booleanOf, type BooleanKind } from '../solids/boolean.ts';
import { ball, blend, implicitSurface, rod } from './implicit-surface.ts';
import { box, cylinder, quadSphere, torus } from './start-shapes.ts';

/** Dense surfaces that tests and benchmarks lay quads over. */

const asTriangles = (mesh: PolygonMesh): PolygonMesh => uniformMesh(mesh.positions, Int32Array.from(triangulate(mesh).triangles), 3);

/** A sphere of 20 mm radius. @param faces along each of the six sides it is made of */
export const denseSphere = (faces = 60): PolygonMesh => asTriangles(quadSphere(20, faces));
export const denseTorus = (sides = 200, tubeSides = 80): PolygonMesh => asTriangles(torus(30, 10, sides, tubeSides));

/** Two rings grown together: genus 2. */
export function doubleRing(cell = 0.8): PolygonMesh {
  const ring = (x: number, y: number, z: number) => Math.hypot(Math.hypot(x, z) - 16, y) - 6;
  return implicitSurface((x, y, z) => blend(ring(x - 18, y, z), ring(x + 18, y, z), 4), [-44, -9, -26], [44, 9, 26], cell);
}

/** A lump with dents, its vertices shaken along and across the surface as a scanner would. */
export function noisyScan(cell = 0.7, noise = 0.12, seed = 7): PolygonMesh {
  const lump = (x: number, y: number, z: number) => {
    const wave = 1.6 * Math.sin(0.22 * x + 1) * Math.cos(0.19 * z) + 1.2 * Math.cos(0.17 * y);
    return (Math.hypot(x, 1.25 * y, 0.9 * z) - 22 - wave) * 0.75;
  };
  const mesh = implicitSurface(lump, [-30, -26, -34], [30, 26, 34], cell);
  const random = randomNumbers(seed);
  for (let i = 0; i < mesh.positions.length; i++) mesh.positions[i] += noise * (random() + random() - 1);
  return mesh;
}

/** Half of a sphere, open: one border. */
export function halfShell(faces = 100): PolygonMesh {
  const whole = denseSphere(faces);
  const kept: number[] = [];
  for (let i = 0; i < whole.faceVertices.length; i += 3) {
    const corners = [...whole.faceVertices.subarray(i, i + 3)];
    if (corners.reduce((sum, v) => sum + whole.positions[3 * v + 1], 0) > 0) kept.push(...corners);
  }
  const { used, indices } = usedVertices(kept, whole.positions.length / 3);
  return uniformMesh(pickedPoints(whole.positions, used), indices, 3);
}

/** Three rings grown together in a row: genus 3. */
export function tripleRing(cell = 0.6): PolygonMesh {
  const ring = (x: number, y: number, z: number) => Math.hypot(Math.hypot(x, z) - 14, y) - 5;
  const all = (x: number, y: number, z: number) => blend(blend(ring(x - 31, y, z), ring(x, y, z), 3), ring(x + 31, y, z), 3);
  return implicitSurface(all, [-52, -8, -22], [52, 8, 22], cell);
}

/** A figure of rods that stands upright, mirrored in X = 0: head, trunk, two arms, two legs. */
export function longLimbed(cell = 0.5): PolygonMesh {
  const figure = (signedX: number, y: number, z: number) => {
    const x = Math.abs(signedX);
    let d = rod(x, y, z, [0, 40, 0], [0, 62, 1], 7.5, 8.5);
    d = blend(d, rod(x, y, z, [0, 62, 1], [0, 72, 2], 4, 4), 4);
    d = blend(d, ball(x, y, z, [0, 80, 3], 7.5), 3);
    d = blend(d, rod(x, y, z, [7, 64, 0], [25, 52, 0], 3.8, 3.2), 3);
    d = blend(d, rod(x, y, z, [25, 52, 0], [40, 44, 6], 3.2, 2.6), 1.5);
    d = blend(d, rod(x, y, z, [4.5, 40, 0], [8, 20, 2], 5, 4), 3);
    d = blend(d, rod(x, y, z, [8, 20, 2], [9, 2, -1], 4, 3), 1.5);
    return blend(d, rod(x, y, z, [9, 2, -1], [10, 2, 8], 3, 2.6), 1.5);
  };
  return implicitSurface(figure, [-48, -4, -14], [48, 92, 16], cell);
}

/** A block with a boss on it and a bore through both, as a solid modeler leaves it: flat faces, long thin triangles. Needs `loadSolids`. */
export function machinedBlock(sides = 48): PolygonMesh {
  const block = Cage.fromPolygons(box({ x: 60, y: 20, z: 40 }, { x: 1, y: 1, z: 1 }));
  const withBoss = machined(block, moved(cylinder(13, 20, sides, 1, true), [0, 12, 0]), 'join');
  return asTriangles(machined(withBoss, Cage.fromPolygons(cylinder(6, 60, sides, 1, true)), 'subtract').toPolygons());
}

/**
 * A block with one to four pegs, rods, bars or balls joined to it or cut out, each somewhere: as parts come, with edges that meet at any
 * angle, narrow ledges, and triangles in fans.
 */
export function machinedPart(seed: number): PolygonMesh {
  const random = randomNumbers(seed);
  const from = (least: number, most: number) => least + (most - least) * random();
  let part = Cage.fromPolygons(box({ x: from(40, 70), y: from(15, 30), z: from(30, 50) }, { x: 1, y: 1, z: 1 }));
  const tools = 1 + Math.floor(from(0, 3.99));
  for (let k = 0; k < tools; k++) {
    const kind = Math.floor(from(0, 4));
    const [x, y, z]: Triple = [from(-18, 18), from(-4, 4), from(-12, 12)];
    const tool = [
      () => moved(cylinder(from(4, 9), from(40, 60), 32, 1, true), [x, y + from(0, 20), z]),
      () => moved(box({ x: from(8, 20), y: from(30, 50), z: from(8, 20) }, { x: 1, y: 1, z: 1 }), [x, y + from(5, 25), z]),
      () => moved(lying(cylinder(from(4, 8), 120, 32, 1, true)), [x, y, z]),
      () => moved(quadSphere(from(8, 14), 12), [x, y + 12, z])
    ][kind]();
    part = machined(part, tool, random() < 0.5 ? 'join' : 'subtract');
  }
  return asTriangles(part.toPolygons());
}

const machined = (a: Cage, b: Cage, kind: BooleanKind): Cage => booleanOf(a, b, kind).cage;

function moved(mesh: PolygonMesh, by: Triple): Cage {
  for (let i = 0; i < mesh.positions.length; i++) mesh.positions[i] += by[i % 3];
  return Cage.fromPolygons(mesh);
}

/** Turned from along Y to along X. */
function lying(mesh: PolygonMesh): PolygonMesh {
  for (let i = 0; i < mesh.positions.length; i += 3) mesh.positions.set([mesh.positions[i + 1], -mesh.positions[i]], i);
  return mesh;
}

/** Wedges of some degrees beside each other on a plate's edge: feature corners too sharp for a quad. */
export function wedge(degrees: number): PolygonMesh {
  const [length, width] = [40, 20];
  const rise = length * Math.tan((degrees * Math.PI) / 180);
  const points = [0, width].flatMap((z) => [
    [0, 0, z],
    [length, 0, z],
    [length, rise, z]
  ]);
  return polygonMesh(points, [
    [0, 2, 1],
    [3, 4, 5],
    [0, 1, 4, 3],
    [1, 2, 5, 4],
    [2, 0, 3, 5]
  ]);
}

/** A flat plate so many mm thick. */
export const thinPlate = (thickness: number): PolygonMesh => asTriangles(box({ x: 40, y: thickness, z: 30 }, { x: 40, y: 1, z: 30 }));

/**
 * A bar as an engineering program tessellates it: one edge is sharp at one end and rounded ever more towards the other, in long thin
 * triangles, with ends that are fans.
 */
export function fadingBar(): PolygonMesh {
  const [side, arc, stations] = [30, 24, [0, 8, 20, 40, 80]];
  const points: number[][] = [];
  for (const z of stations) {
    const radius = (10 * z) / 80;
    points.push([0, 0, z], [side, 0, z]);
    for (let i = 0; i <= arc; i++) {
      const angle = (i / arc) * (Math.PI / 2);
      points.push([side - radius + radius * Math.cos(angle), side - radius + radius * Math.sin(angle), z]);
    }
    points.push([0, side, z]);
  }
  const round = arc + 4;
  const faces: number[][] = [];
  for (let s = 0; s + 1 < stations.length; s++)
    for (let i = 0; i < round; i++) {
      const [a, b] = [s * round + i, s * round + ((i + 1) % round)];
      faces.push([a, b, b + round], [a, b + round, a + round]);
    }
  for (let i = 1; i + 1 < round; i++) {
    const last = (stations.length - 1) * round;
    faces.push([0, i + 1, i], [last, last + i, last + i + 1]);
  }
  return polygonMesh(points, faces);
}
