import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { boundsOf, polygonMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { repairPolygons } from '../mesh/repair.ts';
import { triangulate } from '../mesh/triangulate.ts';
import { quadShape, worstJacobian } from '../numeric/quad-shape.ts';
import { randomNumbers } from '../numeric/random.ts';
import { dot, length, mean, subtract, scaled, unit, type Triple } from '../numeric/vectors.ts';
import { triangleNormals } from '../reference/reference.ts';
import { TriangleBvh } from '../reference/triangle-bvh.ts';
import { denseSphere, denseTorus, fadingBar, longLimbed, machinedPart, noisyScan, thinPlate, wedge } from '../shapes/sample-surfaces.ts';
import { box, cylinder, plane } from '../shapes/start-shapes.ts';
import { loadSolids } from '../solids/engine.ts';
import { type Mirror } from './base/mirror.ts';
import { type Symmetry } from './base/options.ts';
import { Remesher } from './base/remesh.ts';
import { StepStore } from './base/step-store.ts';
import { after, WorkingMesh } from './base/working-mesh.ts';
import { closedRings } from './field/closed-rings.ts';
import { curvatureDirections, triangleFrames } from './field/curvature.ts';
import { cutOpen } from './field/cut-graph.ts';
import { openNarrowCorners } from './field/narrow-corners.ts';
import { mod4, orientationField } from './field/orientation-field.ts';
import { reachTips } from './fit/reach-tips.ts';
import { prepared } from './input/prepare.ts';
import { featureLinesOf, markFeatures } from './lines/features.ts';
import { foldOf } from './lines/picked-lines.ts';
import { addTo, Eliminator } from './map/constraint-elimination.ts';
import { WholeRounding } from './map/integer-rounding.ts';
import { GRID, mapAreas } from './map/map-plane.ts';
import { narrowParts } from './map/narrow-parts.ts';
import { waysBetweenPoles } from './map/pole-ways.ts';
import { SeamlessMap } from './map/seamless-map.ts';
import { thinLimbs } from './map/thin-limbs.ts';
import { unfold } from './map/unfold.ts';
import { valueOfSum, type WholeSum, type WholeWishes } from './map/whole-sums.ts';
import { closePoorQuads } from './quads/close-poor.ts';
import { withLineGapsClosed } from './quads/line-gaps.ts';
import { matches, mended } from './quads/mend.ts';
import { QuadExtraction } from './quads/quad-extraction.ts';
import { straightenQuads, untwistQuads } from './quads/straighten-quads.ts';
import { MirroredPlaces } from './symmetry/mirrored-places.ts';
import { halved, partsWell, mirrored, mirrorsOf } from './symmetry/symmetry.ts';

function working(mesh: PolygonMesh) {
  const triangles = triangulate(mesh).triangles;
  const made = new WorkingMesh(mesh.positions, triangles);
  const { sharp } = markFeatures(made, boundsOf(mesh.positions).diagonal);
  return { mesh: made, triangles, sharp: sharp.length, bvh: new TriangleBvh(mesh.positions, triangles) };
}
const alive = (mesh: WorkingMesh) => [...Array(mesh.triangles).keys()].filter((t) => mesh.isAlive(t));
function eulerOf(mesh: WorkingMesh): number {
  const faces = alive(mesh);
  const used = new Set(faces.flatMap((t) => [0, 1, 2].map((k) => mesh.corner[3 * t + k])));
  const edges = faces.flatMap((t) => [0, 1, 2].map((k) => 3 * t + k)).filter((h) => mesh.opposite[h] < h).length;
  return used.size - edges + faces.length;
}
const fieldOf = (mesh: WorkingMesh, pull = 0) => {
  const frames = triangleFrames(mesh);
  return { frames, field: orientationField(mesh, frames, curvatureDirections(mesh, frames, 3), pull) };
};

describe('features', () => {
  it('are the twelve edges of a box, the rims of a cylinder, and none on a sphere or in noise', () => {
    expect(working(box({ x: 20, y: 20, z: 20 }, { x: 10, y: 10, z: 10 })).sharp).toBe(120);
    expect(working(cylinder(10, 30, 64, 12, true)).sharp).toBe(128);
    expect(working(denseSphere(20)).sharp).toBe(0);
    expect(working(noisyScan(1.2)).sharp).toBe(0);
  });
  it('are lines, not what noise makes of a small angle: edges of a noisy box stay whole, a noisy lump has hardly any', () => {
    const dense = box({ x: 20, y: 20, z: 20 }, { x: 20, y: 20, z: 20 });
    const random = randomNumbers(3);
    for (let i = 0; i < dense.positions.length; i++) dense.positions[i] += 0.4 * (random() - 0.5);
    const sharpOf = (mesh: PolygonMesh, degrees: number) => {
      const made = new WorkingMesh(mesh.positions, triangulate(mesh).triangles);
      const raw = [...made.edges()].filter((h) => foldOf(made, h) > degrees).length;
      return { raw, made, ...markFeatures(made, boundsOf(mesh.positions).diagonal, degrees) };
    };
    const { raw, made, sharp } = sharpOf(dense, 16);
    const onEdge = (h: number) => made.ends(h).every((at) => at.filter((x) => Math.abs(Math.abs(x) - 10) < 0.3).length >= 2);
    expect(raw).toBeGreaterThan(1000);
    expect(sharp.filter(onEdge).length).toBeGreaterThan(230);
    expect(sharp.length).toBeLessThan(350);
    const lump = sharpOf(noisyScan(1), 12);
    expect(lump.raw).toBeGreaterThan(4000);
    expect(lump.sharp.length).toBeLessThan(0.02 * lump.raw);
    const { notes } = prepared(dense, { count: 400, featureAngle: 16 }, new StepStore());
    expect(notes[1]).toMatch(/^Edges beyond 16 degrees that were taken for noise or facets, not for lines: \d/);
  });

  it('are the sharpest where quads have not enough edges for all of them, and this is said', () => {
    const pipe = cylinder(10, 30, 64, 12, true);
    const laidWith = (count: number) => prepared(pipe, { count, featureAngle: 3 }, new StepStore());
    // both rims, or the pipe's facets too
    const [few, many] = [laidWith(100), laidWith(20_000)];
    expect([few.dense.featureEdges().length, few.notes[1]]).toEqual([
      128,
      expect.stringMatching(/^Sharp edges of less than \d+ degrees were left out/)
    ]);
    expect([many.dense.featureEdges().length, many.notes.length]).toEqual([128 + 64 * 12, 1]);
  });

  it('are always borders', () => {
    const { mesh } = working(plane(10, 10, 5, 5));
    expect([...mesh.feature].filter(Boolean)).toHaveLength(20);
  });
});

describe('working mesh', () => {
  it.each([
    ['sphere', denseSphere(40), 2],
    ['torus', denseTorus(80, 30), 0],
    ['box', box({ x: 20, y: 20, z: 20 }, { x: 12, y: 12, z: 12 }), 2],
    ['sheet', plane(30, 20, 30, 20), 1]
  ])('of a %s has even edges, the same topology, and its vertices on the surface', (_name, source, euler) => {
    const { mesh, triangles, bvh } = working(source);
    const before = [...mesh.feature].filter(Boolean).length > 0;
    mesh.size.fill(2);
    const result = new Remesher(mesh, bvh, new Float64Array(triangles.length / 3).fill(2)).run(5);
    expect(eulerOf(result)).toBe(euler);
    const lengths = alive(result).flatMap((t) => [0, 1, 2].map((k) => Math.sqrt(result.edgeLength2(3 * t + k))));
    const mean = lengths.reduce((a, b) => a + b) / lengths.length;
    expect(mean).toBeGreaterThan(1.5);
    expect(mean).toBeLessThan(2.5);
    expect(Math.max(...lengths)).toBeLessThan(2 * mean);
    let away = 0;
    for (const t of alive(result)) {
      const v = 3 * result.corner[3 * t];
      away = Math.max(
        away,
        bvh.closest(result.positions[v], result.positions[v + 1], result.positions[v + 2], {
          triangle: -1,
          distance2: 0,
          x: 0,
          y: 0,
          z: 0,
          b: 0,
          c: 0
        }).distance2
      );
    }
    expect(Math.sqrt(away)).toBeLessThan(1e-6);
    expect([...result.feature].some(Boolean)).toBe(before);
  });
});

describe('working meshes of parts that come as long thin triangles', () => {
  beforeAll(() => loadSolids());
  it.each([
    ['wedge', wedge(30)],
    ['rod', cylinder(6, 40, 48, 1, true)],
    ['bar whose edge fades', repairPolygons(fadingBar(), { weld: true }).mesh]
  ])('have none that are thin or folded over: a %s', (_name, source) => {
    const { mesh, triangles, bvh } = working(source);
    mesh.size.fill(2);
    const result = new Remesher(mesh, bvh, new Float64Array(triangles.length / 3).fill(2)).run(5);
    const { axes, area } = triangleFrames(result);
    for (let h = 0; h < 3 * result.triangles; h++) {
      const [t, s] = [Math.floor(h / 3), Math.floor(result.opposite[h] / 3)];
      expect(area[t] / result.edgeLength2(h)).toBeGreaterThan(0.02);
      if (result.feature[h] || result.opposite[h] < 0) continue;
      expect([6, 7, 8].reduce((sum, k) => sum + axes[9 * t + k] * axes[9 * s + k], 0)).toBeGreaterThan(0);
    }
  });

  it('keep the area of triangles between sharp edges that run close beside each other', () => {
    const { mesh, triangles, bvh } = working(repairPolygons(machinedPart(38), { weld: true }).mesh);
    mesh.size.fill(2);
    const result = new Remesher(mesh, bvh, new Float64Array(triangles.length / 3).fill(2)).run(5);
    for (let h = 0; h < 3 * result.triangles; h++) expect(result.area(Math.floor(h / 3)) / result.edgeLength2(h)).toBeGreaterThan(1e-6);
  });
});

describe('orientation field', () => {
  it.each([
    ['sphere', denseSphere(16), 8],
    ['torus', denseTorus(48, 20), 0]
  ])('on a %s has poles that add up to four times its Euler characteristic', (_name, source, sum) => {
    const { mesh } = working(source);
    expect(fieldOf(mesh).field.index.reduce((a, b) => a + b, 0)).toBe(sum);
    expect(fieldOf(mesh, 1).field.index.reduce((a, b) => a + b, 0)).toBe(sum);
  });

  it('runs along the edges of a box', () => {
    const { mesh } = working(box({ x: 20, y: 20, z: 20 }, { x: 6, y: 6, z: 6 }));
    const { frames, field } = fieldOf(mesh);
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (!mesh.feature[h]) continue;
      const quarters = (frames.angle[h] - field.theta[Math.floor(h / 3)]) / (Math.PI / 2);
      expect(Math.abs(quarters - Math.round(quarters))).toBeLessThan(1e-6);
    }
    expect([...field.index].filter((i) => i === 1)).toHaveLength(8);
  });

  it('has jumps that undo each other on both sides of every edge', () => {
    const { mesh } = working(denseTorus(40, 16));
    const { field } = fieldOf(mesh);
    for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.opposite[h] >= 0) expect(mod4(field.jump[h] + field.jump[mesh.opposite[h]])).toBe(0);
  });
});

