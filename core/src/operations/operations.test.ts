import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../testing/random-meshes.ts';
import { someParams } from '../../testing/some-params.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { borderLoops, enclosedVolume, eulerCharacteristic, islands } from '../mesh/topology.ts';
import { shortestMoves } from '../refit/least-squares.ts';
import { edgeLoop } from '../select/loops.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices, type Selection } from '../select/selection.ts';
import { box, cylinder, plane, quadSphere, torus } from '../shapes/start-shapes.ts';
import { applyOperation, validParams } from './apply.ts';
import { fieldsOf } from './card-fields.ts';
import { benches, LONG, secondsFor, type CageOperation, type Params, type ShapeOperation } from './operation.ts';
import { OperationRefused, tooMany } from './refusal.ts';
import { operationById, operations, rackAt } from './registry.ts';

/** One point that is its vertex. */
const noRows = { start: Int32Array.of(0, 1), index: Int32Array.of(0), weight: Float64Array.of(1) };

const cageOperations = operations.filter((o): o is CageOperation => o.kind === 'cage');
const run = (id: string, cage: Cage, selection: Selection, params: Params = {}) =>
  applyOperation(operationById(id) as CageOperation, cage, selection, params);

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
        { numRuns: 200 }
      );
    }
  );
});

describe('move, rotate, scale', () => {
  it('take numbers', () => {
    const cage = Cage.fromPolygons(box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 }));
    const all = selectVertices(cage.vertices());
    expect(run('move', cage, selectVertices([0]), { x: 1, z: -2 }).cage.position(0)).toEqual([
      cage.position(0)[0] + 1,
      cage.position(0)[1],
      cage.position(0)[2] - 2
    ]);
    expect(enclosedVolume(run('scale', cage, all, { x: 200, y: 100, z: 50 }).cage)).toBeCloseTo(8, 12);
    const turned = run('rotate', cage, all, { x: 0, y: 90, z: 0 }).cage;
    expect(enclosedVolume(turned)).toBeCloseTo(8, 12);
    const [x, y, z] = cage.position(0);
    turned.position(0).forEach((p, k) => expect(p).toBeCloseTo([z, y, -x][k], 12));
  });
  it('refuse to flatten a whole part', () => {
    const cage = Cage.fromPolygons(quadSphere(1, 2));
    expect(() => run('scale', cage, selectFaces(cage.faces()), { y: 0 })).toThrow(/flatten the whole part along Y/);
  });
});

describe('dissolve', () => {
  it('takes a whole loop out of a torus and leaves quads', () => {
    const cage = Cage.fromPolygons(torus(4, 1, 10, 6));
    const loop = edgeLoop(cage, cage.findHalfEdge(0, 1) >> 1).edges;
    const { cage: thinner } = run('dissolve', cage, selectEdges(loop));
    assertValid(thinner);
    expect([thinner.faceCount, eulerCharacteristic(thinner)]).toEqual([54, 0]);
    expect([...thinner.faces()].every((f) => thinner.faceSize(f) === 4)).toBe(true);
  });
  it('makes one face of picked faces, and of the faces round a vertex', () => {
    const cage = Cage.fromPolygons(plane(4, 4, 4, 4));
    expect(run('dissolve', cage, selectFaces([0, 1, 2, 3])).cage.faceCount).toBe(13);
    const inner = [...cage.vertices()].find((v) => !cage.isBorderVertex(v))!;
    const { cage: merged } = run('dissolve', cage, selectVertices([inner]));
    assertValid(merged);
    expect([merged.faceCount, merged.hasVertex(inner)]).toEqual([13, false]);
  });
  it('keeps vertices of two edges when asked', () => {
    const cage = Cage.fromPolygons(plane(2, 2, 2, 1));
    const inner = [...cage.edges()].find((e) => !cage.isBorderEdge(e))!;
    expect(run('dissolve', cage, selectEdges([inner])).cage.vertexCount).toBe(4);
    expect(run('dissolve', cage, selectEdges([inner]), { keepVertices: true }).cage.vertexCount).toBe(6);
  });
  it('says why a border edge stays', () => {
    const cage = Cage.fromPolygons(plane(1, 1, 1, 1));
    expect(() => run('dissolve', cage, selectEdges([0]))).toThrow(/on a border.*Delete the face/);
  });
});

describe('delete, flip, mirror', () => {
  it('leaves a hole with a border', () => {
    const { cage } = run('delete', Cage.fromPolygons(quadSphere(1, 4)), selectVertices([30]));
    assertValid(cage);
    expect(borderLoops(cage).map((b) => b.length)).toEqual([8]);
  });
  it('mirrors half a sphere to a whole one, closed', () => {
    const cage = Cage.fromPolygons(quadSphere(5, 4));
    const dented = run('move', cage, selectVertices([...cage.vertices()].filter((v) => cage.position(v)[0] < -4)), { x: 2 }).cage;
    const { cage: whole } = run('mirror', dented, emptySelection(), { axis: 'X', keep: 'positive', weld: 0.01 });
    assertValid(whole);
    expect([borderLoops(whole).length, islands(whole).count, whole.faceCount]).toEqual([0, 1, cage.faceCount]);
    expect(enclosedVolume(whole)).toBeCloseTo(enclosedVolume(cage), 9);
  });
  it('cuts what crosses the plane, or draws it there, at any distance and across any plane', () => {
    const block = Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 3, y: 3, z: 3 }));
    const cut = run('mirror', block, emptySelection(), { at: 1 }).cage;
    assertValid(cut);
    expect([enclosedVolume(cut).toFixed(6), borderLoops(cut).length]).toEqual(['800.000000', 0]);
    const drawn = run('mirror', block, emptySelection(), { crossing: 'drawn' }).cage;
    assertValid(drawn);
    expect([enclosedVolume(drawn).toFixed(6), drawn.faceCount]).toEqual(['1000.000000', 2 * (9 + 4 * 3 * 2)]);
    // a block that leans is mirrored across its own top
    const leaning = run('rotate', block, selectVertices(block.vertices()), { z: 30 }).cage;
    const top = [...block.faces()].filter((f) => block.faceVertices(f).every((v) => block.position(v)[1] > 4.9));
    const doubled = run('mirror', leaning, selectFaces(top), { axis: 'picked', keep: 'negative', weld: 0.01 }).cage;
    assertValid(doubled);
    expect(enclosedVolume(doubled)).toBeCloseTo(2000, 3);
    expect(() => run('mirror', block, emptySelection(), { axis: 'picked' })).toThrow(/make no plane/);
  });
  it('mirrors a part beside the plane as a second island', () => {
    const tube = Cage.fromPolygons(cylinder(1, 2, 8, 1, false));
    const shifted = run('move', tube, selectVertices(tube.vertices()), { x: 9 }).cage;
    expect(islands(run('mirror', shifted, emptySelection()).cage).count).toBe(2);
    expect(() => run('mirror', shifted, emptySelection(), { keep: 'negative' })).toThrow(/No face lies on the negative side/);
  });
  it('flips the whole part', () => {
    const { cage } = run('flip', Cage.fromPolygons(quadSphere(2, 3)), emptySelection());
    assertValid(cage);
    expect(enclosedVolume(cage)).toBeLessThan(0);
  });
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
