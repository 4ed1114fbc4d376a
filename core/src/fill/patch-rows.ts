/** Points in a row, each edge straight on from the one before. */
export interface Row {
  points: number[];
  closed: boolean;
}

/**
 * The rows of edges of some quads: they go straight on where four edges meet inside, and end at the border and at poles.
 * Edges of the border belong to none.
 * @param rim points of lower numbers lie on the border
 * @returns and the neighbours of each point
 */
export function rowsThrough(quads: readonly number[][], rim: number): { rows: Row[]; around: Map<number, number[]> } {
  const around = new Map<number, number[]>();
  const opposite = new Map<string, number[]>();
  const note = <K>(map: Map<K, number[]>, key: K, value: number) => {
    const list = map.get(key);
    if (!list) map.set(key, [value]);
    else if (!list.includes(value)) list.push(value);
  };
  const name = (p: number, q: number) => `${p} ${q}`;
  const edges = new Map<string, number>();
  for (const quad of quads)
    quad.forEach((p, i) => {
      const [q, r] = [quad[(i + 1) % 4], quad[(i + 3) % 4]];
      if (p === q) return;
      note(around, p, q);
      note(around, q, p);
      edges.set(p < q ? name(p, q) : name(q, p), (edges.get(p < q ? name(p, q) : name(q, p)) ?? 0) + 1);
      // at p the edges to q and to r share a quad: they do not go straight on into each other
      note(opposite, name(p, q), r);
      note(opposite, name(p, r), q);
    });
  const straightOn = (from: number, at: number): number | undefined => {
    const near = around.get(at)!;
    if (at < rim || near.length !== 4) return undefined;
    const beside = opposite.get(name(at, from)) ?? [];
    return near.find((q) => q !== from && !beside.includes(q));
  };
  const done = new Set<string>();
  const rows: Row[] = [];
  const follow = (from: number, at: number): number[] => {
    const points = [from, at];
    for (let next = straightOn(from, at); next !== undefined; next = straightOn(points[points.length - 2], points[points.length - 1])) {
      if (next === points[1] && points[points.length - 1] === from) break;
      points.push(next);
    }
    return points;
  };
  for (const [edge, count] of edges) {
    if (count < 2 || done.has(edge)) continue;
    const [a, b] = edge.split(' ').map(Number);
    const ahead = follow(a, b);
    const closed = ahead.length > 3 && ahead[ahead.length - 1] === a && straightOn(ahead[ahead.length - 2], a) === b;
    const points = closed ? ahead.slice(0, -1) : [...follow(b, a).reverse().slice(0, -2), ...ahead];
    for (let k = 0; k < points.length; k++) {
      const [p, q] = [points[k], points[(k + 1) % points.length]];
      if (closed || k + 1 < points.length) done.add(p < q ? name(p, q) : name(q, p));
    }
    rows.push({ points, closed });
  }
  return { rows, around };
}