describe('cut', () => {
  it.each([
    ['sphere', denseSphere(14)],
    ['torus', denseTorus(40, 16)]
  ])('opens a %s into a disc, with all poles on the cut', (_name, source) => {
    const { mesh } = working(source);
    const { field } = fieldOf(mesh);
    const cut = cutOpen(mesh, field);
    let edges = 0;
    for (let h = 0; h < 3 * mesh.triangles; h++) edges += cut.cut[h] ? 1 : mesh.opposite[h] < h ? 1 : 0;
    expect(cut.copies - edges + mesh.triangles).toBe(1);
    const onCut = new Set<number>();
    for (let h = 0; h < 3 * mesh.triangles; h++) if (cut.cut[h]) onCut.add(mesh.corner[h]);
    field.index.forEach((i, v) => i !== 0 && expect(onCut.has(v)).toBe(true));
    for (let h = 0; h < 3 * mesh.triangles; h++) if (!cut.cut[h] && mesh.opposite[h] >= 0) expect(cut.jump[h]).toBe(0);
  });
});

/** The working mesh of a surface, with its field and cut. */
function opened(mesh: PolygonMesh, size: number, pull = 0) {
  const dense = working(mesh);
  dense.mesh.size.fill(size);
  const even = new Remesher(dense.mesh, dense.bvh, new Float64Array(dense.triangles.length / 3).fill(size)).run(5);
  const { frames, field } = fieldOf(even, pull);
  return { mesh: even, frames, field };
}

