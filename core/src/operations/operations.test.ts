import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { anyCage } from '../../testing/random-meshes.ts';
import { someParams } from '../../testing/some-params.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { shortestMoves } from '../refit/least-squares.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../select/selection.ts';
import { box, plane } from '../shapes/start-shapes.ts';
import { applyOperation, validParams } from './apply.ts';
import { fieldsOf } from './card-fields.ts';
import { LONG, benches, secondsFor, type CageOperation, type ShapeOperation } from './operation.ts';
import { OperationRefused, tooMany } from './refusal.ts';
import { operationById, operations, rackAt } from './registry.ts';

/** One point that is its vertex. */
const noRows = { start: Int32Array.of(0, 1), index: Int32Array.of(0), weight: Float64Array.of(1) };

const cageOperations = operations.filter((o): o is CageOperation => o.kind === 'cage');

describe('every operation of the registry', () => {
  it('has its own id, a purpose, and fields with labels whose defaults are valid', () => {
    expect(new Set(operations.map((o) => o.id)).size).toBe(operations.length);
    for (const operation of operations) {
      expect(operation.purpose).toMatch(/^[A-Z].*\.$/);
      expect(benches[operation.bench - 1]).toBeDefined();
      for (const field of fieldsOf(operation)) expect(field.label).toMatch(/^[A-Z]/);
      expect(() => validParams(operation, {})).not.toThrow();
    }
  });

  it('has fields that allow just what its schema allows, at their bounds', () => {
    for (const operation of operations)
      for (const { name, type, min, max, above, whole } of fieldsOf(operation)) {
        if (type !== 'number') continue;
        const isValid = (value: number) => operation.params.extract(name).validate(value).error === undefined;
        if (min !== undefined) expect([operation.id, name, isValid(min)]).toEqual([operation.id, name, !above]);
        if (max !== undefined) expect([operation.id, name, isValid(max)]).toEqual([operation.id, name, true]);
        if (min !== undefined || max !== undefined)
          expect([operation.id, name, isValid((min ?? max!) + (min === undefined ? -0.5 : 0.5))]).toEqual([operation.id, name, !whole]);
      }
  });

  it('is refused with a sentence where its equations have no solution, or its result is no shape', () => {
    const cage = Cage.fromPolygons(box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 }));
    const like = (run: CageOperation['run']): CageOperation => ({ ...(operationById('flatten') as CageOperation), check: () => undefined, run });
    const apply = (run: CageOperation['run']) => () => applyOperation(like(run), cage, emptySelection(), {});
    const noSolution = () => shortestMoves(noRows, [{ row: 0, by: [NaN, 0, 0] }], Int32Array.of(0), 1, 0.1) as never;
    expect(apply(noSolution)).toThrow(/no single solution/);
    const movedTo = (x: number) => apply((c) => ((c = c.clone()), (c.positions[0] = x), { cage: c, selection: emptySelection(), notes: [] }));
    expect(movedTo(NaN)).toThrow(/^Flatten: the result has a vertex at a place that is no number/);
    expect(movedTo(2e9)).toThrow(OperationRefused);
    expect(movedTo(5e8)).not.toThrow();
  });

  it('is no dead end: where it cannot run, the step that makes it possible is told', () => {
    const cages = [new Cage(), Cage.fromPolygons(box({ x: 2, y: 2, z: 2 }, { x: 2, y: 2, z: 2 })), Cage.fromPolygons(plane(4, 4, 3, 3))];
    const deadEnds = new Set<string>();
    for (const operation of cageOperations)
      for (const cage of cages)
        for (const picks of [emptySelection(), selectVertices([0]), selectEdges([0]), selectEdges([0, 5]), selectFaces([0]), selectFaces([0, 3])]) {
          if (cage.faceCount === 0 && picks.vertices.length + picks.edges.length + picks.faces.length > 0) continue;
          try {
            applyOperation(operation, cage.clone(), picks, validParams(operation, {}));
          } catch (error) {
            if (!(error instanceof OperationRefused)) throw error;
            const { found, instead, waits, numbers } = error.refusal;
            if (!instead && !waits && !numbers) deadEnds.add(`${operation.id}: ${found}`);
          }
        }
    expect([...deadEnds]).toEqual([]);
  });

  it('has a key that no other of its row has', () => {
    for (let bench = 1; bench <= 8; bench++) {
      const { upper, lower, others } = rackAt(bench as 1);
      const listed = [...upper, ...lower, ...others].filter(Boolean);
      expect(new Set(listed).size).toBe(listed.length);
    }
  });

  it.each(cageOperations.map((o) => [o.name, o] as const))(
    '%s keeps any cage valid, changes only its copy, and leaves a selection that is there',
    (_name, operation) => {
      fc.assert(
        fc.property(
          anyCage,
          fc.array(fc.nat(10_000), { minLength: 1, maxLength: 5 }),
          fc.constantFrom('vertices', 'edges', 'faces', 'nothing'),
          fc.nat(1000),
          (cage, picks, kind, which) => {
            const before = JSON.stringify(cage.toPolygons());
            const ids = kind === 'nothing' ? [] : [...cage[kind as 'vertices']()];
            const selection = { ...emptySelection(), ...(kind !== 'nothing' && { [kind]: [...new Set(picks.map((i) => ids[i % ids.length]))] }) };
            try {
              const result = applyOperation(operation, cage, selection, someParams(operation, which));
              assertValid(result.cage);
              for (const v of result.selection.vertices) expect(result.cage.hasVertex(v)).toBe(true);
              for (const e of result.selection.edges) expect(result.cage.hasEdge(e)).toBe(true);
              for (const f of result.selection.faces) expect(result.cage.hasFace(f)).toBe(true);
            } catch (error) {
              if (!(error instanceof OperationRefused)) throw error;
              expect(error.message).toMatch(/\w+.*\./);
            }
            expect(JSON.stringify(cage.toPolygons())).toBe(before);
          }
        ),
        { numRuns: amount(60, 1000) }
      );
    }
  );
});

describe('counts of faces', () => {
  const shape = (across: number) => ({ shape: 'box', across, up: across, deep: across });
  const startShape = operationById('start-shape') as ShapeOperation;

  it('run in the background from 200,000 on, and are refused over two million before anything is made', () => {
    const seconds = (n: number) => secondsFor(startShape, new Cage(), emptySelection(), validParams(startShape, shape(n)));
    expect([seconds(100) < LONG, seconds(200) >= LONG]).toEqual([true, true]);
    const sheet = Cage.fromPolygons(plane(10, 10, 500, 500));
    const divideOnce = operationById('divide-once') as CageOperation;
    expect(divideOnce.check(sheet, emptySelection(), {}, { surface: { scheme: 'catmull-clark', borderCorners: 'sharp' } })).toBeUndefined();
    expect(tooMany('The part', 2_000_001, 'Pick fewer faces.')).toEqual({
      found: 'The part would have 2,000,001 faces; 2,000,000 is the most.',
      instead: 'Pick fewer faces.',
      where: undefined
    });
    expect(() => startShape.make(validParams(startShape, { shape: 'sphere', across: 500 }))).not.toThrow();
    expect(() => startShape.make({ ...validParams(startShape, shape(500)), across: 900, up: 900 })).toThrow(/would have 3,420,000 faces/);
  });
});
