import { type Operation } from './operation.ts';

/** One field of a card, read from a schema. */
export interface Field {
  name: string;
  label: string;
  type: 'number' | 'switch' | 'choice' | 'text' | 'profile' | 'part' | 'colour';
  unit?: string;
  min?: number;
  max?: number;
  step?: number;
  whole?: boolean;
  initial: unknown;
  choices?: { value: string; label: string }[];
  help?: string;
  /** `min` itself is not allowed */
  above?: boolean;
  /** shown only while another field has a value */
  when?: { field: string; is: string };
  /** one of the fields that are seldom needed, shown on demand */
  more?: boolean;
  /** it can be dragged as well as typed */
  slider?: boolean;
  /** of a drawn outline, the heights it begins and ends at, % */
  ends?: readonly [number, number];
}

/** The parts of a schema that `describe()` would list; Joi's browser build leaves that method out. */
interface SchemaTerms {
  type: string;
  _flags: { label?: string; default?: unknown; unit?: string; description?: string };
  _rules: { name: string; args?: { limit?: number } }[];
  _valids?: { values(): unknown[] } | null;
  $_terms: {
    keys?: { key: string; schema: SchemaTerms }[];
    metas: {
      step?: number;
      labels?: Record<string, string>;
      /** values of stored jobs that are not offered any more */
      unlisted?: string[];
      when?: { field: string; is: string };
      more?: boolean;
      widget?: 'profile' | 'part' | 'colour';
      ends?: readonly [number, number];
      hidden?: boolean;
      slider?: boolean;
    }[];
  };
}

/** The card's fields, read from the schema itself. */
export function fieldsOf(operation: Operation): Field[] {
  const { keys } = (operation.params as unknown as SchemaTerms).$_terms;
  // lists are made by pointing, not by typing, but for those with a widget of their own
  return (keys ?? [])
    .filter(({ schema }) => (schema.type !== 'array' || schema.$_terms.metas.some((m) => m.widget)) && !schema.$_terms.metas.some((m) => m.hidden))
    .map(({ key: name, schema }) => {
      const limit = (...rules: string[]) => schema._rules.find((r) => rules.includes(r.name))?.args?.limit;
      const meta: SchemaTerms['$_terms']['metas'][number] = Object.assign({}, ...schema.$_terms.metas);
      const allowed = ['string', 'number'].includes(schema.type)
        ? (schema._valids?.values() ?? []).filter((value) => value !== '' && !meta.unlisted?.includes(String(value)))
        : [];
      const choices = allowed.map((value) => ({ value: String(value), label: meta.labels?.[String(value)] ?? String(value) }));
      return {
        name,
        label: schema._flags.label ?? name,
        type: meta.widget ?? (choices.length > 0 ? 'choice' : schema.type === 'number' ? 'number' : schema.type === 'boolean' ? 'switch' : 'text'),
        unit: schema._flags.unit,
        min: limit('min', 'greater'),
        above: schema._rules.some((r) => r.name === 'greater') || undefined,
        max: limit('max'),
        step: meta.step,
        whole: schema._rules.some((r) => r.name === 'integer'),
        initial: schema._flags.default,
        choices: choices.length > 0 ? choices : undefined,
        help: schema._flags.description,
        when: meta.when,
        more: meta.more,
        slider: meta.slider,
        ends: meta.ends
      };
    });
}
