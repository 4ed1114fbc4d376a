import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeMesh, obj, ply, demoJobs } from '../core/src/index.ts';

// Writes every demo job's mesh, and an index the jobs page reads. Run by scripts/setup.mjs.
const folder = process.argv[2];
mkdirSync(folder, { recursive: true });
const index = demoJobs.map(({ id, name, kind, brief, teaches, minutes, doneWhen, make }) => {
  const format = kind === 'reference' ? ply : obj;
  const file = `${id}.${format.extensions[0]}`;
  writeFileSync(join(folder, file), writeMesh(make(), format, { name: id }));
  return { id, name, kind, brief, teaches, minutes, doneWhen, file };
});
writeFileSync(join(folder, 'index.json'), JSON.stringify(index, null, 1));
