import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { formats } from '../formats/registry.ts';
import { Reference } from '../reference/reference.ts';
import { box, plane, quadSphere } from '../shapes/start-shapes.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { adviceFor, sentBy } from './advice.ts';
import { deliveryReport } from './delivery-report.ts';
import { destinations, destinationSchema } from './destination.ts';
import { differenceAt, worstPlace } from './difference.ts';
import { receive, type Sent } from './receive.ts';

const settings: SurfaceSettings = { scheme: 'catmull-clark', borderCorners: 'sharp' };
const to = (id: string) => destinations.find((d) => d.id === id)!;
const as = (id: string) => formats.find((f) => f.id === id)!;
const sent = (mesh: PolygonMesh): Sent => ({ mesh, settings });
const off = (own: Sent, place: string, format = 'usda') => differenceAt(own, receive(own, to(place), as(format)));

/** A cube of 20 mm with creases of some sharpness all over. */
function creasedCube(sharpness: number): PolygonMesh {
  const cage = Cage.fromPolygons(box({ x: 20, y: 20, z: 20 }, { x: 2, y: 2, z: 2 }));
  for (const e of cage.edges()) {
    const [a, b] = [cage.position(cage.origin[2 * e]), cage.position(cage.origin[2 * e + 1])];
    if ([0, 1, 2].filter((k) => Math.abs(a[k]) === 10 && a[k] === b[k]).length === 2) cage.setValue('crease', e, sharpness);
  }
  return cage.toPolygons();
}

describe('destinations', () => {
  it('are described by the schema that a user’s own ones are read with', () => {
    for (const d of destinations) expect(destinationSchema.validate(d).error).toBeUndefined();
    expect(destinationSchema.validate({ ...destinations[0], creases: 'sometimes' }).error?.message).toMatch(/creases/);
    expect(destinationSchema.validate({ ...destinations[0], levels: -1 }).error?.message).toMatch(/levels/);
  });

  it('get a part as it is where they keep creases, and round it off where they do not', () => {
    const cube = sent(creasedCube(10));
    expect(off(cube, 'pattern-shop')).toBe(0);
    // a cube without creases leaves its corners by far
    const lost = receive(cube, to('model-room'), as('usda'));
    expect(lost.losses).toEqual(['24 creases are lost: Model room knows none.']);
    expect(differenceAt(cube, lost)!).toBeGreaterThan(3);
    // of glTF others see triangles alone
    const asGltf = receive(cube, to('pattern-shop'), as('glb'));
    expect(asGltf.losses[0]).toBe('24 creases are lost: glTF binary holds none for others.');
    expect(asGltf.mesh.faceStart.length - 1).toBe(48);
    expect(receive(cube, to('pattern-shop'), as('obj')).losses[0]).toMatch(/^24 creases are lost: .* holds none\.$/);
  });

  it('take what is half sharp for sharp or for smooth', () => {
    const [soft, hard] = [0.5, 2].map((s) => receive(sent(creasedCube(s)), to('engine-works'), as('usda')));
    expect(new Set(soft.mesh.creaseSharpness)).toEqual(new Set([0]));
    expect(new Set(hard.mesh.creaseSharpness)).toEqual(new Set([10]));
    expect(hard.losses[0]).toBe('24 creases between sharp and smooth are taken for one of the two.');
    expect(off(sent(creasedCube(10)), 'engine-works')).toBe(0);
  });

  it('cut faces: n-gons as fans, or all into triangles, which show their flats', () => {
    const cage = Cage.fromPolygons(box({ x: 20, y: 20, z: 20 }, { x: 2, y: 2, z: 2 }));
    const six = { positions: cage.toPolygons().positions, faceStart: Int32Array.of(0, 6), faceVertices: Int32Array.of(0, 1, 2, 5, 4, 3) };
    expect(receive(sent(six), to('tile-store'), as('usda')).mesh.faceStart.length - 1).toBe(4);
    const ball = sent(quadSphere(10, 6));
    const printed = receive(ball, to('print-house'), as('usda'));
    expect([printed.mesh.faceStart.length - 1, printed.settings]).toEqual([432, undefined]);
    const flat = differenceAt(ball, printed)!;
    expect([flat > 0.01, flat < 0.8]).toEqual([true, true]);
    // the finer, the nearer
    expect(off(sent(quadSphere(10, 24)), 'print-house')!).toBeLessThan(flat / 8);
  });

  it('round borders off, divide before they smooth, take no more than so many faces, and count in inches', () => {
    const sheet = sent(plane(20, 20, 4, 4));
    expect(off(sheet, 'sail-loft')!).toBeGreaterThan(0.5);
    expect(off(sent(quadSphere(10, 4)), 'casting-floor')!).toBeGreaterThan(0.1);
    const many = receive(sent(quadSphere(10, 40)), to('chart-office'), as('usda'));
    expect(many.refused).toBe('Chart office takes up to 5,000 faces; the part has 9,600.');
    expect(differenceAt(sheet, many)).toBeUndefined();
    expect(receive(sheet, to('overseas-yard'), as('obj')).losses[0]).toMatch(/25\.4 times as large/);
    expect(receive(sheet, to('overseas-yard'), as('usda')).losses).toEqual([]);
  });

  it('are measured as a slow comparison of both surfaces measures them, within 1e-4 mm', () => {
    const cube = sent(creasedCube(1.5));
    const theirs = receive(cube, to('model-room'), as('usda'));
    const fine = (mesh: PolygonMesh) => new Subdivision(mesh, { ...settings, levels: 6, limit: true }).toPolygons(mesh);
    const [ours, others] = [fine(cube.mesh), fine(theirs.mesh)];
    const slow = [
      [ours, others],
      [others, ours]
    ].map(([a, b]) => new Reference(a).distances(b.positions).reduce((most, d) => Math.max(most, d), 0));
    const measured = differenceAt(cube, theirs)!;
    expect(Math.abs(measured - Math.max(...slow))).toBeLessThan(1e-4);
    const worst = worstPlace(cube, theirs)!;
    expect(worst.off).toBeGreaterThan(0.8 * measured);
    // the corners of the cube go the farthest
    expect(worst.at.every((x) => Math.abs(x) > 4)).toBe(true);
  });
});

