import { standColours } from '$lib/settings/theme.svelte.ts';
import { Cage, emptySelection, type PolygonMesh, box, plane } from '@ulvrin/core';
import * as THREE from 'three';
import { type LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { describe, expect, it } from 'vitest';
import { drawn, eyeAt, SETTINGS } from '../../../testing/drawn.ts';
import { type CageDrawing } from './cage-drawing.ts';
import { rayAt } from './eye.ts';
import { wideLines } from './marks/mark-shapes.ts';
import { rampColour } from './marks/ramps.ts';
import { SpareDrawings } from './spare-drawings.ts';

const cube = (): PolygonMesh => box({ x: 4, y: 4, z: 4 }, { x: 2, y: 2, z: 2 });
const numbers = (mesh: THREE.Mesh | undefined, name = 'position') => [...(mesh!.geometry.getAttribute(name).array as Float32Array)];
const triangles = (mesh: THREE.Mesh | undefined) => (mesh!.geometry.index ?? mesh!.geometry.getAttribute('position')).count / 3;

/** The same cage with one vertex elsewhere. */
function moved(cage: Cage, v: number, by: number): Cage {
  const next = cage.clone();
  for (let k = 0; k < 3; k++) next.positions[3 * v + k] += by;
  return next;
}

/** With some edges creased for good. */
const creased = (mesh: PolygonMesh): PolygonMesh => {
  const cage = Cage.fromPolygons(mesh);
  for (const e of [...cage.edges()].slice(0, 6)) cage.setValue('crease', e, 10);
  return cage.toPolygons();
};

describe('wide lines', () => {
  it('come towards the eye by their width, so that faces of an inner corner do not cover them', () => {
    const [line] = wideLines(Float32Array.of(0, 0, 0, 1, 0, 0), '#000000', 4).children as LineSegments2[];
    expect(line.material.linewidth).toBe(4);
    expect(line.material.vertexShader).toMatch(/gl_Position = clip; gl_Position\.z -= \S+ \* linewidth \* clip\.w;/);
  });
});

describe('a drawn cage', () => {
  it('has two triangles a quad, each told with its face', () => {
    const drawing = drawn(cube());
    expect(triangles(drawing.faces)).toBe(48);
    const hit = drawing.faceUnder(rayAt(eyeAt([0, 0, 20]), 350, 250))!;
    expect(hit.point.z).toBeCloseTo(2, 9);
    expect(drawing.cage.faceVertices(hit.face).every((v) => drawing.cage.position(v)[2] === 2)).toBe(true);
  });

  it.each([
    ['flat', cube(), {}],
    ['smooth', cube(), { smooth: true }],
    ['smooth at level 0', cube(), { smooth: true, level: 0 }],
    ['smooth, with creases', creased(cube()), { smooth: true }],
    ['smooth, open', plane(4, 4, 3, 3), { smooth: true }]
  ])('takes moved vertices as if it were drawn anew: %s', (_, mesh, settings) => {
    const drawing = drawn(mesh, settings);
    const next = moved(drawing.cage, 3, 0.7);
    drawing.moveVertices(next);
    const anew = drawn({ ...mesh, positions: next.toPolygons().positions }, settings);
    expect(numbers(drawing.faces)).toEqual(numbers(anew.faces));
    if (!drawing.smoothMesh) return;
    expect(numbers(drawing.smoothMesh)).toEqual(numbers(anew.smoothMesh));
    // quads may be cut along the other diagonal when drawn anew, which turns normals
    const again = drawing.smoothMesh.clone();
    again.geometry = drawing.smoothMesh.geometry.clone();
    again.geometry.computeVertexNormals();
    expect(numbers(drawing.smoothMesh, 'normal')).toEqual(numbers(again, 'normal'));
  });

  it('takes another edit of the same cage as a whole: what the one before moved goes back', () => {
    const drawing = drawn(cube(), { smooth: true });
    const before = drawing.cage;
    const [one, other] = [moved(moved(before, 3, 0.7), 5, 0.7), moved(before, 3, 0.2)];
    drawing.moveVertices(one, [3, 5]);
    drawing.moveVertices(other, [3]);
    // quads may be cut along the other diagonal when drawn anew: places are compared, not triangles
    const places = (mesh: THREE.Mesh | undefined) => new Set(numbers(mesh).map((_, i, all) => (i % 3 === 0 ? all.slice(i, i + 3).join(' ') : '')));
    const anew = drawn({ ...cube(), positions: other.toPolygons().positions }, { smooth: true });
    expect(places(drawing.faces)).toEqual(places(anew.faces));
    expect(numbers(drawing.smoothMesh)).toEqual(numbers(anew.smoothMesh));
    // from then on what is told is all that is looked at
    const stale = moved(other, 3, 1);
    for (const v of [3, 5]) for (let k = 0; k < 3; k++) other.positions[3 * v + k] += 1;
    drawing.moveVertices(other, [3]);
    expect(places(drawing.faces)).toEqual(places(drawn({ ...cube(), positions: stale.toPolygons().positions }).faces));
  });

  it('finds faces where they have been moved to', () => {
    const drawing = drawn(plane(4, 4, 1, 1));
    const ray = () => drawing.faceUnder(rayAt(eyeAt([0, 30, 0.01]), 400, 300));
    expect(ray()!.distance).toBeCloseTo(30, 2);
    const next = drawing.cage.clone();
    for (const v of next.vertices()) next.positions[3 * v + 1] = 10;
    drawing.moveVertices(next);
    expect(ray()!.distance).toBeCloseTo(20, 2);
  });

  it('shows the level asked for, and leads from its smooth surface back to the cage', () => {
    const drawing = drawn(cube(), { smooth: true, level: 3, cage: false });
    expect([drawing.shownLevel, triangles(drawing.smoothMesh)]).toEqual([3, 24 * 4 ** 3 * 2]);
    const hit = drawing.faceUnder(rayAt(eyeAt([0, 0, 20]), 350, 250))!;
    // the smooth surface lies within the cage
    expect(hit.point.z).toBeLessThan(1.99);
    expect(drawing.cage.faceVertices(hit.face).every((v) => drawing.cage.position(v)[2] === 2)).toBe(true);
  });

  it('shows a lower level where the one asked for would be too many faces', () => {
    const dense = drawn(plane(40, 40, 80, 80), { smooth: true, level: 5 });
    expect(dense.shownLevel).toBeLessThan(5);
    expect(triangles(dense.smoothMesh) / 2).toBe(6400 * 4 ** dense.shownLevel);
  });

  it('gives both sides of a crease normals of their own', () => {
    const [soft, sharp] = [cube(), creased(cube())].map((mesh) => drawn(mesh, { smooth: true }));
    expect(numbers(sharp.smoothMesh).length).toBeGreaterThan(numbers(soft.smoothMesh).length);
    const places = new Map<string, Set<string>>();
    const [p, n] = [numbers(sharp.smoothMesh), numbers(sharp.smoothMesh, 'normal')];
    for (let i = 0; i < p.length; i += 3) {
      const at = p.slice(i, i + 3).join(' ');
      places.set(
        at,
        (places.get(at) ?? new Set()).add(
          n
            .slice(i, i + 3)
            .map((c) => c.toFixed(3))
            .join(' ')
        )
      );
    }
    expect([...places.values()].some((normals) => normals.size > 1)).toBe(true);
  });

  it('shows isolated faces alone, smooth ones too', () => {
    const isolated = new Set([0, 1, 2]);
    const drawing = drawn(cube(), { isolated, smooth: true, level: 2 });
    expect([triangles(drawing.faces), triangles(drawing.smoothMesh)]).toEqual([6, 3 * 4 ** 2 * 2]);
    expect(triangles(drawn(cube(), { isolated: new Set() }).faces)).toBe(0);
  });

  it('marks faces with their outline, edges, and nothing where nothing is picked', () => {
    const drawing = drawn(cube());
    const style = { width: 3, opacity: 0.5 };
    expect(drawing.marks(emptySelection(), '#1D5BD6', style).children).toHaveLength(0);
    const [fill, outline] = drawing.marks({ ...emptySelection(), faces: [4, 5] }, '#1D5BD6', style).children;
    expect(triangles(fill as THREE.Mesh)).toBe(4);
    expect(outline.type).toBe('Group');
    expect(drawing.edgePoints([0, 1]).length).toBe(12);
    expect([...drawing.pointsOf([5])]).toEqual(drawing.cage.position(5));
  });

  it('is painted by point or by face: its smooth surface where that is shown, and not with numbers of another cage', () => {
    const flat = drawn(cube());
    const by = (values: Float64Array, kind: 'point' | 'face' = 'point') => ({ by: kind, values, low: -2, high: 2 });
    const off = Float64Array.from({ length: flat.cage.vertexCount }, (_, i) => (i === 0 ? 2 : 0));
    const colours = numbers(flat.painted(by(off), 'signed'), 'color');
    const seen = new Set(
      Array.from({ length: colours.length / 3 }, (_, i) =>
        colours
          .slice(3 * i, 3 * i + 3)
          .map((c) => c.toFixed(3))
          .join()
      )
    );
    expect([...seen].sort()).toEqual([rampColour('signed', 0.5), rampColour('signed', 1)].map((c) => c.map((x) => x.toFixed(3)).join()).sort());
    expect(flat.painted(by(off.subarray(1)), 'signed')).toBeUndefined();
    // the value under the pointer: of the nearest point, or of the face
    const eye = eyeAt(flat.cage.position(0).map((x) => 3 * x) as [number, number, number]);
    const middle = rayAt(eye, eye.host.clientWidth / 2, eye.host.clientHeight / 2);
    expect(flat.paintedAt(middle, by(off))).toBe(2);
    const numbered = Float64Array.from({ length: flat.cage.faceCount }, (_, i) => i);
    const at = flat.paintedAt(middle, by(numbered, 'face'))!;
    expect(flat.cage.faceVertices([...flat.cage.faces()][at])).toContain(0);

    const smooth = drawn(cube(), { smooth: true, level: 1 });
    expect(smooth.painted(by(off), 'signed')).toBeUndefined();
    const faces = new Float64Array(smooth.cage.faceCount).fill(-2);
    const one = rampColour('even', 0).map((x) => x.toFixed(3));
    expect([...new Set(numbers(smooth.painted(by(faces, 'face'), 'even'), 'color').map((c) => c.toFixed(3)))].sort()).toEqual(
      [...new Set(one)].sort()
    );
  });

  it('lets falloff fade over the faces that follow', () => {
    const drawing = drawn(cube());
    const faded = drawing.falloff(new Map([[0, 1]]), '#0A7E70');
    expect(triangles(faded)).toBeLessThan(48);
    expect(new Set(numbers(faded, 'share'))).toEqual(new Set([0, 1]));
  });
});

describe('drawings out of sight', () => {
  const wantedOf = ({ part, cage }: CageDrawing, level = 2) => [part, cage, { ...SETTINGS, level }, standColours.light, undefined] as const;

  it('come back where just that is wanted again, once, and not when their vertices have moved since', () => {
    const spares = new SpareDrawings();
    const [one, two] = [drawn(cube()), drawn(cube())];
    spares.put(one);
    spares.put(two);
    expect(spares.take([...wantedOf(one, 3)])).toBeUndefined();
    expect(spares.take([...wantedOf(one)])).toBe(one);
    expect(spares.take([...wantedOf(one)])).toBeUndefined();
    two.moveVertices(moved(two.cage, 0, 1));
    expect(spares.take([...wantedOf(two)])).toBeUndefined();
  });

  it('are few: the oldest goes first', () => {
    const spares = new SpareDrawings();
    const all = Array.from({ length: 6 }, () => drawn(cube()));
    for (const drawing of all) spares.put(drawing);
    expect(all.map((d) => spares.take([...wantedOf(d)]) === d)).toEqual([false, false, true, true, true, true]);
  });
});

describe('normals at points', () => {
  it('are the mean of those of the triangles there, by their areas', () => {
    const { geometry } = drawn(cube(), { smooth: true, level: 2 }).smoothMesh!;
    const own = [...(geometry.getAttribute('normal').array as Float32Array)];
    geometry.computeVertexNormals();
    [...(geometry.getAttribute('normal').array as Float32Array)].forEach((x, i) => expect(own[i]).toBeCloseTo(x, 5));
  });
});