describe('mirrors', () => {
  const planesOf = (mesh: PolygonMesh, wanted: Symmetry = 'auto', tolerance = 0.05) => {
    const dense = working(mesh);
    return mirrorsOf(dense.mesh, dense.bvh, tolerance, wanted);
  };

  it('are found where there are any, along the axes or askew, and taken as asked for', () => {
    expect(
      planesOf(denseTorus(80, 30))
        .map(({ normal }) => normal.map(Math.abs).indexOf(1))
        .sort()
    ).toEqual([0, 1, 2]);
    expect(planesOf(longLimbed(1.5)).map(({ normal, offset }) => [...normal, offset])).toEqual([[1, 0, 0, 0]]);
    expect(planesOf(noisyScan(1.4))).toEqual([]);
    expect(planesOf(denseTorus(80, 30), 'none')).toEqual([]);
    const [asked] = planesOf(noisyScan(1.4), 'z');
    expect([asked.normal, asked.error > 0.05]).toEqual([[0, 0, 1], true]);
    // a box turned about Y by 0.4
    const turned = box({ x: 30, y: 20, z: 10 }, { x: 3, y: 2, z: 1 });
    for (let i = 0; i < turned.positions.length; i += 3) {
      const [x, z] = [turned.positions[i], turned.positions[i + 2]];
      turned.positions[i] = x * Math.cos(0.4) + z * Math.sin(0.4);
      turned.positions[i + 2] = z * Math.cos(0.4) - x * Math.sin(0.4);
    }
    expect(planesOf(turned)).toHaveLength(3);
  });

  it('are none where corners alone lie on the surface when they are mirrored', () => {
    // a bar along X with a narrow square hole through it that lies off its middle along Z: the hole's corners lie in the bar's ends
    const ring = (x: number, y: number, z: number, at: number) => [
      [x, -y, at - z],
      [x, -y, at + z],
      [x, y, at + z],
      [x, y, at - z]
    ];
    const points = [-30, 30].flatMap((x) => [...ring(x, 10, 15, 0), ...ring(x, 0.5, 0.5, 6)]);
    const round = [0, 1, 2, 3].map((i) => [i, (i + 1) % 4]);
    const faces = round.flatMap(([i, j]) => [
      [i, j, 8 + j, 8 + i],
      [4 + j, 4 + i, 12 + i, 12 + j],
      [j, i, 4 + i, 4 + j],
      [8 + i, 8 + j, 12 + j, 12 + i]
    ]);
    expect(planesOf(polygonMesh(points, faces), 'auto', 0.5).map(({ normal }) => normal)).toEqual([
      [1, 0, 0],
      [0, 1, 0]
    ]);
  });

  it('cut a surface into halves of equal area, with borders on the plane, whose quads make a closed whole again', () => {
    const { mesh } = working(denseTorus(60, 24));
    const mirror: Mirror = { normal: [1, 0, 0], offset: 0, error: 0 };
    const areaOf = (m: WorkingMesh) => Array.from({ length: m.triangles }, (_, t) => m.area(t)).reduce((a, b) => a + b, 0);
    const half = halved(mesh, mirror, 100);
    expect(areaOf(half)).toBeCloseTo(areaOf(mesh) / 2, 6);
    for (let h = 0; h < 3 * half.triangles; h++) {
      expect(half.point(half.corner[h])[0]).toBeGreaterThanOrEqual(0);
      if (half.opposite[h] < 0) expect([half.feature[h], half.point(half.corner[h])[0]]).toEqual([1, 0]);
    }
    const sheet = plane(4, 4, 4, 4);
    for (let i = 0; i < sheet.positions.length; i += 3) sheet.positions[i] += 2;
    const quads = mirrored({ positions: sheet.positions, quads: sheet.faceVertices, hold: new Uint8Array(25) }, mirror, 0.1);
    expect([quads.positions.length / 3, quads.quads.length / 4]).toEqual([45, 32]);
    expect(matches(quads, { euler: 1, borders: 1 })).toBe(true);
  });

  it('are of no use where a side of them would hang together by a single vertex', () => {
    // a disc round a middle vertex, with or without a triangle there to the right of it
    const spokes = [...Array(16).keys()];
    const round = (radius: number) =>
      spokes.map((i) => [radius * Math.cos(((i + 0.5) * Math.PI) / 8), radius * Math.sin(((i + 0.5) * Math.PI) / 8), 0]);
    const rim = spokes.map((i) => [1 + i, 17 + i, 17 + ((i + 1) % 16), 1 + ((i + 1) % 16)]);
    const disc = (middle: number[]) =>
      polygonMesh([[0, 0, 0], ...round(1), ...round(10)], [...rim, ...middle.map((i) => [0, 1 + i, 1 + ((i + 1) % 16)])]);
    const cutIn = (normal: Triple, middle: number[]) => partsWell(working(disc(middle)).mesh, { normal, offset: 0, error: 0 }, 20);
    expect(cutIn([1, 0, 0], spokes)).toBe(true);
    expect(cutIn([1, 0, 0], spokes.slice(0, 15))).toBe(false);
    expect(cutIn([-1, 0, 0], spokes.slice(0, 15))).toBe(true);
    expect(cutIn([0, 1, 0], spokes.slice(0, 15))).toBe(true);
  });

  it('lead their images: what moves on one side moves on all others, and what lies on a mirror stays on it', () => {
    const mirrors: Mirror[] = [
      { normal: [1, 0, 0], offset: 0, error: 0 },
      { normal: [0, 0, -1], offset: 0, error: 0 }
    ];
    const { positions } = plane(4, 4, 2, 2);
    const at = (x: number, z: number) =>
      [...Array(9).keys()].find((v) => Math.abs(positions[3 * v] - x) + Math.abs(positions[3 * v + 2] - z) < 1e-9)!;
    const [corner, middle] = [at(2, -2), at(2, 0)];
    const images = [at(-2, -2), at(2, 2), at(-2, 2)];
    const places = new MirroredPlaces(mirrors, positions, 1e-6);
    expect([corner, middle, ...images].map((v) => places.isImage(v))).toEqual([false, false, true, true, true]);
    expect([middle, corner].map((v) => places.isOnMirror(v))).toEqual([true, false]);
    positions.set([2.5, 1, -3], 3 * corner);
    positions.set([2.25, -1, 0.5], 3 * middle);
    [corner, middle].forEach((v) => places.settle(v));
    const placeOf = (v: number) => [...positions.subarray(3 * v, 3 * v + 3)];
    expect(images.map(placeOf)).toEqual([
      [-2.5, 1, -3],
      [2.5, 1, 3],
      [-2.5, 1, 3]
    ]);
    expect([middle, at(-2.25, 0)].map(placeOf)).toEqual([
      [2.25, -1, 0],
      [-2.25, -1, 0]
    ]);
  });
});

