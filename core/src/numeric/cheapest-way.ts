import FlatQueue from 'flatqueue';

/**
 * The cheapest chain of steps from one element to another (Dijkstra 1959).
 * @param steps where an element leads to, at what cost, and by which half-edge
 * @returns half-edges stepped along, in order; nothing where no way leads there
 */
export function cheapestWay(from: number, to: number, steps: (at: number) => { to: number; cost: number; by: number }[]): number[] | undefined {
  const distance = new Map<number, number>([[from, 0]]);
  const cameBy = new Map<number, { from: number; by: number }>();
  const queue = new FlatQueue<number>();
  queue.push(from, 0);
  while (queue.length > 0) {
    const reached = queue.peekValue()!;
    const at = queue.pop()!;
    if (at === to) break;
    if (reached > distance.get(at)!) continue;
    for (const step of steps(at)) {
      const way = reached + step.cost;
      if (way >= (distance.get(step.to) ?? Infinity)) continue;
      distance.set(step.to, way);
      cameBy.set(step.to, { from: at, by: step.by });
      queue.push(step.to, way);
    }
  }
  if (from !== to && !cameBy.has(to)) return undefined;
  const path: number[] = [];
  for (let at = to; at !== from; at = cameBy.get(at)!.from) path.push(cameBy.get(at)!.by);
  return path.reverse();
}
