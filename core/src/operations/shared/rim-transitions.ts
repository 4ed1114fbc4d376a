import { bridge, type Rim, type Transition } from '../../fill/bridge.ts';
import { type Cage } from '../../mesh/cage.ts';
import { CageError, NONE } from '../../mesh/half-edges.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { faceGroups, outlineOf, runs } from './extrude-walls.ts';

/**
 * Puts rows of transition quads in place of faces that took up the vertices a rim kept while the loops ending there went.
 * @param faces those faces, all on one side of their rims
 * @param kept the vertices that were kept
 * @returns how many quads were made, and how many faces were left: they are no row with a rim on one side alone
 */
export function putTransitions(
  cage: Cage,
  faces: number[],
  kept: ReadonlySet<number>,
  transition: Transition
): { cage: Cage; made: number; left: number } {
  let now = cage;
  let [made, left] = [0, 0];
  for (const group of faceGroups(cage, faces, true)) {
    const outline = outlineOf(cage, group);
    const isRim = (h: number) => kept.has(cage.origin[h]) || kept.has(cage.target(h));
    const rims = runs(cage, outline.filter(isRim));
    const closed = rims.length === 1 && rims[0].closed;
    const others = runs(
      cage,
      outline.filter((h) => !isRim(h))
    );
    // beside an open rim run the other run has a side of the group at either end
    if (rims.length !== 1 || others.length !== 1 || others[0].closed !== closed || (!closed && others[0].halves.length < 3)) {
      left += group.length;
      continue;
    }
    const inner = closed ? others[0].halves : others[0].halves.slice(1, -1);
    const copy = now.clone();
    const quads = bridgeBetween(copy, group, [rims[0].halves, inner], closed, transition);
    if (quads === undefined) left += group.length;
    else [now, made] = [copy, made + quads];
  }
  return { cage: now, made, left };
}

/** Takes a group of faces out and joins two runs of its outline by a row of quads. Changes the cage. @returns how many; nothing where that cannot be held */
function bridgeBetween(cage: Cage, group: number[], sides: number[][], closed: boolean, transition: Transition): number | undefined {
  const rows = sides.map((halves) => [...halves.map((h) => cage.origin[h]), ...(closed ? [] : [cage.target(halves[halves.length - 1])])]);
  // edges without a face beyond would go with the group: a face holds them until the row is there
  const holds = sides.flatMap((halves, i) => (halves.some((h) => cage.face[h ^ 1] === NONE) ? [{ corners: [...rows[i]].reverse() }] : []));
  let holding: number[];
  try {
    holding = replaceFaces(cage, { gone: group, added: holds });
  } catch (error) {
    if (error instanceof CageError) return undefined;
    throw error;
  }
  const [rim, inner] = rows.map((row): Rim => {
    const next = closed ? row.map((v, i) => [v, row[(i + 1) % row.length]]) : row.slice(1).map((w, i) => [row[i], w]);
    return { halves: next.map(([a, b]) => cage.findHalfEdge(a, b)), closed };
  });
  // a vertex that both sides touch has become two
  if ([...rim.halves, ...inner.halves].some((h) => h === NONE || cage.face[h] !== NONE)) return undefined;
  const quads = bridge(cage, rim, inner, { rows: 1, offset: 0, curved: 0, transition });
  replaceFaces(cage, { gone: holding, added: [] });
  return quads.length;
}
