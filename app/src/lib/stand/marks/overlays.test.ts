import { Cage, box, plane, polygonMesh } from '@ulvrin/core';
import * as THREE from 'three';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { drawn } from '../../../../testing/drawn.ts';
import { standColours } from '$lib/settings/theme.svelte.ts';
import { borders } from './borders.ts';
import { creases } from './creases.ts';
import { density } from './density.ts';
import { deviation } from './deviation.ts';
import { difference } from './difference.ts';
import { ngons, triangles } from './face-kinds.ts';
import { corners, quadDensity, spacing } from './face-paints.ts';
import { HoverMarks } from './hover-marks.ts';
import { poles } from './poles.ts';

/** A triangle, a quad and a face of five corners side by side. */
const mixed = polygonMesh(
  [
    [0, 0, 0],
    [0, 0, 10],
    [10, 0, 10],
    [10, 0, 0],
    [20, 0, 0],
    [20, 0, 10],
    [26, 0, 5],
    [-8, 0, 5]
  ],
  [
    [0, 1, 2, 3],
    [3, 2, 5, 6, 4],
    [7, 1, 0]
  ]
);
const points = (object: THREE.Object3D) => (object as THREE.Mesh).geometry.getAttribute('position').count;
const segments = (object: THREE.Object3D) => object.userData.places.array.length / 6;

// glyphs are drawn on a canvas, of which nothing is looked at here
const brush = new Proxy({}, { get: () => () => undefined, set: () => true });
beforeAll(() => vi.stubGlobal('document', { createElement: () => ({ getContext: () => brush }) }));
afterAll(() => vi.unstubAllGlobals());

describe('overlays draw', () => {
  it('triangles and n-gons as patches of their own faces', () => {
    const drawing = drawn(mixed);
    expect(triangles.draw(drawing).map(points)).toEqual([3]);
    expect(ngons.draw(drawing).map(points)).toEqual([9]);
    expect(triangles.draw(drawn(plane(4, 4, 2, 2)))).toEqual([]);
  });

  it('borders as lines along every one of them', () => {
    expect(borders.draw(drawn(plane(8, 8, 4, 2))).map(segments)).toEqual([12]);
    expect(borders.draw(drawn(box({ x: 4, y: 4, z: 4 }, { x: 1, y: 1, z: 1 }))).flatMap(({ children }) => children)).toEqual([]);
  });

  it('poles by how many edges they have', () => {
    expect(poles.draw(drawn(box({ x: 4, y: 4, z: 4 }, { x: 2, y: 2, z: 2 }))).map(points)).toEqual([8]);
  });

  it('creases the wider the sharper, and corners', () => {
    const cage = Cage.fromPolygons(box({ x: 4, y: 4, z: 4 }, { x: 1, y: 1, z: 1 }));
    [10, 10, 2].forEach((sharpness, e) => cage.setValue('crease', e, sharpness));
    cage.setValue('corner', 5, 1);
    const marks = creases.draw(drawn(cage.toPolygons()));
    expect(marks.slice(0, 2).map(segments).sort()).toEqual([1, 2]);
    expect(points(marks[2])).toBe(1);
  });

  it('every edge of the smooth surface, and none without one', () => {
    const [lines] = density.draw(drawn(plane(4, 4, 2, 2), { smooth: true, level: 1 }));
    expect((lines as THREE.LineSegments).geometry.index!.count / 2).toBe(2 * 4 * 5);
    expect(density.draw(drawn(plane(4, 4, 2, 2)))).toEqual([]);
  });

  it('follow vertices that move', () => {
    const drawing = drawn(mixed, { overlays: { triangles: true } });
    const [patch] = (drawing.group.children.at(-1) as THREE.Group).children as THREE.Mesh[];
    const next = drawing.cage.clone();
    next.positions.set([-20, 3, 5], 3 * 7);
    drawing.moveVertices(next, [7]);
    const places = [...(patch.geometry.getAttribute('position').array as Float32Array)];
    expect(places.slice(places.indexOf(-20), places.indexOf(-20) + 3)).toEqual([-20, 3, 5]);
  });
});

