import { type Cage } from '../../mesh/cage.ts';
import { between, length, mean, scaled, subtract, add, unit, type Triple } from '../../numeric/vectors.ts';
import { Matrix, solve } from 'ml-matrix';

/**
 * Fills a patch of k sides with equally many edges each by quads: a grid at every corner, which meet in the middle in one
 * vertex (an even number of edges a side) or round one k-gon (odd).
 * @param sides vertex ids of each side in order round the patch; the last of one is the first of the next
 * @param make adds a vertex at a place
 * @returns corner lists, in the sense of the sides
 */
export function cornerPatch(cage: Cage, sides: number[][], make: (p: Triple) => number): number[][] {
  const k = sides.length;
  const segments = sides[0].length - 1;
  if (segments === 1) return [sides.map((side) => side[0])];
  const half = Math.floor(segments / 2);
  const odd = segments % 2 === 1;
  const at = (v: number) => cage.position(v);
  const ball = commonBall(sides.flat().map(at));
  const place = (p: Triple): number => make(ball ? add(ball.centre, scaled(unit(subtract(p, ball.centre)), ball.radius)) : p);
  const middle = mean(sides.flat().map(at));
  const centre = odd ? -1 : place(middle);
  // grids[j][r][c]: r steps from corner j along its side, c steps back along the side before
  const grids = sides.map((side, j) => {
    const before = sides[(j + k - 1) % k];
    const inner = odd ? place(between(middle, at(side[0]), 1 / segments)) : centre;
    const grid: number[][] = [];
    for (let r = 0; r <= half; r++) {
      grid.push([]);
      for (let c = 0; c <= half; c++) grid[r].push(c === 0 ? side[r] : r === 0 ? before[segments - c] : r === half && c === half ? inner : -1);
    }
    return grid;
  });
  grids.forEach((grid, j) => {
    const next = grids[(j + 1) % k];
    for (let c = 1; c < half; c++) {
      // rows towards the middle lie between the side and the inner corner; an even grid shares them with its neighbour
      const here = () => place(between(at(sides[j][half]), at(grid[half][half]), c / half));
      const there = () => place(between(at(sides[j][segments - half]), at(next[half][half]), c / half));
      grid[half][c] = here();
      next[c][half] = odd ? there() : grid[half][c];
    }
  });
  for (const grid of grids)
    for (let r = 1; r < half; r++)
      for (let c = 1; c < half; c++) {
        const across = between(at(grid[r][0]), at(grid[r][half]), c / half);
        const along = between(at(grid[0][c]), at(grid[half][c]), r / half);
        grid[r][c] = place(between(across, along, 0.5));
      }
  const faces: number[][] = [];
  grids.forEach((grid, j) => {
    for (let r = 0; r < half; r++) for (let c = 0; c < half; c++) faces.push([grid[r][c], grid[r + 1][c], grid[r + 1][c + 1], grid[r][c + 1]]);
    if (!odd) return;
    const next = grids[(j + 1) % k];
    for (let c = 0; c < half; c++) faces.push([grid[half][c], next[c][half], next[c + 1][half], grid[half][c + 1]]);
  });
  if (odd) faces.push(grids.map((grid) => grid[half][half]));
  return faces;
}

/** The ball that all points lie on, where there is one (least squares, within 2 % of its radius). */
function commonBall(points: Triple[]): { centre: Triple; radius: number } | undefined {
  const base = mean(points);
  const size = Math.max(...points.map((p) => length(subtract(p, base)))) || 1;
  const near = points.map((p) => scaled(subtract(p, base), 1 / size));
  const rows = new Matrix(near.map((p) => [...p, 1]));
  const squares = Matrix.columnVector(near.map((p) => -(p[0] ** 2 + p[1] ** 2 + p[2] ** 2)));
  try {
    const [a, b, c, d] = solve(rows.transpose().mmul(rows), rows.transpose().mmul(squares)).to1DArray();
    const centre: Triple = [-a / 2, -b / 2, -c / 2];
    const radius = Math.sqrt(length(centre) ** 2 - d);
    if (!(radius > 0.1 && radius < 20) || near.some((p) => Math.abs(length(subtract(p, centre)) - radius) > 0.02 * radius)) return undefined;
    return { centre: add(base, scaled(centre, size)), radius: radius * size };
  } catch {
    // all in one plane: no ball
    return undefined;
  }
}
