import { Cage } from '../mesh/cage.ts';
import { CageError } from '../mesh/half-edges.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { type Axis, counterpartsByPosition, mirrorTolerance } from '../select/counterparts.ts';
import { linesOfCage, type NetLines } from './held-lines.ts';
import { netOf, type VertexNet } from './vertex-net.ts';

/** What brushes need of a dense mesh beside the places of its vertices. */
export interface DenseSurface {
  net: VertexNet;
  /** @param borders whether these are held; otherwise vertices slide along them */
  lines(borders: boolean): NetLines;
  /** Images of vertices across a plane at 0, as they lay when they were first asked for. */
  images(axis: Axis): ReadonlyMap<number, number>;
}

/** By the faces of a mesh, which it shares with what it was before it was brushed. */
const known = new WeakMap<PolygonMesh['faceVertices'], DenseSurface | { problem: string }>();

/** What brushes need of a dense mesh, found once for all that share its faces; or why it cannot be brushed. */
export function denseSurface(mesh: PolygonMesh): DenseSurface | { problem: string } {
  const present = known.get(mesh.faceVertices);
  if (present) return present;
  const made = madeOf(mesh);
  known.set(mesh.faceVertices, made);
  return made;
}

function madeOf(mesh: PolygonMesh): DenseSurface | { problem: string } {
  try {
    const cage = Cage.fromPolygons(mesh);
    const lines = new Map<boolean, NetLines>();
    const images = new Map<Axis, ReadonlyMap<number, number>>();
    const orMade = <Key, Value>(map: Map<Key, Value>, key: Key, make: () => Value): Value => {
      if (!map.has(key)) map.set(key, make());
      return map.get(key)!;
    };
    return {
      net: netOf(cage),
      lines: (borders) => orMade(lines, borders, () => linesOfCage(cage, { borders, creases: false, regions: false })),
      images: (axis) => orMade(images, axis, () => counterpartsByPosition(cage, axis, mirrorTolerance(cage)))
    };
  } catch (error) {
    if (error instanceof CageError) return { problem: error.message };
    throw error;
  }
}
