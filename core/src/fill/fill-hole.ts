import { NONE, type Cage } from '../mesh/cage.ts';
import { faceNormal } from '../mesh/normals.ts';
import { replaceFaces, type NewFace } from '../mesh/replace-faces.ts';
import { between, mean, type Triple } from '../numeric/vectors.ts';
import { holeAlong, type Hole } from './hole.ts';
import { fillWithGrid, flattest, type GridSettings } from './quad-grid.ts';
import { settlePatch } from './settle-patch.ts';
import { triangleCap } from './triangle-cap.ts';

export const fillMethods = ['grid', 'ring', 'triangles', 'face'] as const;
export type FillMethod = (typeof fillMethods)[number];

export interface FillSettings extends GridSettings {
  /** grid: right from the border, also where that is round */
  plain?: boolean;
  /** ring cap: rings before the middle */
  rings?: number;
  /** triangle cap: least area instead of the flattest joints */
  byArea?: boolean;
}

/** Most edges a triangle cap is searched for: the search takes the cube of their number. */
export const MOST_CAP_EDGES = 400;

/** Fills a hole in a cage, which is changed. @returns the new faces */
export function fillHole(cage: Cage, hole: Hole, method: FillMethod, settings: FillSettings): number[] {
  if (method === 'face' || hole.vertices.length === 3)
    return replaceFaces(cage, { gone: [], added: [{ corners: hole.vertices, like: besideOf(cage, hole) }] });
  if (method === 'triangles') return fillWithTriangles(cage, hole, settings.byArea ?? false);
  if (method === 'ring') return fillWithRings(cage, hole, settings);
  // a corner of a grid on a border that hardly bends would be a quad with a straight corner
  const needsRing = hole.vertices.length > 6 && sharpestFour(hole) > ROUND;
  if (!needsRing || settings.plain) return fillWithGrid(cage, hole, settings);
  const pinch = hole.vertices.length % 2 === 0 ? undefined : flattest(cage, hole);
  return fillWithRings(cage, hole, { ...settings, rings: 1, pinch });
}

/** Angle of a hole, in radians, from which a vertex makes no good corner. */
const ROUND = (135 * Math.PI) / 180;

/** The widest of the four sharpest angles. */
const sharpestFour = (hole: Hole): number => [...hole.angles].sort((a, b) => a - b)[Math.min(3, hole.angles.length - 1)];

const besideOf = (cage: Cage, hole: Hole): number => cage.face[hole.halves[0] ^ 1];

function fillWithTriangles(cage: Cage, hole: Hole, byArea: boolean): number[] {
  const outside = hole.halves.map((h) => (cage.face[h ^ 1] === NONE ? undefined : faceNormal(cage, cage.face[h ^ 1])));
  const triangles = triangleCap(
    hole.vertices.map((v) => cage.position(v)),
    outside,
    byArea
  );
  const like = besideOf(cage, hole);
  return replaceFaces(cage, { gone: [], added: triangles.map((t): NewFace => ({ corners: t.map((i) => hole.vertices[i]), like })) });
}

/** Rings towards the middle, and a grid, or one face where the count is odd, within the last one. */
function fillWithRings(cage: Cage, hole: Hole, settings: FillSettings): number[] {
  const rings = settings.rings ?? 1;
  const centre = mean(hole.vertices.map((v) => cage.position(v)));
  const like = besideOf(cage, hole);
  const added: NewFace[] = [];
  let rim = hole.vertices;
  for (let r = 1; r <= rings; r++) {
    const share = r / (rings + 1.5);
    const next = hole.vertices.map((v) => cage.addVertex(...(between(cage.position(v), centre, share) as Triple)));
    rim.forEach((v, i) => {
      const j = (i + 1) % rim.length;
      added.push({ corners: [v, rim[j], next[j], next[i]], like });
    });
    rim = next;
  }
  const faces = replaceFaces(cage, { gone: [], added });
  const inner = holeAlong(cage, cage.loopOf(cage.findHalfEdge(rim[0], rim[1])));
  const even = inner.vertices.length % 2 === 0;
  const all = [
    ...faces,
    ...(even || settings.pinch !== undefined ? fillWithGrid(cage, inner, { ...settings, swell: 0 }) : fillHole(cage, inner, 'face', settings))
  ];
  const onRim = new Set(hole.vertices);
  settlePatch(
    cage,
    [...new Set(all.flatMap((f) => cage.faceVertices(f)))].filter((v) => !onRim.has(v)),
    settings.swell
  );
  return all;
}
