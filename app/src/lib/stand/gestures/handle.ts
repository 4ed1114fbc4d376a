import type { DragGesture } from './gesture.ts';

/** Drags the part of the handle that is under the pointer. */
export const handle: DragGesture = {
  id: 'handle',
  takesClicks: true,
  takes: ({ stand }, { at }) => stand.handle.hover(...at) !== undefined,
  begin({ stand }, press) {
    const drag = stand.handle.begin(...press.at);
    stand.draw();
    return {
      move: (at) => drag?.move(...at),
      up() {
        drag?.end();
        stand.draw();
      }
    };
  }
};
