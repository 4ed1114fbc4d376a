import type { Operation, Params } from '@ulvrin/core';

/** Operations with handles; their typed numbers are meant once. */
export const MOVES = new Set(['move', 'rotate', 'scale']);
/** Parameters that are meant once: what was pointed at, and for those with handles the shift or turn and its pivot. */
const ONCE = new Set(['points', 'with', 'view', 'eye', 'parallel']);
const ONCE_MOVED = new Set(['x', 'y', 'z', 'all', 'how', 'pivot', 'pivotX', 'pivotY', 'pivotZ']);

/** Operations whose shift is meant once: those with handles, and those that drag a point of the surface. */
const isMoved = (operation: Operation) => MOVES.has(operation.id) || operation.pointed === 'surface';

/** The numbers an operation begins with the next time. */
export const usedAgain = (operation: Operation, params: Params): Params =>
  Object.fromEntries(Object.entries(params).filter(([name]) => !ONCE.has(name) && !(isMoved(operation) && ONCE_MOVED.has(name))));
