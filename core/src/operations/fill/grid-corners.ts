import { gridPlaceOf, MOST_GRID_EDGES, type FillSettings } from '../../fill/fill-hole.ts';
import { type Hole } from '../../fill/hole.ts';
import { type Grip, type Params, type StandNumber } from '../operation.ts';

type PlaceSettings = Pick<FillSettings, 'rows' | 'offset' | 'plain'>;

/** Whether a grid of its own can be set up in a hole. */
const isSettable = ({ vertices }: Hole): boolean => vertices.length % 2 === 0 && vertices.length >= 4 && vertices.length <= MOST_GRID_EDGES;

/** Tells the parameters of a grid with its first corner at a border vertex and so many edges on its first side. */
function placing(hole: Hole, { plain }: PlaceSettings): (start: number, rows: number) => Params {
  const n = hole.vertices.length;
  const best = new Map<number, number>();
  return (start, rows) => {
    if (!best.has(rows)) best.set(rows, gridPlaceOf(hole, { plain, rows }).start);
    const turn = (((start - best.get(rows)!) % n) + n) % n;
    // half a turn on, the grid is the same
    const half = turn % (n / 2);
    return { rows, offset: half > n / 4 ? half - n / 2 : half };
  };
}

/** The four corners of a grid, which are dragged along the border; opposite sides keep equal counts. */
export function gridCorners(hole: Hole, settings: PlaceSettings): Grip[] {
  if (!isSettable(hole)) return [];
  const n = hole.vertices.length;
  const { start, a, b } = gridPlaceOf(hole, settings);
  const placed = placing(hole, settings);
  const at = (i: number) => hole.places[((i % n) + n) % n];
  return [0, a, a + b, 2 * a + b].map((along, corner): Grip => {
    const second = corner % 2 === 1;
    const half = corner > 1 ? n / 2 : 0;
    // the first and third corner turn the grid, the second and fourth divide its sides otherwise
    const stops = Array.from({ length: second ? n / 2 - 1 : n }, (_, k) => {
      const i = second ? start + half + k + 1 : k;
      return { at: at(i), params: second ? placed(start, k + 1) : placed(i - half, a) };
    });
    return { label: `Corner ${corner + 1} of the grid`, from: at(start + along), at: at(start + along), stops };
  });
}

/** How many edges a grid has on its sides, written on two of them. */
export function gridCounts(hole: Hole, settings: PlaceSettings): StandNumber[] {
  if (!isSettable(hole)) return [];
  const n = hole.vertices.length;
  const { start, a, b } = gridPlaceOf(hole, settings);
  const placed = placing(hole, settings);
  const middle = (from: number, count: number) => {
    const [p, q] = [hole.places[(from + Math.floor(count / 2)) % n], hole.places[(from + Math.ceil(count / 2)) % n]];
    return p.map((c, k) => (c + q[k]) / 2) as [number, number, number];
  };
  const number = (label: string, from: number, value: number, rowsOf: (typed: number) => number): StandNumber => ({
    label,
    at: middle(from, value),
    value,
    min: 1,
    max: n / 2 - 1,
    params: (typed) => placed(start, rowsOf(typed))
  });
  return [number('Edges on the first side', start, a, (typed) => typed), number('Edges on the second side', start + a, b, (typed) => n / 2 - typed)];
}
