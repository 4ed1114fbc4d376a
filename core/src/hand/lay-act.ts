import { type Cage } from '../mesh/cage.ts';
import { type Act, type MirrorSettings, reflectedAct, snapped } from './acts.ts';
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
 * @throws CageError where an edge would get three faces
 */
export function layFaces(cage: Cage, act: Extract<Act, { do: 'faces' }>, weld: number, mirrored: 'none' | 'X' | 'Y' | 'Z'): LaidFaces {
  const { places, welds, misses } = weldedTo(cage, act, weld);
  const laid = new LaidCage(cage.clone());
  const before = new Set(cage.faces());
  const mirror: MirrorSettings | undefined = mirrored === 'none' ? undefined : { axis: 'XYZ'.indexOf(mirrored), width: weld };
  const own = mirror ? snapped({ ...act, places }, mirror) : { ...act, places };
  laid.apply(own);
  const image = mirror && reflectedAct(own, mirror);
  if (image) laid.apply(image);
  return { cage: laid.cage, made: [...laid.cage.faces()].filter((f) => !before.has(f)), welds, misses };
}
