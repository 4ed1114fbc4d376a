import { type Cage } from '../../mesh/cage.ts';
import { splitEdge } from '../../mesh/euler-operators.ts';
import { quadBand } from '../../mesh/quad-band.ts';
import { replaceFaces, type NewFace } from '../../mesh/replace-faces.ts';
import { isInside } from '../../mesh/slice.ts';
import { fromPlane, inPlane, type Plane } from '../../numeric/best-fit.ts';
import { closestOnSegment, subtract, type Triple } from '../../numeric/vectors.ts';
import { selectEdges, selectFaces } from '../../select/selection.ts';
import { refuse } from '../refusal.ts';
import { outlineOf, runs } from '../shared/extrude-walls.ts';

export interface PanelCells {
  /** the whole cells, and the quads that join them to the panel's border */
  cells: number[];
  band: number[];
  /** vertices put on the panel's border */
  added: number;
  /** edges inside the panel that were cleared first */
  cleared: number;
}

const MOST_CELLS = 250_000;

/** A grid of cells over a panel, in the panel's frame; cell (i, j) is taken or not. */
interface Lattice {
  low: [number, number];
  step: [number, number];
  count: [number, number];
  taken: Set<number>;
}

/**
 * Clears a flat panel and fits whole near-square cells into it, joined to its border by one band of quads. Border edges get
 * points where the rows of cells come out; faces beside get those corners too.
 * @param frame the panel's plane, u and v along its cells
 * @param size wished side of a cell in mm
 * @param exact keep that size, with what is left over in the band; else the nearest size that divides the panel
 * @throws OperationRefused where the panel has a hole, is not flat, or too small for one cell
 */
export function fitPanelCells(cage: Cage, panel: number[], frame: Plane, size: number, exact = false): PanelCells {
  let outline = singleOutline(cage, panel);
  const flat = outline.map((h) => inPlane(frame, cage.position(cage.origin[h])));
  const [, , off] = flat.reduce((a, b) => (Math.abs(b[2]) > Math.abs(a[2]) ? b : a));
  if (Math.abs(off) > 0.1 * size)
    refuse(
      `The panel is not flat: its border is up to ${Math.abs(off).toFixed(2)} mm off its plane.`,
      selectFaces(panel),
      'Flatten it first, or pick a flat part of it.'
    );
  const area = extentOf(flat, 0).extent * extentOf(flat, 1).extent;
  if (area / size ** 2 > MOST_CELLS)
    refuse(
      `Cells of ${size} mm would be ${Math.round(area / size ** 2).toLocaleString('en')} in number.`,
      selectFaces(panel),
      `Type ${Math.sqrt(area / MOST_CELLS).toPrecision(2)} mm or more.`
    );
  const lattice = latticeIn(flat, size, exact);
  if (lattice.taken.size === 0)
    refuse(`No whole cell of ${size} mm fits into the panel.`, selectFaces(panel), `Type a smaller size, such as ${(size / 2).toPrecision(2)} mm.`);
  const rim = rimOf(lattice);
  const before = outline.length;
  outline = outline.flatMap((h) => pieces(cage, h, fractionsAlong(cage, h, frame, lattice)));
  // one point more makes the counts together even
  if ((outline.length + rim.length) % 2 !== 0) {
    const longest = outline.reduce((a, b) => (cage.edgeLength(b >> 1) > cage.edgeLength(a >> 1) ? b : a));
    outline = outline.flatMap((h) => (h === longest ? pieces(cage, h, [0.5]) : [h]));
  }
  return { ...fill(cage, panel, outline, lattice, rim, frame), added: outline.length - before };
}

/** The panel's outline, in order. */
function singleOutline(cage: Cage, panel: number[]): number[] {
  const halves = outlineOf(cage, panel);
  if (halves.length === 0) refuse('The faces close on themselves: they are no panel.', selectFaces(panel), 'Pick the faces of one flat panel.');
  const [row, ...more] = runs(cage, halves);
  const corners = new Set(halves.map((h) => cage.origin[h]));
  if (more.length > 0 || !row.closed || corners.size !== halves.length)
    refuse(
      'The panel has a hole, or touches itself in a vertex.',
      selectEdges(halves.map((h) => h >> 1)),
      'Pick a panel with one outline, or slice by planes.'
    );
  return row.halves;
}

