import { type Cage } from '../mesh/cage.ts';
import { type Axis } from '../select/counterparts.ts';
import { type Act, mirrorOf, onBothSides } from './acts.ts';
import { weldedTo, type Welded } from './band.ts';
import { LaidCage } from './laid-cage.ts';

/** Faces laid on a cage, and what they met there. */
export interface LaidFaces extends Pick<Welded, 'welds' | 'misses'> {
  cage: Cage;
  /** ids of the new faces */
  made: number[];
}

/**
 * Lays faces on a copy of a cage: their outline welds to border vertices within a distance, and they come on the other side of a mirror as well.
 * @param weld mm
 * @param only numbers of the places that may weld; left out: all on the outline
 * @throws CageError where an edge would get three faces
 */
export function layFaces(
  cage: Cage,
  act: Extract<Act, { do: 'faces' }>,
  weld: number,
  mirrored: 'none' | Axis,
  only?: ReadonlySet<number>
): LaidFaces {
  const { places, welds, misses } = weldedTo(cage, act, weld, only);
  const laid = new LaidCage(cage.clone());
  const before = new Set(cage.faces());
  for (const own of onBothSides({ ...act, places }, mirrorOf(mirrored, weld))) laid.apply(own);
  return { cage: laid.cage, made: [...laid.cage.faces()].filter((f) => !before.has(f)), welds, misses };
}
