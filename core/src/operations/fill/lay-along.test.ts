import { describe, expect, it } from 'vitest';
import { run, vertexAt } from '../../../testing/run-operation.ts';
import { Cage } from '../../mesh/cage.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { mean } from '../../numeric/vectors.ts';
import { emptySelection, selectEdges, selectFaces } from '../../select/selection.ts';
import { cylinder, plane } from '../../shapes/start-shapes.ts';
import { layAlongOperation } from './lay-along.ts';

/** A sheet of 6 x 6 quads of a mm, without those whose middles lie in a rectangle. */
function sheetWithout(x0: number, x1: number, z0: number, z1: number): Cage {
  const sheet = Cage.fromPolygons(plane(6, 6, 6, 6));
  const gone = [...sheet.faces()].filter((f) => {
    const [x, , z] = mean(sheet.faceVertices(f).map((v) => sheet.position(v)));
    return x > x0 && x < x1 && z > z0 && z < z1;
  });
  return run('delete', sheet, selectFaces(gone)).cage;
}
const edge = (cage: Cage, [x, z]: number[], [x2, z2]: number[]) => cage.findHalfEdge(vertexAt(cage, x, 0, z), vertexAt(cage, x2, 0, z2)) >> 1;
const lay = (cage: Cage, first: number[][], second: number[][], params = {}) =>
  run('lay-along', cage, selectEdges([edge(cage, first[0], first[1]), edge(cage, second[0], second[1])]), params);

describe('lay along', () => {
  it('fills a notch row by row: each runs along the last one to the end of the border, its corners welded to the side', () => {
    let cage = sheetWithout(0, 3, 0, 3);
    for (const z of [0, 1, 2]) {
      const row = lay(
        cage,
        [
          [0, z],
          [0, z + 1]
        ],
        [
          [0, z],
          [1, z]
        ]
      );
      expect([z, row.selection.faces.length]).toEqual([z, 3]);
      cage = row.cage;
    }
    expect([cage.faceCount, borderLoops(cage).length, cage.vertexCount]).toEqual([36, 1, 49]);
    for (const v of cage.vertices()) expect(cage.position(v).every((x) => Math.abs(x - Math.round(x)) < 1e-9)).toBe(true);
  });

  it('closes a slot between borders that face each other, both ways, or so many quads one way', () => {
    const cage = sheetWithout(-2, 2, 0, 1);
    const facing = [
      [
        [0, 0],
        [1, 0]
      ],
      [
        [0, 1],
        [1, 1]
      ]
    ];
    expect(borderLoops(lay(cage, facing[0], facing[1]).cage)).toHaveLength(1);
    const counts = [3, -2, 1].map((quads) => lay(cage, facing[0], facing[1], { quads }).selection.faces.length);
    expect(counts).toEqual([3, 2, 1]);
    expect(() =>
      lay(cage, facing[0], [
        [-3, 1],
        [-3, 2]
      ])
    ).toThrow(/No quad fits/);
  });

  it('welds to what it meets within the distance, and to nothing beyond', () => {
    const cage = sheetWithout(-2, 2, 0, 1);
    const slot = (weld: number) => {
      const moved = cage.clone();
      moved.positions[3 * vertexAt(cage, 0, 0, 1) + 2] += 0.3;
      return lay(
        moved,
        [
          [-2, 0],
          [-2, 1]
        ],
        [
          [-2, 0],
          [-1, 0]
        ],
        { weld }
      );
    };
    const [near, far] = [slot(0.2), slot(0.5)];
    expect([near.selection.vertices.length, far.selection.vertices.length]).toEqual([3, 4]);
    expect([borderLoops(near.cage).length, borderLoops(far.cage).length]).toEqual([2, 1]);
    expect(far.notes[1]).toMatch(/4 corners welded within 0.50 mm/);
  });

  it('follows a bent border, its edges across turning with it', () => {
    const tube = Cage.fromPolygons(cylinder(5, 4, 24, 2, false));
    const rim = borderLoops(tube)[0];
    const [b, next] = [tube.target(rim[5]), tube.target(rim[6])];
    // a flange begins with one face that stands out from the rim
    const started = run('extrude', tube, selectEdges([rim[5] >> 1]), { distance: 2 }).cage;
    const across = started.spokes(b).find((h) => started.isBorderEdge(h >> 1) && !tube.hasVertex(started.target(h)))!;
    const flange = run('lay-along', started, selectEdges([across >> 1, started.findHalfEdge(b, next) >> 1]), { quads: 10 });
    const lengths = flange.selection.faces.flatMap((f) => flange.cage.loopOf(flange.cage.faceEdge[f])).map((h) => flange.cage.edgeLength(h >> 1));
    expect([flange.selection.faces.length, Math.max(...lengths) / Math.min(...lengths) < 2.5]).toEqual([10, true]);
  });

  it('gives stops that its end can be dragged to, each of which chooses the count, and says what is missing', () => {
    const cage = sheetWithout(-2, 2, 0, 1);
    const picked = selectEdges([edge(cage, [0, 0], [1, 0]), edge(cage, [0, 1], [1, 1])]);
    const grip = layAlongOperation.grips!(cage, picked, { quads: 1, weld: 0, cling: false })[0];
    expect(grip.stops.map((s) => s.params.quads)).toHaveLength(5);
    for (const { at, params } of grip.stops) {
      const made = run('lay-along', cage, picked, params).cage;
      // the row ends there: one edge across at the stop
      expect(
        [...made.edges()].some((e) =>
          [0, 2].every((k) => Math.abs((made.position(made.origin[2 * e])[k] + made.position(made.origin[2 * e + 1])[k]) / 2 - at[k]) < 1e-9)
        )
      ).toBe(true);
    }
    expect(() => run('lay-along', cage, emptySelection())).toThrow(/No edge is picked.*Pick the border edge the row begins at/);
    expect(() => run('lay-along', cage, selectEdges([...picked.edges, edge(cage, [-1, 0], [0, 0])]))).toThrow(/3 edges are picked/);
    expect(() =>
      lay(
        cage,
        [
          [0, -1],
          [1, -1]
        ],
        [
          [0, 0],
          [1, 0]
        ]
      )
    ).toThrow(/One of the edges has faces on both sides/);
  });
});
