import { describe, expect, it } from 'vitest';
import { cube, run } from '../../../testing/run-operation.ts';
import { describePlanReport, planReport } from '../../check/plan-report.ts';
import { Cage } from '../../mesh/cage.ts';
import { Reference } from '../../reference/reference.ts';
import { surfacePoint } from '../../reference/triangle-bvh.ts';
import { emptySelection, selectEdges } from '../../select/selection.ts';
import { mooringCleat } from '../../shapes/mooring-cleat.ts';
import { cylinder, plane, torus } from '../../shapes/start-shapes.ts';
import { dividedCage } from '../../subdivide/bake.ts';
import { Subdivision } from '../../subdivide/subdivision.ts';
import { applyOperation, applySurfaceOperation } from '../apply.ts';
import { type CageOperation, type SurfaceOperation } from '../operation.ts';
import { operationById } from '../registry.ts';

const smooth = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;

const creased = (sharpness: number) => run('crease-by-angle', cube(2), emptySelection(), { angle: 40, sharpness }).cage;

const limitOf = (cage: Cage, levels = 4) => {
  const mesh = cage.toPolygons();
  const surface = new Subdivision(mesh, { levels, limit: true });
  return { positions: surface.evaluate(mesh.positions), faceStart: surface.last.faceStart, faceVertices: surface.last.faceVertices };
};

describe('level plan', () => {
  const plan = operationById('level-plan') as SurfaceOperation;

  it('reports spacing, density and what facets are left on curved edges', () => {
    const cage = Cage.fromPolygons(plane(4, 4, 4, 4));
    for (const v of cage.vertices()) cage.positions[3 * v + 1] = Math.cos(cage.positions[3 * v]);
    const mesh = cage.toPolygons();
    const settings = (...steps: ('divide' | 'smooth')[]) => ({ ...smooth, plan: { steps } });
    const [dividing, smoothing] = [planReport(mesh, settings('divide', 'divide', 'smooth'), 3), planReport(mesh, smooth, 3)];
    expect([dividing.faces, smoothing.faces]).toEqual([1024, 1024]);
    expect(dividing.edges.most).toBeLessThan(smoothing.edges.most * 1.2);
    // the border keeps the corners of its polygon where the levels divided it
    expect(dividing.facetError).toBeGreaterThan(5 * smoothing.facetError!);
    const { surface, notes } = applySurfaceOperation(plan, cage, smooth, { level1: 'divide', level2: 'divide' });
    expect(surface.plan).toEqual({ steps: ['divide', 'divide'] });
    expect(notes[0]).toMatch(
      /^Level 3: 1,024 faces, edges .* mm .*; borders and creases are up to .* mm off .* The smooth limit is up to .* mm from that of all levels smooth\./
    );
    expect(plan.paramsOf(surface)).toMatchObject({ level1: 'divide', level2: 'divide', level3: 'smooth', creases: 'stay' });
    expect(() => applySurfaceOperation(plan, cage, smooth, { scheme: 'loop' })).toThrow(/triangles only; 16 faces/);
  });

  it('is told to be the same as all levels smooth where the surface is, whatever its points are', () => {
    // flat sides between lasting creases: the points of their surfaces lie elsewhere, the surfaces do not
    const prism = Cage.fromPolygons(cylinder(12, 30, 12, 1, true));
    const sharp = run('crease', prism, selectEdges(prism.edges()), { sharpness: 10 }).cage;
    const planned = { ...smooth, plan: { steps: ['divide' as const, 'divide' as const] } };
    expect(planReport(sharp.toPolygons(), planned, 2).moved).toBe(0);
    expect(describePlanReport(planReport(sharp.toPolygons(), smooth, 2))).toMatch(/the same as with all levels smooth/);
    // without creases both limits differ, by what is measured on both far down
    const deep = (plan?: typeof planned.plan) =>
      new Subdivision(prism.toPolygons(), { ...smooth, plan, levels: 5, limit: true }).toPolygons(prism.toPolygons());
    const [dividing, smoothing] = [deep(planned.plan), deep()];
    const off = Math.max(...new Reference(smoothing).distances(dividing.positions), ...new Reference(dividing).distances(smoothing.positions));
    expect(planReport(prism.toPolygons(), planned, 2).moved / off).toBeCloseTo(1, 2);
  });

  it('gives formats without plans its divided levels', () => {
    const mesh = creased(2).toPolygons();
    const divided = dividedCage(mesh, { ...smooth, plan: { steps: ['divide', 'smooth'] } });
    expect([divided.levels, divided.complete, divided.mesh.faceStart.length - 1]).toEqual([1, true, 96]);
    expect(divided.mesh.creaseSharpness!.every((s) => s === 2)).toBe(true);
    expect(dividedCage(mesh, { ...smooth, plan: { steps: ['smooth', 'divide'] } }).complete).toBe(false);
  });
});

describe('the surface itself', () => {
  it('passes where it was pulled to, and the cage moves no more than it has to', () => {
    const cage = Cage.fromPolygons(mooringCleat());
    const face = [...cage.faces()][10];
    const at = cage.faceVertices(face).reduce((sum, v) => sum.map((x, k) => x + cage.position(v)[k] / cage.faceSize(face)), [0, 0, 0]);
    const place = { face, at: at as [number, number, number] };
    const { cage: pulled } = run('pull-surface', cage, emptySelection(), { points: [place], x: 1, y: 2 });
    // the nearest place of the limit surface was where the pull began
    const begin = new Reference(limitOf(cage)).bvh.closest(...place.at, surfacePoint());
    const goal = Float64Array.from([begin.x + 1, begin.y + 2, begin.z]);
    expect(new Reference(limitOf(cage)).distances(goal)[0]).toBeGreaterThan(0.5);
    expect(new Reference(limitOf(pulled)).distances(goal)[0]).toBeLessThan(0.02);
    const moved = [...cage.vertices()].filter((v) => Math.hypot(...cage.position(v).map((x, k) => x - pulled.position(v)[k])) > 1e-12);
    expect(moved.length).toBeLessThan(40);
    expect(() => run('pull-surface', cage, emptySelection())).toThrow(/No point of the surface is chosen/);
  });

  it('is fitted to the reference, not the vertices of the cage', () => {
    const dense = new Subdivision(torus(20, 7, 12, 8), { levels: 4, limit: true }).toPolygons(torus(20, 7, 12, 8));
    const cage = Cage.fromPolygons(torus(20, 7, 12, 8));
    // shaken
    for (let i = 0; i < cage.positions.length; i++) cage.positions[i] += 0.6 * Math.sin(7 * i);
    const fit = operationById('fit-reference') as CageOperation;
    const { cage: fitted, notes } = applyOperation(fit, cage, emptySelection(), { passes: 8 }, { surface: smooth, reference: dense });
    const off = (c: Cage) => new Reference(dense).distances(limitOf(c, 2).positions).reduce((a, b) => Math.max(a, b), 0);
    expect(off(fitted)).toBeLessThan(0.15 * off(cage));
    expect(notes[0]).toMatch(/Smooth surface to reference: .* Cage vertices to reference: /);
    const [surfaceMost, vertexMost] = [/reference: mean [\d.]+ mm, max ([\d.]+)/, /vertices to reference: mean [\d.]+ mm, max ([\d.]+)/].map((r) =>
      Number(r.exec(notes[0])![1])
    );
    expect(vertexMost).toBeGreaterThan(surfaceMost);
    expect(() => run('fit-reference', cage, emptySelection())).toThrow(/no reference/);
  });
});