describe('narrow corners', () => {
  it('get a quarter turn, and a pole beside them; wide ones are left alone', () => {
    const { mesh, frames, field } = opened(wedge(25), 3);
    const before = field.index.slice();
    expect(openNarrowCorners(mesh, frames, field)).toBe(2);
    const changed = [...field.index.keys()].filter((v) => field.index[v] > before[v]);
    expect(changed.map((v) => field.index[v] - before[v])).toEqual([1, 1]);
    for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.opposite[h] >= 0) expect(mod4(field.jump[h] + field.jump[mesh.opposite[h]])).toBe(0);
    const block = opened(box({ x: 20, y: 20, z: 20 }, { x: 2, y: 2, z: 2 }), 4);
    expect(openNarrowCorners(block.mesh, block.frames, block.field)).toBe(0);
  });
});

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

describe('tips', () => {
  it('are reached by the nearest vertex, where they lie off the quads; borders stay', () => {
    const sheet = plane(10, 10, 5, 5);
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(36) };
    const reached = reachTips(list, Float64Array.from([1.3, 1.8, 1.2, 0, 0.3, 0, 5, 1.6, 5]), 2);
    expect(reached.size).toBe(1);
    const [v] = reached;
    expect([...list.positions.subarray(3 * v, 3 * v + 3)]).toEqual([1.3, 1.8, 1.2]);
    expect(list.positions.filter((x, i) => x !== sheet.positions[i]).length).toBe(3);
  });

  it('on the border are reached by vertices of the border', () => {
    const sheet = plane(10, 10, 5, 5);
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(36) };
    // a border that goes out beyond the sheet
    const line = new TriangleBvh(Float64Array.from([-5, 0, 5, 1.2, 0, 6.5, 5, 0, 5]), Int32Array.from([0, 1, 1, 1, 2, 2]));
    const reached = [...reachTips(list, Float64Array.from([1.2, 0, 6.5]), 2, line)];
    expect(reached.map((v) => sheet.positions[3 * v + 2])).toEqual([5]);
    expect([...list.positions.subarray(3 * reached[0], 3 * reached[0] + 3)]).toEqual([1.2, 0, 6.5]);
  });
});

