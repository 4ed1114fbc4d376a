import { quadrangulate } from '../mesh/quadrangulate.ts';
import { add, between, length, mean, scaled, subtract, type Triple } from '../numeric/vectors.ts';
import { fanOf, fourSided, planOf, polesOf, type Layout } from './patch-patterns.ts';

/** A row of points, by number, from one corner of a patch to the next. */
export type Side = readonly number[];

const edgesOf = (side: Side) => side.length - 1;

/**
 * Quads over a border of points whose places are known. Points keep their numbers, 0 up to the length of the border; those
 * inside follow.
 */
export class Patch {
  readonly quads: number[][] = [];
  readonly places: Triple[];
  /** grids the quads belong to: points by column and row; the others belong to none */
  readonly blocks: number[][][] = [];
  /** points on the border */
  readonly rim: number;

  /** @param normal direction from which the border runs counter-clockwise */
  constructor(
    border: readonly Triple[],
    private readonly normal: Triple
  ) {
    this.places = [...border];
    this.rim = border.length;
  }

  /** New points between two, evenly spaced: with both ends `edges + 1` of them. */
  line(from: number, to: number, edges: number): number[] {
    const [p, q] = [this.places[from], this.places[to]];
    const inner = Array.from({ length: edges - 1 }, (_, k) => this.places.push(between(p, q, (k + 1) / edges) as Triple) - 1);
    return [from, ...inner, to];
  }

  /**
   * Lays quads between sides that follow each other round a patch, two to eight, each beginning where the one before ends.
   * The sum of their edges has to be even.
   */
  lay(sides: readonly Side[]): void {
    const counts = sides.map(edgesOf);
    if (counts.length === 4) return this.layFour(sides, counts);
    const plan = planOf(counts);
    if (plan?.kind === 'fan') return this.layBlocks(sides, fanOf(plan.spokes));
    if (plan?.kind === 'adapt') return this.layAdapted(sides, plan);
    const parted = this.bestCut(sides);
    if (!parted) return this.layWithoutPoints(sides);
    const line = this.line(parted.from, parted.to, parted.edges);
    this.lay([...parted.first, [...line].reverse()]);
    this.lay([...parted.second, line]);
  }

  /** Four sides, turned so that the first is the one with most edges more than its opposite. */
  private layFour(sides: readonly Side[], [a, b, c, d]: number[], mirrored = false): void {
    const [more, beside] = [a - c, b - d];
    const on = (by: number) => {
      const turned = [...sides.slice(by), ...sides.slice(0, by)];
      this.layFour(turned, turned.map(edgesOf), mirrored);
    };
    if (Math.abs(beside) > Math.abs(more)) return on(1);
    if (more < 0) return on(2);
    if (beside >= 0) return this.layBlocks(sides, fourSided(a, b, c, d), mirrored);
    const back = [0, 3, 2, 1].map((i) => [...sides[i]].reverse());
    this.layFour(back, back.map(edgesOf), !mirrored);
  }

  /** A strip of four sides along one that has too many edges, or too few, and what is left. */
  private layAdapted(sides: readonly Side[], { side, rows, edges }: { side: number; rows: number; edges: number }): void {
    const k = sides.length;
    const [before, after] = [sides[(side + k - 1) % k], sides[(side + 1) % k]];
    const line = this.line(before[edgesOf(before) - rows], after[rows], edges);
    this.lay([sides[side], after.slice(0, rows + 1), [...line].reverse(), before.slice(edgesOf(before) - rows)]);
    const rest = [...sides];
    rest[(side + k - 1) % k] = before.slice(0, edgesOf(before) - rows + 1);
    rest[side] = line;
    rest[(side + 1) % k] = after.slice(rows);
    this.lay(rest);
  }

  /**
   * Lays the blocks of a layout as grids. Block corners with nothing between them are one; those inside start as far from
   * each other as their neighbours let them.
   */
  private layBlocks(sides: readonly Side[], { blocks, border }: Layout, mirrored = false): void {
    const point = new Map<number, number>();
    const ring = sides.flatMap((side) => side.slice(0, -1));
    const ringAt = new Map(ring.map((p, i) => [p, i]));
    for (const [key, side, at] of border) point.set(key, sides[side][at]);
    const merged = mergedKeys(blocks);
    for (const key of [...point.keys()]) point.set(merged(key), point.get(key)!);
    this.placeKeys(blocks, merged, point);
    const lines = new Map<string, number[]>();
    const lineBetween = (a: number, b: number, edges: number): number[] => {
      const [p, q] = [point.get(merged(a))!, point.get(merged(b))!];
      const [i, j] = [ringAt.get(p), ringAt.get(q)];
      if (i !== undefined && j !== undefined) {
        const along = (from: number) => Array.from({ length: edges + 1 }, (_, k) => ring[(from + k) % ring.length]);
        if ((j - i + ring.length) % ring.length === edges) return along(i);
        if ((i - j + ring.length) % ring.length === edges) return along(j).reverse();
      }
      const [low, high] = p < q ? [p, q] : [q, p];
      const name = `${low} ${high}`;
      if (!lines.has(name)) lines.set(name, this.line(low, high, edges));
      return p < q ? lines.get(name)! : [...lines.get(name)!].reverse();
    };
    for (const {
      corners: [a, b, c, d],
      across,
      up
    } of blocks) {
      if (across === 0 || up === 0) continue;
      this.grid([lineBetween(a, b, across), lineBetween(b, c, up), lineBetween(c, d, across), lineBetween(d, a, up)], mirrored);
    }
  }

