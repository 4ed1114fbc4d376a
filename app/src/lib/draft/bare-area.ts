import {
  areaToLay,
  facesOf,
  middlesOf,
  replaceFaces,
  Subdivision,
  type Cage,
  type Part,
  type PolygonMesh,
  type Selection,
  type Triple
} from '@ulvrin/core';

/** A part as plain polygons. */
export const polygonsOf = ({ mesh, cage }: Part): PolygonMesh => mesh ?? cage!.toPolygons();

/** What quads are laid over while others stay. */
export interface BareArea {
  part: Part;
  /** the quads that stay, with their ids in the part's cage */
  kept: ReturnType<Cage['toPolygons']>;
  /** faces of the part's cage that are laid again */
  gone: number[];
  surface: PolygonMesh;
  /** places near which bare surface is covered; left out: all of it */
  middles?: Triple[];
  /** faces that go with the picked ones, for an even border */
  besides?: number;
}

/** What of a cage stays while quads are laid over what it leaves bare, or over what is picked again; or why that cannot be. */
export function bareArea(
  over: 'picked' | 'rest',
  part: Part | undefined,
  reference: Part | undefined,
  selection: Selection
): BareArea | { refusal: string } {
  if (!part?.cage) return { refusal: 'There is no cage yet to lay quads beside: lay them over the whole reference first.' };
  const { cage, scheme, borderCorners, plan } = part;
  if (over === 'rest')
    return reference
      ? { part, kept: cage.toPolygons(), gone: [], surface: polygonsOf(reference) }
      : { refusal: 'There is no reference to compare the cage with: bring one in.' };
  const picked = facesOf(cage, selection);
  const gone = areaToLay(cage, picked);
  if (gone.length === 0) return { refusal: 'Pick the faces to lay again first.' };
  if (gone.length === cage.faceCount) return { refusal: 'All faces are picked: lay over the whole reference, or leave a border of faces.' };
  const kept = cage.clone();
  replaceFaces(kept, { gone, added: [] });
  // without a reference the smooth surface as it is now is laid over
  const surface = reference
    ? polygonsOf(reference)
    : new Subdivision(cage.toPolygons(), { scheme, borderCorners, plan, levels: 2, limit: true }).toPolygons(cage.toPolygons());
  return { part, kept: kept.toPolygons(), gone, surface, middles: middlesOf(cage, gone), besides: gone.length - picked.length };
}
