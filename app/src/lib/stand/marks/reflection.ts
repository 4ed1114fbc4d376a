import type { Paint } from './overlay.ts';

/** A paint of line lights. */
const lineLights = (own: Pick<Paint, 'id' | 'label' | 'name' | 'help'>, light: 'turning' | 'staying', legend: string): Paint => ({
  ...own,
  ramp: 'even',
  unit: '',
  legend: () => legend,
  values: () => ({ by: 'face', values: new Float64Array(0), light, low: 0, high: 1 }),
  why: () => undefined
});

/** Line lights that the smooth surface mirrors: where it is even they run on evenly, where it bulges they wobble. */
export const reflection = lineLights(
  {
    id: 'reflection',
    label: 'reflection',
    name: 'Reflection lines',
    help: 'Line lights in the surface, which turn with the eye: they wobble where it is uneven, and break where it has an edge'
  },
  'turning',
  'line lights, as the eye sees them'
);

/** The same, fixed to the part: what wobbles is in the surface, and not in how it is looked at. */
export const stayingReflection = lineLights(
  {
    id: 'staying-reflection',
    label: 'fixed lines',
    name: 'Lines that stay',
    help: 'Line lights that stay where they are on the part, however it is turned'
  },
  'staying',
  'line lights that stay on the part'
);
