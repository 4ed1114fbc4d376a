import { Cage } from './cage.ts';
import { edgeMarks, putEdgeMarks } from './edge-marks.ts';
import { replaceFaces } from './replace-faces.ts';

/** A copy of a cage with another put into it as islands of its own; ids of the first stay. @returns ids by those of the other */
export function joinCages(first: Cage, other: Cage): { cage: Cage; vertexOf: Map<number, number>; faceOf: Map<number, number> } {
  const cage = first.clone();
  const vertexOf = new Map<number, number>();
  for (const v of other.vertices()) vertexOf.set(v, cage.addVertex(...other.position(v)));
  const faces = [...other.faces()];
  const ids = replaceFaces(cage, { gone: [], added: faces.map((f) => ({ corners: other.faceVertices(f).map((v) => vertexOf.get(v)!) })) });
  const faceOf = new Map(faces.map((f, i) => [f, ids[i]]));
  takeMarks(cage, other, vertexOf, faceOf);
  return { cage, vertexOf, faceOf };
}

/** A cage of some faces of another, with their marks. @returns it, and its vertices by those of the other */
export function cageOfFaces(from: Cage, faces: number[]): { cage: Cage; vertexOf: Map<number, number> } {
  const cage = new Cage();
  const vertices = new Set(faces.flatMap((f) => from.faceVertices(f)));
  const vertexOf = new Map([...vertices].map((v) => [v, cage.addVertex(...from.position(v))]));
  const ids = replaceFaces(cage, { gone: [], added: faces.map((f) => ({ corners: from.faceVertices(f).map((v) => vertexOf.get(v)!) })) });
  takeMarks(cage, from, vertexOf, new Map(faces.map((f, i) => [f, ids[i]])));
  return { cage, vertexOf };
}

/** Puts the marks of one cage's elements on their copies in another. */
export function takeMarks(cage: Cage, from: Cage, vertexOf: ReadonlyMap<number, number>, faceOf: ReadonlyMap<number, number>): void {
  if (from.layers.has('corner')) for (const [v, w] of vertexOf) cage.setValue('corner', w, from.value('corner', v));
  const colour = from.layers.get('colour');
  if (colour) for (const [v, w] of vertexOf) cage.layer('colour').data.set(colour.data.subarray(3 * v, 3 * v + 3), 3 * w);
  if (from.layers.has('region')) {
    const regionOf = from.regionNames.map((name) => {
      const present = cage.regionNames.indexOf(name);
      return present >= 0 ? present : cage.regionNames.push(name) - 1;
    });
    for (const [f, g] of faceOf) cage.setValue('region', g, regionOf[from.value('region', f)] ?? from.value('region', f));
  }
  const uv = from.layers.get('uv');
  for (const [f, g] of faceOf) {
    const old = from.loopOf(from.faceEdge[f]);
    const start = cage.loopOf(cage.faceEdge[g]).find((h) => cage.origin[h] === vertexOf.get(from.origin[old[0]]));
    const fresh = start === undefined ? [] : cage.loopOf(start);
    fresh.forEach((h, i) => {
      const marks = edgeMarks(from, old[i] >> 1);
      if (marks) putEdgeMarks(cage, h >> 1, marks);
      if (uv) cage.layer('uv').data.set(uv.data.subarray(2 * old[i], 2 * old[i] + 2), 2 * h);
    });
  }
}
