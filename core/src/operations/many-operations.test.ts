import fc from 'fast-check';
import { strFromU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../testing/random-meshes.ts';
import { someParams } from '../../testing/some-params.ts';
import { Logbook } from '../logbook/logbook.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { type Cage } from '../mesh/cage.ts';
import { eulerCharacteristic } from '../mesh/topology.ts';
import { emptySelection, type Selection } from '../select/selection.ts';
import { type CageOperation, type Params } from './operation.ts';
import { OperationRefused } from './refusal.ts';
import { operations } from './registry.ts';

/** Operations that cut, merge and move without opening, closing or doubling anything: the characteristic stays. */
const KEEP_CHARACTERISTIC = new Set([
  ...['add-loop', 'slide', 'cut', 'dissolve', 'extrude', 'inset', 'bevel', 'swing-edge', 'connect', 'point-on-edge', 'divide-once', 'slice-set'],
  ...[
    'move',
    'rotate',
    'scale',
    'make-round',
    'flatten',
    'align',
    'space-out',
    'twist',
    'taper',
    'bend',
    'inflate',
    'flip',
    'turn-outward',
    'thin-out',
    'run-cut-out'
  ],
  ...['crease', 'crease-by-angle', 'crease-regions', 'clear-creases', 'brace', 'brace-width', 'take-out-brace', 'pull-surface']
]);
/** Those that would make a small cage large in a few steps take part seldom. */
const GROWS = new Set(['divide-once', 'slice-set', 'duplicate', 'mirror', 'bevel', 'brace', 'creases-to-loops', 'bake-creases']);
/** What these need is hardly ever picked by chance; they have tests of their own. */
const RARELY = new Set(['lay-along', 'move-pole', 'draw-face', 'along-curve', 'brace-width', 'run-cut-out', 'sweep']);
const ON_BRACED_EDGES = new Set(['brace-width', 'take-out-brace']);
/** Those that compare whole surfaces, or need a reference or regions, have tests of their own. */
const APART = new Set([
  'bake-creases',
  'fit-reference',
  'fix-all',
  'idle-loops',
  'cage-from-regions',
  'hold',
  'crease-regions',
  'creases-to-loops',
  'loops-to-creases',
  'pull-surface'
]);
const cageOperations = operations.filter((o): o is CageOperation => o.kind === 'cage' && !o.onReference && !APART.has(o.id));
const MOST_FACES = 400;

/** Everything a cage holds, as one text. */
const bytesOf = (cage: Cage): string => {
  const text = (a: { buffer: ArrayBufferLike }) => strFromU8(new Uint8Array(a.buffer), true);
  return [cage.positions, cage.vertexEdge, cage.next, cage.origin, cage.face, cage.faceEdge, ...[...cage.layers.values()].map((l) => l.data)]
    .map(text)
    .join('|');
};

/** Cuts go between the middles of two edges of a face; other operations take numbers only. */
function paramsOf(operation: CageOperation, cage: Cage, picks: number[], which: number): Params {
  const params = someParams(operation, which);
  const faces = [...cage.faces()];
  if (operation.id !== 'cut') return params;
  const sides = cage.loopOf(cage.faceEdge[faces[picks[0] % faces.length]]);
  const at = [picks[0] % sides.length, (picks[0] + 1 + (which % (sides.length - 1))) % sides.length];
  return { ...params, reach: 'seen', points: at.map((i) => ({ edge: sides[i] >> 1, fraction: 0.5 })) };
}

/** Vertices, edges or faces anywhere; what only works on braced edges finds one of those, as long as there is one. */
function selectionOf(operation: CageOperation, cage: Cage, kind: Turn['kind'], picks: number[]): Selection {
  const braced = ON_BRACED_EDGES.has(operation.id) ? [...cage.edges()].filter((e) => cage.value('braced', e) > 0) : [];
  if (braced.length > 0) return { ...emptySelection(), edges: [...new Set(picks.map((i) => braced[i % braced.length]))] };
  const ids = [...cage[kind]()];
  return { ...emptySelection(), [kind]: [...new Set(picks.map((i) => ids[i % ids.length]))] };
}

/** Whether vertices without faces alone are picked. */
const picksLone = (cage: Cage, { vertices, edges, faces }: Selection): boolean =>
  edges.length + faces.length === 0 && vertices.every((v) => cage.vertexEdge[v] < 0);

interface Turn {
  operation: number;
  kind: 'vertices' | 'edges' | 'faces';
  picks: number[];
  which: number;
}

const turn: fc.Arbitrary<Turn> = fc.record({
  operation: fc.nat(cageOperations.length - 1),
  kind: fc.constantFrom('vertices', 'edges', 'faces' as const) as fc.Arbitrary<Turn['kind']>,
  picks: fc.array(fc.nat(10_000), { minLength: 1, maxLength: 4 }),
  which: fc.nat(1000)
});

describe('10,000 random operations', () => {
  it('leave valid cages, keep the characteristic they promise, and are undone to identical bytes', { timeout: 300_000 }, () => {
    let done = 0;
    let refused = 0;
    const counted = new Map<string, number>();
    fc.assert(
      fc.property(anyCage, fc.array(turn, { minLength: 50, maxLength: 50 }), (start, turns) => {
        const logbook = new Logbook();
        logbook.add({
          operation: 'bring-in',
          part: 'p',
          params: {},
          selection: emptySelection(),
          cast: start.toPolygons(),
          makes: { name: 'Part', kind: 'cage' }
        });
        const states = [bytesOf(logbook.part('p')!.cage!)];
        for (const { operation: index, kind, picks, which } of turns) {
          const cage = logbook.part('p')!.cage!;
          const operation = cageOperations[index];
          done++;
          if (cage.faceCount === 0 || (cage.faceCount > MOST_FACES && GROWS.has(operation.id))) continue;
          const selection = selectionOf(operation, cage, kind, picks);
          const before = eulerCharacteristic(cage);
          const params = paramsOf(operation, cage, picks, which);
          try {
            logbook.add({ operation: operation.id, part: 'p', params, selection });
          } catch (error) {
            if (!(error instanceof OperationRefused))
              throw new Error(
                `${operation.name} ${JSON.stringify(someParams(operation, which))} on ${JSON.stringify(selection)}: ${(error as Error).stack}`
              );
            refused++;
            continue;
          }
          const result = logbook.part('p')!.cage!;
          try {
            assertValid(result);
          } catch (error) {
            throw new Error(
              `${operation.name} ${Math.max(...cage.positions.map(Math.abs))} ${JSON.stringify(someParams(operation, which))} on ${JSON.stringify(selection)}: ${String(error)}`
            );
          }
          for (const e of result.edges()) if (!(result.value('crease', e) >= 0)) throw new Error(`${operation.id}: a sharpness is no number`);
          // a quad that is begun from vertices without faces is a new piece
          const promised = before + Number(operation.id === 'extrude' && picksLone(cage, selection));
          if (KEEP_CHARACTERISTIC.has(operation.id) && params.weld !== true && eulerCharacteristic(result) !== promised)
            throw new Error(`${operation.id}: the characteristic went from ${before} to ${eulerCharacteristic(result)}`);
          counted.set(operation.id, (counted.get(operation.id) ?? 0) + 1);
          states.push(bytesOf(result));
        }
        while (logbook.cursor > 1) {
          logbook.undo();
          if (bytesOf(logbook.part('p')!.cage!) !== states[logbook.cursor - 1])
            throw new Error(`undone to other bytes after entry ${logbook.cursor}`);
        }
      }),
      { numRuns: 200, endOnFailure: true }
    );
    expect(done).toBeGreaterThanOrEqual(10_000);
    // refusals are part of it, but every operation has to have been carried out as well
    expect(refused).toBeLessThan(0.7 * done);
    expect(cageOperations.map((o) => o.id).filter((id) => !counted.has(id) && !RARELY.has(id))).toEqual([]);
  });
});
