import { describe, expect, it } from 'vitest';
import { cube, run, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { enclosedVolume } from '../../mesh/topology.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../../select/selection.ts';
import { type CageOperation } from '../operation.ts';
import { operationById } from '../registry.ts';
import { WORLD_AXES, type Frame } from '../shared/frame.ts';
import { numbersFor, placementOf, type Placement } from '../shared/placement.ts';
import { cylinder, plane, quadSphere } from '../../shapes/start-shapes.ts';

const sheet = () => Cage.fromPolygons(plane(20, 20, 20, 20));

describe('frames and pivots', () => {
  it("moves along the selection's own normal, and to a typed place", () => {
    const ball = Cage.fromPolygons(quadSphere(10, 4));
    const f = [...ball.faces()][7];
    const before = ball.faceVertices(f).map((v) => ball.position(v));
    const { cage } = run('move', ball, selectFaces([f]), { y: 2, frame: 'selection' });
    const outward = (p: number[]) => Math.hypot(...p);
    ball.faceVertices(f).forEach((v, i) => expect(outward(cage.position(v))).toBeGreaterThan(outward(before[i]) + 1.5));
    const placed = run('move', ball, selectVertices([3]), { x: 1, y: 2, z: 3, how: 'to' }).cage;
    placed.position(3).forEach((x, k) => expect(x).toBeCloseTo([1, 2, 3][k], 12));
  });

  it('turns about a typed pivot, the last pick, and the centre of a border', () => {
    const v = vertexAt(cube(), 5, 5, 5);
    const about = (params: object, selection = selectVertices([v])) => run('rotate', cube(), selection, { z: 90, ...params }).cage.position(v);
    about({ pivot: 'typed', pivotX: 5, pivotY: 0, pivotZ: 0 }).forEach((x, k) => expect(x).toBeCloseTo([0, 0, 5][k], 9));
    about({ pivot: 'origin' }).forEach((x, k) => expect(x).toBeCloseTo([-5, 5, 5][k], 9));
    about({ pivot: 'last' }).forEach((x) => expect(x).toBeCloseTo(5, 9));
    const tube = Cage.fromPolygons(cylinder(4, 10, 8, 1, false));
    const rim = vertexAt(tube, 4, 5, 0);
    const turned = run('rotate', tube, selectVertices([rim]), { y: 90, pivot: 'border' }).cage.position(rim);
    expect([Math.hypot(turned[0], turned[2]), turned[1]].map((x) => x.toFixed(9))).toEqual(['4.000000000', '5.000000000']);
  });

  it('scales evenly with one number', () => {
    const { cage } = run('scale', cube(), selectVertices(cube().vertices()), { all: 50 });
    expect(enclosedVolume(cage)).toBeCloseTo(125, 9);
  });
});

describe('numbers of one handle', () => {
  it('size, then turn, then shift, whichever of the three operations has them', () => {
    const corner = vertexAt(cube(), 5, 5, 5);
    const at = (id: string, params: object) => run(id, cube(), selectVertices([corner]), { pivot: 'origin', ...params }).cage.position(corner);
    for (const place of [
      at('move', { x: 1, turnZ: 90, sizeY: 200 }),
      at('rotate', { z: 90, shiftX: 1, sizeY: 200 }),
      at('scale', { y: 200, shiftX: 1, turnZ: 90 })
    ])
      place.forEach((x, k) => expect(x).toBeCloseTo([-9, 5, 5][k], 9));
  });

  it('refuse to flatten the whole part, and not to flatten a piece of it', () => {
    const whole = selectVertices(cube().vertices());
    expect(() => run('scale', cube(), whole, { all: 0 })).toThrow(/make a point of the whole part/);
    expect(() => run('move', cube(), whole, { sizeY: 0 })).toThrow(/flatten the whole part along Y/);
    expect(() => run('rotate', cube(), selectVertices([0, 1]), { sizeX: 0 })).not.toThrow();
  });

  it('shift to a place along the axes of the world, whatever the frame', () => {
    const ball = Cage.fromPolygons(quadSphere(10, 4));
    const placed = run('move', ball, selectVertices([3]), { x: 1, y: 2, z: 3, how: 'to', frame: 'selection' }).cage;
    placed.position(3).forEach((x, k) => expect(x).toBeCloseTo([1, 2, 3][k], 12));
  });
});

describe('a placement as numbers', () => {
  it('is read back as it was, whichever operation has them, as distances or as a place', () => {
    const frame: Frame = { axes: WORLD_AXES, pivot: [3, -1, 2] };
    const placement: Placement = { shift: [1, 2, 3], turn: [10, -20, 30], size: [0.5, 2, 1.25] };
    for (const id of ['move', 'rotate', 'scale'])
      for (const params of [{}, { how: 'to' }, { all: 250 }]) {
        const { handle } = operationById(id) as CageOperation;
        const numbers = numbersFor(handle!, frame, placement, { all: 100, ...params });
        const read = placementOf(handle!, frame, { all: 100, ...params, ...numbers });
        for (const part of ['shift', 'turn', 'size'] as const) read[part].forEach((n, k) => expect(n).toBeCloseTo(placement[part][k], 12));
      }
  });
});

describe('falloff', () => {
  const middle = vertexAt(sheet(), 0, 0, 0);
  const lift = (params: object, cage = sheet()) => run('move', cage, selectVertices([middle]), { y: 4, ...params }).cage;
  it('carries vertices within its radius along, less the further they are', () => {
    for (const falloff of ['surface', 'space']) {
      const cage = lift({ falloff, radius: 5 });
      const heights = [0, 1, 2, 4, 5, 6].map((x) => cage.position(vertexAt(sheet(), x, 0, 0))[1]);
      expect(heights[0]).toBe(4);
      for (let i = 1; i < heights.length; i++) expect(heights[i]).toBeLessThanOrEqual(heights[i - 1]);
      expect(heights[2]).toBeCloseTo(4 * (0.6 ** 2 * (3 - 1.2)), 9);
      expect(heights.slice(4)).toEqual([0, 0]);
    }
  });
  it('follows a straight or a drawn ramp, and says how many vertices it reaches', () => {
    const at = (x: number, params: object) => lift({ falloff: 'space', radius: 4, ...params }).position(vertexAt(sheet(), x, 0, 0))[1];
    expect([1, 2, 3].map((x) => at(x, { ramp: 'straight' }))).toEqual([3, 2, 1]);
    expect([1, 2, 3].map((x) => at(x, { ramp: 'drawn', curve: [100, 25, 0] }))).toEqual([4, 1, 0]);
    const { notes } = run('move', sheet(), selectVertices([middle]), { y: 4, falloff: 'space', radius: 2 });
    expect(notes).toEqual(['The falloff reaches 9 vertices.']);
  });
  it('along the surface does not jump a gap that it jumps through space', () => {
    const slit = run('delete', sheet(), selectVertices(Array.from({ length: 20 }, (_, i) => vertexAt(sheet(), 1, 0, i - 10)))).cage;
    const beyond = vertexAt(sheet(), 2, 0, 0);
    expect(lift({ falloff: 'space', radius: 5 }, slit).position(beyond)[1]).toBeGreaterThan(1);
    expect(lift({ falloff: 'surface', radius: 5 }, slit).position(beyond)[1]).toBe(0);
  });
});

describe('weld where it lands', () => {
  it('makes one of a dragged vertex and the one it is put on', () => {
    const landed = run('move', cube(), selectVertices([vertexAt(cube(), 5, 5, 5)]), { y: -10, weld: true });
    expect([landed.cage.vertexCount, landed.notes]).toEqual([7, ['Welded where it landed: 1 vertex fewer.']]);
    expect(run('move', cube(), selectVertices([0]), { x: 0.1, weld: true }).notes[0]).toContain('landed on no other');
    const opened = run('open-edges', Cage.fromPolygons(plane(2, 2, 2, 2)), selectFaces([0])).cage;
    const [a] = [...opened.vertices()].filter((v) => opened.position(v).every((x) => x === 0));
    const apart = run('move', opened, selectVertices([a]), { x: -0.3 }).cage;
    expect(run('move', apart, selectVertices([a]), { x: 0.3, weld: true }).notes[0]).toContain('touch in a corner only');
  });
});

describe('mirrored', () => {
  const right = (cage: Cage) => vertexAt(cage, 5, 5, 0);
  const left = (cage: Cage) => vertexAt(cage, -5, 5, 0);
  it('moves counterparts by position, and keeps vertices on the plane there', () => {
    const cage = cube(2);
    const { cage: moved, notes } = run('move', cage, selectVertices([right(cage), vertexAt(cage, 0, 5, 0)]), { x: 2, y: 1, mirrored: 'X' });
    expect(moved.position(right(cage))).toEqual([7, 6, 0]);
    expect(moved.position(left(cage))).toEqual([-7, 6, 0]);
    expect(moved.position(vertexAt(cage, 0, 5, 0))).toEqual([0, 6, 0]);
    expect(notes[0]).toContain('1 mirror partners across X');
  });
  it('finds them by topology where places differ, and says who has none', () => {
    const cage = run('move', cube(2), selectVertices([left(cube(2))]), { y: 1.5 }).cage;
    expect(() => run('move', cage, selectVertices([right(cube(2))]), { x: 2, mirrored: 'X' })).toThrow(/no mirror partner across X = 0.*by topology/);
    const { cage: moved } = run('move', cage, selectVertices([right(cube(2))]), { x: 2, mirrored: 'X', matching: 'topology' });
    expect(moved.position(left(cube(2)))).toEqual([-7, 5, 0]);
  });
  it('lets one of two picked counterparts lead', () => {
    const cage = cube(2);
    const { cage: moved } = run('move', cage, selectVertices([left(cage), right(cage)]), { x: 3, mirrored: 'X' });
    expect([moved.position(right(cage))[0], moved.position(left(cage))[0]]).toEqual([8, -8]);
  });
  it('leaves picks without a plane alone', () => {
    expect(() => run('move', cube(), emptySelection(), { x: 1 })).toThrow(/Nothing is picked/);
    const e = [...cube().edges()][0];
    expect(run('move', cube(), selectEdges([e]), { x: 1 }).notes).toEqual([]);
  });
});
