import { WorkingMesh, after } from './working-mesh.ts';

/** Parts of a mesh that hang together: triangles of each. */
export function piecesOf(mesh: WorkingMesh): number[][] {
  const piece = new Int32Array(mesh.triangles).fill(-1);
  const pieces: number[][] = [];
  for (let seed = 0; seed < mesh.triangles; seed++) {
    if (piece[seed] >= 0) continue;
    const members = [seed];
    piece[seed] = pieces.length;
    for (let i = 0; i < members.length; i++)
      for (let h = 3 * members[i]; h < 3 * members[i] + 3; h++) {
        const other = Math.floor(mesh.opposite[h] / 3);
        if (mesh.opposite[h] < 0 || piece[other] >= 0) continue;
        piece[other] = pieces.length;
        members.push(other);
      }
    pieces.push(members);
  }
  return pieces;
}

/** Half-edges on borders, in the order in which each border is walked. */
export function bordersOf(mesh: WorkingMesh): number[][] {
  const seen = new Uint8Array(3 * mesh.triangles);
  const loops: number[][] = [];
  for (let first = 0; first < seen.length; first++) {
    if (mesh.opposite[first] >= 0 || seen[first]) continue;
    const loop: number[] = [];
    for (let h = first; !seen[h];) {
      seen[h] = 1;
      loop.push(h);
      h = after(h);
      while (mesh.opposite[h] >= 0) h = after(mesh.opposite[h]);
    }
    loops.push(loop);
  }
  return loops;
}