/** Nearer to an end of an edge than this share of a step, no row of cells comes out. */
const NEAR_END = 0.4;

/** Where rows of cells come out on a border edge, as fractions of it; equal pieces of about a cell's side where it lies askew to them. */
function fractionsAlong(cage: Cage, h: number, frame: Plane, { low, step, count }: Lattice): number[] {
  const [from, to] = [cage.origin[h], cage.target(h)].map((v) => inPlane(frame, cage.position(v)));
  const way = [to[0] - from[0], to[1] - from[1]];
  const long = Math.hypot(...way);
  for (const k of [0, 1]) {
    if (Math.abs(way[1 - k]) > 1e-6 * long) continue;
    const spare = (NEAR_END * step[k]) / long;
    return Array.from({ length: count[k] + 1 }, (_, i) => (low[k] + i * step[k] - from[k]) / way[k])
      .filter((t) => t > spare && t < 1 - spare)
      .sort((a, b) => a - b);
  }
  const equal = Math.max(1, Math.round(Math.hypot(way[0] / step[0], way[1] / step[1])));
  return Array.from({ length: equal - 1 }, (_, i) => (i + 1) / equal);
}

/** Splits a half-edge at fractions of it, which rise, and gives the pieces in order. */
function pieces(cage: Cage, h: number, fractions: number[]): number[] {
  const row: number[] = [];
  let [rest, gone] = [h, 0];
  for (const t of fractions) {
    const [origin, target] = [cage.origin[rest], cage.target(rest)];
    const share = (t - gone) / (1 - gone);
    // the fraction counts from the edge's even half
    const v = splitEdge(cage, rest >> 1, (rest & 1) === 0 ? share : 1 - share);
    row.push(cage.findHalfEdge(origin, v));
    rest = cage.findHalfEdge(v, target);
    gone = t;
  }
  return [...row, rest];
}

/** The cells whose corners and middle lie inside the outline, half a cell or more away from it: the largest piece that hangs together. */
function latticeIn(flat: Triple[], size: number, exact: boolean): Lattice {
  const axis = (k: 0 | 1) => {
    const { low, extent } = extentOf(flat, k);
    const count = Math.max(1, Math.round(extent / size));
    if (!exact) return { low, count, step: extent / count };
    // in the middle: what is left over is shared out to both sides
    const whole = Math.max(1, Math.floor(extent / size + 1e-9));
    return { low: low + (extent - whole * size) / 2, count: whole, step: size };
  };
  const [a, b] = [axis(0), axis(1)];
  const margin = 0.5 * Math.min(a.step, b.step);
  const clear = new Map<number, boolean>();
  const isClear = (i: number, j: number) => {
    const key = i * (b.count + 1) + j;
    if (!clear.has(key)) {
      const p: Triple = [a.low + i * a.step, b.low + j * b.step, 0];
      clear.set(key, isInside(p, flat, [0, 0, 1]) && distanceTo(flat, p) >= margin);
    }
    return clear.get(key)!;
  };
  const free = new Set<number>();
  for (let i = 0; i < a.count; i++)
    for (let j = 0; j < b.count; j++) if (isClear(i, j) && isClear(i + 1, j) && isClear(i, j + 1) && isClear(i + 1, j + 1)) free.add(i * b.count + j);
  return { low: [a.low, b.low], step: [a.step, b.step], count: [a.count, b.count], taken: largestPiece(free, b.count) };
}

function extentOf(flat: Triple[], k: 0 | 1): { low: number; extent: number } {
  const ways = flat.map((p) => p[k]);
  const low = Math.min(...ways);
  return { low, extent: Math.max(...ways) - low };
}

