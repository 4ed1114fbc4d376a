import { Cage } from '../src/mesh/cage.ts';
import { applyOperation } from '../src/operations/apply.ts';
import { type CageOperation, type Params } from '../src/operations/operation.ts';
import { operationById } from '../src/operations/registry.ts';
import { edgeLoop, edgeRing } from '../src/select/loops.ts';
import { selectEdges, selectFaces, selectVertices, type Selection } from '../src/select/selection.ts';
import { torus } from '../src/shapes/start-shapes.ts';
import { FirstLevel } from '../src/subdivide/first-level.ts';
import { Subdivision } from '../src/subdivide/subdivision.ts';
import { best, head, line } from './measure.ts';

/** Local operations and loop selection on a cage of 100,000 quads, with the smooth surface at level 1. */
export function shapeBench(): void {
  head('Shape, cage of 100,000 quads (torus of 400 x 250)');
  const cage = Cage.fromPolygons(torus(40, 15, 400, 250));
  const inner = cage.spokes(50_000)[0];
  line(
    'loop selected',
    best(20, () => edgeLoop(cage, inner >> 1)),
    'ms',
    { most: 5 }
  );
  line(
    'ring selected',
    best(20, () => edgeRing(cage, inner >> 1)),
    'ms',
    { most: 5 }
  );
  line(
    '  compared: the cage copied',
    best(5, () => cage.clone()),
    'ms'
  );
  const surface = new FirstLevel(cage);
  line(
    '  compared: its surface at level 1 from nothing',
    best(3, () => new Subdivision(cage.toPolygons(), { levels: 1 }).evaluate(cage.positions)),
    'ms'
  );
  const f = cage.face[inner];
  const local: [string, Selection, Params][] = [
    ['extrude', selectFaces([f]), {}],
    ['inset', selectFaces([f]), { width: 0.05 }],
    ['swing-edge', selectEdges([inner >> 1]), {}],
    ['collapse', selectEdges([inner >> 1]), {}],
    ['dissolve', selectVertices([cage.origin[inner]]), {}],
    ['connect', selectVertices([cage.origin[inner], cage.target(cage.next[inner])]), {}],
    ['add-loop', selectEdges([inner >> 1]), {}],
    ['move', selectVertices([cage.origin[inner]]), { x: 0.01 }]
  ];
  for (const [id, selection, params] of local) {
    const operation = operationById(id) as CageOperation;
    let most = Infinity;
    for (let run = 0; run < 8; run++) {
      const start = performance.now();
      const { cage: changed } = applyOperation(operation, cage, selection, params);
      surface.follow(changed);
      most = Math.min(most, performance.now() - start);
      surface.follow(cage);
    }
    line(`${operation.name}, with the surface`, most, 'ms', { most: 50 });
  }
}
