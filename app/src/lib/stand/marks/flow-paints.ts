import { patchesBetweenPoles, stripPattern, type Cage } from '@ulvrin/core';
import type { Paint } from './overlay.ts';
import { linear } from './ramps.ts';

/** Turn of the hue from one number to the next: neighbours in number look different. */
const HUE = 2.399963;
/** Lightness and chroma of quiet colours in OKLab, the lightness of what has none, and the colour of spirals. */
const [LIGHT, CHROMA, PLAIN] = [0.8, 0.075, 0.86];
const SPIRAL = linear(0.55, 0.19, 0.08);

/** A quiet colour for something by its number; plain below 0. */
export const quietColour = (id: number): [number, number, number] =>
  id < 0 ? linear(PLAIN, 0, 0) : linear(LIGHT, CHROMA * Math.cos(HUE * id), CHROMA * Math.sin(HUE * id));

/** Numbers by face with a colour each, found once a cage: cages are never changed once they are in a job. */
function onceByFace<T>(find: (cage: Cage) => T): (cage: Cage) => T {
  const known = new WeakMap<Cage, T>();
  return (cage) => {
    const present = known.get(cage);
    if (present) return present;
    const found = find(cage);
    known.set(cage, found);
    return found;
  };
}

const stripsOf = onceByFace(stripPattern);
const patchesOf = onceByFace(patchesBetweenPoles);

/** Strips of quads, each in a shade of its own. */
export const strips: Paint = {
  id: 'strips',
  label: 'strips',
  name: 'Strips of quads',
  help: 'Every long strip of quads in a shade of its own; those that spiral in red',
  ramp: 'even',
  unit: '',
  values(cage) {
    const { strip, spirals } = stripsOf(cage);
    if (strip.length === 0) return undefined;
    const colours = Float32Array.from([...strip].flatMap((s, i) => (spirals[i] ? SPIRAL : quietColour(s))));
    return { by: 'face', values: Float64Array.from(strip), colours, low: 0, high: 1 };
  },
  legend(cage) {
    const { strip, spirals, lengths } = stripsOf(cage);
    const many = new Set([...strip].filter((_, i) => spirals[i])).size;
    return `longest ${Math.max(0, ...[...new Set(strip)].map((s) => lengths[s] ?? 0))}; ${many} ${many === 1 ? 'spirals' : 'spiral'}`;
  },
  say: (cage, strip) => (strip < 0 ? 'none' : `${stripsOf(cage).lengths[strip]} quads`),
  why: () => undefined
};

/** The plain grids between poles. */
export const polePatches: Paint = {
  id: 'pole-patches',
  label: 'patches',
  name: 'Patches between poles',
  help: 'Plain grids that the part falls into along the loops from its poles',
  ramp: 'even',
  unit: '',
  values(cage) {
    const patch = patchesOf(cage);
    if (patch.length === 0) return undefined;
    return { by: 'face', values: Float64Array.from(patch), colours: Float32Array.from([...patch].flatMap(quietColour)), low: 0, high: 1 };
  },
  legend: (cage) => {
    const many = new Set(patchesOf(cage)).size;
    return `${many.toLocaleString('en')} ${many === 1 ? 'patch' : 'patches'}`;
  },
  say: (cage, patch) => `${patchesOf(cage).filter((p) => p === patch).length} faces`,
  why: () => undefined
};
