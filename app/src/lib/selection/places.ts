import { verticesOf, type Cage, type Selection } from '@ulvrin/core';

/** Places of what is picked: x, y, z, one after the other. */
export const placesOf = (cage: Cage, selection: Selection): Float64Array =>
  Float64Array.from(verticesOf(cage, selection).flatMap((v) => cage.position(v)));
