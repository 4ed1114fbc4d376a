/** Two things that could be one, and how far they are apart. */
export interface Pair {
  from: number;
  to: number;
  by: number;
}

/** Of pairs those that are taken, the nearest first: every one of both sides is taken once. */
export function takenOnce<P extends Pair>(pairs: readonly P[]): P[] {
  const [from, to] = [new Set<number>(), new Set<number>()];
  return [...pairs]
    .sort((a, b) => a.by - b.by)
    .filter((pair) => {
      if (from.has(pair.from) || to.has(pair.to)) return false;
      from.add(pair.from);
      to.add(pair.to);
      return true;
    });
}
