import { describe, expect, it } from 'vitest';
import { run, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices, type Selection } from '../../select/selection.ts';
import { plane } from '../../shapes/start-shapes.ts';
import { type Params } from '../operation.ts';

// The table in docs/attributes.md, row by row, on a sheet with every mark.

/** 8 x 8 quads: every edge creased by its own amount, a region for each face, corners on vertices, texture coordinates by place. */
function marked(): Cage {
  const cage = Cage.fromPolygons(plane(8, 8, 8, 8));
  for (const e of cage.edges()) cage.setValue('crease', e, 1 + e / 100);
  for (const f of cage.faces()) cage.setValue('region', f, f % 5);
  for (const v of cage.vertices()) cage.setValue('corner', v, v % 3);
  cage.regionNames = ['deck', 'rail', 'horn', 'lamp', 'stair'];
  const uv = cage.layer('uv').data;
  for (const f of cage.faces())
    for (const h of cage.loopOf(cage.faceEdge[f])) uv.set([cage.position(cage.origin[h])[0] / 8, cage.position(cage.origin[h])[2] / 8], 2 * h);
  return cage;
}
const at = (x: number, z: number) => vertexAt(marked(), x, 0, z);
const edge = (a: [number, number], b: [number, number]) => marked().findHalfEdge(at(...a), at(...b)) >> 1;
const middle = selectEdges([edge([0, 0], [1, 0])]);
/** Two edges of one loop: a strip along one alone would have no width. */
const inRow = selectEdges([edge([0, 0], [1, 0]), edge([1, 0], [2, 0])]);
const face = selectFaces([marked().face[marked().findHalfEdge(at(0, 0), at(0, 1))]]);

/** operation, what is picked, its numbers */
const rows: [string, Selection, Params?][] = [
  ['move', face, { y: 1 }],
  ['slide', middle, { fraction: 0.3 }],
  ['make-round', face],
  ['flatten', face],
  ['twist', emptySelection(), { axis: 'X' }],
  ['add-loop', middle],
  ['connect', selectVertices([at(0, 0), at(1, 1)])],
  ['point-on-edge', middle],
  ['slice-set', face, { count: 1 }],
  ['divide-once', face],
  ['dissolve', middle],
  ['swing-edge', middle],
  ['extrude', face, { distance: 1 }],
  ['inset', face, { width: 0.2 }],
  ['bevel', inRow, { width: 0.2, segments: 2 }],
  ['collapse', middle],
  ['weld', selectVertices([at(0, 0), at(1, 0)])],
  ['open-edges', face],
  ['duplicate', face, { x: 30 }],
  ['flip', emptySelection()],
  ['brace', middle, { width: 0.2 }],
  ['pull-surface', emptySelection(), { points: [{ face: face.faces[0], at: [0.5, 0, 0.5] }], y: 1 }],
  ['delete', face]
];

describe('what operations do to marks', () => {
  it.each(rows)('%s keeps creases, corners, regions and texture coordinates as the table says', (id, selection, params) => {
    const before = marked();
    const { cage } = run(id, before, selection, params);
    const touched = new Set(selection.faces);
    for (const e of selection.edges) for (const h of [2 * e, 2 * e + 1]) touched.add(before.face[h]);
    let keptEdges = 0;
    for (const e of before.edges()) {
      const [a, b] = [before.origin[2 * e], before.origin[2 * e + 1]];
      if (!cage.hasVertex(a) || !cage.hasVertex(b)) continue;
      const h = cage.findHalfEdge(a, b);
      if (h < 0) continue;
      keptEdges++;
      expect(cage.value('crease', h >> 1)).toBe(before.value('crease', e));
    }
    expect(keptEdges).toBeGreaterThan(100);
    for (const v of before.vertices()) if (cage.hasVertex(v) && v !== at(0, 0)) expect(cage.value('corner', v)).toBe(before.value('corner', v));
    const centre = (c: Cage, f: number) =>
      c
        .faceVertices(f)
        .map((v) => c.position(v).join(' '))
        .sort()
        .join('|');
    const places = new Map([...before.faces()].map((f) => [centre(before, f), f]));
    let same = 0;
    for (const f of cage.faces()) {
      expect([0, 1, 2, 3, 4]).toContain(cage.value('region', f));
      const old = places.get(centre(cage, f));
      if (old === undefined) continue;
      same++;
      expect(cage.value('region', f)).toBe(before.value('region', old));
      for (const h of cage.loopOf(cage.faceEdge[f])) {
        const [u, v] = cage.layer('uv').data.subarray(2 * h, 2 * h + 2);
        const [x, , z] = cage.position(cage.origin[h]);
        expect([u * 8, v * 8]).toEqual([x, z]);
      }
    }
    if (id !== 'twist') expect(same).toBeGreaterThan(40);
  });

  it('gives both parts of a cut edge its sharpness, and new edges none', () => {
    const before = marked();
    const { cage } = run('point-on-edge', before, middle);
    const made = [...cage.vertices()].find((v) => !before.hasVertex(v))!;
    expect(cage.spokes(made).map((h) => cage.value('crease', h >> 1))).toEqual(Array(2).fill(before.value('crease', middle.edges[0])));
    const connected = run('connect', before, selectVertices([at(0, 0), at(1, 1)])).cage;
    expect(connected.value('crease', connected.findHalfEdge(at(0, 0), at(1, 1)) >> 1)).toBe(0);
  });
  it('mixes colours along a cut edge', () => {
    const before = marked();
    for (const v of before.vertices()) before.layer('colour').data.set([before.position(v)[0] / 8 + 0.5, 0, 1], 3 * v);
    const { cage } = run('point-on-edge', before, middle, { fraction: 0.25 });
    const made = [...cage.vertices()].find((v) => !before.hasVertex(v))!;
    expect(cage.layer('colour').data[3 * made]).toBeCloseTo(cage.position(made)[0] / 8 + 0.5, 12);
  });
  it('takes the sharpness of swung and bevelled edges away and says so', () => {
    for (const id of ['swing-edge', 'bevel'])
      expect(run(id, marked(), id === 'bevel' ? inRow : middle, id === 'bevel' ? { width: 0.2 } : {}).notes.join(' ')).toMatch(/sharp/);
  });
  it('puts the sharpness of an outline on the drawn-out rim as well', () => {
    const before = marked();
    const { cage, selection } = run('extrude', before, face, { distance: 2 });
    const rim = cage.loopOf(cage.faceEdge[selection.faces[0]]).map((h) => cage.value('crease', h >> 1));
    const foot = before.loopOf(before.faceEdge[face.faces[0]]).map((h) => before.value('crease', h >> 1));
    expect(rim.sort()).toEqual(foot.sort());
  });
});
