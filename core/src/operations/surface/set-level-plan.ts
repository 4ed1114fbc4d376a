import Joi from 'joi';
import { type BorderCorners } from '../../subdivide/level-topology.ts';
import { type LevelStep, type Scheme, type SurfaceSettings } from '../../subdivide/level-plan.ts';
import { describePlanReport, planReport, reportLevel } from '../../check/plan-report.ts';
import { selectFaces } from '../../select/selection.ts';
import { type Params, type SurfaceOperation } from '../operation.ts';

interface LevelPlanParams {
  scheme: Scheme;
  borderCorners: BorderCorners;
  level1: LevelStep;
  level2: LevelStep;
  level3: LevelStep;
  level4: LevelStep;
  creases: 'stay' | 'capped';
  creasesFrom: number;
  creaseCap: number;
}

const LEVELS = ['level1', 'level2', 'level3', 'level4'] as const;

const step = (n: number) =>
  Joi.string()
    .valid('smooth', 'divide')
    .default('smooth')
    .label(`Level ${n}`)
    .meta({ labels: { smooth: 'Smooth', divide: 'Divide only' } });

function settingsOf(params: Params): SurfaceSettings {
  const p = params as unknown as LevelPlanParams;
  const steps = LEVELS.map((name) => p[name]);
  // levels beyond the plan are smooth
  while (steps[steps.length - 1] === 'smooth') steps.pop();
  const capped = p.creases === 'capped';
  const plan = { steps, ...(capped && { creasesFrom: p.creasesFrom, creaseCap: p.creaseCap }) };
  return { scheme: p.scheme, borderCorners: p.borderCorners, plan: steps.length > 0 || capped ? plan : undefined };
}

/** Sets how a part is subdivided, level by level, and reports what that gives. */
export const levelPlan: SurfaceOperation = {
  kind: 'surface',
  id: 'level-plan',
  bench: 4,
  group: 'Surface',
  name: 'Level plan',
  purpose: 'Choose for each level of the smooth surface: divide only, or smooth; where creases end; how borders and corners are kept.',
  icon: 'Layers',
  needs: 'A cage.',
  params: Joi.object({
    level1: step(1),
    level2: step(2),
    level3: step(3),
    level4: step(4),
    creases: Joi.string()
      .valid('stay', 'capped')
      .default('stay')
      .label('Creases')
      .meta({ labels: { stay: 'Keep their sharpness', capped: 'End or are capped' } }),
    creasesFrom: Joi.number()
      .integer()
      .min(0)
      .max(6)
      .default(2)
      .label('From level')
      .meta({ step: 1, when: { field: 'creases', is: 'capped' } }),
    creaseCap: Joi.number()
      .min(0)
      .max(10)
      .default(0)
      .label('At most')
      .meta({ step: 0.5, when: { field: 'creases', is: 'capped' } }),
    scheme: Joi.string()
      .valid('catmull-clark', 'loop')
      .default('catmull-clark')
      .label('Scheme')
      .meta({ labels: { 'catmull-clark': 'Catmull-Clark', loop: 'Loop (triangles)' }, more: true }),
    borderCorners: Joi.string()
      .valid('sharp', 'rounded')
      .default('sharp')
      .label('Border corners')
      .meta({ labels: { sharp: 'Stay sharp', rounded: 'Are rounded' }, more: true })
  }),
  check: (cage, params) => {
    if (cage.faceCount === 0) return { found: 'The part has no faces.', instead: 'Begin with a start shape, or lay quads.' };
    const others = params.scheme === 'loop' ? [...cage.faces()].filter((f) => cage.faceSize(f) !== 3) : [];
    if (others.length === 0) return undefined;
    return {
      found: `Loop subdivision takes triangles only; ${others.length} faces have more corners.`,
      where: selectFaces(others),
      instead: 'Choose Catmull-Clark, or triangulate the faces.'
    };
  },
  run: (cage, _surface, params) => {
    const settings = settingsOf(params);
    const mesh = cage.toPolygons();
    return {
      surface: settings,
      notes: [describePlanReport(planReport(mesh, settings, reportLevel(mesh, Math.max(3, settings.plan?.steps.length ?? 0))))]
    };
  },
  paramsOf: ({ scheme, borderCorners, plan }) => ({
    scheme,
    borderCorners,
    ...Object.fromEntries(LEVELS.map((name, i) => [name, plan?.steps[i] ?? 'smooth'])),
    creases: plan?.creasesFrom === undefined ? 'stay' : 'capped',
    ...(plan?.creasesFrom !== undefined && { creasesFrom: plan.creasesFrom, creaseCap: plan.creaseCap ?? 0 })
  })
};