  /** Gives block corners inside a point each, in the middle of their neighbours. */
  private placeKeys(blocks: Layout['blocks'], merged: (key: number) => number, point: Map<number, number>): void {
    const around = new Map<number, Set<number>>();
    for (const { corners, across, up } of blocks)
      corners.forEach((key, i) => {
        const [a, b] = [merged(key), merged(corners[(i + 1) % 4])];
        if ((i % 2 === 0 ? across : up) === 0 || a === b) return;
        around.set(a, (around.get(a) ?? new Set()).add(b));
        around.set(b, (around.get(b) ?? new Set()).add(a));
      });
    const inside = [...around.keys()].filter((key) => !point.has(key));
    const middle = mean([...point.values()].map((p) => this.places[p]));
    for (const key of inside) point.set(key, this.places.push(middle) - 1);
    for (let round = 0; round < 40; round++)
      for (const key of inside) this.places[point.get(key)!] = mean([...around.get(key)!].map((other) => this.places[point.get(other)!]));
  }

  /** A grid between sides of which the opposite ones are equal; inside a transfinite patch (Coons 1967). */
  grid([bottom, right, top, left]: readonly Side[], mirrored = false): void {
    const { places } = this;
    const [a, b] = [edgesOf(bottom), edgesOf(right)];
    const corner = [bottom[0], bottom[a], top[0], top[a]].map((p) => places[p]);
    const at = Array.from({ length: a + 1 }, (_, i) =>
      Array.from({ length: b + 1 }, (_, j) => {
        if (j === 0) return bottom[i];
        if (j === b) return top[a - i];
        if (i === 0) return left[b - j];
        if (i === a) return right[j];
        const [u, v] = [i / a, j / b];
        const ruled = [
          [bottom[i], 1 - v],
          [top[a - i], v],
          [left[b - j], 1 - u],
          [right[j], u]
        ].map(([p, w]) => scaled(places[p], w));
        const flat = [(1 - u) * (1 - v), u * (1 - v), u * v, (1 - u) * v].map((w, k) => scaled(corner[k], -w));
        return places.push([...ruled, ...flat].reduce<Triple>(add, [0, 0, 0])) - 1;
      })
    );
    this.blocks.push(at);
    for (let i = 0; i < a; i++)
      for (let j = 0; j < b; j++) {
        const quad = [at[i][j], at[i + 1][j], at[i + 1][j + 1], at[i][j + 1]];
        this.quads.push(mirrored ? quad.reverse() : quad);
      }
  }

  /** The line from one side to another after which both parts have fewest poles and the line's edges are as long as those of the border. */
  private bestCut(sides: readonly Side[]) {
    const k = sides.length;
    const spacing = this.spacing(sides);
    const span = Math.floor(k / 2);
    let best: { from: number; to: number; edges: number; first: Side[]; second: Side[] } | undefined;
    let least = Infinity;
    for (let i = 0; i < k; i++)
      for (const j of new Set([i + span, i + k - span]))
        for (const p of inner(sides[i], k > 6))
          for (const q of inner(sides[j % k], k > 6)) {
            if (j >= k && j % k < i && k > 2) continue;
            const [one, other] = [sides[i], sides[j % k]];
            const first = [one.slice(p), ...Array.from({ length: j - i - 1 }, (_, n) => sides[(i + 1 + n) % k]), other.slice(0, q + 1)];
            const second = [other.slice(q), ...Array.from({ length: k - (j - i) - 1 }, (_, n) => sides[(j + 1 + n) % k]), one.slice(0, p + 1)];
            const far = length(subtract(this.places[one[p]], this.places[other[q]]));
            const sum = first.reduce((s, side) => s + edgesOf(side), 0);
            for (let edges = 1; edges <= 2 * Math.ceil(far / spacing) + 4; edges++) {
              if ((sum + edges) % 2 !== 0) continue;
              const poles = polesOf([...first.map(edgesOf), edges]) + polesOf([...second.map(edgesOf), edges]);
              const uneven = Math.abs(p / edgesOf(one) - 0.5) + Math.abs(q / edgesOf(other) - 0.5);
              const cost = 2 * poles + 2 * Math.log(far / spacing / edges) ** 2 + uneven;
              if (cost < least - 1e-9) [least, best] = [cost, { from: one[p], to: other[q], edges, first, second }];
            }
          }
    return best;
  }

  private spacing(sides: readonly Side[]): number {
    const steps = sides.flatMap((side) => side.slice(1).map((p, i) => length(subtract(this.places[p], this.places[side[i]]))));
    return steps.reduce((a, b) => a + b, 0) / steps.length || 1;
  }

  /** What no pattern fits has so few edges that lines between border points do. */
  private layWithoutPoints(sides: readonly Side[]): void {
    const ring = sides.flatMap((side) => side.slice(0, -1));
    const quads = quadrangulate(
      ring.map((p) => this.places[p]),
      this.normal
    );
    for (const quad of quads ?? []) this.quads.push(quad.map((i) => ring[i]));
  }
}

/** Places within a side: all, or, of the many combinations of large patches, those about its middle. */
function inner(side: Side, few: boolean): number[] {
  const n = edgesOf(side);
  if (!few) return Array.from({ length: n - 1 }, (_, i) => i + 1);
  return [...new Set([Math.floor(n / 2) - 1, Math.floor(n / 2), Math.floor(n / 2) + 1])].filter((i) => i > 0 && i < n);
}

/** Block corners with no edges between them are one: gives the one that stands for each. */
function mergedKeys(blocks: Layout['blocks']): (key: number) => number {
  const parent = new Map<number, number>();
  const root = (key: number): number => {
    const up = parent.get(key);
    return up === undefined ? key : root(up);
  };
  for (const { corners, across, up } of blocks)
    corners.forEach((key, i) => {
      const [a, b] = [root(key), root(corners[(i + 1) % 4])];
      if ((i % 2 === 0 ? across : up) === 0 && a !== b) parent.set(a, b);
    });
  return root;
}
