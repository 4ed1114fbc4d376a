import { describe, expect, it } from 'vitest';
import { noisySphere, offSphere } from '../../../testing/noisy-shapes.ts';
import { run } from '../../../testing/run-operation.ts';
import { withDab, type Dab } from '../../even/dabs.ts';
import { Cage } from '../../mesh/cage.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { polygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops, enclosedVolume } from '../../mesh/topology.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { emptySelection, selectFaces } from '../../select/selection.ts';
import { box, plane, quadSphere } from '../../shapes/start-shapes.ts';
import { Reference } from '../../reference/reference.ts';
import { applyOperation, applyToMesh, validParams } from '../apply.ts';
import { type CageOperation, type Params } from '../operation.ts';
import { operationById } from '../registry.ts';

const down: Triple = [0, 0, 0];
const dab = (at: Triple, normal: Triple, by: Triple = down, pressure = 1): Dab => ({ at, normal, by, pressure });
const strokeOf = (dabs: readonly Dab[]) => dabs.reduce<number[]>(withDab, []);
const brushed = (id: string, cage: Cage, dabs: readonly Dab[], params: Params = {}, selection = emptySelection()) =>
  run(id, cage, selection, { radius: 4, ...params, dabs: strokeOf(dabs) }).cage;

/** Touches from side to side over the top of a sphere of radius 10. */
const overTop = (pressure = 1): Dab[] =>
  Array.from({ length: 25 }, (_, i) => {
    const angle = (i - 12) / 16;
    const normal: Triple = [Math.sin(angle), Math.cos(angle), 0];
    return dab([10 * normal[0], 10 * normal[1], 0], normal, down, pressure);
  });
const movedIn = (before: Cage, after: Cage) => [...before.vertices()].filter((v) => before.position(v).some((x, k) => x !== after.position(v)[k]));
const sheet = () => Cage.fromPolygons(plane(20, 20, 20, 20));
const up: Triple = [0, 1, 0];
const atPlace = (cage: Cage, x: number, z: number) =>
  [...cage.vertices()].find((v) => Math.hypot(cage.position(v)[0] - x, cage.position(v)[2] - z) < 1e-9)!;

