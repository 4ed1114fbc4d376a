import Joi from 'joi';
import { type Measures } from '../check/measures.ts';
import { type Cage } from '../mesh/cage.ts';
import { enclosedVolume } from '../mesh/topology.ts';
import { lengthInWords } from '../numeric/length-words.ts';
import { counterpartsByPosition, type Axis } from '../select/counterparts.ts';
import { edgeLoop } from '../select/loops.ts';

/** What conditions are measured on: the active part of a job, and what has become of it. */
export interface BriefFacts {
  cage?: Cage;
  measures?: Measures;
  /** largest distance of the smooth surface to the reference, mm; nothing while it is not measured */
  surfaceOff?: number;
  /** findings of the check that show; nothing while it was not looked through */
  visible?: number;
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
  | { is: 'volume'; from: number; to: number }
  | { is: 'surface'; within: number }
  | { is: 'loop'; edges: number }
  | { is: 'firm'; least: number }
  | { is: 'by-hand'; least: number }
  | { is: 'check'; most: number }
  | { is: 'islands'; count: number }
  | { is: 'holes'; least: number }
  | { is: 'delivered'; as?: string };

/** Whether a condition is met, and what is there now where it is not. */
export interface Met {
  done: boolean;
  now?: string;
}

/** One thing a condition holds, as a form asks for it. */
export interface ConditionField {
  name: string;
  label: string;
  /** a number, one of the three axes, or the id of a format, where any will do if it is left out */
  type: 'number' | 'axis' | 'format';
  initial: number | Axis | '';
  unit?: string;
}

/** How one kind of condition is asked for, said and measured. */
interface Kind<Own> {
  /** in the list of kinds */
  name: string;
  fields: readonly ConditionField[];
  label(condition: Own): string;
  met(condition: Own, facts: Required<Pick<BriefFacts, 'cage' | 'measures'>> & BriefFacts): Met;
}

type Of<Is extends Condition['is']> = Extract<Condition, { is: Is }>;
type Kinds = { [Is in Condition['is']]: Kind<Of<Is>> };

const many = (n: number) => n.toLocaleString('en');
const number = (name: string, label: string, initial: number, unit?: string): ConditionField => ({ name, label, type: 'number', initial, unit });
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
    name: 'Quads only',
    fields: [],
    label: () => 'Quads only',
    met: (_c, { measures: m }) => ({ done: m.triangles + m.ngons === 0, now: `${many(m.triangles + m.ngons)} others` })
  },
  'no-ngons': {
    name: 'No n-gons',
    fields: [],
    label: () => 'No n-gons',
    met: (_c, { measures: m }) => ({ done: m.ngons === 0, now: many(m.ngons) })
  },
  closed: {
    name: 'No open border',
    fields: [],
    label: () => 'No open border',
    met: (_c, { measures: m }) => ({ done: m.borders === 0, now: many(m.borders) })
  },
  count: {
    name: 'Number of faces',
    fields: [number('from', 'From', 0), number('to', 'To', 5000)],
    label: ({ from, to }) => (from > 0 ? `${many(from)} to ${many(to)} faces` : `${many(to)} faces or fewer`),
    met: ({ from, to }, { measures: m }) => ({ done: m.faces >= from && m.faces <= to, now: many(m.faces) })
  },
  poles: {
    name: 'Edges at a pole',
    fields: [number('most', 'At most', 5)],
    label: ({ most }) => `No pole of more than ${most} edges`,
    met: ({ most }, { measures: m }) => atMost(Math.max(0, ...m.poles.map((p) => p.valence)), most)
  },
  symmetric: {
    name: 'Symmetric',
    fields: [{ name: 'axis', label: 'In', type: 'axis', initial: 'X' }, number('within', 'Within', 0.01, 'mm')],
    label: ({ axis, within }) => `Symmetric in ${axis} to ${within} mm`,
    met({ axis, within }, { cage }) {
      const alone = cage.vertexCount - counterpartsByPosition(cage, axis, within).size;
      return { done: alone === 0, now: `${many(alone)} vertices have no partner` };
    }
  },
  spread: {
    name: 'Even edge lengths',
    fields: [number('most', 'Spread at most', 0.3)],
    label: ({ most }) => `Spread of edge lengths ${most} or less`,
    met: ({ most }, { measures: m }) => atMost(m.spacing, most, m.spacing.toFixed(2))
  },
  volume: {
    name: 'Volume',
    fields: [number('from', 'From', 0, 'mm³'), number('to', 'To', 1000, 'mm³')],
    label: ({ from, to }) => `Volume ${many(from)} to ${many(to)} mm³`,
    met({ from, to }, { cage, measures: m }) {
      const now = enclosedVolume(cage);
      return { done: m.borders === 0 && now >= from && now <= to, now: m.borders > 0 ? 'open' : `${many(Math.round(now))} mm³` };
    }
  },
  surface: {
    name: 'Smooth surface near the reference',
    fields: [number('within', 'Within', 0.25, 'mm')],
    label: ({ within }) => `Smooth surface within ${within} mm`,
    met: ({ within }, { surfaceOff }) => (surfaceOff === undefined ? { done: false } : atMost(surfaceOff, within, lengthInWords(surfaceOff)))
  },
  loop: {
    name: 'Sides round',
    fields: [number('edges', 'Sides', 16)],
    label: ({ edges }) => `${edges} sides round`,
    met: ({ edges }, { cage }) => ({ done: hasLoop(cage, edges) })
  },
  firm: {
    name: 'Edges creased or braced',
    fields: [number('least', 'At least', 1)],
    label: ({ least }) => `${many(least)} edges creased or braced`,
    met({ least }, { cage }) {
      const now = firmEdges(cage);
      return { done: now >= least, now: many(now) };
    }
  },
  'by-hand': {
    name: 'Faces laid by hand',
    fields: [number('least', 'At least', 12)],
    label: ({ least }) => `${many(least)} faces laid by hand`,
    met({ least }, { cage }) {
      const now = cage.layers.has('laid') ? [...cage.faces()].filter((f) => cage.value('laid', f) > 0).length : 0;
      return { done: now >= least, now: many(now) };
    }
  },
  check: {
    name: 'Findings that show',
    fields: [number('most', 'At most', 0)],
    label: ({ most }) => (most === 0 ? 'The check finds nothing that shows' : `The check finds ${many(most)} that show, or fewer`),
    met: ({ most }, { visible }) => (visible === undefined ? { done: false } : atMost(visible, most))
  },
  islands: {
    name: 'Pieces',
    fields: [number('count', 'Pieces', 1)],
    label: ({ count }) => (count === 1 ? 'All in one piece' : `${count} pieces`),
    met: ({ count }, { measures: m }) => ({ done: m.islands === count, now: many(m.islands) })
  },
  holes: {
    name: 'Openings',
    fields: [number('least', 'At least', 1)],
    label: ({ least }) => `${many(least)} openings or more`,
    met: ({ least }, { measures: m }) => ({ done: m.borders >= least, now: many(m.borders) })
  },
  delivered: {
    name: 'Delivered',
    fields: [{ name: 'as', label: 'As', type: 'format', initial: '' }],
    label: ({ as }) => (as ? `Delivered as ${as}` : 'Delivered'),
    met: ({ as }, { delivered }) => ({ done: as ? delivered.includes(as) : delivered.length > 0 })
  }
};

