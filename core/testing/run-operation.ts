import { assertValid } from '../src/mesh/assert-valid.ts';
import { Cage } from '../src/mesh/cage.ts';
import { applyOperation } from '../src/operations/apply.ts';
import { type CageOperation, type CageResult, type Params } from '../src/operations/operation.ts';
import { operationById } from '../src/operations/registry.ts';
import { type Selection } from '../src/select/selection.ts';
import { box } from '../src/shapes/start-shapes.ts';

/** Runs an operation by its id and checks that the result is valid. */
export function run(id: string, cage: Cage, selection: Selection, params: Params = {}): CageResult {
  const result = applyOperation(operationById(id) as CageOperation, cage, selection, params);
  assertValid(result.cage);
  return result;
}

/** A cube of 10 mm with n x n faces a side. */
export const cube = (n = 1): Cage => Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: n, y: n, z: n }));

/** How many triangles, quads, faces of five corners. */
export const sizes = (cage: Cage): number[] => [3, 4, 5].map((n) => [...cage.faces()].filter((f) => cage.faceSize(f) === n).length);

/** The vertex nearest a place. */
export const vertexAt = (cage: Cage, ...p: [number, number, number]): number =>
  [...cage.vertices()].reduce((a, b) => {
    const off = (v: number) => Math.hypot(...cage.position(v).map((x, k) => x - p[k]));
    return off(b) < off(a) ? b : a;
  });
