import { describe, expect, it } from 'vitest';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { islands } from '../../mesh/topology.ts';
import { emptySelection, selectFaces, type Selection } from '../../select/selection.ts';
import { box, plane } from '../../shapes/start-shapes.ts';
import { applyPartsOperation } from '../apply.ts';
import { type PartsOperation } from '../operation.ts';
import { operationById } from '../registry.ts';

const named = (name: string, cage: Cage) => ({ id: name, name, cage });
const hull = () => named('Hull', Cage.fromPolygons(box({ x: 20, y: 10, z: 8 }, { x: 2, y: 1, z: 1 })));
const deck = () => named('Deck', Cage.fromPolygons(plane(20, 8, 2, 1)));
const done = (id: string, active: ReturnType<typeof named>, others: ReturnType<typeof named>[], selection: Selection = emptySelection()) =>
  applyPartsOperation(operationById(id) as PartsOperation, active, others, selection, {});

describe('combine', () => {
  it('takes another part in: its faces are picked and its island stays apart', () => {
    const { cage, gone, selection } = done('combine', hull(), [deck()]);
    assertValid(cage);
    expect([cage.faceCount, islands(cage).count, gone]).toEqual([10 + 2, 2, ['Deck']]);
    expect(selection.faces.length).toBe(2);
  });

  it('says what is missing where there is no other part', () => {
    expect(() => done('combine', hull(), [])).toThrow(/no second cage to combine with\. Choose the other part/);
  });
});

describe('separate', () => {
  it('makes a part of picked faces; the rest stays', () => {
    const { cage, made, notes } = done('separate', hull(), [], selectFaces([0, 1]));
    assertValid(cage);
    assertValid(made[0].cage);
    expect([cage.faceCount, made.map((part) => part.cage.faceCount)]).toEqual([8, [2]]);
    expect(notes).toEqual(['1 new part of 2 faces.']);
  });

  it('parts every island where nothing is picked', () => {
    const both = named('Hull', done('combine', hull(), [deck()]).cage);
    const { cage, made } = done('separate', both, []);
    expect([cage.faceCount, made.map((part) => part.cage.faceCount)]).toEqual([10, [2]]);
  });

  it('refuses one island, and all of the faces', () => {
    expect(() => done('separate', hull(), [])).toThrow(/one island\. Pick the faces/);
    expect(() => done('separate', hull(), [], selectFaces([...hull().cage.faces()]))).toThrow(/All faces .* Leave some unpicked/);
  });
});
