/**
 * Patterns of quads in patches with given counts along their sides. Each has as few poles as its sides allow, or close to that
 * (compare Takayama, Panozzo, Sorkine-Hornung 2014).
 */

/** A grid of `across` by `up` quads between four block corners; the first two lie `across` edges apart. */
export interface Block {
  corners: [number, number, number, number];
  across: number;
  up: number;
}

export interface Layout {
  blocks: Block[];
  /** block corners on the border: the side, and how many edges along it */
  border: [corner: number, side: number, edges: number][];
}

/** How a patch of other than four sides is laid. */
export type Plan =
  | { kind: 'fan'; spokes: number[] }
  /** a strip of four sides along a side, after which that has other edges and the patch is a fan */
  | { kind: 'adapt'; side: number; rows: number; edges: number };

/**
 * Edges of the spokes from each side to one pole in the middle, where its blocks are grids: the edges of a side are those of
 * the spokes before and after it together. There is one answer for odd numbers of sides.
 */
function spokesOf(counts: readonly number[]): number[] | undefined {
  const k = counts.length;
  if (k % 2 === 0) return undefined;
  const spokes = counts.map((_, i) => {
    let sum = 0;
    for (let n = 0; n < k; n++) sum += (n % 2 === 0 ? 1 : -1) * counts[(i + 1 + 2 * n) % k];
    return sum / 2;
  });
  return spokes.every((n) => n >= 1 && Number.isInteger(n)) ? spokes : undefined;
}

/** Rows that turn between four sides, of which the first has most edges more than its opposite. */
const turns = ([a, b, c, d]: readonly number[]) => {
  const [large, small] = [Math.abs(a - c), Math.abs(b - d)].sort((x, y) => y - x);
  return { out: small, back: (large - small) / 2 };
};

/** Poles of a patch, or at least as many as it will get; Infinity where a side has no edges. */
export function polesOf(counts: readonly number[]): number {
  if (counts.some((n) => n < 1)) return Infinity;
  if (counts.length === 4) {
    const { out, back } = turns(counts);
    return back > 0 ? 4 : out > 0 ? 2 : 0;
  }
  // larger ones are cut: each cut adds four sides and shares them out
  if (counts.length > 5) return counts.length - 4;
  return spokesOf(counts) ? 1 : 5;
}

/** The plan for three or five sides; nothing where none fits, or where the patch has to be cut first. */
export function planOf(counts: readonly number[]): Plan | undefined {
  const k = counts.length;
  if (k !== 3 && k !== 5) return undefined;
  const spokes = spokesOf(counts);
  if (spokes) return { kind: 'fan', spokes };
  let best: Plan | undefined;
  let least = Infinity;
  for (let side = 0; side < k; side++) {
    const [before, after] = [(side + k - 1) % k, (side + 1) % k];
    const most = Math.min(counts[before], counts[after]) - 1;
    for (let rows = 1; rows <= Math.min(most, 3); rows++)
      for (let edges = 2 - (counts[side] % 2); edges <= counts[side] + 2 * Math.max(...counts); edges += 2) {
        const rest = [...counts];
        rest[before] -= rows;
        rest[after] -= rows;
        rest[side] = edges;
        const cost = Math.abs(Math.log(edges / counts[side])) + 0.1 * Math.abs(rows - 2);
        if (cost < least && spokesOf(rest)) [least, best] = [cost, { kind: 'adapt', side, rows, edges }];
      }
  }
  return best;
}

/** Blocks round one pole, one at each corner of the patch. Corner i lies at the start of side i. */
export function fanOf(spokes: readonly number[]): Layout {
  const k = spokes.length;
  const [corner, foot, centre] = [(i: number) => i % k, (i: number) => k + (i % k), 2 * k];
  const before = (i: number) => (i + k - 1) % k;
  return {
    blocks: spokes.map((_, i) => ({ corners: [foot(before(i)), corner(i), foot(i), centre], across: spokes[i], up: spokes[before(i)] })),
    border: spokes.flatMap((_, i): Layout['border'] => [
      [corner(i), i, 0],
      [foot(i), i, spokes[before(i)]]
    ])
  };
}

/**
 * Four sides of any counts whose sum is even; a - c has to be at least b - d, and that at least 0. `out` rows turn from the
 * first side (bottom) to the second (right) round a pole of three, with one of five outside the turn; `back` rows turn from the bottom
 * to the bottom over the middle, with two such pairs. Columns left and right of them and rows above keep the poles of five
 * off the border where there are enough.
 */
export function fourSided(a: number, b: number, c: number, d: number): Layout {
  const { out, back } = turns([a, b, c, d]);
  const side = c > 2 ? Math.max(1, Math.floor(c / 4)) : 0;
  const left = back > 0 ? (c === 2 ? 1 : side) : Math.floor(c / 2);
  const right = back > 0 ? side : 0;
  const middle = c - left - right;
  const above = Math.floor(d / 2);
  const high = d - above;
  const [b0, b1, b2, b3, b4, b5, b6, l1, r1, r2, tl, t1, t2, tr, outer, mid, inner, inner2, outer2, head] = Array.from({ length: 20 }, (_, i) => i);
  const block = (corners: Block['corners'], across: number, up: number): Block => ({ corners, across, up });
  return {
    blocks: [
      block([b0, b1, outer, l1], left, high),
      block([b1, b2, mid, outer], out, high),
      block([b2, b3, inner, mid], back, high),
      block([b3, b4, inner2, inner], middle, high),
      block([b4, b5, outer2, inner2], back, high),
      block([b5, b6, r1, outer2], right, high),
      block([inner, inner2, outer2, mid], middle, back),
      block([mid, outer2, head, outer], middle, out),
      block([outer2, r1, r2, head], right, out),
      block([l1, outer, t1, tl], left, above),
      block([outer, head, t2, t1], middle, above),
      block([head, r2, tr, t2], right, above)
    ],
    border: [
      ...[b0, b1, b2, b3, b4, b5].map((key, i): [number, number, number] => [
        key,
        0,
        [0, left, out, back, middle, back].slice(0, i + 1).reduce((x, y) => x + y)
      ]),
      ...[b6, r1, r2].map((key, i): [number, number, number] => [key, 1, [0, high, out].slice(0, i + 1).reduce((x, y) => x + y)]),
      [tr, 2, 0],
      [t2, 2, right],
      [t1, 2, right + middle],
      [tl, 3, 0],
      [l1, 3, above]
    ]
  };
}
