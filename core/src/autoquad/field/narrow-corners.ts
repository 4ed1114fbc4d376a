import { QUARTER } from '../base/limits.ts';
import { before, type WorkingMesh } from '../base/working-mesh.ts';
import { type Frames } from './curvature.ts';
import { cornerAngle, mod4, wrap, type OrientationField } from './orientation-field.ts';

/**
 * Gives every corner between two feature edges at least one quad. Where they meet at less than about 45 degrees the crosses along
 * both are the same, and the corner would have no width in the map: there the crosses get a quarter turn on one of the edges
 * between, at whose other end a pole of three edges comes to lie. Changes the field.
 * @returns how many corners were opened
 */
export function openNarrowCorners(mesh: WorkingMesh, frames: Frames, field: OrientationField): number {
  const { theta, jump, index } = field;
  const rest = (h: number) => {
    const difference = theta[Math.floor(mesh.opposite[h] / 3)] - theta[Math.floor(h / 3)] - frames.turn[h] - jump[h] * QUARTER;
    return wrap(difference);
  };
  const ring: number[] = [];
  let opened = 0;
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.outgoing[v] < 0) continue;
    const spokes = [...mesh.spokes(v, ring)];
    const border = mesh.isBorder(v);
    const lines = spokes.flatMap((h, i) => (mesh.feature[h] ? [i] : []));
    if (lines.length === 0) continue;
    lines.forEach((start, k) => {
      // of a border vertex the last corner ends at the border's other edge, which no spoke stands for
      const last = k + 1 === lines.length;
      const count = last ? (border ? spokes.length - start : lines[0] + spokes.length - start) : lines[k + 1] - start;
      if (count < 2) return;
      const between = Array.from({ length: count }, (_, i) => spokes[(start + i) % spokes.length]);
      let turned = 0;
      for (const h of between) turned += cornerAngle(frames, h);
      for (const h of between.slice(0, -1)) turned -= rest(before(h));
      if (Math.round(turned / QUARTER) > 0) return;
      // the edge between that lies nearest to the middle, and ends at no feature
      const middle = Math.floor((count - 1) / 2);
      const crossed = before(between[middle]);
      const w = mesh.corner[crossed];
      if (mesh.isBorder(w) || mesh.spokes(w, ring).some((h) => mesh.feature[h])) return;
      jump[crossed] = mod4(jump[crossed] + 1);
      jump[mesh.opposite[crossed]] = mod4(jump[mesh.opposite[crossed]] - 1);
      index[w]++;
      if (!border) index[v]--;
      opened++;
    });
  }
  return opened;
}
