import { type Cage } from '../mesh/cage.ts';
import { faceAreaVector, faceMiddle } from '../mesh/normals.ts';
import { PointGrid } from '../numeric/point-grid.ts';
import { between, length, subtract, type Triple } from '../numeric/vectors.ts';
import { emptySelection, type ElementKind, type Selection } from '../select/selection.ts';

/**
 * Places of selected elements, in the order of the selection: x, y, z of each vertex; both ends of each edge; middle and twice
 * the area vector of each face. (Files of version 1 have the middles of edges and faces alone.)
 */
export interface ElementPlaces {
  vertices: Float64Array;
  edges: Float64Array;
  faces: Float64Array;
}

/** Elements of an entry that a cage does not have any more. */
export interface LostElements {
  kind: ElementKind;
  lost: number;
  of: number;
  /** where the first of them lay, where that is known */
  at?: Triple;
}

/** A selection found in a cage, or what of it is missing. */
export interface FoundAgain {
  selection: Selection;
  /** how many elements were sought */
  of: number;
  /** how many of them have another id now */
  byPlace: number;
  lost: LostElements[];
}

/** An element is where it was if it is no farther off than this share of the shortest edge there. */
const NEAR = 0.05;
/** Twice the area vectors of one face differ by no more than this share. */
const SAME_AREA = 0.2;

/** What is asked of a kind of element to know it by its place. */
interface Kind {
  kind: ElementKind;
  has(cage: Cage, id: number): boolean;
  all(cage: Cage): Iterable<number>;
  /** numbers that tell its place; the grid goes by the first three, or the mean of both ends of an edge */
  place(cage: Cage, id: number): number[];
  /** edges whose length says how near is near */
  edgesAt(cage: Cage, id: number): number[];
}

const ends = (cage: Cage, e: number): number[] => [...cage.position(cage.origin[2 * e]), ...cage.position(cage.origin[2 * e + 1])];

const KINDS: Record<'vertices' | 'edges' | 'faces', Kind> = {
  vertices: {
    kind: 'vertex',
    has: (cage, v) => cage.hasVertex(v),
    all: (cage) => cage.vertices(),
    place: (cage, v) => cage.position(v),
    edgesAt: (cage, v) => cage.spokes(v).map((h) => h >> 1)
  },
  edges: {
    kind: 'edge',
    has: (cage, e) => cage.hasEdge(e),
    all: (cage) => cage.edges(),
    place: ends,
    edgesAt: (_cage, e) => [e]
  },
  faces: {
    kind: 'face',
    has: (cage, f) => cage.hasFace(f),
    all: (cage) => cage.faces(),
    place: (cage, f) => [...faceMiddle(cage, f), ...faceAreaVector(cage, f)],
    edgesAt: (cage, f) => cage.loopOf(cage.faceEdge[f]).map((h) => h >> 1)
  }
};

/** Places of the elements of a selection, to find them again by. */
export function elementPlaces(cage: Cage, s: Selection): ElementPlaces {
  const of = (name: keyof typeof KINDS) => Float64Array.from(s[name].flatMap((id) => KINDS[name].place(cage, id)));
  return { vertices: of('vertices'), edges: of('edges'), faces: of('faces') };
}

/** A number that tells two connectivities apart: of ids, of what is next to what, and of which face lies where. */
export function fingerprint(cage: Cage): number {
  let [a, b] = [0x811c9dc5, 0x9747b28c];
  const mix = (x: number) => {
    a = Math.imul(a ^ x, 0x01000193);
    b = Math.imul((b ^ x) + 0x7ed55d16, 0x5bd1e995);
    b ^= b >>> 15;
  };
  mix(cage.vertexCount);
  for (let h = 0; h < 2 * cage.edgeSlots; h++) {
    mix(cage.origin[h]);
    if (cage.origin[h] < 0) continue;
    mix(cage.next[h]);
    mix(cage.face[h]);
  }
  return (a >>> 0) * 2 ** 21 + ((b >>> 0) & 0x1fffff);
}

/** Three of the numbers of a place, from the i-th on. */
const point = (p: ArrayLike<number>, i = 0): Triple => [p[i], p[i + 1], p[i + 2]];
const gap = (p: Triple, q: Triple): number => length(subtract(p, q));
/** A distance against what is near; where nothing is, only the very same place is. */
const share = (distance: number, near: number): number => (distance === 0 ? 0 : near > 0 ? distance / near : Infinity);
/** The point that a place is sorted by: the middle of an edge. */
const anchor = (kind: Kind, p: ArrayLike<number>): Triple =>
  kind.kind === 'edge' && p.length === 6 ? between(point(p), point(p, 3), 0.5) : point(p);

