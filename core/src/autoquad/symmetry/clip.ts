import { pickedPoints, usedVertices } from '../../mesh/polygon-mesh.ts';
import { WorkingMesh } from '../base/working-mesh.ts';

/**
 * What of a mesh lies at heights above 0, with its borders as features; triangles that pass 0 are cut.
 * @param positions of the mesh's vertices, or others in their place
 * @param height by vertex
 */
export function clipped({ corner: triangles, feature }: WorkingMesh, positions: Float64Array, height: ArrayLike<number>): WorkingMesh {
  const count = positions.length / 3;
  const cuts = new Map<number, number>();
  const made: number[] = [];
  const cutAt = (v: number, w: number): number => {
    const key = v < w ? v * count + w : w * count + v;
    const known = cuts.get(key);
    if (known !== undefined) return known;
    const t = height[v] / (height[v] - height[w]);
    const own = count + made.length / 3;
    for (let k = 0; k < 3; k++) made.push(positions[3 * v + k] + t * (positions[3 * w + k] - positions[3 * v + k]));
    cuts.set(key, own);
    return own;
  };
  // of a triangle two may be left
  const kept = new Int32Array(2 * triangles.length);
  const marks = new Uint8Array(2 * triangles.length);
  let at = 0;
  const outline: number[] = [];
  const marked: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const a = triangles[t];
    const b = triangles[t + 1];
    const c = triangles[t + 2];
    if (height[a] <= 0 && height[b] <= 0 && height[c] <= 0) continue;
    if (height[a] > 0 && height[b] > 0 && height[c] > 0) {
      for (let k = 0; k < 3; k++, at++) {
        kept[at] = triangles[t + k];
        marks[at] = feature[t + k];
      }
      continue;
    }
    outline.length = marked.length = 0;
    for (let k = 0; k < 3; k++) {
      const v = triangles[t + k];
      const w = triangles[t + ((k + 1) % 3)];
      if (height[v] >= 0) {
        outline.push(v);
        // the edge from here on, as far as it lies above
        marked.push(height[v] === 0 && height[w] < 0 ? 0 : feature[t + k]);
      }
      if (height[v] * height[w] < 0) {
        outline.push(cutAt(v, w));
        marked.push(height[v] < 0 ? feature[t + k] : 0);
      }
    }
    for (let k = 1; k + 1 < outline.length; k++, at += 3) {
      kept[at] = outline[0];
      kept[at + 1] = outline[k];
      kept[at + 2] = outline[k + 1];
      marks[at] = k === 1 ? marked[0] : 0;
      marks[at + 1] = marked[k];
      marks[at + 2] = k + 2 === outline.length ? marked[k + 1] : 0;
    }
  }
  const all = new Float64Array(positions.length + made.length);
  all.set(positions);
  all.set(made, positions.length);
  const { indices, used } = usedVertices(kept.subarray(0, at), all.length / 3);
  const part = new WorkingMesh(pickedPoints(all, used), indices);
  for (let h = 0; h < at; h++) part.feature[h] = part.opposite[h] < 0 ? 1 : marks[h];
  return part;
}
