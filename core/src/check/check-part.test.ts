import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amount } from '../../testing/amount.ts';
import { plantedCage } from '../../testing/planted-defects.ts';
import { anyCage, steps, takeStep } from '../../testing/random-meshes.ts';
import { Cage } from '../mesh/cage.ts';
import { joinCages } from '../mesh/join-cages.ts';
import { mergeFaces, splitFace } from '../mesh/euler-operators.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { length, subtract } from '../numeric/vectors.ts';
import { applyOperation } from '../operations/apply.ts';
import { type CageOperation } from '../operations/operation.ts';
import { randomNumbers } from '../numeric/random.ts';
import { operationById } from '../operations/registry.ts';
import { emptySelection } from '../select/selection.ts';
import { denseSphere } from '../shapes/sample-surfaces.ts';
import { box, cylinder, plane, quadSphere } from '../shapes/start-shapes.ts';
import { Subdivision } from '../subdivide/subdivision.ts';
import { bulgeAt } from './bulge.ts';
import { checkPart, lookThrough } from './check-part.ts';
import { type Finding, type Fix } from './findings/finding.ts';
import { limitDistance } from './limit-distance.ts';

const settings = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
const check = (cage: Cage) => checkPart({ cage, settings });
const kinds = (findings: Finding[]) => findings.map((f) => f.kind);
const fixed = (cage: Cage, { operation, params, pick }: Fix, reference?: PolygonMesh) =>
  applyOperation(operationById(operation) as CageOperation, cage, pick, params, { surface: settings, reference }).cage;
const tube = () => Cage.fromPolygons(cylinder(10, 30, 20, 12, false));

