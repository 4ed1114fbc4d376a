import { Cage } from '../mesh/cage.ts';
import { splitEdge, splitFacesAlong } from '../mesh/euler-operators.ts';
import { type PolygonMesh, polygonMesh } from '../mesh/polygon-mesh.ts';
import { type Triple } from '../numeric/vectors.ts';
import { ringThrough } from '../select/loops.ts';

/** Half the width of the duct, the radius of its long edges, and that of the bend along its middle, mm. */
const [HALF, ROUND, BEND] = [20, 7, 38];
/** Length of the straight ends, mm, and the rows they have; rows of the bend. */
const [STRAIGHT, STRAIGHT_ROWS, BEND_ROWS] = [36, 3, 6];
/** Flange at the upper end: how far it stands out, and how thick it is, mm. */
const [FLANGE, THICK] = [10, 8];
/** Rows of the bend that the cut runs through before it ends. */
const CUT_ROWS = 3;

/** The duct's section: a square with rounded edges, four edges a side. */
function section(half: number, round: number): [number, number][] {
  const corner = (sx: number, sy: number, from: number): [number, number][] =>
    [0, 1, 2].map((i) => {
      const a = ((from + 45 * i) * Math.PI) / 180;
      return [sx * (half - round) + round * Math.cos(a), sy * (half - round) + round * Math.sin(a)];
    });
  const middle = (x: number, y: number): [number, number] => [x * half, y * half];
  return [
    ...corner(1, -1, -90),
    middle(1, 0),
    ...corner(1, 1, 0),
    middle(0, 1),
    ...corner(-1, 1, 90),
    middle(-1, 0),
    ...corner(-1, -1, 180),
    middle(0, -1)
  ];
}

/** Frames along the elbow: up, round the bend, and along. */
function frames(): { at: Triple; across: Triple }[] {
  const rows: { at: Triple; across: Triple }[] = [];
  for (let i = 0; i <= STRAIGHT_ROWS; i++) rows.push({ at: [0, (STRAIGHT * i) / STRAIGHT_ROWS, 0], across: [1, 0, 0] });
  for (let i = 1; i <= BEND_ROWS; i++) {
    const a = (Math.PI * i) / (2 * BEND_ROWS);
    rows.push({ at: [BEND - BEND * Math.cos(a), STRAIGHT + BEND * Math.sin(a), 0], across: [Math.cos(a), -Math.sin(a), 0] });
  }
  for (let i = 1; i <= STRAIGHT_ROWS; i++) rows.push({ at: [BEND + (STRAIGHT * i) / STRAIGHT_ROWS, STRAIGHT + BEND, 0], across: [0, -1, 0] });
  return rows;
}

/**
 * Elbow of the vent over the engine room, as the drawing office left it: a cut was begun in the bend and never run out, so that two faces there have
 * five sides; and its flange is made of clean quads that nothing braces.
 */
export function ventElbow(): PolygonMesh {
  const points: Triple[] = [];
  const faces: number[][] = [];
  const rim = section(HALF, ROUND);
  const many = rim.length;
  const rings = frames().map(({ at, across }) => {
    const first = points.length;
    for (const [x, z] of rim) points.push([at[0] + x * across[0], at[1] + x * across[1], at[2] + z]);
    return first;
  });
  const strip = (a: number, b: number) => {
    for (let i = 0; i < many; i++) faces.push([a + i, b + i, b + ((i + 1) % many), a + ((i + 1) % many)]);
  };
  rings.slice(1).forEach((ring, i) => strip(rings[i], ring));
  // the flange stands out at the lower end, and goes down from there
  const outer = section(HALF + FLANGE, ROUND + FLANGE / 2);
  const ringAt = (y: number): number => {
    const first = points.length;
    for (const [x, z] of outer) points.push([x, y, z]);
    return first;
  };
  const [top, foot] = [ringAt(0), ringAt(-THICK)];
  strip(top, rings[0]);
  strip(foot, top);
  const cage = Cage.fromPolygons(polygonMesh(points, faces));
  beginCut(cage, rings[STRAIGHT_ROWS + 1], many);
  return cage.toPolygons();
}

/** Cuts a loop along the outside of the bend that ends after a few quads. */
function beginCut(cage: Cage, ring: number, many: number): void {
  // an edge of a ring on the outside of the bend: loops along the duct cross it
  const outside = [...Array(many).keys()].reduce((a, b) =>
    cage.position(ring + b)[1] - cage.position(ring + b)[0] > cage.position(ring + a)[1] - cage.position(ring + a)[0] ? b : a
  );
  const half = cage.findHalfEdge(ring + ((outside + 1) % many), ring + outside);
  const { halves } = ringThrough(cage, half);
  const from = halves.findIndex((h) => h >> 1 === half >> 1);
  splitFacesAlong(
    cage,
    halves.slice(from, from + CUT_ROWS + 1).map((h) => splitEdge(cage, h >> 1, 0.5))
  );
}
