import { describe, expect, it } from 'vitest';
import { areaToLay } from '../../autoquad/beside/area-to-lay.ts';
import { middlesOf } from '../../autoquad/beside/lay-beside.ts';
import { Cage } from '../../mesh/cage.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { encodeMesh, MeshBodyError } from '../../task/mesh-body.ts';
import { InvalidParams } from '../refusal.ts';
import { decodeLaid, decodeLayTask, decodeTold, encodeLaid, encodeLayTask, encodeTold, lay, type KeptQuads, type LaidLine } from './lay-task.ts';

const surface = denseSphere(25);
const there = (task: Uint8Array) => decodeLaid(JSON.parse(JSON.stringify(encodeLaid(lay(decodeLayTask(task))))) as LaidLine);

/** A sphere's quads without a cap, and what was there. */
function capLess(): KeptQuads & { gone: number } {
  const cage = Cage.fromPolygons(lay({ surface, options: { count: 500 } }).mesh);
  const gone = areaToLay(
    cage,
    [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[0] > 12))
  );
  const middles = middlesOf(cage, gone);
  replaceFaces(cage, { gone, added: [] });
  const { faceIds: _f, vertexIds: _v, ...kept } = cage.toPolygons();
  return { kept, middles, gone: gone.length };
}

describe('a task to lay quads, sent as bytes', () => {
  it('comes to the same as where it was written, over a surface and beside quads that stay', () => {
    expect(there(encodeLayTask(surface, { count: 300 }))).toEqual(lay(decodeLayTask(encodeLayTask(surface, { count: 300 }))));

    const { gone, ...beside } = capLess();
    const laid = there(encodeLayTask(surface, { count: gone }, beside));
    const here = decodeLayTask(encodeLayTask(surface, { count: gone }, beside));
    expect(here.beside).toEqual(beside);
    expect(laid).toEqual(lay({ ...here, beside }));
    expect(laid.faces!.length).toBeGreaterThan(0.7 * gone);
    expect(laid.mesh.faceVertices.length / 4).toBe(beside.kept.faceVertices.length / 4 + laid.faces!.length);
  });

  it('tells on the way what can be shown, as lines of text', () => {
    const shown = { poles: [{ at: [1, 2, 3] as [number, number, number], valence: 5 }], edges: Float32Array.of(0, 0.1, -2, 1e-9, 3e7, 6) };
    const lines = [encodeTold('Map', 0.5, { poles: shown.poles }), encodeTold('Rounding', 0.65, { edges: shown.edges }), encodeTold('Done', 1)];
    const told = lines.map((line) => decodeTold(JSON.parse(JSON.stringify(line)) as typeof line));
    expect(told).toEqual([{ poles: shown.poles }, { edges: shown.edges }, {}]);
  });

  it.each<[string, object, typeof MeshBodyError | typeof InvalidParams, RegExp]>([
    ['a count that makes no sense', { count: 3 }, InvalidParams, /Count|count/],
    ['quads that stay and are no mesh', { beside: { kept: 'AAAA' } }, MeshBodyError, /mesh|header/],
    ['quads that stay and are no text', { beside: { kept: 7 } }, MeshBodyError, /quads that stay/],
    ['places of two numbers', { beside: { kept: 'AAAA', middles: [[1, 2]] } }, MeshBodyError, /quads that stay/]
  ])('refuses %s', (_name, settings, kind, reason) => {
    const bytes = encodeMesh(surface, settings);
    expect(() => decodeLayTask(bytes)).toThrow(kind);
    expect(() => decodeLayTask(bytes)).toThrow(reason);
  });
});