const kindOf = <C extends Condition>(condition: C) => kinds[condition.is] as unknown as Kind<C>;

const schemaOf: Record<ConditionField['type'], Joi.Schema> = {
  number: Joi.number().min(0).max(1e9).required(),
  axis: Joi.string().valid('X', 'Y', 'Z').required(),
  format: Joi.string().max(20)
};

/** The conditions of a job's brief, as they are stored: unknown kinds and wrong numbers are refused. */
export const conditionsSchema = Joi.array()
  .max(40)
  .items(
    ...Object.entries(kinds).map(([is, { fields }]) =>
      Joi.object({ is: Joi.string().valid(is).required(), ...Object.fromEntries(fields.map(({ name, type }) => [name, schemaOf[type]])) })
    )
  );

/** Kinds of conditions, for a form that makes one. */
export const conditionKinds: readonly { is: Condition['is']; name: string; fields: readonly ConditionField[] }[] = Object.entries(kinds).map(
  ([is, { name, fields }]) => ({ is: is as Condition['is'], name, fields })
);

/**
 * A condition as a form gives it, or why it cannot be one.
 * @param values of its fields by name; an empty text leaves it out
 */
export function conditionFrom(is: Condition['is'], values: Readonly<Record<string, number | string>>): Condition | { problem: string } {
  const given = Object.entries(values).filter(([, value]) => value !== '');
  const condition = { is, ...Object.fromEntries(given) } as Condition;
  const lacking = kinds[is].fields.find(({ name, type }) => schemaOf[type].validate(given.find(([key]) => key === name)?.[1]).error);
  if (lacking) return { problem: `${lacking.label}: ${lacking.type === 'number' ? 'a number of 0 or more' : 'a choice'} is needed.` };
  if ('from' in condition && condition.from > condition.to) return { problem: 'From must not be more than To.' };
  return condition;
}

/** One line of a checklist: "Smooth surface within 0.25 mm". */
export const describeCondition = (condition: Condition): string => kindOf(condition).label(condition);

/** Measures a condition; of a cage without faces none is met, and nothing can be told. */
export function isMet(condition: Condition, facts: BriefFacts): Met {
  const { cage, measures } = facts;
  if (!cage || !measures?.faces) return { done: false };
  const { done, now } = kindOf(condition).met(condition, { ...facts, cage, measures });
  return done || now === undefined ? { done } : { done, now };
}