describe('lines that quads follow', () => {
  /** A sheet of ten by ten quads with a line along its middle to x = `end`; the vertices on it are held, but for the one at x = 1. */
  const sheetWithLine = (end: number) => {
    const { positions, faceVertices: quads } = plane(10, 10, 10, 10);
    const hold = Uint8Array.from({ length: 121 }, (_, v) => (Math.abs(positions[3 * v + 2]) < 1e-9 && positions[3 * v] <= end ? 1 : 0));
    const left = hold.findIndex((held, v) => held === 1 && positions[3 * v] === 1);
    const line = new TriangleBvh(Float64Array.of(-5, 0, 0, end, 0, 0), Int32Array.of(0, 1, 1));
    return { list: { positions, quads, hold }, left, line };
  };

  it('are closed where they leave a gap, by the vertex beside both of its ends', () => {
    const { list, left, line } = sheetWithLine(5);
    expect(withLineGapsClosed(list, line)).toBeUndefined();
    list.hold[left] = 0;
    list.positions.set([1.3, 0, 1.4], 3 * left);
    const closed = withLineGapsClosed(list, line)!;
    expect(closed.hold[left]).toBe(1);
    expect([...closed.positions.subarray(3 * left, 3 * left + 3)]).toEqual([1, 0, 0]);
    expect(closed.positions.filter((x, i) => x !== list.positions[i]).length).toBe(2);
    expect([...list.positions.subarray(3 * left, 3 * left + 3)]).toEqual([1.3, 0, 1.4]);
  });

  it('are left where they end', () => {
    const { list, line } = sheetWithLine(0);
    expect(list.hold.filter((held) => held === 1).length).toBe(6);
    expect(withLineGapsClosed(list, line)).toBeUndefined();
  });
});

describe('untwisting', () => {
  it('gives quads round a corner that lies across others a shape again', () => {
    const sheet = plane(10, 10, 5, 5);
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(36) };
    const bvh = new TriangleBvh(sheet.positions, triangulate(sheet).triangles);
    const inner = [...Array(36).keys()].find((v) => Math.abs(sheet.positions[3 * v] - 1) < 0.1 && Math.abs(sheet.positions[3 * v + 2] - 1) < 0.1)!;
    list.positions.set([4.5, 0, 4.5], 3 * inner);
    expect(worstJacobian(list.positions, list.quads)).toBeLessThan(0);
    untwistQuads(list, bvh, triangleNormals(bvh.positions, bvh.triangles));
    expect(worstJacobian(list.positions, list.quads)).toBeGreaterThan(0.1);
  });
});

describe('poor quads', () => {
  it('are closed where a corner is straight, and the rest stays', () => {
    // a square whose corner has been bent open: squares of complex numbers
    const sheet = plane(8, 8, 8, 8);
    for (let v = 0; v < 81; v++) {
      const [x, y] = [4 - sheet.positions[3 * v], 4 - sheet.positions[3 * v + 2]];
      sheet.positions.set([x * x - y * y, 0, 2 * x * y], 3 * v);
    }
    const { mesh, triangles, bvh } = working(sheet);
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(81) };
    const topology = { euler: 1, borders: 1 };
    const closed = closePoorQuads(list, { bvh, normals: triangleNormals(bvh.positions, triangles), lines: featureLinesOf(mesh), topology });
    expect(worstJacobian(list.positions, list.quads)).toBeLessThan(0.01);
    expect(worstJacobian(closed.positions, closed.quads)).toBeGreaterThan(0.3);
    expect(closed.quads).toHaveLength(4 * 63);
    expect(matches(closed, topology)).toBe(true);
  });
});

describe('straightening', () => {
  it.each([
    ['pinched, with right angles', 0.04, 0, 0.65],
    ['skewed', 0.5, 0.7, 0.55]
  ])('makes better what is %s', (_, along, aside, least) => {
    // a row of quads is drawn near its neighbour, and aside
    const sheet = plane(6, 6, 6, 6);
    for (let v = 0; v < 49; v++) {
      const [x, z] = [sheet.positions[3 * v], sheet.positions[3 * v + 2]];
      if (z === 1 && Math.abs(x) < 3) sheet.positions.set([x + aside, 0, along], 3 * v);
    }
    const { mesh, triangles, bvh } = working(plane(6, 6, 6, 6));
    const list = { positions: sheet.positions.slice(), quads: sheet.faceVertices, hold: new Uint8Array(49) };
    const worst = () => Math.min(...Array.from({ length: 36 }, (_, q) => quadShape(list.positions, list.quads, 4 * q, new Float64Array(3))));
    expect(worst()).toBeLessThan(0.5);
    straightenQuads(list, bvh, triangleNormals(bvh.positions, triangles), featureLinesOf(mesh));
    expect(worst()).toBeGreaterThan(least);
  });

  it.each([110, -110])('sees quads on both sides of a sharp edge from their own, where the surface turns by %s degrees', (degrees) => {
    const turn = (degrees * Math.PI) / 180;
    const bent = (mesh: PolygonMesh) => {
      for (let v = 0; v < mesh.positions.length; v += 3) {
        const z = mesh.positions[v + 2];
        if (z > 0) mesh.positions.set([z * Math.sin(turn), z * Math.cos(turn)], v + 1);
      }
      return mesh;
    };
    const list = { positions: bent(plane(6, 6, 6, 6)).positions, quads: plane(6, 6, 6, 6).faceVertices, hold: new Uint8Array(49) };
    const onFold = [...Array(49).keys()].filter((v) => list.positions[3 * v + 1] === 0 && list.positions[3 * v + 2] === 0);
    for (const v of onFold) list.hold[v] = 1;
    // one of them has slid nearly to the next one, and past it
    for (const x of [-1, 0]) list.positions[3 * onFold.find((v) => list.positions[3 * v] === x)!] += 0.9;
    const { mesh, triangles, bvh } = working(bent(plane(6, 6, 30, 30)));
    straightenQuads(list, bvh, triangleNormals(bvh.positions, triangles), featureLinesOf(mesh));
    expect(worstJacobian(list.positions, list.quads)).toBeGreaterThan(0.85);
    for (const v of onFold) expect(Math.hypot(list.positions[3 * v + 1], list.positions[3 * v + 2])).toBeLessThan(1e-9);
  });
});