describe('brushes', () => {
  it('relax evens with the volume kept, where smoothing takes volume away', () => {
    const cage = noisySphere(24);
    const volume = enclosedVolume(cage);
    const [relaxed, smoothed] = ['relax-brush', 'smooth-brush'].map((id) => brushed(id, cage, overTop(), { strength: 100 }));
    expect(Math.abs(enclosedVolume(relaxed) / volume - 1)).toBeLessThan(1e-6);
    expect(enclosedVolume(smoothed) / volume).toBeLessThan(0.999);
    const touched = movedIn(cage, relaxed);
    const spread = (made: Cage) => {
      const lengths = touched.flatMap((v) => made.spokes(v).map((h) => made.edgeLength(h >> 1)));
      const mean = lengths.reduce((a, b) => a + b, 0) / lengths.length;
      return Math.sqrt(lengths.reduce((sum, l) => sum + (l - mean) ** 2, 0) / lengths.length) / mean;
    };
    expect(spread(relaxed)).toBeLessThan(0.75 * spread(cage));
    expect(offSphere(relaxed)).toBeLessThan(1.1 * offSphere(cage));
  });

  it('come to the same step by step and at once, and are small in the logbook', () => {
    const cage = noisySphere(40);
    for (const id of ['relax-brush', 'smooth-brush', 'raise-brush', 'gather-brush', 'level-brush']) {
      const operation = operationById(id) as CageOperation;
      const params = (dabs: readonly Dab[]) => validParams(operation, { radius: 4, dabs: strokeOf(dabs) });
      const edit = operation.live!.begin(cage, emptySelection(), params([]));
      const moved = new Set<number>();
      for (let i = 1; i <= 25; i++) for (const v of edit.step(params(overTop().slice(0, i))).moved) moved.add(v);
      const atOnce = run(id, cage, emptySelection(), params(overTop())).cage;
      expect(edit.cage.positions).toEqual(atOnce.positions);
      expect(movedIn(cage, atOnce).every((v) => moved.has(v))).toBe(true);
      expect(JSON.stringify(params(overTop())).length / movedIn(cage, atOnce).length).toBeLessThan(30);
      // a stroke that begins anew begins on what was there before
      edit.step(params([]));
      expect(edit.cage.positions).toEqual(cage.positions);
    }
  });

  it('tell how far they moved vertices, and what that did to the volume', () => {
    const cage = noisySphere(24);
    const notes = (id: string, dabs = overTop()) => run(id, cage, emptySelection(), { radius: 4, dabs: strokeOf(dabs) }).notes[0];
    expect(notes('relax-brush')).toMatch(/^Moved by 0\.\d+ mm at most; spread 0\.\d\d to 0\.\d\d; volume \+0\.000 %\.$/);
    const percent = Number(/volume -(.*) %/.exec(notes('smooth-brush'))![1]);
    const smoothed = run('smooth-brush', cage, emptySelection(), { radius: 4, dabs: strokeOf(overTop()) }).cage;
    expect(percent).toBeCloseTo(100 * (1 - enclosedVolume(smoothed) / enclosedVolume(cage)), 2);
    // an open part has no volume
    const open = sheet();
    expect(run('raise-brush', open, emptySelection(), { radius: 4, dabs: strokeOf([dab([0, 0, 0], up)]) }).notes).toEqual([
      expect.stringMatching(/^Moved by 0\.12 mm at most; spread 0\.\d\d to 0\.\d\d\.$/)
    ]);
  });

  it('drag and glide take what they first touched along, less towards the rim', () => {
    const cage = sheet();
    const pull = [dab([0, 0, 0], up), dab([1, 0, 0], up, [1, 0.5, 0]), dab([2, 0, 0], up, [1, 0.5, 0])];
    const dragged = brushed('drag-brush', cage, pull);
    expect(dragged.position(atPlace(cage, 0, 0))).toEqual([2, 1, 0]);
    const [, near] = dragged.position(atPlace(cage, 0, 2));
    expect([near > 0 && near < 1, dragged.position(atPlace(cage, 0, 4))]).toEqual([true, [0, 0, 4]]);
    const glided = brushed('glide-brush', cage, pull);
    expect(glided.position(atPlace(cage, 0, 0))[0]).toBeCloseTo(2, 1);
    for (const v of cage.vertices()) expect(Math.abs(glided.position(v)[1])).toBeLessThan(1e-12);
    // on a sphere it slides round it
    const ball = Cage.fromPolygons(quadSphere(10, 24));
    const round = brushed('glide-brush', ball, [dab([0, 10, 0], up), dab([1, 10, 0], up, [1, 0, 0])]);
    expect(movedIn(ball, round).length).toBeGreaterThan(10);
    expect(offSphere(round)).toBeLessThan(0.05);
  });

  it('raise goes along the normals both ways, level onto a plane, gather towards the stroke', () => {
    const cage = sheet();
    const here = [dab([0, 0, 0], up), dab([0, 0, 0], up)];
    const [raised, lowered] = [1, -1].map((pressure) => brushed('raise-brush', cage, [dab([0, 0, 0], up, down, pressure)]));
    const middle = atPlace(cage, 0, 0);
    expect(raised.position(middle)[1]).toBeCloseTo(0.5 * 0.06 * 4, 9);
    expect(lowered.position(middle)[1]).toBeCloseTo(-raised.position(middle)[1], 12);
    const bumpy = cage.clone();
    for (const v of cage.vertices()) bumpy.positions[3 * v + 1] = 0.3 * Math.sin(3 * v);
    const levelled = brushed('level-brush', bumpy, here, { strength: 100 });
    const height = (made: Cage) =>
      Math.max(
        ...[...made.vertices()].filter((v) => Math.hypot(cage.position(v)[0], cage.position(v)[2]) < 2).map((v) => Math.abs(made.position(v)[1]))
      );
    expect(height(levelled)).toBeLessThan(0.4 * height(bumpy));
    const gathered = brushed('gather-brush', cage, here);
    expect(gathered.position(atPlace(cage, 2, 0))[0]).toBeLessThan(1.9);
    expect(brushed('gather-brush', cage, [dab([0, 0, 0], up, down, -1)]).position(atPlace(cage, 2, 0))[0]).toBeGreaterThan(2);
  });

  it('touches its own side only, or goes through the part', () => {
    const plate = Cage.fromPolygons(box({ x: 20, y: 0.5, z: 20 }, { x: 10, y: 1, z: 10 }));
    const top: Dab[] = [dab([0, 0.25, 0], up)];
    const sides = (made: Cage) => new Set(movedIn(plate, made).map((v) => Math.sign(plate.position(v)[1])));
    expect([...sides(brushed('raise-brush', plate, top))]).toEqual([1]);
    expect(sides(brushed('raise-brush', plate, top, { through: true })).size).toBe(2);
  });

  it('leaves what is not picked bit for bit, the outline of picked faces, and held lines', () => {
    const cage = noisySphere(16);
    const faces = [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[0] > 0));
    const inside = new Set(faces.flatMap((f) => cage.faceVertices(f)));
    const outline = [...inside].filter((v) => cage.spokes(v).some((h) => !faces.includes(cage.face[h])));
    const made = brushed('relax-brush', cage, overTop(), {}, selectFaces(faces));
    const moved = movedIn(cage, made);
    expect(moved.length).toBeGreaterThan(5);
    for (const v of moved) expect([inside.has(v), outline.includes(v)]).toEqual([true, false]);
    const edge = [dab([-10, 0, 0], up)];
    expect(movedIn(sheet(), brushed('drag-brush', sheet(), [...edge, dab([-10, 0, 0], up, up)])).some((v) => sheet().isBorderVertex(v))).toBe(true);
    expect(movedIn(sheet(), brushed('smooth-brush', sheet(), edge)).some((v) => sheet().isBorderVertex(v))).toBe(false);
  });

  it('does the same on both sides of a mirror', () => {
    const cage = Cage.fromPolygons(quadSphere(10, 12));
    const at: Triple = [6, 8, 0];
    for (const id of ['raise-brush', 'relax-brush', 'drag-brush']) {
      const made = brushed(id, cage, [dab(at, [0.6, 0.8, 0]), dab(at, [0.6, 0.8, 0], [0.5, 0.5, 0.2])], { mirrored: 'X', radius: 8 });
      expect(movedIn(cage, made).some((v) => cage.position(v)[0] < -2)).toBe(true);
      for (const v of made.vertices()) {
        const [x, y, z] = made.position(v);
        expect([...made.vertices()].some((w) => Math.hypot(made.position(w)[0] + x, made.position(w)[1] - y, made.position(w)[2] - z) < 1e-9)).toBe(
          true
        );
      }
    }
  });

  it('masks what it touches, takes masks away with Ctrl, and goes through the part', () => {
    const plate = Cage.fromPolygons(box({ x: 20, y: 0.5, z: 20 }, { x: 10, y: 1, z: 10 }));
    const held = (cage: Cage) => [...cage.vertices()].filter((v) => cage.value('mask', v) > 0);
    const one = brushed('mask-brush', plate, [dab([0, 0.25, 0], up)]);
    expect(held(one).length).toBeGreaterThan(5);
    expect(held(one).every((v) => plate.position(v)[1] > 0)).toBe(true);
    expect(
      one.value(
        'mask',
        held(one).find((v) => Math.hypot(plate.position(v)[0], plate.position(v)[2]) < 1e-9)!
      )
    ).toBe(1);
    expect(held(brushed('mask-brush', one, [dab([0, 0.25, 0], up, down, -1)], { radius: 12 }))).toEqual([]);
    expect(
      new Set(held(brushed('mask-brush', plate, [dab([0, 0.25, 0], up)], { through: true })).map((v) => Math.sign(plate.position(v)[1]))).size
    ).toBe(2);
    const images = held(brushed('mask-brush', plate, [dab([6, 0.25, 0], up)], { mirrored: 'X' }));
    expect(images.filter((v) => plate.position(v)[0] < 0)).toHaveLength(images.length / 2);
    // what is masked stays under every brush
    const raised = brushed('raise-brush', one, [dab([0, 0.25, 0], up)], { radius: 9 });
    for (const v of held(one).filter((w) => one.value('mask', w) === 1)) expect(raised.position(v)).toEqual(one.position(v));
    expect(movedIn(one, raised).length).toBeGreaterThan(5);
  });

  it('work on a dense mesh as on a cage of the same faces, live and at once, and say where they cannot', () => {
    const cage = noisySphere(24);
    const mesh = cage.toPolygons();
    for (const id of ['relax-brush', 'drag-brush', 'raise-brush', 'glide-brush']) {
      const operation = operationById(id) as CageOperation;
      const params = validParams(operation, { radius: 4, dabs: strokeOf(overTop().map((d) => ({ ...d, by: [0.1, 0.05, 0] }))) });
      const onCage = run(id, cage, emptySelection(), params);
      const atOnce = applyToMesh(operation, mesh, params);
      expect([...atOnce.mesh.positions]).toEqual([...onCage.cage.positions.subarray(0, mesh.positions.length)]);
      expect([atOnce.notes, atOnce.mesh.faceVertices]).toEqual([onCage.notes, mesh.faceVertices]);
      const edit = operation.onMesh!.begin(mesh, params);
      for (let i = 1; i <= 25; i++) edit.step({ ...params, dabs: (params.dabs as number[]).slice(0, 10 * i) });
      expect(edit.mesh.positions).toEqual(atOnce.mesh.positions);
    }
    const relax = operationById('relax-brush') as CageOperation;
    // two fans that meet in one vertex
    const pinched = polygonMesh(
      [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
        [-1, 0, 0],
        [0, -1, 0]
      ],
      [
        [0, 1, 2],
        [0, 3, 4]
      ]
    );
    expect(() => applyToMesh(relax, pinched, { dabs: [] })).toThrow('The dense mesh cannot be brushed. Vertex 0 is pinched');
    expect(() => applyToMesh(operationById('move') as CageOperation, mesh, {})).toThrow('Move needs a cage.');
  });

  it('is refused with a sentence where nothing is brushed, or its numbers are none', () => {
    const cage = sheet();
    expect(() => run('relax-brush', cage, emptySelection(), {})).toThrow('Drag over the surface: each stroke is an entry of its own.');
    expect(() => brushed('relax-brush', cage, overTop(), { radius: 0 })).toThrow(/Radius/);
    expect(() => brushed('relax-brush', cage, overTop(), { strength: NaN })).toThrow(/Strength/);
    expect(() => run('relax-brush', cage, emptySelection(), { dabs: [1, 2, 3] })).toThrow(/Stroke/);
    expect(() => run('relax-brush', cage, emptySelection(), { dabs: [1, 2, 3, 4, 5, 6, 7, 8, 9, 'x'] })).toThrow(/Stroke/);
    // larger than the part: all of it is touched; over nothing: nothing is
    expect(movedIn(cage, brushed('raise-brush', cage, [dab([0, 0, 0], up)], { radius: 1e5 }))).toHaveLength(cage.vertexCount);
    expect(movedIn(cage, brushed('raise-brush', cage, [dab([0, 500, 0], up)]))).toEqual([]);
  });

  it('drag joins the border vertices it meets, where that is switched on', () => {
    // two sheets, 1 mm apart
    const left = Cage.fromPolygons(plane(10, 10, 5, 5));
    const right = run('move', left, selectFaces(left.faces()), { x: 11 }).cage;
    const both = joinCages(left, right).cage;
    const pull: Dab[] = [dab([6, 0, 0], up, [0, 0, 0]), dab([6, 0, 0], up, [-1, 0, 0])];
    const params = { radius: 60, ramp: 'drawn', curve: [100, 100, 100], strength: 100 };
    const pulled = (join: boolean) => brushed('drag-brush', both, pull, { ...params, join, joinWithin: 0.3 });
    expect([pulled(false).vertexCount, pulled(true).vertexCount]).toEqual([72, 66]);
    assertValid(pulled(true));
    expect(borderLoops(pulled(true))).toHaveLength(1);
  });

  it('leave what is held to the reference on it, live as when it is done again', () => {
    const reference = quadSphere(10, 24);
    const ball = Cage.fromPolygons(quadSphere(10, 8));
    const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const }, reference };
    const held = applyOperation(operationById('hold') as CageOperation, ball, emptySelection(), { lasting: true }, around).cage;
    const drag = operationById('drag-brush') as CageOperation;
    const dabs = strokeOf([dab([0, 10, 0], up, [0, 0, 0]), dab([1, 10, 0], up, [2, 3, 0]), dab([2, 10, 0], up, [4, 5, 0])]);
    const params = validParams(drag, { radius: 6, dabs });
    const edit = drag.live!.begin(held, emptySelection(), params, around);
    edit.step(params);
    const off = Reference.of(reference).distances(edit.cage.toPolygons().positions);
    expect(Math.max(...off)).toBeLessThan(1e-9);
    expect(movedIn(held, edit.cage).length).toBeGreaterThan(3);
    const done = applyOperation(drag, held, emptySelection(), params, around).cage;
    done.positions.forEach((x, k) => expect(x).toBeCloseTo(edit.cage.positions[k], 9));
  });
});
