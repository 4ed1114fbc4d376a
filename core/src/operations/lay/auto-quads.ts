import Joi from 'joi';
import { type AutoQuadsOptions } from '../../autoquad/auto-quads.ts';
import { type Params, type SourceOperation } from '../operation.ts';

/** Automatic retopology of a reference; runs as a task, and its entry keeps the quads. */
export const autoQuadsOperation: SourceOperation = {
  kind: 'source',
  id: 'auto-quads',
  bench: 2,
  name: 'Auto quads',
  purpose: 'Lay clean quads over the reference by itself (automatic retopology).',
  icon: 'Grid',
  key: 'Z',
  needs: 'A reference: bring in a sculpt, or use a cage as one.',
  params: Joi.object({
    by: Joi.string()
      .valid('count', 'sizes')
      .default('count')
      .label('Density by')
      .meta({ labels: { count: 'Count', sizes: 'Edge sizes' } }),
    count: Joi.number()
      .integer()
      .min(24)
      .max(200000)
      .default(4000)
      .label('Count')
      .unit('quads')
      .meta({ step: 500, when: { field: 'by', is: 'count' } }),
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
    curvaturePull: Joi.number().min(0).max(100).default(50).label('Curvature pull').unit('%').meta({ step: 5 })
  })
};

/** The card's parameters as the engine takes them. */
export function autoQuadsOptions(params: Params): AutoQuadsOptions {
  const p = params as { by: string; count: number; finest: number; coarsest: number; curvaturePull: number };
  const density = p.by === 'sizes' ? { edgeSizes: { finest: p.finest, coarsest: p.coarsest } } : { count: p.count };
  return { ...density, curvaturePull: p.curvaturePull };
}
