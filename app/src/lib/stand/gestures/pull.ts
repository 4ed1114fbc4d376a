import type { DragGesture } from './gesture.ts';

/** Drags a point of the smooth surface across the view. */
export const pull: DragGesture = {
  id: 'pull',
  takesClicks: true,
  takes: ({ job }) => job.pointing?.kind === 'surface',
  begin({ job, stand }, press) {
    const pulled = stand.surfaceAt(...press.at);
    if (pulled) job.setParams({ points: [pulled], x: 0, y: 0, z: 0 });
    return {
      move(at) {
        const goal = pulled && stand.pointOnPlane(...at, pulled.at);
        if (!goal) return;
        const [x, y, z] = goal.map((g, k) => Number((g - pulled.at[k]).toFixed(4)));
        job.setParams({ x, y, z });
      },
      up: () => undefined
    };
  }
};