describe('rounding to whole numbers', () => {
  const none: WholeWishes = { sized: [], nothing: [], lengths: [], apart: [], sides: [] };

  it('makes sums nothing exactly, whatever their coefficients, gives one its size before, and stays near the means', () => {
    const count = 7;
    // independent unknowns: L is the unit matrix, and y the means
    const rounding = new WholeRounding(
      Float64Array.from({ length: count * count }, (_, i) => (i % (count + 1) === 0 ? 1 : 0)),
      count
    );
    const means = fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: count, maxLength: count });
    const sum = fc
      .array(fc.integer({ min: -2, max: 2 }), { minLength: count, maxLength: count })
      .map((list): WholeSum => list.flatMap((c, k): [number, number][] => (c === 0 ? [] : [[k, c]])));
    fc.assert(
      fc.property(means, fc.array(sum, { maxLength: 4 }), (y, sums) => {
        rounding.ask({ ...none, nothing: sums });
        const x = rounding.round(Float64Array.from(y), { within: 100 });
        expect([...x].every(Number.isInteger)).toBe(true);
        for (const s of sums) expect(Math.abs(valueOfSum(s, x))).toBe(0);
        expect(Math.max(...x.map((value, k) => Math.abs(value - y[k])))).toBeLessThan(8);
      })
    );
    fc.assert(
      fc.property(means, sum, fc.integer({ min: 0, max: 9 }), (y, s, size) => {
        fc.pre(s.some(([, c]) => Math.abs(c) === 1));
        rounding.ask({ ...none, sized: [{ sum: s, size }] });
        const x = rounding.round(Float64Array.from(y), { within: 100 });
        expect(Math.abs(valueOfSum(s, x))).toBe(size);
      })
    );
  });

  it('rounds lengths before what they are made of, and parts pairs that come out as nothing', () => {
    const unit = new WholeRounding(
      Float64Array.from({ length: 16 }, (_, i) => (i % 5 === 0 ? 1 : 0)),
      4
    );
    const round: WholeSum = [0, 1, 2, 3].map((k) => [k, 1] as const);
    const y = [1.4, 1.41, 1.42, 1.43];
    expect(valueOfSum(round, unit.round(Float64Array.from(y)))).toBe(4);
    unit.ask({ ...none, lengths: [round] });
    expect(valueOfSum(round, unit.round(Float64Array.from(y)))).toBe(6);
    const [u, v]: WholeSum[] = [[[0, 1]], [[1, 1]]];
    unit.ask({ ...none, apart: [[u, v]] });
    const near = Float64Array.of(0.2, -0.4, 1, 1);
    expect([...unit.round(near)].map(Math.abs)).toEqual([0, 0, 1, 1]);
    expect([...unit.round(near, { parted: true })].map((x) => x + 0)).toEqual([0, -1, 1, 1]);
    // what is next to the nearest: the second unknown is the cheapest to move, then the first
    expect([1, 2].map((next) => [...unit.round(near, { next })].slice(0, 2).map((x) => x + 0))).toEqual([
      [0, -1],
      [1, 0]
    ]);
    // and keeps sums from below 1 where that costs little
    unit.ask({ ...none, sides: [[[0, 1]], [[1, -1]], [[2, -1]]] });
    expect([...unit.round(Float64Array.of(-0.6, -0.6, 2.6, 1))]).toEqual([1, -1, 3, 1]);
  });

  it('comes as near as can be where unknowns depend on each other much, as those of a long cut do', () => {
    const stiffness = fc.double({ min: 0.02, max: 1, noNaN: true });
    const any = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
    fc.assert(
      fc.property(stiffness, stiffness, any(50), any(9), any(9), (a, b, shared, y, z) => {
        const off = (p: number, q: number) => (a * p + shared * q - y) ** 2 + (b * q - z) ** 2;
        const rounding = new WholeRounding(Float64Array.of(a, 0, shared, b), 2);
        const [p, q] = rounding.round(Float64Array.of(y, z));
        let least = Infinity;
        for (let k = Math.floor(z / b) - 60; k <= z / b + 60; k++) least = Math.min(least, off(Math.round((y - shared * k) / a), k));
        expect(off(p, q)).toBeLessThanOrEqual(1.02 * least + 1e-9);
      })
    );
  });
});