describe('check', () => {
  it('finds nothing that shows on clean quads, flat or bent', () => {
    expect(kinds(check(Cage.fromPolygons(plane(10, 10, 8, 8))).filter((f) => f.visible))).toEqual([]);
    expect(kinds(check(tube()).filter((f) => f.visible))).toEqual([]);
    expect(kinds(check(Cage.fromPolygons(quadSphere(20, 12))).filter((f) => f.visible))).toEqual([]);
    expect(check(new Cage())).toEqual([]);
  });

  it('tells a triangle on a bend by its bulge, and the same one while flat as harmless', () => {
    const cut = (cage: Cage) => {
      const f = [...cage.faces()].find((g) => cage.faceVertices(g).every((v) => !cage.isBorderVertex(v)))!;
      const loop = cage.loopOf(cage.faceEdge[f]);
      splitFace(cage, loop[0], loop[2]);
      return cage;
    };
    const [bent] = check(cut(tube()));
    expect([bent.kind, bent.visible, bent.unit]).toEqual(['triangle', true, 'mm']);
    expect(bent.why).toMatch(/^Two triangles in place of a quad on a bend of 18°: the smooth surface bulges by 0\.\d+ mm\.$/);
    const flat = check(cut(Cage.fromPolygons(plane(10, 10, 8, 8)))).find((f) => f.kind === 'triangle')!;
    expect([flat.visible, flat.size, flat.rank]).toEqual([false, 0, 0]);
    expect(flat.why).toContain('harmless');
  });

  it('measures a bulge as far as the surfaces with and without the defect are apart', () => {
    const [clean, cage] = [tube(), tube()];
    const f = [...cage.faces()].find((g) => cage.faceVertices(g).every((v) => Math.abs(cage.position(v)[1]) < 5))!;
    const across = cage.loopOf(cage.faceEdge[f]).find((h) => cage.position(cage.origin[h])[1] !== cage.position(cage.target(h))[1])!;
    const merged = mergeFaces(cage, [f, cage.face[across ^ 1]]);
    const apart = limitDistance({ mesh: clean.toPolygons(), settings }, { mesh: cage.toPolygons(), settings })!;
    expect(bulgeAt(cage, merged, settings)!.size / apart).toBeGreaterThan(0.6);
    expect(bulgeAt(cage, merged, settings)!.size / apart).toBeLessThan(1.4);
  });

  it('finds what was planted, under its name, the harmless below the visible', () => {
    for (const seed of [0, 3, 6, 7]) {
      const { cage, planted, clean } = plantedCage(seed);
      const findings = check(cage);
      const reach = 2 * clean.edgeLength(0);
      for (const { kind, place } of planted) {
        const here = findings.filter((f) => length(subtract(f.place, place)) < reach).map((f) => f.kind);
        const names = { triangle: 'triangle', 'n-gon': 'n-gon', 'cut end': 'cut-end', concave: 'folded', hole: 'hole', crack: 'crack' };
        expect(here).toContain(names[kind]);
      }
      const harmless = findings.findIndex((f) => !f.visible);
      if (harmless >= 0) expect(harmless).toBe(findings.filter((f) => f.visible).length);
      for (const f of findings.filter((g) => g.visible))
        expect(planted.some(({ place, other }) => [place, other].some((p) => p && length(subtract(f.place, p)) < reach))).toBe(true);
    }
  });

  it('offers fixes that take the finding away and bring nothing graver', () => {
    for (const seed of [0, 1, 3, 4]) {
      const { cage } = plantedCage(seed);
      const before = check(cage).filter((f) => f.visible);
      for (const finding of before.filter(({ kind }) => kind !== 'folded')) {
        const [fix] = finding.fixes;
        const after = check(fixed(cage, fix)).filter((f) => f.visible);
        const left = after.filter((f) => f.kind === finding.kind && length(subtract(f.place, finding.place)) < 1);
        expect(`${seed} ${finding.kind} ${left.length}`).toBe(`${seed} ${finding.kind} 0`);
        expect(after[0]?.rank ?? 0).toBeLessThanOrEqual(Math.max(before[0].rank, 1e-9) * 1.5);
      }
    }
  });

  it('finds a corner of clean quads that nothing braces, and support loops cure it', () => {
    const cage = Cage.fromPolygons(box({ x: 30, y: 20, z: 30 }, { x: 4, y: 3, z: 4 }));
    const [found] = check(cage);
    expect([found.kind, found.visible]).toEqual(['unbraced-corner', true]);
    expect(found.size).toBeGreaterThan(0.2);
    const braced = check(fixed(cage, found.fixes[0]));
    expect(kinds(braced.filter((f) => f.visible))).not.toContain('unbraced-corner');
    const creased = cage.clone();
    for (const e of creased.edges()) creased.setValue('crease', e, found.where.edges.includes(e) ? 10 : 0);
    expect(kinds(check(creased).filter((f) => f.visible))).not.toContain('unbraced-corner');
  });

  it('finds poles that pinch, creases that end in the open, strips that spiral, and what lies off the reference', () => {
    const ball = Cage.fromPolygons(quadSphere(20, 12));
    const far = ball.clone();
    far.positions[1] += 6;
    const off = checkPart({ cage: far, settings, reference: denseSphere(40) }).find((f) => f.kind === 'far-off')!;
    expect(off.size).toBeGreaterThan(1);
    expect(checkPart({ cage: fixed(far, off.fixes[0], denseSphere(40)), settings, reference: denseSphere(40) })[0]?.kind).not.toBe('far-off');
    const creased = ball.clone();
    const inner = [...creased.edges()].find((e) => !creased.isBorderEdge(e))!;
    creased.setValue('crease', inner, 3);
    expect(check(creased).filter((f) => f.kind === 'open-crease')).toHaveLength(2);
    const almost = ball.clone();
    almost.positions[0] += 0.01;
    expect(kinds(check(almost))).toContain('nearly-symmetric');
  });

  it('tells a twisted quad that stands out, not those of a rough form or of one that is meant so', () => {
    const sheet = (height: (x: number, z: number) => number) => {
      const cage = Cage.fromPolygons(plane(10, 10, 10, 10));
      for (const v of cage.vertices()) cage.positions[3 * v + 1] = height(cage.positions[3 * v], cage.positions[3 * v + 2]);
      return cage;
    };
    const twisted = (cage: Cage, reference?: PolygonMesh) =>
      checkPart({ cage, settings, reference })
        .filter((f) => f.kind === 'twisted')
        .map((f) => f.visible);
    const lifted = sheet((x, z) => (Math.hypot(x, z) < 0.1 ? 0.6 : 0));
    expect(twisted(lifted)).toEqual([true, true, true, true]);
    const rough = sheet((x, z) => (Math.abs(Math.round(x + z)) % 2 ? 0.1 : -0.1));
    expect(twisted(rough)).toEqual(Array.from({ length: 100 }, () => false));
    const meant = new Subdivision(lifted.toPolygons(), { ...settings, levels: 3, limit: true }).toPolygons(lifted.toPolygons());
    expect(twisted(lifted, meant)).toEqual([false, false, false, false]);
    expect(twisted(lifted, plane(10, 10, 10, 10))).toEqual([true, true, true, true]);
  });

  it('tells the edge that a cut came along, and lets triangles be where they are subdivided as such', () => {
    const { cage } = plantedCage(2);
    const [cut] = check(cage).filter((f) => f.kind === 'cut-end');
    const [edge] = cut.fixes[1].pick.edges;
    expect([2 * edge, 2 * edge + 1].some((h) => cut.where.faces.includes(cage.face[h]))).toBe(false);
    const triangles = Cage.fromPolygons(denseSphere(12));
    expect(kinds(checkPart({ cage: triangles, settings: { ...settings, scheme: 'loop' } }))).not.toContain('triangle');
  });

  it('takes what is no part: one face, all triangles, places that are one', () => {
    expect(kinds(check(Cage.fromPolygons(plane(1, 1, 1, 1))).filter((f) => f.visible))).toEqual([]);
    const triangles = check(Cage.fromPolygons(denseSphere(12)));
    expect(triangles.length).toBeGreaterThan(0);
    expect(triangles.every((f) => Number.isFinite(f.size) && f.place.every(Number.isFinite))).toBe(true);
    const point = Cage.fromPolygons(plane(1, 1, 2, 2));
    point.positions.fill(0);
    expect(check(point).every((f) => Number.isFinite(f.rank))).toBe(true);
  });

  it('looks any cage through, whatever was done to it', () => {
    fc.assert(
      fc.property(anyCage, steps(8), (start, list) => {
        const cage = start.clone();
        for (const step of list) takeStep(cage, step);
        for (const { kind, place, size, rank, where } of check(cage)) {
          if (![...place, size, rank].every(Number.isFinite)) throw new Error(`${kind}: ${String(size)}`);
          if (where.faces.some((f) => !cage.hasFace(f)) || where.edges.some((e) => !cage.hasEdge(e))) throw new Error(`${kind}: gone`);
        }
      }),
      { numRuns: amount(80, 2000) }
    );
  });

  it('finds pieces turned inside out, pieces inside others, and vertices that lie on edges; their fixes take them away', () => {
    const ball = (r: number) => Cage.fromPolygons(quadSphere(r, 4));
    const flipped = applyOperation(operationById('flip') as CageOperation, ball(5), emptySelection(), {}).cage;
    const [turned] = check(flipped).filter((f) => f.kind === 'turned');
    expect([turned.visible, kinds(check(fixed(flipped, turned.fixes[0]))).includes('turned')]).toEqual([true, false]);
    const nested = joinCages(ball(20), ball(5)).cage;
    const [inside] = check(nested).filter((f) => f.kind === 'inside');
    expect(inside.where.faces.length).toBe(ball(5).faceCount);
    expect(fixed(nested, inside.fixes[0]).faceCount).toBe(ball(20).faceCount);
    // the wall of a hollow is inside, and not turned
    expect(kinds(check(joinCages(ball(20), flipped).cage))).not.toContain('turned');
    const fine = Cage.fromPolygons(plane(4, 4, 4, 4));
    const coarse = Cage.fromPolygons(plane(4, 4, 2, 2));
    for (const v of coarse.vertices()) coarse.positions[3 * v] += 4;
    const both = joinCages(fine, coarse).cage;
    const tees = check(both).filter((f) => f.kind === 'tee');
    expect(tees).toHaveLength(2);
    expect(kinds(check(fixed(both, tees[0].fixes[0])).filter((f) => f.kind === 'tee'))).toHaveLength(1);
  });

  it('looks again only round what has changed, and finds the same as if it had looked at all', () => {
    const told = (findings: Finding[]) =>
      findings.map(({ kind, place, size, visible }) => `${kind} ${place.map((x) => x.toFixed(6)).join(' ')} ${size.toFixed(6)} ${visible}`).sort();
    const random = randomNumbers(7);
    for (let seed = 0; seed < amount(6, 100); seed++) {
      let { cage } = plantedCage(seed);
      const reference = seed % 2 ? cage.toPolygons() : undefined;
      let checked = lookThrough({ cage, settings, reference });
      for (let time = 0; time < 6; time++) {
        const next = cage.clone();
        const vertices = [...next.vertices()];
        const v = vertices[Math.floor(random() * vertices.length)];
        if (time % 2 === 0) for (let k = 0; k < 3; k++) next.positions[3 * v + k] += 0.8 * (random() - 0.5);
        else takeStep(next, { kind: time === 1 ? 'splitFace' : 'splitEdge', at: Math.floor(1e6 * random()), other: Math.floor(1e6 * random()) });
        checked = lookThrough({ cage: next, settings, reference }, checked);
        expect(told(checked.findings)).toEqual(told(checkPart({ cage: next, settings, reference })));
        cage = next;
      }
    }
  });

  it('lists the gravest of very many, and says how many more there are', () => {
    const { findings, unlisted } = lookThrough({ cage: Cage.fromPolygons(denseSphere(24)), settings });
    const faces = Cage.fromPolygons(denseSphere(24)).faceCount;
    expect(findings.filter((f) => f.kind === 'triangle')).toHaveLength(2000);
    const [more] = [...unlisted.values()];
    expect(2000 + more).toBeGreaterThanOrEqual(faces / 2);
    expect(findings.every((f, i) => i === 0 || findings[i - 1].rank >= f.rank || findings[i - 1].visible !== f.visible)).toBe(true);
  });
});
