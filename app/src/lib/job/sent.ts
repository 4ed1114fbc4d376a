import type { Part, Sent } from '@ulvrin/core';

/** A part as it is sent. */
export const sentPart = ({ cage, scheme, borderCorners, plan }: Part): Sent => ({
  mesh: cage!.toPolygons(),
  settings: { scheme: scheme!, borderCorners: borderCorners!, plan }
});
