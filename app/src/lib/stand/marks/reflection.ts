import type { Paint } from './overlay.ts';

/** Line lights that the smooth surface mirrors: where it is even they run on evenly, where it bulges they wobble. */
export const reflection: Paint = {
  id: 'reflection',
  label: 'reflection',
  name: 'Reflection lines',
  help: 'Line lights in the surface, which turn with the eye: they wobble where it is uneven, and break where it has an edge',
  ramp: 'even',
  unit: '',
  legend: () => 'line lights, as the eye sees them',
  values: () => ({ by: 'face', values: new Float64Array(0), light: 'lines', low: 0, high: 1 }),
  why: () => undefined
};
