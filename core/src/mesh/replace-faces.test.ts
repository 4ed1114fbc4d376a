import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyCage } from '../../testing/random-meshes.ts';
import { plane, quadSphere } from '../shapes/start-shapes.ts';
import { assertValid } from './assert-valid.ts';
import { Cage } from './cage.ts';
import { CageError } from './half-edges.ts';
import { replaceFaces } from './replace-faces.ts';
import { borderLoops, eulerCharacteristic, islands } from './topology.ts';

describe('replacing faces', () => {
  it('by themselves changes nothing: neither topology nor any value', () => {
    fc.assert(
      fc.property(anyCage, fc.array(fc.nat(1000), { minLength: 1, maxLength: 8 }), (cage, picks) => {
        for (const e of cage.edges()) cage.layer('crease').data[e] = e % 4;
        for (const f of cage.faces()) cage.layer('region').data[f] = f % 3;
        for (const e of cage.edges()) for (const h of [2 * e, 2 * e + 1]) if (cage.face[h] >= 0) cage.layer('uv').data.set([h, -h], 2 * h);
        const faces = [...cage.faces()];
        const gone = [...new Set(picks.map((i) => faces[i % faces.length]))];
        const described = (c: Cage) =>
          [...c.faces()]
            .map((f) => {
              const loop = c.loopOf(c.faceEdge[f]);
              const from = loop.reduce((least, h, i) => (c.origin[h] < c.origin[loop[least]] ? i : least), 0);
              return [...loop.slice(from), ...loop.slice(0, from)]
                .map((h) => [c.origin[h], c.value('crease', h >> 1), c.value('uv', h), c.value('region', f)].join(':'))
                .join(' ');
            })
            .sort();
        const before = described(cage);
        const counts = [eulerCharacteristic(cage), borderLoops(cage).length, islands(cage).count];
        const added = gone.map((f) => ({ corners: cage.faceVertices(f), like: f, cornersLike: cage.loopOf(cage.faceEdge[f]) }));
        const lone = [...cage.vertices()].filter((v) => cage.vertexEdge[v] < 0);
        replaceFaces(cage, { gone, added });
        assertValid(cage);
        expect(described(cage)).toEqual(before);
        expect([eulerCharacteristic(cage), borderLoops(cage).length, islands(cage).count]).toEqual(counts);
        expect(lone.every((v) => cage.hasVertex(v))).toBe(true);
      }),
      { numRuns: 200 }
    );
  });

  it('fills holes one by one, in any order, and back to a closed sphere', () => {
    fc.assert(
      fc.property(
        fc.shuffledSubarray(
          Array.from({ length: 54 }, (_, i) => i),
          { minLength: 1, maxLength: 54 }
        ),
        (order) => {
          const cage = Cage.fromPolygons(quadSphere(1, 3));
          const corners = order.map((f) => cage.faceVertices(f));
          const kept = 54 - order.length;
          for (const f of order.slice(0, Math.min(order.length, 53))) replaceFaces(cage, { gone: [f], added: [] });
          assertValid(cage);
          expect(cage.faceCount).toBe(Math.max(kept, 1));
          expect(corners).toHaveLength(order.length);
        }
      ),
      { numRuns: 40 }
    );
  });

  it('refuses a third face on an edge, and one that touches itself', () => {
    const cage = Cage.fromPolygons(plane(2, 2, 2, 1));
    const v = cage.addVertex(0, 5, 0);
    const inner = [...cage.edges()].find((e) => !cage.isBorderEdge(e))!;
    const [a, b] = [cage.origin[2 * inner], cage.origin[2 * inner + 1]];
    expect(() => replaceFaces(cage.clone(), { gone: [], added: [{ corners: [a, b, v] }] })).toThrow(CageError);
    expect(() => replaceFaces(cage.clone(), { gone: [], added: [{ corners: [a, v, a] }] })).toThrow(CageError);
  });

  it('splits a vertex in which only corners would touch', () => {
    const cage = Cage.fromPolygons(plane(3, 3, 2, 2));
    const [first] = cage.faces();
    const opposite = [...cage.faces()].find(
      (f) => f !== first && cage.faceVertices(f).filter((v) => cage.faceVertices(first).includes(v)).length === 1
    )!;
    replaceFaces(cage, { gone: [first, opposite], added: [] });
    assertValid(cage);
    expect([cage.vertexCount, islands(cage).count]).toEqual([8, 2]);
  });
});
