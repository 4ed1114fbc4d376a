import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { box, boxUnion, cylinder, plane } from '../shapes/start-shapes.ts';
import { emptySelection, isEmpty, selectFaces, selectVertices, type Selection } from './selection.ts';
import { finds } from './finds.ts';

const pick = (id: string, cage: Cage, selection: Selection = emptySelection(), number?: number) => {
  const find = finds.find((t) => t.id === id)!;
  return find.pick(cage, selection, number ?? find.number?.initial ?? 0);
};
const block = () => Cage.fromPolygons(box({ x: 10, y: 10, z: 10 }, { x: 3, y: 3, z: 3 }));

describe('finding and picking', () => {
  it('finds edges by how sharp they are, how long, and whether creased', () => {
    expect(pick('sharp', block()).edges).toHaveLength(36);
    expect(pick('sharp', block(), emptySelection(), 95).edges).toEqual([]);
    const slab = Cage.fromPolygons(box({ x: 10, y: 1, z: 10 }, { x: 1, y: 1, z: 1 }));
    expect(pick('short', slab).edges).toHaveLength(4);
    expect(pick('long', slab, emptySelection(), 0.5).edges).toHaveLength(8);
    const creased = block();
    creased.setValue('crease', 7, 2);
    expect(pick('creased', creased).edges).toEqual([7]);
  });
  it('spreads from the picks over flat ground and through a region, and no further', () => {
    const cage = block();
    expect(pick('flat', cage, selectFaces([4])).faces).toHaveLength(9);
    expect(pick('flat', cage, selectFaces([4]), 95).faces).toHaveLength(54);
    for (const f of [2, 9, 30]) cage.setValue('region', f, 5);
    expect(pick('region', cage, selectFaces([9])).faces).toEqual([2, 9, 30]);
  });
  it('takes outlines, neighbours, and poles of one valence', () => {
    const sheet = Cage.fromPolygons(plane(5, 5, 5, 5));
    expect(pick('outline', sheet, selectFaces([12])).edges).toHaveLength(4);
    expect(pick('around', sheet, selectVertices(sheet.faceVertices(12))).faces).toHaveLength(9);
    const steps = Cage.fromPolygons(boxUnion([0, 1, 2], [0, 1, 2], [0, 1], (i, j) => i + j < 2));
    expect(pick('valence', steps, emptySelection(), 5).vertices).toHaveLength(2);
    expect(pick('valence', Cage.fromPolygons(cylinder(1, 2, 8, 1, true)), emptySelection(), 3).vertices).toHaveLength(16);
  });

  it('finds nothing with nothing picked just where it says that it begins at the picks', () => {
    const cage = block();
    cage.setValue('crease', 0, 5);
    cage.layer('colour');
    const without = finds.filter(({ id }) => isEmpty(pick(id, cage)) && !isEmpty(pick(id, cage, { vertices: [0], edges: [1], faces: [0] })));
    expect(without.map((f) => f.id)).toEqual(finds.filter((f) => f.fromPicks).map((f) => f.id));
  });
});
