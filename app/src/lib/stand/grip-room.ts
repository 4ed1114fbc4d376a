type Place = [x: number, y: number];

/** Pixels that stay free round a grip, and what is left at least of the way between its stops. */
const FREE = 24;
const LEAST = 0.15;

/**
 * Where the stops of a grip are drawn so that all of them can be reached: where they are seen, or nearer to where it starts by
 * one and the same share. Where the start itself cannot be reached, or too little would be left, they stay as they are seen.
 * @param size width and height of the view in pixels
 */
export function withinReach(from: Place, stops: readonly Place[], size: Place): Place[] {
  if (from.some((at, k) => at < FREE || at > size[k] - FREE)) return [...stops];
  const share = Math.min(
    1,
    ...stops.flatMap((stop) =>
      stop.map((at, k) => {
        const room = at < from[k] ? from[k] - FREE : size[k] - FREE - from[k];
        return at === from[k] ? 1 : room / Math.abs(at - from[k]);
      })
    )
  );
  if (share === 1 || share < LEAST) return [...stops];
  return stops.map(([x, y]) => [from[0] + share * (x - from[0]), from[1] + share * (y - from[1])]);
}