describe('advice', () => {
  it('for a place that ignores creases: divided, or with support loops, it comes nearer; the best first, as it is forecast', () => {
    const own = sent(creasedCube(10));
    const steps: number[] = [];
    const { losses, difference: now, worst, advice } = deliveryReport(own, as('usda'), to('model-room'), (fraction) => steps.push(fraction));
    expect(losses).toHaveLength(1);
    expect(worst!.off).toBeGreaterThan(0.8 * now!);
    expect(steps).toEqual([...steps].sort((a, b) => a - b));
    expect(advice.length).toBeGreaterThan(3);
    const differences = advice.map(({ difference }) => difference);
    expect(differences).toEqual([...differences].sort((a, b) => a - b));
    expect(advice[0].difference).toBeLessThan(0.03 * now!);
    expect(advice.every(({ difference }) => difference < now!)).toBe(true);
    // what is forecast is what is found when it is done
    const [{ way, difference }] = advice;
    expect(differenceAt(own, receive(sentBy(way, own)!, to('model-room'), as('usda')))).toBeCloseTo(difference, 9);
  });

  it('is none where nothing is lost, and another format where that one holds creases', () => {
    const cube = sent(creasedCube(10));
    expect(adviceFor(cube, as('usda'), to('pattern-shop'))).toEqual([]);
    // of a single face little is tried
    const sheet = {
      ...plane(10, 10, 1, 1),
      creaseEdges: Int32Array.of(0, 1),
      creaseSharpness: Float64Array.of(10),
      cornerVertices: Int32Array.of(0),
      cornerSharpness: Float64Array.of(10)
    };
    const rounded: Sent = { mesh: sheet, settings: { ...settings, borderCorners: 'rounded' } };
    const [best] = adviceFor(rounded, as('obj'), { ...to('pattern-shop'), borders: 'rounded' });
    expect(best).toMatchObject({ way: { format: 'usda' }, difference: 0 });
    expect(deliveryReport(sent(quadSphere(10, 40)), as('usda'), to('chart-office'))).toMatchObject({
      refused: expect.stringContaining('5,000'),
      difference: undefined
    });
  });
});
