import { describe, expect, it } from 'vitest';
import { cube, run, sizes } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { Reference } from '../../reference/reference.ts';
import { emptySelection, selectEdges } from '../../select/selection.ts';
import { cylinder } from '../../shapes/start-shapes.ts';
import { bake, receiverError } from '../../subdivide/bake.ts';
import { Subdivision } from '../../subdivide/subdivision.ts';

const smooth = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;

const creased = (sharpness: number) => run('crease-by-angle', cube(2), emptySelection(), { angle: 40, sharpness }).cage;

const sharpEdges = (cage: Cage) => [...cage.edges()].filter((e) => cage.value('crease', e) > 0);

const apart = (note: string) => Number(/surfaces are ([\d.]+) mm apart/.exec(note)![1]);

const limitOf = (cage: Cage, levels = 4) => {
  const mesh = cage.toPolygons();
  const surface = new Subdivision(mesh, { levels, limit: true });
  return { positions: surface.evaluate(mesh.positions), faceStart: surface.last.faceStart, faceVertices: surface.last.faceVertices };
};

describe('creases and support loops', () => {
  it('become each other with the difference in mm; the chosen value is the best of those around it', () => {
    const cage = creased(3);
    const { cage: loops, notes } = run('creases-to-loops', cage, emptySelection());
    expect(sharpEdges(loops)).toHaveLength(0);
    expect(sizes(loops)[1]).toBe(loops.faceCount);
    const width = Number(/at ([\d.]+) mm/.exec(notes[0])![1]);
    for (const other of [0.6 * width, 1.4 * width])
      expect(apart(run('creases-to-loops', cage, emptySelection(), { choose: 'typed', width: other }).notes[0])).toBeGreaterThan(apart(notes[0]));
    const back = run('loops-to-creases', loops, emptySelection());
    expect([sharpEdges(back.cage).length, back.cage.faceCount]).toEqual([24, 24]);
    expect(apart(back.notes[0])).toBeLessThan(1.5 * apart(notes[0]));
    expect(new Set(sharpEdges(back.cage).map((e) => back.cage.value('crease', e)))).toEqual(new Set([3]));
  });

  it('are found where nobody tagged them', () => {
    const loops = run('brace', cube(2), selectEdges(sharpEdges(creased(10))), {
      width: 0.4
    }).cage;
    // a file knows nothing of tags
    const untagged = Cage.fromPolygons(loops.toPolygons());
    const { cage } = run('loops-to-creases', untagged, emptySelection(), { choose: 'typed', sharpness: 4, takeOut: false });
    expect(sharpEdges(cage).length).toBeGreaterThanOrEqual(24);
    expect(() => run('loops-to-creases', cube(3), emptySelection())).toThrow(/No bent edge with narrow strips/);
  });

  it('are baked for a receiver that ignores creases, within the tolerance, with the fewest levels', () => {
    const mesh = creased(10).toPolygons();
    const { mesh: baked, levels, error } = bake(mesh, smooth, 0.4);
    expect(baked.creaseEdges).toBeUndefined();
    expect(error).toBeLessThanOrEqual(0.4);
    expect(receiverError(mesh, smooth, levels - 1)).toBeGreaterThan(0.4);
    // what the receiver really gets
    const received = limitOf(Cage.fromPolygons(baked), 3);
    const off = new Reference(limitOf(creased(10), levels + 3)).distances(received.positions).reduce((a, b) => Math.max(a, b), 0);
    expect(off).toBeLessThanOrEqual(0.41);
    expect(run('bake-creases', creased(10), emptySelection(), { tolerance: 0.4 }).notes[0]).toMatch(new RegExp(`^${levels} levels baked`));
    expect(() => run('bake-creases', creased(10), emptySelection(), { tolerance: 0.0001 })).toThrow(
      /still leaves .* Creases to support loops comes to [\d.]+ mm at [\d.]+ mm, with \d+ faces\./
    );
    expect(() => run('bake-creases', cube(), emptySelection())).toThrow(/no creases/);
  });
});

describe('a prism that no level bakes within its tolerance', () => {
  it('is offered support loops instead, with how near they come and how many faces they take', () => {
    const prism = Cage.fromPolygons(cylinder(15, 30, 12, 1, true));
    const rims = [...prism.edges()].filter((e) => prism.position(prism.origin[2 * e])[1] === prism.position(prism.origin[2 * e + 1])[1]);
    const capped = run('crease', prism, selectEdges(rims), { sharpness: 10 }).cage;
    let said = '';
    try {
      run('bake-creases', capped, emptySelection(), { tolerance: 0.1 });
    } catch (error) {
      said = (error as Error).message;
    }
    const told = /still leaves ([\d.]+) mm/.exec(said)!;
    const [, apart, width, faces] = /comes to ([\d.]+) mm at ([\d.]+) mm, with (\d+) faces/.exec(said)!;
    expect(Number(told[1])).toBeGreaterThan(0.1);
    expect(Number(apart)).toBeLessThan(0.1);
    const loops = run('creases-to-loops', capped, emptySelection(), { choose: 'typed', width: Number(width) });
    expect(loops.cage.faceCount).toBe(Number(faces));
  });
});
