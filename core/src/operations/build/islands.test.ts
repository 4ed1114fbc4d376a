import { describe, expect, it } from 'vitest';
import { cube, run, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { borderLoops, enclosedVolume, islands } from '../../mesh/topology.ts';
import { edgeLoop } from '../../select/loops.ts';
import { emptySelection, selectEdges, selectFaces } from '../../select/selection.ts';
import { cylinder } from '../../shapes/start-shapes.ts';

const facesOnTop = (cage: Cage) => [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[1] > 4.9));

describe('duplicate', () => {
  it('copies the whole part several times with its marks', () => {
    const creased = cube();
    creased.setValue('crease', 0, 4);
    const { cage, selection } = run('duplicate', creased, emptySelection(), { copies: 3, x: 20 });
    expect([islands(cage).count, selection.faces.length, enclosedVolume(cage)]).toEqual([4, 18, 4000]);
    expect([...cage.edges()].filter((e) => cage.value('crease', e) === 4)).toHaveLength(4);
  });
});

describe('open edges', () => {
  it('opens a tube along a loop into two', () => {
    const tube = Cage.fromPolygons(cylinder(5, 20, 8, 2, false));
    const loop = edgeLoop(tube, tube.findHalfEdge(8, 9) >> 1).edges;
    const { cage, selection } = run('open-edges', tube, selectEdges(loop));
    expect([islands(cage).count, borderLoops(cage).length, selection.edges.length]).toEqual([2, 4, 16]);
  });
  it('takes picked faces off along their outline, and opens a slit inside', () => {
    const block = cube(3);
    const { cage } = run('open-edges', block, selectFaces(facesOnTop(block)));
    expect([islands(cage).count, borderLoops(cage).map((b) => b.length)]).toEqual([2, [12, 12]]);
    const [a, b, c] = [-5 / 3, 5 / 3, 5].map((x) => vertexAt(block, x, 5, 5 / 3));
    const slit = [block.findHalfEdge(a, b) >> 1, block.findHalfEdge(b, c) >> 1];
    expect(borderLoops(run('open-edges', block, selectEdges(slit)).cage).map((l) => l.length)).toEqual([4]);
    expect(() => run('open-edges', block, selectEdges(slit.slice(0, 1)))).toThrow(/Pick the edge that follows/);
  });
});

describe('flip, turn faces outward', () => {
  it('turns picked islands only, and turns those that look inward outward', () => {
    const two = run('duplicate', cube(), emptySelection(), { x: 30 });
    const { cage: mixed } = run('flip', two.cage, two.selection);
    expect(enclosedVolume(mixed)).toBeCloseTo(0, 9);
    const { cage, notes } = run('turn-outward', mixed, emptySelection());
    expect(enclosedVolume(cage)).toBeCloseTo(2000, 9);
    expect(notes[0]).toContain('1 island of 6 faces');
    expect(run('turn-outward', cage, emptySelection()).notes[0]).toContain('already');
  });
});