describe('unfolding', () => {
  it('brings triangles right wherever their corners have been mapped to, those of the border staying', () => {
    const side = 4;
    const inner = (i: number, j: number) => i > 0 && j > 0 && i < side && j < side;
    const squares = Array.from({ length: side * side }, (_, s) => [Math.floor(s / side), s % side]);
    const triangles = squares.flatMap(([i, j]) => [
      [i, j, i + 1, j, i + 1, j + 1],
      [i, j, i + 1, j + 1, i, j + 1]
    ]);
    const place = fc.double({ min: 0, max: side, noNaN: true });
    fc.assert(
      fc.property(fc.noBias(fc.array(place, { minLength: 18, maxLength: 18 })), (places) => {
        const at = (i: number, j: number) => (inner(i, j) ? [0, 1].map((k) => places[2 * (3 * (i - 1) + j - 1) + k]) : [i, j]);
        const number = (i: number, j: number, k: number) => (inner(i, j) ? 2 * (3 * (i - 1) + j - 1) + k : -1);
        const terms: number[][] = [];
        const [startU, startV] = [Int32Array.from({ length: triangles.length + 1 }), Int32Array.from(triangles, () => 0)];
        const edges: number[] = [];
        const inverse: number[] = [];
        triangles.forEach(([a, b, c, d, e, f], t) => {
          const det = (c - a) * (f - b) - (e - a) * (d - b);
          inverse.push((f - b) / det, -(e - a) / det, -(d - b) / det, (c - a) / det);
          for (const k of [0, 1]) {
            if (k === 1) startV[t] = terms.length;
            edges.push(at(c, d)[k] - at(a, b)[k], at(e, f)[k] - at(a, b)[k]);
            terms.push([number(a, b, k), -1, -1], [number(c, d, k), 1, 0], [number(e, f, k), 0, 1]);
          }
          startU[t + 1] = terms.length;
        });
        // corners of the border are unknowns that nothing depends on
        const part = (k: number) => Float64Array.from(terms, (term) => (term[0] < 0 ? 0 : term[k]));
        const { least } = unfold({
          area: Float64Array.from(triangles, () => 0.5),
          inverse: Float64Array.from(inverse),
          edges: Float64Array.from(edges),
          startU,
          startV,
          unknown: Int32Array.from(terms, ([k]) => Math.max(k, 0)),
          onFirst: part(1),
          onSecond: part(2),
          count: 18
        });
        expect(least).toBeGreaterThan(0);
      }),
      { seed: 1 }
    );
  });
});

describe('elimination of linear forms', () => {
  it('expresses what it can by the rest, and notices contradictions', () => {
    const solver = new Eliminator(() => 0);
    const difference = (a: number, b: number) => addTo(addTo(new Map(), new Map([[a, 1]]), 1), new Map([[b, 1]]), -1);
    expect(solver.require(difference(0, 1))).toBe(true);
    expect(solver.require(difference(1, 2))).toBe(true);
    const [zero, one, two] = [0, 1, 2].map((k) => [...solver.expand(new Map([[k, 1]]))]);
    expect(zero).toEqual(one);
    expect(one).toEqual(two);
  });
});

