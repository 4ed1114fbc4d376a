import { borderOf, converted, edgeLoop, edgeRing, findAll, grown, inverted, shrunk } from '@ulvrin/core';
import type { PickKind } from '$lib/stand/picking.ts';
import type { Command } from './command.ts';

const kind = (id: PickKind, name: string, code: string): Command => ({ id: `pick-${id}`, name, code, run: ({ job }) => (job.view.pick = id) });

/** What a click picks. */
export const pickKinds: readonly Command[] = [
  kind('vertex', 'Pick vertices', 'KeyQ'),
  kind('edge', 'Pick edges', 'KeyW'),
  kind('face', 'Pick faces', 'KeyE'),
  kind('nearest', 'Pick whichever is nearest', 'KeyR')
];

/** What changes the selection. */
export const picking: readonly Command[] = [
  { id: 'all', name: 'Pick all of that kind, again: none', code: 'Control+KeyA', run: ({ job }) => job.picked.pickAll() },
  { id: 'shrink', name: 'Shrink the selection', code: 'Shift+KeyQ', run: ({ job }) => job.picked.change(shrunk) },
  { id: 'grow', name: 'Grow the selection', code: 'Shift+KeyW', run: ({ job }) => job.picked.change(grown) },
  {
    id: 'loop',
    name: 'Loop of the picked edge',
    code: 'Shift+KeyE',
    run: ({ job }) => job.picked.fromEdges((cage, e) => edgeLoop(cage, e, job.view.mostTurn).edges)
  },
  { id: 'ring', name: 'Ring of the picked edge', code: 'Shift+KeyR', run: ({ job }) => job.picked.fromEdges((cage, e) => edgeRing(cage, e).edges) },
  { id: 'path', name: 'Shortest path from the last pick to the pointer', code: 'Shift+KeyV', run: ({ job }) => job.picked.takePath() },
  { id: 'border', name: 'Border of the picked edge', code: 'Shift+KeyC', run: ({ job }) => job.picked.fromEdges(borderOf) },
  { id: 'isolate', name: 'Isolate the selection', code: 'Backquote', run: ({ job }) => job.isolate() }
];

/** Selections that have no key of their own. */
export const selections: readonly Command[] = [
  {
    id: 'invert',
    name: 'Invert the selection',
    purpose: 'Pick everything of the same kind that is not picked now',
    run: ({ job }) => job.picked.change(inverted)
  },
  ...(['vertex', 'edge', 'face'] as const).map((to): Command => {
    const many = { vertex: 'vertices', edge: 'edges', face: 'faces' }[to];
    const purpose = to === 'vertex' ? 'Turn the selection into its vertices' : `Turn the selection into the ${many} inside it`;
    return { id: `to-${many}`, name: `Selection to ${many}`, purpose, run: ({ job }) => job.picked.change((cage, s) => converted(cage, s, to)) };
  }),
  ...(['triangles', 'quads', 'n-gons', 'poles', 'borders'] as const).map((what): Command => ({
    id: `find-${what}`,
    name: `Pick all ${what}`,
    purpose: `Select every one of the ${what}`,
    run: ({ job }) => job.picked.change((cage) => findAll(cage, what))
  }))
];
