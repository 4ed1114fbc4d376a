import type { DragGesture } from './gesture.ts';

type Triple = [number, number, number];

/** the point of the smooth surface that is being dragged */
let pulled: { face: number; at: Triple } | undefined;

/** Drags a point of the smooth surface across the view. */
export const pull: DragGesture = {
  id: 'pull',
  takesClicks: true,
  takes: ({ job }, { handles }) => !handles && job.pointing?.kind === 'surface',
  down({ job, stand }, { at }) {
    pulled = stand.surfaceAt(...at);
    if (pulled) job.setParams({ points: [pulled], x: 0, y: 0, z: 0 });
  },
  move({ job, stand }, at) {
    const goal = pulled && stand.pointOnPlane(...at, pulled.at);
    if (!goal) return;
    const [x, y, z] = goal.map((g, k) => Number((g - pulled!.at[k]).toFixed(4)));
    job.setParams({ x, y, z });
  },
  up: () => void (pulled = undefined)
};