describe('paints', () => {
  const sheet = Cage.fromPolygons(plane(20, 10, 2, 1));

  it('have how far what the part is compared with lies off, and have no colour for what is nothing', () => {
    const part = { id: 'a', name: 'Box', kind: 'cage', scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
    const boxOf = (z: number) => Cage.fromPolygons(box({ x: 20, y: 10, z }, { x: 2, y: 2, z: 2 }));
    const [own, longer] = [boxOf(30), boxOf(32)].map((cage) => ({ ...part, cage }));
    const off = difference.values(own.cage, { compared: longer }, own)!;
    // each end moves by one
    expect(off.high).toBeGreaterThan(0.5);
    expect(off.high).toBeLessThan(1.01);
    const same = difference.values(own.cage, { compared: { ...own, id: 'b' } }, own)!;
    expect(Math.max(...same.values)).toBeLessThan(0.3 * same.high);
    expect(difference.values(own.cage, {}, own)).toBeUndefined();
    expect(difference.why({}, undefined)).toMatch(/nothing to compare with: choose two versions/);
  });

  it('have what was measured of the deviation, as far in as out, or say why there is nothing to see', () => {
    const signed = Float64Array.of(0.1, -0.4, 0);
    expect(deviation.values(sheet, { found: { smooth: { signed, most: 0.4 } } })).toEqual({ by: 'point', values: signed, low: -0.4, high: 0.4 });
    expect(deviation.values(sheet, {})).toBeUndefined();
    expect(deviation.why({}, undefined)).toMatch(/no reference .* bring one in/);
    expect(deviation.why({ problem: 'No answer came.' }, undefined)).toBe('No answer came.');
    expect(deviation.why({ found: { smooth: { signed, most: 0.4 } } }, undefined)).toBeUndefined();
  });

  it('count faces in a square centimetre, and tell how uneven and askew they are', () => {
    expect([...quadDensity.values(sheet, {})!.values].map((n) => Math.round(1e6 * n) / 1e6)).toEqual([1, 1]);
    const uneven = sheet.clone();
    uneven.positions[0] -= 10;
    expect(Math.max(...spacing.values(uneven, {})!.values)).toBeGreaterThan(1.9);
    expect(spacing.values(sheet, {})!.values[0]).toBeCloseTo(1);
    expect(corners.values(sheet, {})).toMatchObject({ by: 'face', low: expect.closeTo(0), high: expect.closeTo(0) });
    expect(Math.max(...corners.values(uneven, {})!.values)).toBeCloseTo(45);
    expect(corners.values(new Cage(), {})).toBeUndefined();
  });
});

describe('marks of what is hovered', () => {
  const none = { vertices: [], edges: [], faces: [] };

  it('keep their buffers from element to element', () => {
    const drawing = drawn(plane(8, 8, 4, 4));
    const marks = new HoverMarks();
    expect(marks.show(drawing, { ...none, edges: [3] }, [3, 5, 7], standColours.light)).toBe(true);
    const before = [...marks.group.children];
    const buffer = before[0].userData.places;
    marks.show(drawing, { ...none, edges: [8] }, [8, 9], standColours.light);
    expect(marks.group.children).toEqual(before);
    expect(before[0].userData.places).toBe(buffer);
    expect([...(buffer.array as Float32Array).subarray(0, 6)]).toEqual([...drawing.edgePoints([8])]);
  });

  it('are not seen where nothing is, and nothing is drawn for that twice', () => {
    const drawing = drawn(plane(8, 8, 4, 4));
    const marks = new HoverMarks();
    marks.show(drawing, { ...none, faces: [0] }, [], standColours.light);
    expect(marks.group.children.filter((mark) => mark.visible)).toHaveLength(2);
    expect(marks.show(drawing, undefined, [], standColours.light)).toBe(true);
    expect(marks.group.children.some((mark) => mark.visible)).toBe(false);
    expect(marks.show(drawing, undefined, [], standColours.light)).toBe(false);
  });
});
