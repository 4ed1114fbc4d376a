import { limitCurvatures, type Cage, type Curvatures, type Part } from '@ulvrin/core';
import type { Paint } from './overlay.ts';
import { shareRange } from './ranges.ts';

/** Share of the values within a range at first: poles and tight corners must not make all else look flat. */
const SHARE = 0.94;

/** Of one cage as it is subdivided: cages are never changed once they are in a job. */
const known = new WeakMap<Cage, { by: string; found: Curvatures }>();

function curvaturesOf(cage: Cage, { scheme, borderCorners, plan }: Part): Curvatures {
  const by = JSON.stringify([scheme, borderCorners, plan]);
  const present = known.get(cage);
  if (present?.by === by) return present.found;
  const found = limitCurvatures(cage.toPolygons(), { scheme: scheme!, borderCorners: borderCorners!, plan });
  known.set(cage, { by, found });
  return found;
}

const byCurvature = (own: Pick<Paint, 'id' | 'label' | 'name' | 'help' | 'unit'>, of: keyof Curvatures): Paint => ({
  ...own,
  ramp: 'signed',
  values(cage, _measured, part) {
    if (!part || cage.faceCount === 0) return undefined;
    const values = curvaturesOf(cage, part)[of];
    return { by: 'point', values, ...shareRange(values, SHARE, 'signed') };
  },
  why: () => undefined
});

/** How the smooth surface bends, bulges and hollows told apart. */
export const meanCurvature = byCurvature(
  {
    id: 'mean-curvature',
    label: 'curvature',
    name: 'Mean curvature',
    help: 'How much the smooth surface bends: bulges above 0, hollows below',
    unit: 'per mm'
  },
  'mean'
);

/** Where the smooth surface is curved as a ball, and where as a saddle. */
export const gaussCurvature = byCurvature(
  {
    id: 'gauss-curvature',
    label: 'Gauss curv.',
    name: 'Gauss curvature',
    help: 'Above 0 it is curved as a ball is, below as a saddle; 0 unrolls flat',
    unit: 'per mm²'
  },
  'gauss'
);
