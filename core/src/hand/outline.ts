/** Sides of faces that belong to one of them alone, from corner to corner as that face has them. */
export function outlineOf(faces: readonly number[][]): [number, number][] {
  const sides = new Map<string, [number, number]>();
  for (const corners of faces)
    corners.forEach((a, i) => {
      const b = corners[(i + 1) % corners.length];
      if (!sides.delete(`${b} ${a}`)) sides.set(`${a} ${b}`, [a, b]);
    });
  return [...sides.values()];
}
