import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { replaceFaces, type NewFace } from '../../mesh/replace-faces.ts';
import { add, mean, scaled, subtract, type Triple } from '../../numeric/vectors.ts';
import { straightOn } from '../../select/loops.ts';

type Side = 'left' | 'right' | 'both';

/** What lies round a vertex of the path: which side each of its corners is on, named by the half-edge that leaves the vertex there. */
interface Parting {
  sideOf: Map<number, Side>;
  /** for the face or border gap that gets both copies: the copy that comes first in its round */
  firstOfBoth: 'left' | 'right';
  /** edges to the left and to the right of the path */
  ways: Record<'left' | 'right', Triple[]>;
}

/**
 * Doubles the edge loop that leaves a triangle's corner: a strip of quads is put in its place, from the triangle, which becomes
 * a quad, to the border or to another triangle, which becomes one too.
 * @param out half-edge that leaves the corner and is no side of the triangle
 * @returns whether it was done; where the loop ends elsewhere or meets itself, nothing is changed
 */
export function doubleLoop(cage: Cage, triangle: number, out: number): boolean {
  const path: number[] = [];
  const vertices = [cage.origin[out]];
  const taboo = new Set(cage.faceVertices(triangle));
  let end: number | undefined;
  for (let h = out; end === undefined; h = straightOn(cage, h)) {
    if (h === NONE || taboo.has(cage.target(h)) || cage.isBorderEdge(h >> 1)) return false;
    path.push(h);
    taboo.add(cage.target(h));
    vertices.push(cage.target(h));
    end = endAt(cage, h, triangle);
  }
  if (cage.isBorderVertex(cage.origin[out])) return false;
  const partings = vertices.map((_, i) =>
    i < path.length ? parting(cage, path[i], i > 0 ? path[i - 1] ^ 1 : NONE, triangle) : parting(cage, NONE, path[i - 1] ^ 1, end!)
  );
  if (partings.some((p) => p.ways.left.length === 0 || p.ways.right.length === 0)) return false;
  open(cage, vertices, partings);
  return true;
}

/** The triangle, or NONE for the border, that a path may end at after half-edge h; undefined where it has to go on. */
function endAt(cage: Cage, h: number, start: number): number | undefined {
  const v = cage.target(h);
  if (cage.isBorderVertex(v)) return NONE;
  return cage
    .spokes(v)
    .map((k) => cage.face[k])
    .find((f) => f !== start && f !== cage.face[h] && f !== cage.face[h ^ 1] && cage.faceSize(f) === 3);
}

/** Goes round a vertex, from the half-edge `out` that leaves it along the path (NONE at its end), past `back`, which leads back. */
function parting(cage: Cage, out: number, back: number, gap: number): Parting {
  const at = cage.position(cage.origin[out === NONE ? back : out]);
  const result: Parting = { sideOf: new Map(), firstOfBoth: 'left', ways: { left: [], right: [] } };
  let side: 'left' | 'right' = out === NONE ? 'right' : 'left';
  const other = () => (side === 'left' ? 'right' : 'left');
  const start = out === NONE ? back : out;
  let h = start;
  do {
    if (h === back && out !== NONE) side = 'right';
    const way = subtract(cage.position(cage.target(h)), at);
    if (h !== out && h !== back) result.ways[side].push(way);
    const opens = cage.face[h] === gap && (out === NONE || back === NONE);
    result.sideOf.set(h, opens ? 'both' : side);
    if (opens) {
      // its round leaves the vertex along h, so it comes from the other side
      result.firstOfBoth = other();
      side = other();
    }
    h = cage.previous(h) ^ 1;
  } while (h !== start);
  return result;
}

function open(cage: Cage, vertices: number[], partings: Parting[]): void {
  const standsFor = new Map<number, number>();
  const copies = vertices.map((v, i) => {
    const at = cage.position(v);
    const placed = (side: 'left' | 'right') => add(at, scaled(mean(partings[i].ways[side]), 0.25));
    const right = cage.addVertex(...placed('right'));
    cage.copyValues('vertex', v, right);
    standsFor.set(right, v);
    const left = placed('left');
    cage.positions.set(left, 3 * v);
    return { left: v, right };
  });
  const placeOf = new Map(vertices.map((v, i) => [v, i]));
  const gone = new Set(partings.flatMap((p) => [...p.sideOf.keys()].map((h) => cage.face[h])).filter((f) => f !== NONE));
  const added: NewFace[] = [...gone].map((f) => {
    const corners: number[] = [];
    const cornersLike: number[] = [];
    for (const h of cage.loopOf(cage.faceEdge[f])) {
      const i = placeOf.get(cage.origin[h]);
      const side = i === undefined ? undefined : partings[i].sideOf.get(h);
      const { left, right } = i === undefined ? { left: cage.origin[h], right: NONE } : copies[i];
      if (side === 'both') corners.push(...(partings[i!].firstOfBoth === 'left' ? [left, right] : [right, left]));
      else corners.push(side === 'right' ? right : left);
      while (cornersLike.length < corners.length) cornersLike.push(h);
    }
    return { corners, like: f, cornersLike };
  });
  for (let i = 1; i < vertices.length; i++) {
    const [a, b] = [copies[i - 1], copies[i]];
    added.push({ corners: [a.right, b.right, b.left, a.left], like: cage.face[cage.findHalfEdge(vertices[i - 1], vertices[i])] });
  }
  replaceFaces(cage, { gone, added, standsFor });
}