/** How far an element lies from a stored place, against what counts as near there: above 1 they are two elements. */
function misfit(cage: Cage, kind: Kind, id: number, stored: Float64Array): number {
  const here = kind.place(cage, id);
  const lengths = kind.edgesAt(cage, id).map((e) => cage.edgeLength(e));
  const near = NEAR * (lengths.length > 0 ? Math.min(...lengths) : 1e-3);
  const apart = share(gap(anchor(kind, here), anchor(kind, stored)), near);
  if (apart > 1 || stored.length < 6) return apart;
  if (kind.kind === 'face') return Math.max(apart, share(gap(point(here, 3), point(stored, 3)), SAME_AREA * length(point(stored, 3))));
  const ends = (i: number, j: number) => Math.max(gap(point(here), point(stored, i)), gap(point(here, 3), point(stored, j)));
  return share(Math.min(ends(0, 3), ends(3, 0)), near);
}

/** Finds elements of one kind by their places; the grid is made when the first one is sought that has not kept its id. */
class Finder {
  private grid: PointGrid | undefined;

  constructor(
    private readonly cage: Cage,
    private readonly kind: Kind
  ) {}

  /** The id if its element lies at the place, else that of the one element that does; -1 where there is none, or more than one. */
  at(id: number, stored: Float64Array): number {
    const { cage, kind } = this;
    if (kind.has(cage, id) && misfit(cage, kind, id, stored) <= 1) return id;
    this.grid ??= this.made();
    const near: number[] = [];
    this.grid.visitNear(...anchor(kind, stored), (other) => {
      if (misfit(cage, kind, other, stored) <= 1) near.push(other);
    });
    return near.length === 1 ? near[0] : -1;
  }

  private made(): PointGrid {
    const { cage, kind } = this;
    let [longest, sum] = [0, 0];
    for (const e of cage.edges()) {
      const long = cage.edgeLength(e);
      longest = Math.max(longest, long);
      sum += long;
    }
    const reach = NEAR * longest || 1e-4;
    const grid = new PointGrid(reach, Math.max(reach, sum / (2 * cage.edgeCount || 1)));
    for (const id of kind.all(cage)) grid.put(id, ...anchor(kind, kind.place(cage, id)));
    return grid;
  }
}

/**
 * The elements of an entry in a cage that may have changed since. An id counts where the connectivity is the one it was
 * taken from, or where its place agrees; else the one element at its place, within a share of the edges there. Where two
 * lie there, or one is found for two, it is lost: nothing lands on another element than was meant.
 * @param sameTopology whether the cage's connectivity is the one that the ids were taken from
 */
export function foundAgain(cage: Cage, s: Selection, places: ElementPlaces | undefined, sameTopology: boolean): FoundAgain {
  const found: FoundAgain = { selection: emptySelection(), of: 0, byPlace: 0, lost: [] };
  for (const name of ['vertices', 'edges', 'faces'] as const) {
    const kind = KINDS[name];
    const ids = s[name];
    const stride = ids.length > 0 ? (places?.[name].length ?? 0) / ids.length : 0;
    const stored = (i: number) => places![name].subarray(i * stride, (i + 1) * stride);
    const finder = new Finder(cage, kind);
    const taken = new Set<number>();
    const result = ids.map((id, i) => {
      const now = sameTopology || !places ? (kind.has(cage, id) ? id : -1) : finder.at(id, stored(i));
      if (now < 0 || taken.has(now)) return -1;
      taken.add(now);
      return now;
    });
    found.selection[name] = result.filter((id) => id >= 0);
    found.of += ids.length;
    found.byPlace += result.filter((id, i) => id >= 0 && id !== ids[i]).length;
    const missing = result.flatMap((id, i) => (id < 0 ? [i] : []));
    if (missing.length > 0)
      found.lost.push({ kind: kind.kind, lost: missing.length, of: ids.length, at: stride >= 3 ? anchor(kind, stored(missing[0])) : undefined });
  }
  return found;
}

const PLURAL: Record<ElementKind, string> = { vertex: 'vertices', edge: 'edges', face: 'faces' };

/** What of an entry's elements is missing, and where the first of them lay, as a sentence. */
export function describeLost(lost: readonly LostElements[]): string {
  return lost
    .map(({ kind, lost: n, of, at }) => {
      const which = of === 1 ? `its ${kind} is` : `${n === of ? 'all' : n} of its ${of} ${PLURAL[kind]} ${n === 1 ? 'is' : 'are'}`;
      const where = at ? ` (${n > 1 ? 'the first lay' : 'it lay'} at ${at.map((x) => Number(x.toFixed(2))).join(', ')} mm)` : '';
      return `${which} not there any more${where}`;
    })
    .join('; ');
}
