import { locksOf } from '../even/locks.ts';
import { maskByColour, maskedVertices } from '../even/mask.ts';
import { type Cage } from '../mesh/cage.ts';
import { NONE } from '../mesh/half-edges.ts';
import { cosineAt, spreadFrom } from '../regions/edit-regions.ts';
import { everyNthLoop } from './every-nth-loop.ts';
import {
  emptySelection,
  findAll,
  facesOf,
  selectEdges,
  selectFaces,
  selectVertices,
  verticesOf,
  type Findable,
  type Selection
} from './selection.ts';

/** A way to pick by what elements are like; with a number where one is needed. */
export interface Find {
  id: string;
  label: string;
  /** the number's unit, bounds and first value; none: it takes no number */
  number?: { unit: string; initial: number; min: number; max: number; step: number };
  /** it begins at what is picked, and finds nothing without that */
  fromPicks?: true;
  pick(cage: Cage, selection: Selection, number: number): Selection;
}

/** Degrees that the surface turns by at an edge. */
const foldAt = (cage: Cage, e: number): number => (Math.acos(Math.min(1, Math.max(-1, cosineAt(cage, e)))) * 180) / Math.PI;

/** All faces of the regions of what is picked. */
export function regionsOf(cage: Cage, selection: Selection): Selection {
  const picked = new Set(facesOf(cage, selection).map((f) => cage.value('region', f)));
  return selectFaces([...cage.faces()].filter((f) => picked.has(cage.value('region', f))));
}

function byLength(cage: Cage, fits: (length: number, median: number) => boolean): Selection {
  const lengths = new Map([...cage.edges()].map((e) => [e, cage.edgeLength(e)]));
  const sorted = [...lengths.values()].sort((a, b) => a - b);
  const median = sorted[sorted.length >> 1] ?? 0;
  return selectEdges([...lengths].filter(([, length]) => fits(length, median)).map(([e]) => e));
}

const plain = (what: Findable, label: string): Find => ({
  id: what,
  label,
  pick: (cage) => findAll(cage, what)
});
const degrees = (initial: number) => ({ unit: '°', initial, min: 0, max: 180, step: 5 });

/** Every way to find and pick, in the order the panel lists them. */
export const finds: readonly Find[] = [
  plain('triangles', 'Triangles'),
  plain('quads', 'Quads'),
  plain('n-gons', 'N-gons'),
  plain('poles', 'Poles'),
  {
    id: 'valence',
    label: 'Poles of valence',
    number: { unit: 'edges', initial: 5, min: 3, max: 64, step: 1 },
    pick: (cage, _selection, n) => findAll(cage, 'poles', n)
  },
  plain('borders', 'Borders'),
  { id: 'creased', label: 'Creased edges', pick: (cage) => selectEdges([...cage.edges()].filter((e) => cage.value('crease', e) > 0)) },
  { id: 'masked', label: 'Masked vertices', pick: (cage) => selectVertices(maskedVertices(cage)) },
  { id: 'locked', label: 'Locked vertices', pick: (cage) => selectVertices(locksOf(cage).flatMap((lock) => lock.vertices)) },
  {
    id: 'colour',
    label: 'The same colour as the picks, within',
    number: { unit: '%', initial: 10, min: 0, max: 100, step: 1 },
    fromPicks: true,
    pick: (cage, selection, percent) => {
      if (!cage.layers.has('colour')) return emptySelection();
      const alike = maskByColour(cage, verticesOf(cage, selection), percent / 100);
      return selectVertices([...cage.vertices()].filter((v) => alike[v] > 0));
    }
  },
  {
    id: 'sharp',
    label: 'Edges sharper than',
    number: degrees(30),
    pick: (cage, _selection, angle) => selectEdges([...cage.edges()].filter((e) => foldAt(cage, e) > angle))
  },
  {
    id: 'flat',
    label: 'Flat from the picks, within',
    number: degrees(5),
    fromPicks: true,
    pick: (cage, selection, angle) => selectFaces(spreadFrom(cage, facesOf(cage, selection), (e) => foldAt(cage, e) < angle))
  },
  {
    id: 'region',
    label: 'The same region as the picks',
    fromPicks: true,
    pick: regionsOf
  },
  {
    id: 'long',
    label: 'Edges longer than',
    number: { unit: '× median', initial: 2, min: 0, max: 1000, step: 0.1 },
    pick: (cage, _selection, times) => byLength(cage, (length, median) => length > times * median)
  },
  {
    id: 'short',
    label: 'Edges shorter than',
    number: { unit: '× median', initial: 0.5, min: 0, max: 1000, step: 0.1 },
    pick: (cage, _selection, times) => byLength(cage, (length, median) => length < times * median)
  },
  {
    id: 'every',
    label: 'Every N-th loop from the picked edge',
    fromPicks: true,
    number: { unit: 'loops', initial: 2, min: 2, max: 64, step: 1 },
    pick: (cage, { edges }, every) => selectEdges(everyNthLoop(cage, edges, { every: Math.round(every), phase: 0, keepRims: false }))
  },
  {
    id: 'outline',
    label: 'The outline of the picked faces',
    fromPicks: true,
    pick: (cage, selection) => {
      const inside = new Set(facesOf(cage, selection));
      const edges = [...inside].flatMap((f) => cage.loopOf(cage.faceEdge[f])).filter((h) => !inside.has(cage.face[h ^ 1]));
      return selectEdges(edges.map((h) => h >> 1));
    }
  },
  {
    id: 'around',
    label: 'Everything that touches the picks',
    fromPicks: true,
    pick: (cage, selection) => {
      const faces = verticesOf(cage, selection).flatMap((v) => cage.spokes(v).map((h) => cage.face[h]));
      return selectFaces(faces.filter((f) => f !== NONE));
    }
  }
];