describe('seamless map and extraction', () => {
  it('on a torus differ by quarter turns and whole steps across every cut, and give one quad a cell', () => {
    const { mesh } = working(denseTorus(60, 24));
    const { frames, field } = fieldOf(mesh, 0.5);
    const cut = cutOpen(mesh, field);
    const map = new SeamlessMap(mesh, frames, cut, field.index);
    map.aim(new Float64Array(mesh.triangles).fill(1));
    const uv = map.coordinates(map.solve([{ size: 4 }])[0]);
    const difference = (h: number) => [uv[2 * after(h)] - uv[2 * h], uv[2 * after(h) + 1] - uv[2 * h + 1]];
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const g = mesh.opposite[h];
      if (g < 0) continue;
      let [u, v] = difference(h);
      for (let k = 0; k < mod4(-cut.jump[h]); k++) [u, v] = [-v, u];
      const [x, y] = difference(g);
      // the other side runs the other way; coordinates lie on a grid, so this is exact
      expect([u + x, v + y].map((d) => Math.abs(d))).toEqual([0, 0]);
      expect(Number.isInteger(uv[2 * h] / GRID)).toBe(true);
    }
    const areas = mapAreas(uv);
    expect(areas.filter((a) => a <= 0)).toHaveLength(0);
    const cells = areas.reduce((a, b) => a + b, 0) / 2;
    const quads = new QuadExtraction(mesh, cut, uv).run();
    expect(quads.quads.length / 4).toBe(Math.round(cells));
    expect(matches(quads, { euler: 0, borders: 0 })).toBe(true);
  });

  it('finds corners on a line however near to them vertices of the line lie, and exactly on them', () => {
    const [across, along] = [4, 6];
    const number = (i: number, j: number) => i * (along + 1) + j;
    const shift = fc.integer({ min: -9000, max: 9000 });
    const shifts = fc.array(shift, { minLength: 2 * 35, maxLength: 2 * 35 });
    // steps of 2^-13 of a quad along the line
    const near = fc.array(fc.integer({ min: -20, max: 20 }), { minLength: along + 1, maxLength: along + 1 });
    const diagonals = fc.array(fc.boolean(), { minLength: across * along, maxLength: across * along });
    fc.assert(
      fc.property(shifts, near, diagonals, (moved, beside, diagonal) => {
        const places = Array.from({ length: (across + 1) * (along + 1) }, (_, n) => {
          const [i, j] = [Math.floor(n / (along + 1)), n % (along + 1)];
          if (i === 2) return [i, j % along === 0 ? j : j + beside[j] * 2 ** -13, 0];
          return [i % across === 0 ? i : i + moved[2 * n] * GRID, j % along === 0 ? j : j + moved[2 * n + 1] * GRID, 0];
        });
        const triangles = diagonal.flatMap((rising, n) => {
          const [i, j] = [Math.floor(n / along), n % along];
          const [a, b, c, d] = [number(i, j), number(i + 1, j), number(i + 1, j + 1), number(i, j + 1)];
          return rising ? [a, b, c, a, c, d] : [a, b, d, b, c, d];
        });
        const mesh = new WorkingMesh(Float64Array.from(places.flat()), triangles);
        for (let h = 0; h < triangles.length; h++)
          mesh.feature[h] = mesh.opposite[h] < 0 || (mesh.point(triangles[h])[0] === 2 && mesh.point(triangles[after(h)])[0] === 2) ? 1 : 0;
        const uv = Float64Array.from(triangles.flatMap((v) => places[v].slice(0, 2)));
        const { positions, quads, hold } = new QuadExtraction(mesh, cutOpen(mesh, fieldOf(mesh).field), uv).run();
        expect([quads.length / 4, hold.length]).toEqual([across * along, (across + 1) * (along + 1)]);
        positions.forEach((x) => expect(x).toBeCloseTo(Math.round(x), 9));
        hold.forEach((kind, v) => {
          const [x, y] = [positions[3 * v], positions[3 * v + 1]].map(Math.round);
          expect(kind > 0).toBe(x % 2 === 0 || y === 0 || y === along);
        });
      })
    );
  });

  it('keeps poles apart where quads are so large that they would fall together', () => {
    const { mesh } = working(denseSphere(24));
    const { frames, field } = fieldOf(mesh);
    const cut = cutOpen(mesh, field);
    const map = new SeamlessMap(mesh, frames, cut, field.index);
    map.aim(new Float64Array(mesh.triangles).fill(1));
    map.keepApart(waysBetweenPoles(mesh, cut, field.index, 30));
    const quadsAt = (parted: boolean) => map.tally(map.solve([{ size: 80, parted }])[0]).area / 2;
    expect(Math.abs(quadsAt(false))).toBe(0);
    // its eight poles become the corners of a cube
    expect(quadsAt(true)).toBe(6);
  });

  it('tells along which ways strips run beside themselves; made to close, they do not', () => {
    const { mesh } = working(denseTorus(60, 24));
    const { frames, field } = fieldOf(mesh, 0.2);
    const cut = cutOpen(mesh, field);
    const map = new SeamlessMap(mesh, frames, cut, field.index);
    const even = new Float64Array(mesh.triangles).fill(1);
    const spiralsAt = (size: number, within: number) => {
      const extraction = new QuadExtraction(mesh, cut, map.coordinates(map.solve([{ size, within }])[0]));
      extraction.run();
      return extraction.spirals();
    };
    map.aim(even);
    const size = [3, 3.1, 3.2, 3.3, 3.4, 3.5, 3.6, 3.7, 3.8].find((s) => spiralsAt(s, 0).length > 0)!;
    const spirals = spiralsAt(size, 0);
    for (const { crossed, arm } of spirals) {
      crossed.forEach((h, i) => expect(Math.floor(mesh.opposite[h] / 3)).toBe(Math.floor(crossed[(i + 1) % crossed.length] / 3)));
      expect(crossed.reduce((own, h) => mod4(own - cut.jump[h]), arm)).toBe(arm);
    }
    map.close(spirals);
    expect(spiralsAt(size, 4)).toEqual([]);
  });
});

describe('mending', () => {
  const grid = (missing: number[] = []) => {
    const mesh = denseTorusQuads();
    const quads = [...Array(mesh.length / 4).keys()].filter((f) => !missing.includes(f)).flatMap((f) => mesh.slice(4 * f, 4 * f + 4));
    return { positions: new Float64Array(3 * 48), quads: Int32Array.from(quads), hold: new Uint8Array(48) };
  };
  /** Quads of a torus of 8 by 6. */
  function denseTorusQuads(): number[] {
    const at = (i: number, j: number) => (i % 8) * 6 + (j % 6);
    return [...Array(48).keys()].flatMap((f) => {
      const [i, j] = [Math.floor(f / 6), f % 6];
      return [at(i, j), at(i, j + 1), at(i + 1, j + 1), at(i + 1, j)];
    });
  }
  it('closes a hole of one quad where the surface has none', () => {
    const whole = mended(grid([17]), { euler: 0, borders: 0 });
    expect(whole!.quads.length / 4).toBe(48);
  });
  it('leaves what is right, and gives up what has the wrong topology', () => {
    expect(mended(grid(), { euler: 0, borders: 0 })!.quads.length / 4).toBe(48);
    expect(mended(grid(), { euler: 2, borders: 0 })).toBeUndefined();
  });
});
