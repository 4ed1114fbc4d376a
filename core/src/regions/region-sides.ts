import { dot, subtract, unit } from '../numeric/vectors.ts';
import { counted } from '../operations/shared/words.ts';
import { type Facets } from './facets.ts';

/** The border of a region: loops of vertices, and which of these are corners. */
export interface RegionSides {
  /** vertices of each border loop, in order, the region on their left */
  loops: number[][];
  /** corners of each loop, in order */
  corners: number[][];
  /** why it cannot be one face of a cage; nothing where it can */
  problem?: string;
}

/** Degrees from which a border turns a corner where no third region meets it. */
const TURN = 50;
/** Corners that a face of a cage has at least, and at most. */
export const [FEWEST, MOST] = [3, 6];

/** Borders, corners and problems of all regions of a triangle mesh. @param regionOf by triangle */
export function sidesOf(facets: Facets, regionOf: Int32Array, regions: number): RegionSides[] {
  const sides = Array.from({ length: regions }, (): RegionSides => ({ loops: [], corners: [] }));
  const { triangles, across } = facets;
  const next = (c: number) => (c % 3 === 2 ? c - 2 : c + 1);
  const beyond = (c: number) => (across[c] < 0 ? -1 : regionOf[Math.floor(across[c] / 3)]);
  const isBorder = (c: number) => beyond(c) !== regionOf[Math.floor(c / 3)];
  const seen = new Uint8Array(triangles.length);
  const onwards = (c: number): number => {
    let d = next(c);
    // round the vertex, within the region
    for (let turns = 0; turns < 10_000 && !isBorder(d); turns++) d = next(across[d]);
    return d;
  };
  for (let start = 0; start < triangles.length; start++) {
    if (seen[start] || !isBorder(start)) continue;
    const loop: number[] = [];
    for (let c = start; !seen[c]; c = onwards(c)) {
      seen[c] = 1;
      loop.push(c);
    }
    const own = sides[regionOf[Math.floor(start / 3)]];
    own.loops.push(loop.map((c) => triangles[c]));
    own.corners.push(
      loop
        .filter((c, i) => {
          const before = loop[(i + loop.length - 1) % loop.length];
          return beyond(before) !== beyond(c) || turnsAt(facets, before, c, next);
        })
        .map((c) => triangles[c])
    );
  }
  for (const side of sides) side.problem = problemOf(side);
  return sides;
}

/** Whether a border turns a corner from one edge to the next. */
function turnsAt(facets: Facets, before: number, c: number, next: (c: number) => number): boolean {
  const { triangles } = facets;
  const way = (edge: number) => unit(subtract(facets.at(triangles[next(edge)]), facets.at(triangles[edge])));
  return dot(way(before), way(c)) < Math.cos((TURN * Math.PI) / 180);
}

function problemOf({ loops, corners }: RegionSides): string | undefined {
  if (loops.length === 0) return 'It closes in itself, and has no border to be a face with.';
  if (loops.length === 2) return 'It runs round as a ring: two cuts across it make faces of it.';
  if (loops.length > 2) return `It has ${counted(loops.length - 1, 'hole')}: cuts from them to its outer border make faces of it.`;
  const many = corners[0].length;
  if (many < FEWEST) return `Its border has ${many === 0 ? 'no corner' : counted(many, 'corner')}: a face has ${FEWEST} at least.`;
  if (many > MOST) return `Its border has ${many} corners: a face has ${MOST} at most.`;
  return undefined;
}

/** Sides of borders, by the corners that they run from and to: vertices in order, both corners among them. */
export function sidesAlong(loops: readonly (readonly number[])[], isCorner: ReadonlySet<number>): Map<string, number[]> {
  const sides = new Map<string, number[]>();
  for (const loop of loops) {
    const corners = [...loop.keys()].filter((i) => isCorner.has(loop[i]));
    corners.forEach((from, i) => {
      const to = corners[(i + 1) % corners.length];
      const many = (to - from + loop.length) % loop.length;
      sides.set(
        `${loop[from]} ${loop[to]}`,
        Array.from({ length: many + 1 }, (_, k) => loop[(from + k) % loop.length])
      );
    });
  }
  return sides;
}

/** The two vertices round the middle of a side, or the one in it, twice: the same from both its ends. */
export const middleOfSide = (side: readonly number[]): [number, number] => [
  side[Math.floor((side.length - 1) / 2)],
  side[Math.ceil((side.length - 1) / 2)]
];
