import Joi from 'joi';
import { type Measures } from '../check/measures.ts';
import { type Cage } from '../mesh/cage.ts';
import { lengthInWords } from '../numeric/length-words.ts';
import { counterpartsByPosition, type Axis } from '../select/counterparts.ts';
import { edgeLoop } from '../select/loops.ts';

/** What conditions are measured on: the active part of a job, and what has become of it. */
export interface BriefFacts {
  cage?: Cage;
  measures?: Measures;
  /** largest distance of the smooth surface to the reference, mm; nothing while it is not measured */
  surfaceOff?: number;
  /** ids of formats it was delivered as */
  delivered: readonly string[];
}

/** A condition of a brief, as data: its kind and its numbers. */
export type Condition =
  | { is: 'quads-only' | 'no-ngons' | 'closed' }
  | { is: 'count'; from: number; to: number }
  | { is: 'poles'; most: number }
  | { is: 'symmetric'; axis: Axis; within: number }
  | { is: 'spread'; most: number }
  | { is: 'surface'; within: number }
  | { is: 'loop'; edges: number }
  | { is: 'firm'; least: number }
  | { is: 'islands'; count: number }
  | { is: 'holes'; least: number }
  | { is: 'delivered'; as?: string };

/** Whether a condition is met, and what is there now where it is not. */
export interface Met {
  done: boolean;
  now?: string;
}

/** How one kind of condition is said and measured. */
interface Kind<Own> {
  numbers: Record<string, Joi.Schema>;
  label(condition: Own): string;
  met(condition: Own, facts: Required<Pick<BriefFacts, 'cage' | 'measures'>> & BriefFacts): Met;
}

type Of<Is extends Condition['is']> = Extract<Condition, { is: Is }>;
type Kinds = { [Is in Condition['is']]: Kind<Of<Is>> };

const many = (n: number) => n.toLocaleString('en');
const number = Joi.number().min(0).max(1e9).required();
const atMost = (n: number, most: number, now = many(n)): Met => ({ done: n <= most, now });

/** Edges that stay firm: creased, or with support loops. */
function firmEdges(cage: Cage): number {
  let firm = 0;
  for (const e of cage.edges()) if (cage.value('crease', e) > 0 || cage.value('braced', e) > 0) firm++;
  return firm;
}

/** Whether a closed edge loop of so many edges is there. */
function hasLoop(cage: Cage, edges: number): boolean {
  const seen = new Set<number>();
  for (const e of cage.edges()) {
    if (seen.has(e)) continue;
    const loop = edgeLoop(cage, e);
    for (const other of loop.edges) seen.add(other);
    if (loop.closed && loop.edges.length === edges) return true;
  }
  return false;
}

const kinds: Kinds = {
  'quads-only': {
    numbers: {},
    label: () => 'Quads only',
    met: (_c, { measures: m }) => ({ done: m.faces > 0 && m.triangles + m.ngons === 0, now: `${many(m.triangles + m.ngons)} others` })
  },
  'no-ngons': { numbers: {}, label: () => 'No n-gons', met: (_c, { measures: m }) => ({ done: m.faces > 0 && m.ngons === 0, now: many(m.ngons) }) },
  closed: {
    numbers: {},
    label: () => 'No open border',
    met: (_c, { measures: m }) => ({ done: m.faces > 0 && m.borders === 0, now: many(m.borders) })
  },
  count: {
    numbers: { from: number, to: number },
    label: ({ from, to }) => (from > 0 ? `${many(from)} to ${many(to)} faces` : `${many(to)} faces or fewer`),
    met: ({ from, to }, { measures: m }) => ({ done: m.faces >= Math.max(1, from) && m.faces <= to, now: many(m.faces) })
  },
  poles: {
    numbers: { most: number },
    label: ({ most }) => `No pole of more than ${most} edges`,
    met: ({ most }, { measures: m }) => atMost(Math.max(0, ...m.poles.map((p) => p.valence)), most)
  },
  symmetric: {
    numbers: { axis: Joi.string().valid('X', 'Y', 'Z').required(), within: number },
    label: ({ axis, within }) => `Symmetric in ${axis} to ${within} mm`,
    met({ axis, within }, { cage }) {
      const alone = cage.vertexCount - counterpartsByPosition(cage, axis, within).size;
      return { done: cage.vertexCount > 0 && alone === 0, now: `${many(alone)} vertices have no partner` };
    }
  },
  spread: {
    numbers: { most: number },
    label: ({ most }) => `Spread of edge lengths ${most} or less`,
    met: ({ most }, { measures: m }) => atMost(m.spacing, most, m.spacing.toFixed(2))
  },
  surface: {
    numbers: { within: number },
    label: ({ within }) => `Smooth surface within ${within} mm`,
    met: ({ within }, { surfaceOff }) => (surfaceOff === undefined ? { done: false } : atMost(surfaceOff, within, lengthInWords(surfaceOff)))
  },
  loop: {
    numbers: { edges: number },
    label: ({ edges }) => `${edges} sides round`,
    met: ({ edges }, { cage }) => ({ done: hasLoop(cage, edges) })
  },
  firm: {
    numbers: { least: number },
    label: ({ least }) => `${many(least)} edges creased or braced`,
    met({ least }, { cage }) {
      const now = firmEdges(cage);
      return { done: now >= least, now: many(now) };
    }
  },
  islands: {
    numbers: { count: number },
    label: ({ count }) => (count === 1 ? 'All in one piece' : `${count} pieces`),
    met: ({ count }, { measures: m }) => ({ done: m.islands === count, now: many(m.islands) })
  },
  holes: {
    numbers: { least: number },
    label: ({ least }) => `${many(least)} openings or more`,
    met: ({ least }, { measures: m }) => ({ done: m.borders >= least, now: many(m.borders) })
  },
  delivered: {
    numbers: { as: Joi.string().max(20) },
    label: ({ as }) => (as ? `Delivered as ${as}` : 'Delivered'),
    met: ({ as }, { delivered }) => ({ done: as ? delivered.includes(as) : delivered.length > 0 })
  }
};

const kindOf = <C extends Condition>(condition: C) => kinds[condition.is] as unknown as Kind<C>;

/** The conditions of a job's brief, as they are stored: unknown kinds and wrong numbers are refused. */
export const conditionsSchema = Joi.array()
  .max(40)
  .items(...Object.entries(kinds).map(([is, { numbers }]) => Joi.object({ is: Joi.string().valid(is).required(), ...numbers })));

/** One line of a checklist: "Smooth surface within 0.25 mm". */
export const describeCondition = (condition: Condition): string => kindOf(condition).label(condition);

/** Measures a condition; without a cage none is met but for deliveries. */
export function isMet(condition: Condition, facts: BriefFacts): Met {
  const { cage, measures } = facts;
  if (!cage || !measures) return { done: false };
  const { done, now } = kindOf(condition).met(condition, { ...facts, cage, measures });
  return done || now === undefined ? { done } : { done, now };
}
