import { describe, expect, it } from 'vitest';
import { opened } from '../../../testing/working-meshes.ts';
import { dot, length, mean, scaled, subtract, type Triple, unit } from '../../numeric/vectors.ts';
import { denseTorus, longLimbed, thinPlate } from '../../shapes/sample-surfaces.ts';
import { box } from '../../shapes/start-shapes.ts';
import { narrowParts } from '../map/narrow-parts.ts';
import { thinLimbs } from '../map/thin-limbs.ts';
import { closedRings } from './closed-rings.ts';
import { cutOpen } from './cut-graph.ts';
import { mod4 } from './orientation-field.ts';

describe('rings and narrow parts', () => {
  it('rings run from triangle to triangle and come back on the arm they set out on', () => {
    const { mesh, frames, field } = opened(denseTorus(60, 24), 3, 0.5);
    const cut = cutOpen(mesh, field);
    const rings = closedRings(mesh, frames, cut, () => 3, 0.7);
    expect(rings.length).toBeGreaterThan(10);
    for (const { crossed, arm } of rings) {
      crossed.forEach((h, i) => expect(Math.floor(mesh.opposite[h] / 3)).toBe(Math.floor(crossed[(i + 1) % crossed.length] / 3)));
      expect(crossed.reduce((own, h) => mod4(own - cut.jump[h]), arm)).toBe(arm);
    }
    expect(rings[0].crossed.length).toBeLessThanOrEqual(rings.at(-1)!.crossed.length);
  });

  it('rings are found round an arm that is less than two quads across, in each part of it', () => {
    const size = 3.2;
    const { mesh, frames, field } = opened(longLimbed(1), 2, 0.5);
    const rings = closedRings(mesh, frames, cutOpen(mesh, field), () => size, 1);
    const [elbow, wrist]: Triple[] = [
      [25, 52, 0],
      [40, 44, 6]
    ];
    const along = unit(subtract(wrist, elbow));
    const places = rings.flatMap(({ crossed, length: quads }) => {
      const points = crossed.map((h) => subtract(mesh.point(mesh.corner[h]), elbow));
      const isOnArm = points.every((p) => length(subtract(p, scaled(along, dot(p, along)))) < 5);
      if (isOnArm) expect(quads! > 4 && quads! < 8).toBe(true);
      return isOnArm ? [dot(mean(points), along)] : [];
    });
    for (const from of [3, 7, 11]) expect(places.some((place) => place > from && place < from + 4)).toBe(true);
  });

  it('quads are narrower round an arm that is hardly wider than they are, not along it, and nowhere on a thick trunk or a bar with sharp edges', () => {
    const size = 5;
    const { mesh, frames, field } = opened(longLimbed(1), 2, 0.5);
    const shares = thinLimbs(mesh, frames, cutOpen(mesh, field), () => size)!;
    const sharesAt = (isThere: (p: Triple) => boolean) =>
      [...Array(mesh.triangles).keys()].filter((t) => isThere(mesh.point(mesh.corner[3 * t]))).map((t) => [shares[2 * t], shares[2 * t + 1]].sort());
    // a radius of 2.9 is 3.6 quads round; a way counts as closed a little before it is
    const forearm = sharesAt(([x]) => Math.abs(x) > 30 && Math.abs(x) < 36);
    const [across, along] = [0, 1].map((k) => forearm.reduce((sum, pair) => sum + pair[k], 0) / forearm.length);
    expect(across).toBeGreaterThan(0.5);
    expect(across).toBeLessThan(0.8);
    expect(along).toBeGreaterThan(0.95);
    for (const pair of sharesAt(([x, y]) => Math.abs(x) < 5 && y > 48 && y < 56)) expect(pair).toEqual([1, 1]);
    const bar = opened(box({ x: 6, y: 6, z: 40 }, { x: 4, y: 4, z: 20 }), 2);
    expect(thinLimbs(bar.mesh, bar.frames, cutOpen(bar.mesh, bar.field), () => size)).toBeUndefined();
  });

  it('parts between two lines are narrow by their width, across alone', () => {
    const { mesh, frames, field } = opened(thinPlate(0.5), 2);
    const shares = narrowParts(mesh, frames, cutOpen(mesh, field), () => 2);
    const onRim = [...Array(mesh.triangles).keys()].filter((t) => Math.abs(frames.axes[9 * t + 7]) < 0.1);
    expect(onRim.length).toBeGreaterThan(20);
    for (let t = 0; t < mesh.triangles; t++) {
      const narrow = [shares[2 * t], shares[2 * t + 1]].filter((s) => s < 1);
      if (onRim.includes(t)) expect(narrow.some((s) => Math.abs(s - 0.25) < 0.05)).toBe(true);
      else expect(narrow.filter((s) => s < 0.4)).toEqual([]);
    }
  });
});
