// npm run schema: writes docs/job-file.schema.json from the schemas that job files are read with.
import { writeFileSync } from 'node:fs';
import { publishedSchema } from '../core/testing/published-schema.ts';

writeFileSync(process.argv[2], `${JSON.stringify(publishedSchema(), undefined, 2)}\n`);
