import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { selectEdges, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Params, type Refusal } from '../operation.ts';
import { orientedChains } from '../shared/chains.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { counted } from '../shared/words.ts';

interface SlideParams {
  measure: 'fraction' | 'mm';
  fraction: number;
  distance: number;
  keep: 'shape' | 'even';
}

/** Where a vertex of a picked chain can slide to on either side. */
interface Rails {
  left: number;
  right: number;
}

/** The neighbours that the vertices of picked chains slide towards; NONE where a side has none. */
function railsOf(cage: Cage, edges: number[]): Map<number, Rails> {
  const picked = new Set(edges);
  const rails = new Map<number, Rails>();
  const put = (v: number, side: keyof Rails, to: number) => {
    const found = rails.get(v) ?? { left: NONE, right: NONE };
    if (found[side] === NONE) found[side] = to;
    rails.set(v, found);
  };
  for (const chain of orientedChains(cage, edges))
    for (const h of chain) {
      // at each end the first edge beside the chain, in the face on that side
      for (const [half, side] of [
        [h, 'left'],
        [h ^ 1, 'right']
      ] as const) {
        if (cage.face[half] === NONE) continue;
        const ahead = cage.next[half];
        const behind = cage.previous(half);
        if (!picked.has(ahead >> 1)) put(cage.origin[ahead], side, cage.target(ahead));
        if (!picked.has(behind >> 1)) put(cage.target(behind), side, cage.origin[behind]);
      }
      for (const v of [cage.origin[h], cage.target(h)]) if (!rails.has(v)) rails.set(v, { left: NONE, right: NONE });
    }
  return rails;
}

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const p = params as unknown as SlideParams;
  if (selection.edges.length === 0) return { found: 'No edge is picked.', instead: 'Pick an edge or a loop to slide between the loops beside it.' };
  const towards = (p.measure === 'mm' ? p.distance : p.fraction) < 0 ? 'right' : 'left';
  if ([...railsOf(cage, selection.edges).values()].every((rails) => rails[towards] === NONE))
    return {
      numbers: true,
      found: 'Nothing lies on that side of the picked edges to slide towards.',
      where: selectEdges(selection.edges),
      instead: 'Slide the other way.'
    };
  return undefined;
}

/** Moves picked loops between the loops beside them, along the edges that join them. */
export const slide: CageOperation = {
  kind: 'cage',
  id: 'slide',
  bench: 3,
  name: 'Slide',
  purpose: 'Move picked edge loops towards the loops beside them, by a fraction or a distance.',
  icon: 'ArrowsHorizontal',
  key: 'S',
  needs: 'Pick an edge or a loop.',
  keepsSurface: 'there too',
  params: Joi.object({
    measure: Joi.string()
      .valid('fraction', 'mm')
      .default('fraction')
      .label('By')
      .meta({ labels: { fraction: 'Fraction', mm: 'Distance' } }),
    fraction: Joi.number()
      .min(-1)
      .max(1)
      .default(0)
      .label('Fraction')
      .meta({ step: 0.05, when: { field: 'measure', is: 'fraction' } }),
    distance: Joi.number()
      .min(-1e6)
      .max(1e6)
      .default(0)
      .label('Distance')
      .unit('mm')
      .meta({ step: 0.1, when: { field: 'measure', is: 'mm' } }),
    keep: Joi.string()
      .valid('shape', 'even')
      .default('shape')
      .label('Shares')
      .meta({ labels: { shape: 'Its own shape', even: 'Equal shares' } }),
    keepSurface: keepSurfaceField()
  }),
  check,
  run: (cage, selection, params) => {
    const p = params as unknown as SlideParams;
    const copy = cage.clone();
    let clamped = 0;
    for (const [v, rails] of railsOf(cage, selection.edges)) {
      const at = cage.position(v);
      const [left, right] = [rails.left, rails.right].map((r) => (r === NONE ? at : cage.position(r)));
      const by = p.measure === 'mm' ? p.distance : p.fraction;
      if (p.keep === 'even' && p.measure === 'fraction') {
        const share = (by + 1) / 2;
        copy.positions.set(
          [0, 1, 2].map((k) => right[k] + share * (left[k] - right[k])),
          3 * v
        );
        continue;
      }
      const to = by < 0 ? right : left;
      const length = Math.hypot(to[0] - at[0], to[1] - at[1], to[2] - at[2]);
      let share = p.measure === 'mm' ? Math.abs(by) / (length || 1) : Math.abs(by);
      if (share > 1) {
        share = 1;
        clamped++;
      }
      copy.positions.set(
        [0, 1, 2].map((k) => at[k] + share * (to[k] - at[k])),
        3 * v
      );
    }
    const notes =
      clamped > 0 ? [`${counted(clamped, 'vertex', 'vertices')} stopped at the loop beside: the distance is longer than the edge there.`] : [];
    return { cage: copy, selection, notes };
  }
};
