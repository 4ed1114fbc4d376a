import { readRoutine, type Routine } from './routine.ts';

/** Routines that come with the application. */
export const exampleRoutines: readonly Routine[] = [
  {
    format: 'ulvrin-routine',
    version: 1,
    name: 'Firm edges',
    about: 'Creases every edge that is sharper than an angle.',
    numbers: { angle: { label: 'Sharper than', value: 40, unit: '°' }, sharpness: { label: 'Sharpness', value: 4 } },
    steps: [{ operation: 'crease', params: { sharpness: '$sharpness' }, on: [{ find: 'sharp', number: '$angle' }] }]
  },
  {
    format: 'ulvrin-routine',
    version: 1,
    name: 'Close and tidy',
    about: 'Welds what nearly meets, turns faces outward, and closes even holes with grids.',
    numbers: { within: { label: 'Weld within', value: 0.01, unit: 'mm' } },
    steps: [
      { operation: 'weld-near-pairs', params: { within: '$within' }, optional: true },
      { operation: 'turn-outward', optional: true },
      { operation: 'quad-grid', on: [{ find: 'borders' }], optional: true }
    ]
  },
  {
    format: 'ulvrin-routine',
    version: 1,
    name: 'Even and light',
    about: 'Takes out loops that add nothing, then evens quads with the surface kept.',
    numbers: { within: { label: 'Moves by at most', value: 0.02, unit: 'mm' } },
    steps: [
      { operation: 'idle-loops', params: { within: '$within' }, optional: true },
      { operation: 'even-quads', optional: true }
    ]
  }
].map(readRoutine);
