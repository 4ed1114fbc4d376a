import Joi from 'joi';

type Lines = 'borders' | 'creases' | 'regions' | 'outline';

const LABELS: Record<Lines, string> = {
  borders: 'Hold borders',
  creases: 'Hold creases',
  regions: 'Hold outlines of regions',
  outline: 'Hold the outline of picked faces'
};

/** Switches for lines that vertices are held on. @param initial which there are, and whether they are on at first @param meta of all of them */
export const heldFields = (initial: Partial<Record<Lines, boolean>>, meta: object = {}): Record<string, Joi.BooleanSchema> =>
  Object.fromEntries(
    Object.entries(initial).map(([line, isOn]) => [
      line,
      Joi.boolean()
        .default(isOn)
        .label(LABELS[line as Lines])
        .meta(meta)
    ])
  );
