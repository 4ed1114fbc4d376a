import { type Cage } from '../mesh/cage.ts';
import { type Axis } from '../select/counterparts.ts';
import { CageError } from '../mesh/half-edges.ts';
import { type Act, mirrorOf, type MirrorSettings, onBothSides, ontoMirror } from './acts.ts';
import { weldedTo, type Welded } from './band.ts';
import { LaidCage } from './laid-cage.ts';

type Faces = Extract<Act, { do: 'faces' }>;

/** Faces laid on a cage, and what they met there. */
export interface LaidFaces extends Pick<Welded, 'welds' | 'misses'> {
  cage: Cage;
  /** ids of the new faces */
  made: number[];
  /** mm within which was welded: less than asked for where that would close up edges */
  within: number;
}

/** How often the weld distance is halved where faces would close up, before nothing is welded. */
const HALVED = 2;

/**
 * Lays faces on a copy of a cage: their outline welds to border vertices within a distance, and they come on the other side of a mirror as well.
 * @param weld mm
 * @param only numbers of the places that may weld; left out: all on the outline
 * @throws CageError where an edge would get three faces, whatever is welded
 */
export function layFaces(cage: Cage, act: Faces, weld: number, mirrored: 'none' | Axis, only?: ReadonlySet<number>): LaidFaces {
  const mirror = mirrorOf(mirrored, weld);
  for (let time = 0; time <= HALVED; time++) {
    const within = weld / 2 ** time;
    const laid = laidWithin(cage, act, within, mirror, only);
    if (laid) return { ...laid, within };
  }
  const { places } = weldedTo(cage, act, 0);
  return { ...laidOn(cage, { ...act, places }, mirror), welds: 0, misses: [], within: 0 };
}

/** Faces welded within a distance; nothing where an edge would get three of them so. */
function laidWithin(cage: Cage, act: Faces, within: number, mirror: MirrorSettings | undefined, only?: ReadonlySet<number>) {
  const { places, welds, misses } = weldedTo(cage, act, within, only);
  try {
    return { ...laidOn(cage, { ...act, places }, mirror), welds, misses };
  } catch (error) {
    if (!(error instanceof CageError)) throw error;
    return undefined;
  }
}

function laidOn(cage: Cage, act: Faces, mirror: MirrorSettings | undefined): Pick<LaidFaces, 'cage' | 'made'> {
  const laid = new LaidCage(cage.clone());
  const before = new Set(cage.faces());
  const acts = mirror ? onBothSides(ontoMirror(act, mirror), { ...mirror, width: 0 }) : [act];
  for (const own of acts) laid.apply(own);
  return { cage: laid.cage, made: [...laid.cage.faces()].filter((f) => !before.has(f)) };
}