function distanceTo(outline: Triple[], p: Triple): number {
  let least = Infinity;
  outline.forEach((a, i) => {
    const [x, y] = subtract(p, closestOnSegment(p, [a[0], a[1], 0], [...outline[(i + 1) % outline.length].slice(0, 2), 0]));
    least = Math.min(least, Math.hypot(x, y));
  });
  return least;
}

/** Cells that hang together over sides, without cells that touch in a corner only. */
function largestPiece(free: Set<number>, rows: number): Set<number> {
  const sides = (c: number) => [c - rows, c + rows, ...(c % rows > 0 ? [c - 1] : []), ...((c + 1) % rows > 0 ? [c + 1] : [])];
  let best: number[] = [];
  const left = new Set(free);
  for (const seed of free) {
    if (!left.delete(seed)) continue;
    const piece = [seed];
    for (const c of piece) for (const d of sides(c)) if (left.delete(d)) piece.push(d);
    if (piece.length > best.length) best = piece;
  }
  const taken = new Set(best);
  for (let again = true; again;) {
    again = false;
    for (const c of taken)
      for (const [d, e, f] of [
        [c + rows + 1, c + rows, c + 1],
        [c + rows - 1, c + rows, c - 1]
      ])
        if (taken.has(d) && Math.abs((d % rows) - (c % rows)) === 1 && !taken.has(e) && !taken.has(f)) again = taken.delete(d) || again;
  }
  return taken.size === best.length ? taken : largestPiece(taken, rows);
}

/** Lattice points round the taken cells, counter-clockwise. */
function rimOf({ count, taken }: Lattice): number[] {
  const rows = count[1];
  const next = new Map<number, number>();
  const point = (i: number, j: number) => i * (rows + 1) + j;
  for (const c of taken) {
    const [i, j] = [Math.floor(c / rows), c % rows];
    if (j === 0 || !taken.has(c - 1)) next.set(point(i, j), point(i + 1, j));
    if (!taken.has(c + rows)) next.set(point(i + 1, j), point(i + 1, j + 1));
    if (j === rows - 1 || !taken.has(c + 1)) next.set(point(i + 1, j + 1), point(i, j + 1));
    if (!taken.has(c - rows)) next.set(point(i, j + 1), point(i, j));
  }
  const [start] = next.keys();
  const rim = [start];
  for (let p = next.get(start)!; p !== start; p = next.get(p)!) rim.push(p);
  return rim;
}

function fill(cage: Cage, panel: number[], outline: number[], lattice: Lattice, rim: number[], frame: Plane): Omit<PanelCells, 'added'> {
  const rows = lattice.count[1];
  const corners = outline.map((h) => cage.origin[h]);
  const vertexOf = new Map<number, number>();
  const vertex = (point: number) => {
    if (!vertexOf.has(point)) {
      const [i, j] = [Math.floor(point / (rows + 1)), point % (rows + 1)];
      vertexOf.set(point, cage.addVertex(...fromPlane(frame, [lattice.low[0] + i * lattice.step[0], lattice.low[1] + j * lattice.step[1], 0])));
    }
    return vertexOf.get(point)!;
  };
  const like = panel[0];
  const added: NewFace[] = [...lattice.taken].map((c) => {
    const p = Math.floor(c / rows) * (rows + 1) + (c % rows);
    return { corners: [p, p + rows + 1, p + rows + 2, p + 1].map(vertex), like };
  });
  const places = (vertices: number[]) => vertices.map((v) => cage.position(v));
  const inner = rim.map(vertex);
  const band = quadBand(places(corners), places(inner), frame.normal)!;
  for (const face of band) added.push({ corners: [...face.outer.map((k) => corners[k]), ...face.inner.map((k) => inner[k])], like });
  const inside = new Set(panel.flatMap((f) => cage.loopOf(cage.faceEdge[f]).map((h) => h >> 1)));
  for (const h of outline) inside.delete(h >> 1);
  const faces = replaceFaces(cage, { gone: panel, added });
  return { cells: faces.slice(0, lattice.taken.size), band: faces.slice(lattice.taken.size), cleared: inside.size };
}
