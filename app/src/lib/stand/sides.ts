/** Sides to look from, and where the eye is then. */
export const SIDES = {
  front: [0, 0, 1],
  back: [0, 0, -1],
  left: [-1, 0, 0],
  right: [1, 0, 0],
  top: [0, 1, 0],
  bottom: [0, -1, 0]
} as const satisfies Record<string, readonly [number, number, number]>;

export type Side = keyof typeof SIDES;
