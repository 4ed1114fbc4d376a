import Joi from 'joi';
import { fillArea, type OpenArea } from '../../fill/fill-area.ts';
import { holeThrough, type Hole } from '../../fill/hole.ts';
import { type Cage } from '../../mesh/cage.ts';
import { length, subtract } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { type CageOperation, type CageResult } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';
import { chainsPicked, holesMeant } from './borders-meant.ts';
import { madeEven } from './odd-borders.ts';

/**
 * Chains of border vertices round the open area that is meant, in order: picked chains, each followed by the one that
 * begins nearest to its end; else the border that is picked whole, as one that ends where it begins.
 */
function chainsRound(cage: Cage, selection: Selection): number[][] {
  const chains = chainsPicked(cage, selection).map((halves) => [...halves.map((h) => cage.origin[h]), cage.target(halves[halves.length - 1])]);
  if (chains.length === 0)
    return holesMeant(cage, selection)
      .slice(0, 1)
      .map(({ vertices }) => [...vertices, vertices[0]]);
  const apart = (v: number, w: number) => length(subtract(cage.position(v), cage.position(w)));
  const inOrder = [chains.shift()!];
  while (chains.length > 0) {
    const end = inOrder[inOrder.length - 1].at(-1)!;
    const next = chains.reduce((best, chain, i) => (apart(end, chain[0]) < apart(end, chains[best][0]) ? i : best), 0);
    inOrder.push(...chains.splice(next, 1));
  }
  return inOrder;
}

const edgesRound = (cage: Cage, chains: number[][]): number[] =>
  chains.flatMap((chain) => chain.slice(1).map((v, i) => cage.findHalfEdge(chain[i], v) >> 1));

/** Fills several gaps, each with the counts of its border; odd ones are made even two by two, with a strip of quads from one to the other. */
function fillSeveral(cage: Cage, holes: readonly Hole[], swell: number, reference: Reference | undefined): CageResult {
  let copy = cage.clone();
  const faces: number[] = [];
  const notes: string[] = [];
  for (const { vertices } of holes) {
    // what was done for another may have given it an edge more
    const found = holeThrough(copy, vertices);
    if (!found) continue;
    const even = madeEven(copy, found, 'strip');
    if (even.note) notes.push(even.note);
    copy = even.cage;
    const ring = even.hole.vertices;
    const made = fillArea(copy, { chains: [[...ring, ring[0]]], corners: new Set(), sides: 0 }, swell, reference);
    faces.push(...(made ?? []));
  }
  return { cage: copy, selection: selectFaces(faces), notes: [`${counted(faces.length, 'quad')} in ${counted(holes.length, 'gap')}.`, ...notes] };
}

/** Fills what is open between laid quads. */
export const fillBetween: CageOperation = {
  kind: 'cage',
  id: 'fill-between',
  bench: 5,
  group: 'Holes',
  name: 'Fill between',
  keepsSurface: 'beside',
  purpose: 'Fill the open area between laid quads, or several gaps at once, with quads that take their counts; on the reference, if there is one.',
  icon: 'JoinInner',
  needs: 'Border edges round the area, on as many sides as there are; picked vertices are its corners.',
  params: Joi.object({
    sides: Joi.number().integer().min(0).max(1000).default(0).label('Edges of open sides').meta({ step: 1 }).description('0: by their length'),
    swell: Joi.number().min(0).max(1).default(1).label('Swell').meta({ step: 0.1, slider: true }),
    cling: Joi.boolean().default(true).label('Put on the reference'),
    keepSurface: keepSurfaceField()
  }),
  check: (cage, selection) => {
    const chains = chainsRound(cage, selection);
    if (chains.length === 0)
      return {
        found: 'No border edges are picked that enclose an area.',
        instead: 'Pick border edges on two sides of it at least, or all of a closed border.'
      };
    if (chains.length === 1 && chains[0][0] !== chains[0].at(-1) && chains[0].length < 4)
      return {
        found: `A chain of ${counted(chains[0].length - 1, 'edge')} encloses no area.`,
        where: selectEdges(edgesRound(cage, chains)),
        instead: 'Pick edges on the other sides as well.'
      };
    return undefined;
  },
  run: (cage, selection, params, { reference }) => {
    const on = params.cling && reference ? Reference.of(reference) : undefined;
    const holes = chainsPicked(cage, selection).length === 0 ? holesMeant(cage, selection) : [];
    if (holes.length > 1) return fillSeveral(cage, holes, params.swell as number, on);
    const copy = cage.clone();
    const chains = chainsRound(cage, selection);
    const onBorder = new Set(chains.flat());
    const area: OpenArea = {
      chains,
      corners: new Set(selection.vertices.filter((v) => onBorder.has(v))),
      sides: params.sides as number
    };
    if (area.corners.size === 1)
      refuse(
        'One corner is picked; an area has two at least.',
        { ...selection, edges: [], faces: [] },
        'Pick the others too, or none to have them found.'
      );
    const faces = fillArea(copy, area, params.swell as number, on);
    if (!faces)
      return refuse(
        `The area has an odd number of edges round it (${counted(edgesRound(cage, chains).length, 'edge')} picked), and quads alone fill even ones.`,
        selectEdges(edgesRound(cage, chains)),
        params.sides ? 'Change the edges of the open sides by one.' : 'Put a vertex more on one of its sides, or use Quad grid, which proposes ways.'
      );
    return {
      cage: copy,
      selection: selectFaces(faces),
      notes: [`${counted(faces.length, 'quad')} between ${counted(edgesRound(cage, chains).length, 'edge')}.`]
    };
  }
};
