import { describe, expect, it } from 'vitest';
import { cube, run } from '../../../testing/run-operation.ts';
import { withDab, type Dab } from '../../even/dabs.ts';
import { Cage } from '../../mesh/cage.ts';
import { faceNormal } from '../../mesh/normals.ts';
import { uniformMesh } from '../../mesh/polygon-mesh.ts';
import { triangulate } from '../../mesh/triangulate.ts';
import { regionList } from '../../regions/edit-regions.ts';
import { finds } from '../../select/finds.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices, type Selection } from '../../select/selection.ts';
import { boxUnion, plane } from '../../shapes/start-shapes.ts';
import { type Params } from '../operation.ts';

const set = (cage: Cage, params: Params, selection: Selection = emptySelection()) => run('set-region', cage, selection, params);
const inWords = (cage: Cage) => regionList(cage).map(({ name, faces }) => `${name}: ${faces.length}`);
const touch = (at: [number, number, number], pressure = 1): Dab => ({ at, normal: [0, 1, 0], by: [0, 0, 0], pressure });

describe('regions', () => {
  it('are made of picks, flooded to sharp edges, grown, merged, named and cleared', () => {
    const cage = cube(3);
    const one = set(cage, { name: 'lid' }, selectFaces([0]));
    expect([inWords(one.cage), one.notes]).toEqual([['rest: 53', 'lid: 1'], ['lid: 1 face.']]);
    const flooded = set(one.cage, { by: 'flood', name: 'side' }, selectFaces([9]));
    expect(inWords(flooded.cage)).toEqual(['rest: 44', 'lid: 1', 'side: 9']);
    const grown = set(flooded.cage, { by: 'grow' }, selectFaces([0]));
    expect(inWords(grown.cage)[1]).toBe('lid: 5');
    const merged = set(flooded.cage, { by: 'merge' }, selectFaces([9, 0]));
    expect(inWords(merged.cage)).toEqual(['rest: 44', 'side: 10']);
    expect(inWords(set(merged.cage, { by: 'name', name: 'flank' }, selectFaces([9])).cage)).toEqual(['rest: 44', 'flank: 10']);
    expect(inWords(set(merged.cage, { by: 'clear' }).cage)).toEqual([]);
    expect(inWords(set(cage, {}, selectFaces([3])).cage)[1]).toBe('Region 1: 1');
  });

  it('are made of flat panels and of pieces', () => {
    expect(regionList(set(cube(3), { by: 'panels' }).cage).map((r) => r.faces.length)).toEqual([9, 9, 9, 9, 9, 9]);
    const step = Cage.fromPolygons(boxUnion([0, 1, 2], [0, 1, 2], [0, 1], (i, j) => i + j < 2));
    expect(regionList(set(step, { by: 'panels' }).cage)).toHaveLength(8);
    const two = run('delete', Cage.fromPolygons(plane(6, 2, 3, 1)), selectFaces([1])).cage;
    expect(inWords(set(two, { by: 'islands' }).cage)).toEqual(['Piece 1: 1', 'Piece 2: 1']);
  });

  it('are split along picked edges, and each quad or pair of triangles is one', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 4, 4));
    const across = [...sheet.edges()].filter((e) => [2 * e, 2 * e + 1].every((h) => Math.abs(sheet.position(sheet.origin[h])[0] - 2) < 1e-9));
    const named = set(sheet, { name: 'lid' }, selectFaces(sheet.faces()));
    const split = set(named.cage, { by: 'split' }, selectEdges(across));
    expect([inWords(split.cage), split.notes]).toEqual([['lid: 12', 'Region 2: 4'], ['1 new region.']]);
    expect(() => set(named.cage, { by: 'split' }, selectEdges(across.slice(1)))).toThrow('do not split a region');
    expect(() => set(named.cage, { by: 'split' })).toThrow('No edge is picked.');
    const flat = plane(8, 8, 4, 4);
    const halves = Cage.fromPolygons(uniformMesh(flat.positions, Int32Array.from(triangulate(flat).triangles), 3));
    const quads = set(halves, { by: 'quads' });
    expect([halves.faceCount, quads.notes]).toEqual([32, ['16 regions.']]);
    const { cage } = run('cage-from-regions', quads.cage, emptySelection(), { read: 'carried' });
    expect([cage.faceCount, cage.vertexCount]).toEqual([16, 25]);
  });

  it('are snapped to sharp edges where a brush went over them or fell short', () => {
    const block = cube(6);
    const top = [...block.faces()].filter((f) => faceNormal(block, f)[1] > 0.9);
    const inner = top.filter((f) => block.loopOf(block.faceEdge[f]).every((h) => faceNormal(block, block.face[h ^ 1])[1] > 0.9));
    const over = [...block.faces()].find((f) => !top.includes(f) && block.loopOf(block.faceEdge[f]).some((h) => top.includes(block.face[h ^ 1])))!;
    const painted = set(block, { name: 'lid' }, selectFaces([...inner, over]));
    const snapped = set(painted.cage, { by: 'snap', rows: 2 });
    const lid = regionList(snapped.cage).find(({ name }) => name === 'lid')!;
    expect(new Set(lid.faces)).toEqual(new Set(top));
    expect(() => set(block, { by: 'snap' })).toThrow('no regions to snap');
  });

  it('flood no farther than creases', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 4, 4));
    for (const e of sheet.edges())
      if ([2 * e, 2 * e + 1].every((h) => Math.abs(sheet.position(sheet.origin[h])[0]) < 1e-9)) sheet.setValue('crease', e, 3);
    const { cage } = set(sheet, { by: 'flood' }, selectFaces([0]));
    expect(regionList(cage).map((r) => r.faces.length)).toEqual([8, 8]);
  });

  it('are painted face by face, also by a brush smaller than a face, and taken away with Ctrl', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 8, 8));
    const painted = (cage: Cage, dabs: Dab[], radius: number) =>
      run('region-brush', cage, emptySelection(), { radius, name: 'eye', dabs: dabs.reduce<number[]>(withDab, []) });
    const large = painted(sheet, [touch([0, 0, 0])], 2);
    // faces whose middles lie within 2 mm
    expect([inWords(large.cage)[1], large.notes]).toEqual(['eye: 12', ['eye: 12 faces painted.']]);
    const small = painted(sheet, [touch([0.5, 0, 0.5])], 0.1).cage;
    expect(inWords(small)[1]).toBe('eye: 1');
    expect(inWords(painted(large.cage, [touch([0, 0, 0], -1)], 1).cage)[1]).toBe('eye: 8');
  });

  it('are refused with a sentence', () => {
    expect(() => set(cube(2), {})).toThrow('No face is picked.');
    expect(() => set(cube(2), { by: 'name' }, selectFaces([0]))).toThrow('The region needs a name.');
    expect(() => set(cube(2), { by: 'merge' }, selectFaces([0, 1]))).toThrow('are in one region already');
    expect(() => set(cube(2), { by: 'clear' })).toThrow('no regions to clear');
  });
});

