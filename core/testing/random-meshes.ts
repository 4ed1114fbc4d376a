import fc from 'fast-check';
import { Cage } from '../src/mesh/cage.ts';
import { mergeFaces, splitEdge, splitFace } from '../src/mesh/euler-operators.ts';
import { NONE } from '../src/mesh/half-edges.ts';
import { replaceFaces } from '../src/mesh/replace-faces.ts';
import { box, cylinder, plane, quadSphere, torus } from '../src/shapes/start-shapes.ts';

const starts = [
  () => box({ x: 3, y: 2, z: 2 }, { x: 3, y: 2, z: 2 }),
  () => plane(4, 4, 4, 3),
  () => cylinder(2, 3, 7, 3, true),
  () => cylinder(2, 3, 6, 3, false),
  () => quadSphere(2, 3),
  () => torus(4, 1.5, 6, 5)
];

export interface Step {
  kind: 'splitEdge' | 'splitFace' | 'mergeFaces' | 'removeFace';
  at: number;
  other: number;
}

const step: fc.Arbitrary<Step> = fc.record({
  kind: fc.constantFrom('splitEdge', 'splitFace', 'mergeFaces', 'removeFace' as const),
  at: fc.nat(1_000_000),
  other: fc.nat(1_000_000)
}) as fc.Arbitrary<Step>;

const pick = <T>(list: T[], at: number): T => list[at % list.length];

/** One change of topology on elements chosen by number. @returns what it does to vertices - edges + faces; nothing where it cannot be done */
export function takeStep(cage: Cage, { kind, at, other }: Step): number | undefined {
  if (kind === 'splitEdge') {
    splitEdge(cage, pick([...cage.edges()], at), 0.25 + (other % 50) / 100);
    return 0;
  }
  if (kind === 'mergeFaces') {
    const inner = [...cage.edges()].filter((e) => !cage.isBorderEdge(e));
    if (inner.length === 0) return undefined;
    const e = pick(inner, at);
    return mergeFaces(cage, [cage.face[2 * e], cage.face[2 * e + 1]]) === NONE ? undefined : 0;
  }
  if (kind === 'splitFace') {
    const faces = [...cage.faces()].filter((f) => cage.faceSize(f) > 3);
    if (faces.length === 0) return undefined;
    const loop = cage.loopOf(cage.faceEdge[pick(faces, at)]);
    const i = other % loop.length;
    const k = loop[(i + 2 + (other % (loop.length - 3))) % loop.length];
    if (cage.findHalfEdge(cage.origin[loop[i]], cage.origin[k]) >= 0) return undefined;
    splitFace(cage, loop[i], k);
    return 0;
  }
  if (cage.faceCount < 2) return undefined;
  replaceFaces(cage, { gone: [pick([...cage.faces()], at)], added: [] });
  return NaN;
}

export const steps = (most: number): fc.Arbitrary<Step[]> => fc.array(step, { maxLength: most });

/** A valid cage of any genus, open or closed, with faces of any size, moved about a little. */
export const anyCage: fc.Arbitrary<Cage> = fc
  .record({
    start: fc.nat(starts.length - 1),
    steps: steps(25),
    shake: fc.array(fc.double({ min: -0.2, max: 0.2, noNaN: true }), { minLength: 7, maxLength: 7 })
  })
  .map(({ start, steps: list, shake }) => {
    const cage = Cage.fromPolygons(starts[start]());
    for (const s of list) takeStep(cage, s);
    for (let i = 0; i < 3 * cage.vertexSlots; i++) cage.positions[i] += shake[i % shake.length];
    return cage;
  });
