import Joi from 'joi';
import { FEATURE_ANGLE } from '../../autoquad/base/limits.ts';
import { FEWEST_QUADS, liesOn, type AutoQuadsOptions, symmetries } from '../../autoquad/base/options.ts';
import { type Params, type TaskOperation } from '../operation.ts';

/** How many quads, shown where density is told by `by`. */
const quadCount = (by: string, label: string, start: number) =>
  Joi.number()
    .integer()
    .min(FEWEST_QUADS)
    .max(200000)
    .default(start)
    .label(label)
    .unit('quads')
    .meta({ step: 500, when: { field: 'by', is: by } });

const place = Joi.array().items(Joi.number().required()).length(3);

/** Automatic retopology of a reference; runs as a task, and its entry keeps the quads. */
export const autoQuadsOperation: TaskOperation = {
  kind: 'task',
  id: 'auto-quads',
  bench: 2,
  name: 'Auto quads',
  purpose: 'Lay clean quads over the reference automatically (automatic retopology).',
  icon: 'Grid',
  key: 'Z',
  verb: 'Lay quads',
  again: 'Lay again',
  hint: 'Type numbers, or choose what dragging over the surface draws, under Steer. Enter lays quads, Esc discards.',
  needs: 'A reference: bring in a sculpt, or use a cage as one.',
  params: Joi.object({
    over: Joi.string()
      .valid('all', 'picked', 'rest')
      .default('all')
      .label('Lay over')
      .meta({ labels: { all: 'Whole reference', picked: 'Picked faces', rest: 'Uncovered area' } }),
    on: Joi.string()
      .valid('browser', 'server')
      .default('browser')
      .label('Compute in')
      .meta({ more: true, labels: { browser: 'The browser', server: 'The server' } }),
    by: Joi.string()
      .valid('count', 'range', 'sizes')
      .default('count')
      .label('Density by')
      .meta({ labels: { count: 'Count', range: 'Count range', sizes: 'Edge sizes' } }),
    count: quadCount('count', 'Count', 4000),
    fewest: quadCount('range', 'At least', 3500).description('of the counts between, the one whose loops run best is taken'),
    most: quadCount('range', 'At most', 4500),
    finest: Joi.number()
      .greater(0)
      .max(1e6)
      .default(1)
      .label('Finest edge')
      .unit('mm')
      .meta({ step: 0.1, when: { field: 'by', is: 'sizes' } }),
    coarsest: Joi.number()
      .greater(0)
      .max(1e6)
      .default(3)
      .label('Coarsest edge')
      .unit('mm')
      .meta({ step: 0.1, when: { field: 'by', is: 'sizes' } }),
    finerBy: Joi.number()
      .min(0)
      .max(70)
      .default(0)
      .label('Finer in curved areas')
      .unit('%')
      .meta({ step: 5, more: true })
      .description('at most, so that fingers and other thin parts keep their shape; 0 for equal quads'),
    curvaturePull: Joi.number().min(0).max(100).default(50).label('Follow curvature').unit('%').meta({ step: 5 }),
    symmetry: Joi.string()
      .valid(...symmetries)
      .default('auto')
      .label('Symmetry')
      .meta({ labels: { auto: 'Detected', none: 'Nothing', x: 'X', y: 'Y', z: 'Z' } }),
    featureAngle: Joi.number()
      .min(1)
      .max(180)
      .default(FEATURE_ANGLE)
      .label('Sharp edges from')
      .unit('degrees')
      .meta({ step: 5, more: true })
      .description('they become edges of quads; 180 takes none'),
    creases: Joi.boolean().default(true).label('Crease them').meta({ more: true }),
    lies: Joi.string()
      .valid(...liesOn)
      .default('smooth')
      .label('On the reference')
      .meta({ more: true, labels: { smooth: 'Smooth surface', vertices: 'Vertices' } }),
    smallIslands: Joi.string()
      .valid('leave', 'boxes')
      .default('leave')
      .label('Islands below quad size')
      .meta({ more: true, labels: { leave: 'Leave out', boxes: 'Small boxes' } }),
    oneSkin: Joi.boolean().default(false).label('Merge overlapping shells').meta({ more: true }),
    cancelWithin: Joi.number()
      .min(0)
      .max(50)
      .default(1)
      .label('Cancel poles within')
      .unit('quads')
      .meta({ step: 0.5, more: true })
      .description('pairs of poles of three and five edges that lie so near'),
    poleMoves: Joi.array()
      .items(Joi.object({ from: place.required(), to: place.required() }))
      .max(500)
      .default([]),
    lines: Joi.array()
      .items(Joi.object({ points: Joi.array().items(place).min(1).max(5000).required(), follow: Joi.boolean().required() }))
      .max(500)
      .default([]),
    guides: Joi.array()
      .items(
        Joi.object({
          points: Joi.array().items(place).min(2).max(5000).required(),
          influence: Joi.number().min(0).max(100).required(),
          closed: Joi.boolean(),
          count: Joi.number().integer().min(0).max(2000)
        })
      )
      .max(500)
      .default([]),
    sizes: Joi.array()
      .items(Joi.object({ at: place.required(), radius: Joi.number().greater(0).required(), percent: Joi.number().min(30).max(300).required() }))
      .max(5000)
      .default([])
  })
};

/** The card's parameters as the engine takes them: all but how the count is told, and what is laid over and where. */
export function autoQuadsOptions(params: Params): AutoQuadsOptions {
  type Density = { by: 'count' | 'range' | 'sizes'; count: number; fewest: number; most: number; finest: number; coarsest: number };
  type Card = Density & { over: string; on: string };
  const {
    by,
    count,
    fewest,
    most,
    finest,
    coarsest,
    over: _over,
    on: _on,
    ...steering
  } = params as Card & Omit<AutoQuadsOptions, 'count' | 'countRange' | 'edgeSizes'>;
  const densities = { count: { count }, range: { countRange: { fewest, most } }, sizes: { edgeSizes: { finest, coarsest } } };
  return { ...densities[by], ...steering };
}
