import { pickedPoints, usedVertices } from '../mesh/polygon-mesh.ts';
import { WorkingMesh } from './working-mesh.ts';

/**
 * What of a mesh lies at heights above 0, with its borders as features; triangles that pass 0 are cut.
 * @param positions of the mesh's vertices, to which those at cuts are added
 * @param height by vertex
 */
export function clipped({ corner: triangles, feature }: WorkingMesh, positions: number[], height: ArrayLike<number>): WorkingMesh {
  const cuts = new Map<string, number>();
  const cutAt = (v: number, w: number): number => {
    const key = v < w ? `${v} ${w}` : `${w} ${v}`;
    const known = cuts.get(key);
    if (known !== undefined) return known;
    const t = height[v] / (height[v] - height[w]);
    const made = positions.length / 3;
    for (let k = 0; k < 3; k++) positions.push(positions[3 * v + k] + t * (positions[3 * w + k] - positions[3 * v + k]));
    cuts.set(key, made);
    return made;
  };
  const kept: number[] = [];
  const marks: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    if (corners.every((v) => height[v] <= 0)) continue;
    const outline: number[] = [];
    const marked: number[] = [];
    corners.forEach((v, k) => {
      const w = corners[(k + 1) % 3];
      if (height[v] >= 0) {
        outline.push(v);
        // the edge from here on, as far as it lies above
        marked.push(height[v] === 0 && height[w] < 0 ? 0 : feature[t + k]);
      }
      if (height[v] * height[w] < 0) {
        outline.push(cutAt(v, w));
        marked.push(height[v] < 0 ? feature[t + k] : 0);
      }
    });
    for (let k = 1; k + 1 < outline.length; k++) {
      kept.push(outline[0], outline[k], outline[k + 1]);
      marks.push(k === 1 ? marked[0] : 0, marked[k], k + 2 === outline.length ? marked[k + 1] : 0);
    }
  }
  const { indices, used } = usedVertices(kept, positions.length / 3);
  const part = new WorkingMesh(pickedPoints(positions, used), indices);
  for (let h = 0; h < marks.length; h++) part.feature[h] = part.opposite[h] < 0 ? 1 : marks[h];
  return part;
}
