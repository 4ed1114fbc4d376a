import parse from 'joi-to-json';
import { manifestSchema } from '../src/logbook/job-file.ts';
import { entrySchema } from '../src/logbook/job-file-entry.ts';

/** The schema of a job file as it is published in docs/job-file.schema.json: made of the schemas that it is read with. */
export function publishedSchema(): object {
  // a bound that is another field's length is no number: verify checks it
  const asJson = (schema: unknown) =>
    JSON.parse(JSON.stringify(parse(schema as never, 'json-draft-2019-09')), (key, value: unknown) =>
      key === 'maximum' && typeof value !== 'number' ? undefined : value
    ) as object;
  return {
    $schema: 'https://json-schema.org/draft/2019-09/schema',
    title: 'Ulvrin job file',
    description:
      'manifest.json, and entries/ID.json under "$defs": see job-file.md. What refers from one part to another is checked by "npx ulvrin verify".',
    ...asJson(manifestSchema),
    $defs: { entry: asJson(entrySchema) }
  };
}