describe('colours', () => {
  it('are painted less towards the rim, taken away with Ctrl, and found again', () => {
    const sheet = Cage.fromPolygons(plane(8, 8, 8, 8));
    const painted = (cage: Cage, pressure: number, radius = 3) =>
      run('colour-brush', cage, emptySelection(), { radius, colour: '#ff0000', dabs: withDab([], touch([0, 0, 0], pressure)) }).cage;
    const at = (cage: Cage, x: number) => {
      const v = [...cage.vertices()].find((w) => Math.hypot(cage.position(w)[0] - x, cage.position(w)[2]) < 1e-9)!;
      return [...cage.layers.get('colour')!.data.subarray(3 * v, 3 * v + 3)];
    };
    const red = painted(sheet, 1);
    expect(at(red, 0)).toEqual([1, 0, 0]);
    expect(at(red, 2)[0]).toBeGreaterThan(0.5);
    expect(at(red, 2)[0]).toBeLessThan(0.9);
    expect(at(red, 4)).toEqual([0.5, 0.5, 0.5]);
    expect(sheet.layers.has('colour')).toBe(false);
    expect(at(painted(red, -1), 0)).toEqual([0.5, 0.5, 0.5]);
    const [middle] = [...red.vertices()].filter((v) => Math.hypot(...red.position(v)) < 1e-9);
    const alike = finds.find((f) => f.id === 'colour')!.pick(red, selectVertices([middle]), 10);
    expect(alike.vertices).toEqual([middle]);
  });
});
