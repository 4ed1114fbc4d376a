import { holeThrough, type Hole } from '../../fill/hole.ts';
import { runStrip, stripToPartner, type Strip } from '../../fill/odd-partner.ts';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { selectEdges, type Selection } from '../../select/selection.ts';
import { applyOperation } from '../apply.ts';
import { collapse } from '../flow/collapse.ts';
import { type Proposal } from '../operation.ts';
import { refuse, unlessRefused } from '../refusal.ts';
import { counted } from '../shared/words.ts';
import { edgesOfHoles } from './borders-meant.ts';
import { pinOf } from './pair-up.ts';

/** What can be done about a border of an odd number of edges: quads alone do not fill it. */
export const oddWays = {
  triangle: 'Leave one triangle where it is flattest',
  strip: 'Run a strip to its odd partner',
  weld: 'Weld two neighbours'
} as const;
export type OddWay = keyof typeof oddWays;

/** Ways for the first odd one of some holes, with what each costs. */
export function oddProposals(cage: Cage, holes: readonly Hole[]): Proposal[] {
  const hole = holes.find(({ vertices }) => vertices.length % 2 !== 0);
  if (!hole) return [];
  const strip = stripToPartner(cage, hole);
  const welded = weldable(cage, hole);
  return [
    { label: oddWays.triangle, params: { odd: 'triangle' }, cost: 'a triangle more' },
    strip
      ? { label: oddWays.strip, params: { odd: 'strip' }, cost: describeStrip(cage, strip) }
      : { label: oddWays.strip, cost: 'nothing else of the part is odd, or no quads lead there' },
    welded === undefined
      ? { label: oddWays.weld, cost: 'no edge of the border can go' }
      : { label: oddWays.weld, params: { odd: 'weld' }, cost: describeWeld(cage, welded) }
  ];
}

const millimetres = (place: readonly number[]) => place.map((x) => x.toFixed(1)).join(', ');

/** "across 7 faces with 1 turn to the triangle at 3.0, 0.0, 4.0 mm: 2 poles more" */
function describeStrip(cage: Cage, { crossed, turns, face, place }: Strip): string {
  const end = face === NONE ? 'border' : cage.faceSize(face) === 3 ? 'triangle' : `face of ${cage.faceSize(face)} corners`;
  const bends = turns > 0 ? ` with ${counted(turns, 'turn')}` : '';
  const poles = turns > 0 ? `: ${2 * turns} poles more` : '';
  return `across ${counted(crossed.length - 1, 'face')}${bends} to the ${end} at ${millimetres(place)} mm${poles}`;
}

/** The border edge that costs least when its ends become one: of an odd face rather than a quad, then the shortest. */
function weldable(cage: Cage, hole: Hole): number | undefined {
  if (hole.vertices.length < 5) return undefined;
  const odd = (h: number) => cage.faceSize(cage.face[h ^ 1]) % 2;
  const edges = hole.halves
    .filter((h) => cage.face[h ^ 1] !== NONE)
    .sort((a, b) => odd(b) - odd(a) || cage.edgeLength(a >> 1) - cage.edgeLength(b >> 1));
  return edges.slice(0, 8).find((h) => {
    const result = collapsed(cage, h);
    return result && holeThrough(result, hole.vertices)?.vertices.length === hole.vertices.length - 1;
  });
}

const collapsed = (cage: Cage, h: number): Cage | undefined => unlessRefused(() => applyOperation(collapse, cage, selectEdges([h >> 1]), {}).cage);

function describeWeld(cage: Cage, h: number): string {
  const size = cage.faceSize(cage.face[h ^ 1]);
  const what =
    size === 3 ? 'a triangle fewer' : size === 4 ? 'the quad beside becomes a triangle' : `the face of ${size} corners beside gets ${size - 1}`;
  return `${cage.edgeLength(h >> 1).toFixed(2)} mm closed: ${what}`;
}

/**
 * Makes an odd hole even, or leaves it.
 * @returns the cage, a copy where it had to change, the hole in it, and what was done
 */
export function madeEven(cage: Cage, hole: Hole, way: OddWay): { cage: Cage; hole: Hole; note?: string; line?: number[] } {
  if (way === 'triangle' || hole.vertices.length % 2 === 0) return { cage, hole };
  const where: Selection = edgesOfHoles(hole);
  const pin = pinOf(cage, { vertices: hole.vertices, closed: true });
  if (pin > 0)
    refuse(
      `The border of ${hole.vertices.length} edges is pinned to ${pin}, and ${way === 'strip' ? 'a strip adds an edge' : 'a weld takes one'}.`,
      where,
      'Unpin it, or leave one triangle.'
    );
  if (way === 'strip') {
    const strip = stripToPartner(cage, hole);
    if (!strip)
      return refuse(
        `The border of ${hole.vertices.length} edges is odd, and no strip of quads leads from it to another odd border or face.`,
        where,
        'Leave one triangle, or weld two neighbours.'
      );
    const note = `A strip was run ${describeStrip(cage, strip)}.`;
    const line = runStrip(cage, strip);
    return { cage, hole: holeThrough(cage, hole.vertices)!, note, line };
  }
  const edge = weldable(cage, hole);
  if (edge === undefined)
    return refuse('No edge of the odd border can go without harm.', where, 'Leave one triangle, or run a strip to its partner.');
  const note = `Two neighbours were welded: ${describeWeld(cage, edge)}.`;
  const result = collapsed(cage, edge)!;
  return { cage: result, hole: holeThrough(result, hole.vertices)!, note };
}
