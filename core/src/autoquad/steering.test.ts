import { describe, expect, it } from 'vitest';
import { assertValid } from '../mesh/assert-valid.ts';
import { quadQuality } from '../check/quad-quality.ts';
import { Cage } from '../mesh/cage.ts';
import { borderLoops, genus } from '../mesh/topology.ts';
import { type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { planeAcross } from '../numeric/best-fit.ts';
import { add, dot, length, mean, scaled, subtract, unit, type Triple } from '../numeric/vectors.ts';
import { Reference } from '../reference/reference.ts';
import { edgeLoop } from '../select/loops.ts';
import { marshNewt, newtLimbs } from '../shapes/marsh-newt.ts';
import { denseSphere, halfShell, longLimbed } from '../shapes/sample-surfaces.ts';
import { box } from '../shapes/start-shapes.ts';
import { type AutoQuadsOptions, type LinePick, type Guide } from './base/options.ts';
import { autoQuads } from './auto-quads.ts';
import { withFeatures } from './lines/features.ts';
import { type LookAhead, lookAhead, planPoles } from './look-ahead.ts';
import { ringOfStroke } from './field/section-ring.ts';
import { StepStore } from './base/step-store.ts';

const laid = (mesh: PolygonMesh, options: AutoQuadsOptions) => {
  const { mesh: quads, notes } = autoQuads(mesh, options);
  return { cage: Cage.fromPolygons(quads), notes };
};

/** A ring of points round a rod of the figure. */
function ringRound(from: Triple, to: Triple, radius: number): Triple[] {
  const { u, v, centre } = planeAcross(mean([from, to]), subtract(to, from));
  return Array.from({ length: 24 }, (_, i) =>
    add(centre, add(scaled(u, radius * Math.cos((i * Math.PI) / 12)), scaled(v, radius * Math.sin((i * Math.PI) / 12))))
  );
}
const forearm = (radius = 3) => ringRound([25, 52, 0], [40, 44, 6], radius);

/** Counts of the closed edge loops that run round within a mm or two of a ring of points. */
function loopsNear(cage: Cage, ring: Triple[]): number[] {
  const [centre, radius] = [mean(ring), length(subtract(ring[0], mean(ring)))];
  const counts = new Set<number>();
  for (const e of cage.edges()) {
    const ends = [0, 1].map((k) => cage.position(cage.origin[2 * e + k]));
    if (ends.some((p) => length(subtract(p, centre)) > radius + 1.5)) continue;
    const loop = edgeLoop(cage, e);
    const near = loop.edges.every((f) => length(subtract(cage.position(cage.origin[2 * f]), centre)) < radius + 3);
    if (loop.closed && near) counts.add(loop.edges.length);
  }
  return [...counts];
}

describe('steering auto quads', () => {
  const figure = longLimbed(0.75);

  it('mirrors exactly what is mirrored, with a loop of vertices on the plane, and lays it whole where that is asked for', () => {
    const { cage, notes } = laid(figure, { count: 1500 });
    expect(notes.join(' ')).toMatch(/one side of X = 0.00 and mirrored; symmetry of the surface: (exact|0\.0\d+ mm)/);
    const key = (...p: number[]) => p.map((x) => (x === 0 ? 0 : x).toFixed(7)).join(' ');
    const known = new Set([...cage.vertices()].map((v) => key(...cage.position(v))));
    for (const v of cage.vertices()) {
      const [x, y, z] = cage.position(v);
      expect(known.has(key(-x, y, z))).toBe(true);
    }
    const middle = [...cage.edges()].find((e) => [0, 1].every((k) => cage.position(cage.origin[2 * e + k])[0] === 0))!;
    const loop = edgeLoop(cage, middle);
    expect(loop.edges.every((e) => [0, 1].every((k) => cage.position(cage.origin[2 * e + k])[0] === 0))).toBe(true);
    const whole = laid(figure, { count: 1500, symmetry: 'none' });
    expect(whole.notes.join(' ')).not.toMatch(/mirrored/);
    // a box is mirrored three times, a half shell twice
    expect(
      laid(box({ x: 30, y: 20, z: 10 }, { x: 3, y: 2, z: 1 }), { count: 2000 }).notes.filter((n) => n.startsWith('Laid on one side'))
    ).toHaveLength(3);
    const shell = laid(halfShell(30), { count: 400 });
    expect([shell.notes.filter((n) => n.includes('mirrored')).length, borderLoops(shell.cage).length, genus(shell.cage)]).toEqual([2, 1, 0]);
  });

  it.each([8, 10, 12])('closes loops of %d quads round a limb where a closed guide asks for them, on both sides', (count) => {
    const guide: Guide = { points: forearm(), influence: 60, closed: true, count };
    const { cage, notes } = laid(figure, { count: 2500, guides: [guide] });
    expect(notes).toContain(`Guide 1: ${count} quads round it.`);
    expect(loopsNear(cage, forearm())).toContain(count);
    expect(
      loopsNear(
        cage,
        forearm().map(([x, y, z]): Triple => [-x, y, z])
      )
    ).toContain(count);
  });

  it('takes a stroke across a limb for the section all round it, and one that comes back to its start as it is', () => {
    const across = [-3, -1.5, 0, 1.5, 3].map((d): Triple => [32.5 + 0.47 * d, 48 + 0.88 * d, 6]);
    const ring = ringOfStroke(figure, across, [0, 0, 1])!;
    const round = ring.map((p) => length(subtract(p, mean(ring))));
    expect([ring.length > 20, Math.min(...round) > 2.4, Math.max(...round) < 4]).toEqual([true, true, true]);
    const eye = Array.from({ length: 12 }, (_, i): Triple => [3 * Math.cos(i / 2), 80 + 3 * Math.sin(i / 2), 10]);
    expect(ringOfStroke(figure, eye, [0, 0, 1])).toEqual(eye);
    expect(ringOfStroke(figure, [across[0], across[0]], [0, 0, 1])).toBeUndefined();
  });

  it('names the guides that contradict each other, and those that lie off the surface', () => {
    const near = ringRound([24, 52.5, 0], [39, 44.5, 6], 3);
    const guides: Guide[] = [
      { points: forearm(), influence: 60, closed: true, count: 8 },
      { points: near, influence: 60, closed: true, count: 12 },
      {
        points: [
          [200, 0, 0],
          [220, 0, 0]
        ],
        influence: 50
      }
    ];
    const { notes } = laid(figure, { count: 2500, guides });
    expect(notes).toContain('Guide 1: 8 quads round it.');
    expect(notes).toContain('Guide 2 asks for 12 quads round it and got 8: it contradicts guide 1, which asks for 8 on the same way round.');
    expect(notes).toContain('Guide 3 lies off the surface, or is too short: it was left out.');
  });

  it('runs loops along a stroke, whichever way that lies', () => {
    const sphere = denseSphere(40);
    const offAt = (turn: number, guides: Guide[]) => {
      const way: Triple = [0, Math.sin(turn), Math.cos(turn)];
      const { cage } = laid(sphere, { count: 1200, symmetry: 'none', guides });
      const off: number[] = [];
      for (const e of cage.edges()) {
        const [a, b] = [0, 1].map((k) => cage.position(cage.origin[2 * e + k]));
        if (a[0] < 19) continue;
        const along = Math.abs(dot(unit(subtract(b, a)), way));
        off.push((Math.min(Math.acos(Math.min(1, along)), Math.PI / 2 - Math.acos(Math.min(1, along))) * 180) / Math.PI);
      }
      return off.reduce((x, y) => x + y, 0) / off.length;
    };
    for (const turn of [0.2, 0.9]) {
      const points = Array.from({ length: 9 }, (_, i): Triple => {
        const s = (i - 4) * 1.5;
        return [20, s * Math.sin(turn), s * Math.cos(turn)];
      });
      expect(offAt(turn, [{ points, influence: 100 }])).toBeLessThan(8);
      expect(offAt(turn, [{ points, influence: 40 }])).toBeLessThan(12);
    }
  });

  it.each([30, 40, 60, 200])('makes quads of %i percent where the size brush touched, and keeps the count', (percent) => {
    const at: Triple = [20, 0, 0];
    const { cage } = laid(denseSphere(40), { count: 2000, symmetry: 'none', sizes: [{ at, radius: 16, percent }], lies: 'vertices' });
    expect(Math.abs(cage.faceCount / 2000 - 1)).toBeLessThan(0.03);
    const meanEdge = (near: number, far: number) => {
      const lengths = [...cage.edges()].flatMap((e) => {
        const away = length(subtract(cage.position(cage.origin[2 * e]), at));
        return away >= near && away < far ? [cage.edgeLength(e)] : [];
      });
      return lengths.reduce((a, b) => a + b, 0) / lengths.length;
    };
    const got = (100 * meanEdge(0, 5)) / meanEdge(20, 60);
    // larger ones would need poles of five edges: they come out at 127
    expect(got).toBeGreaterThan(percent > 100 ? 115 : 0.75 * percent);
    expect(got).toBeLessThan(1.15 * percent);
    expect(quadQuality(cage).worst).toBeGreaterThan(0.6);
    expect(
      Math.max(...new Reference(denseSphere(40)).distances(Float64Array.from([...cage.vertices()].flatMap((v) => cage.position(v)))))
    ).toBeLessThan(0.05);
  });

  it('moves a pole to where it is dragged, cancels one that is dragged onto its opposite, and those that lie near each other', () => {
    const sphere = denseSphere(50);
    const options = { count: 1500, symmetry: 'none' } as const;
    const before = planPoles(sphere, options);
    const { at: from } = before[0];
    // a third of the way round to the next one
    const to = scaled(unit(add(scaled(from, 2), before[1].at)), length(from));
    const after = planPoles(sphere, { ...options, poleMoves: [{ from, to }] });
    const nearest = (poles: typeof before, at: Triple) => Math.min(...poles.map((pole) => length(subtract(pole.at, at))));
    expect([before.length, after.length]).toEqual([8, 8]);
    expect([nearest(before, to) > 4, nearest(after, to) < 1, nearest(after, from) > 4]).toEqual([true, true, true]);

    const figure = longLimbed();
    const many = planPoles(figure, { count: 1500, symmetry: 'none', cancelWithin: 0 });
    const fewer = planPoles(figure, { count: 1500, symmetry: 'none', cancelWithin: 6 });
    const sum = (poles: typeof many) => poles.reduce((turns, { valence }) => turns + 4 - valence, 0);
    expect([sum(many), sum(fewer)]).toEqual([8, 8]);
    expect(fewer.length).toBeLessThan(many.length);
    const five = many.find(({ valence }) => valence === 5)!;
    const three = many
      .filter(({ valence }) => valence === 3)
      .reduce((best, pole) => (length(subtract(pole.at, five.at)) < length(subtract(best.at, five.at)) ? pole : best));
    expect(planPoles(figure, { count: 1500, symmetry: 'none', cancelWithin: 0, poleMoves: [{ from: five.at, to: three.at }] })).toHaveLength(
      many.length - 2
    );
    const { notes } = laid(denseSphere(30), { count: 400, poleMoves: [{ from: [0, 0, 0], to: [20, 0, 0] }] });
    expect(notes.join(' ')).toMatch(/Pole move 1 was left out/);
  });

  it('leaves poles of fingers, between which loops close, however near to each other they lie', () => {
    const poles = planPoles(marshNewt(), { count: 4000 });
    const toes = newtLimbs().filter(({ name }) => name.includes('toe'));
    // four of three edges at each tip, beyond those of five at its root
    const turnsAt = toes.map(({ from, to }) => {
      const way = unit(subtract(to, from));
      const onToe = poles.filter(({ at }) => {
        const along = dot(subtract(at, from), way);
        return along > 0.7 * length(subtract(to, from)) && length(subtract(subtract(at, from), scaled(way, along))) < 3;
      });
      return onToe.reduce((turns, { valence }) => turns + 4 - valence, 0);
    });
    expect(turnsAt).toEqual(toes.map(() => 4));
  });

  it('follows edges that were picked, and not those that were taken out', () => {
    const block = box({ x: 30, y: 20, z: 10 }, { x: 6, y: 4, z: 2 });
    const sharpCount = (picks: LinePick[], degrees = 40) => withFeatures(block, degrees, picks).featureEdges().length;
    const all = 4 * (6 + 4 + 2);
    const onRim: Triple = [2.5, 10, 5];
    expect(sharpCount([])).toBe(all);
    // a click takes the line as far as it runs on; a stroke the edges along it; a stroke that takes out those near it
    expect(sharpCount([{ points: [onRim], follow: true }], 180)).toBe(6);
    expect(
      sharpCount(
        [
          {
            points: [
              [-15, 10, 5],
              [-5, 10, 5]
            ],
            follow: true
          }
        ],
        180
      )
    ).toBe(2);
    expect(
      sharpCount([
        {
          points: [
            [-15, 10, 5],
            [15, 10, 5]
          ],
          follow: false
        }
      ])
    ).toBe(all - 6);
    // across a face there is no edge to follow but those of its own
    const middle = autoQuads(block, {
      count: 400,
      symmetry: 'none',
      lines: [
        {
          points: [
            [0, 10, -5],
            [0, 10, 5]
          ],
          follow: true
        }
      ]
    });
    expect(middle.notes.join(' ')).toMatch(/2 picked edges/);
    const p = middle.mesh.positions;
    const onLine = [...Array(p.length / 3).keys()].filter((v) => Math.abs(p[3 * v]) < 1e-6 && Math.abs(p[3 * v + 1] - 10) < 1e-6);
    expect(onLine.length).toBeGreaterThan(4);
  });

  it('takes up the poles and directions of the last run where only the size changes, and finds them anew where they depend on what changed', () => {
    const figure = longLimbed();
    const kept = new StepStore();
    const phases: string[] = [];
    const lay = (options: AutoQuadsOptions) => {
      phases.length = 0;
      const { mesh, notes } = autoQuads(figure, options, { phase: (name) => phases.push(name) }, kept);
      assertValid(Cage.fromPolygons(mesh));
      return { mesh, notes, count: mesh.faceVertices.length / 4 };
    };
    const first = lay({ count: 1500 });
    expect(phases).toContain('Working mesh');
    const more = lay({ count: 1900, lies: 'vertices' });
    expect(phases).not.toContain('Working mesh');
    expect(phases).not.toContain('Directions');
    expect(more.notes.join(' ')).toMatch(/Poles and directions were kept from quads of 2\.\d+ mm/);
    expect(Math.abs(more.count / 1900 - 1)).toBeLessThan(0.03);
    const planned = planPoles(figure, { count: 1500 }, undefined, kept);
    expect(planned).toEqual(planPoles(figure, { count: 1900 }, undefined, kept));
    expect(planned).toEqual(planPoles(figure, { count: 1500 }));
    // what is kept changes nothing where the same is asked for again
    const again = lay({ count: 1500 });
    expect([again.mesh, again.notes]).toEqual([first.mesh, first.notes]);
    lay({ count: 1500, curvaturePull: 20 });
    expect(phases).not.toContain('Working mesh');
    expect(phases).toContain('Directions');
    lay({ count: 4500, curvaturePull: 20 });
    expect(phases).toContain('Working mesh');
    // marks of an earlier run are gone: edges that were sharp enough at a lesser angle, and those that were picked
    const block = box({ x: 30, y: 20, z: 10 }, { x: 3, y: 2, z: 1 });
    const picked: LinePick = {
      points: [
        [0, 10, -5],
        [0, 10, 5]
      ],
      follow: true
    };
    const plain = { count: 400, symmetry: 'none', featureAngle: 100 } as const;
    autoQuads(block, { ...plain, featureAngle: 40, lines: [picked] }, undefined, kept);
    expect(autoQuads(block, plain, undefined, kept)).toEqual(autoQuads(block, plain));
    // another surface
    const sphere = autoQuads(denseSphere(40), { count: 900 }, undefined, kept);
    expect(sphere.mesh).toEqual(autoQuads(denseSphere(40), { count: 900 }).mesh);
  });

  it('looks ahead: tells planes, where they cut the surface, and sharp edges, and has made what poles need first', () => {
    const kept = new StepStore();
    const seen: LookAhead[] = [];
    const phases: string[] = [];
    const block = box({ x: 30, y: 20, z: 10 }, { x: 3, y: 2, z: 1 });
    lookAhead(block, { count: 1500 }, (told) => seen.push(told), kept);
    lookAhead(figure, { count: 1500 }, (told) => seen.push(told), kept);
    const [ofBlock, ofFigure] = seen;
    expect([ofBlock.mirrors.length, ofBlock.sharp.length / 6, ofFigure.sharp.length]).toEqual([3, 4 * (3 + 2 + 1), 0]);
    // once round in each plane: the block's edges that lie in one are told from both sides
    const lengthOf = (lines: Float32Array) =>
      Array.from({ length: lines.length / 6 }, (_, i) => Math.hypot(...[0, 1, 2].map((k) => lines[6 * i + k] - lines[6 * i + 3 + k]))).reduce(
        (a, b) => a + b
      );
    expect(lengthOf(ofBlock.sections)).toBeCloseTo(2 * (20 + 10) + 2 * 2 * (30 + 10) + 2 * (30 + 20), 4);
    expect(ofFigure.mirrors.map(({ normal, offset }) => [...normal, offset])).toEqual([[1, 0, 0, 0]]);
    expect(ofFigure.sections.length).toBeGreaterThan(600);
    expect(ofFigure.sections.every((x, i) => i % 3 !== 0 || Math.abs(x) < 1e-6)).toBe(true);
    const poles = planPoles(figure, { count: 1500 }, { phase: (name) => phases.push(name) }, kept);
    expect(phases).toEqual(['Preparing', 'Directions', 'Done']);
    expect(poles).toEqual(planPoles(figure, { count: 1500 }));
    expect(() =>
      lookAhead({ ...figure, faceStart: Int32Array.of(0), faceVertices: new Int32Array(0) }, { count: 1500 }, () => undefined, kept)
    ).toThrow('There are no faces to lay quads over.');
  });
});
