import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { cageOfFaces } from '../mesh/join-cages.ts';
import { borderLoops, facesByIsland } from '../mesh/topology.ts';
import { booleanOf, SolidsError } from './boolean.ts';

/**
 * Closed shells that overlap made one: what lies inside another goes. Needs the library for solids.
 * @throws SolidsError where a shell is open
 */
export function oneSkin(mesh: PolygonMesh): PolygonMesh {
  const whole = Cage.fromPolygons(mesh);
  const members = facesByIsland(whole);
  if (members.length < 2) return mesh;
  if (borderLoops(whole).length > 0)
    throw new SolidsError('Overlapping shells can be merged only where all of them are closed: fill their holes first.');
  const shells = members.map((faces) => cageOfFaces(whole, faces).cage);
  // two by two, so that none is cut more often than it has to be
  for (let round = shells; ;) {
    if (round.length === 1) return round[0].toPolygons();
    const next: Cage[] = [];
    for (let i = 0; i < round.length; i += 2) next.push(i + 1 < round.length ? booleanOf(round[i], round[i + 1], 'join').cage : round[i]);
    round = next;
  }
}
