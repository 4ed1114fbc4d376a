import Ajv2019 from 'ajv/dist/2019.js';
import { strFromU8, unzipSync } from 'fflate';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { publishedSchema } from '../testing/published-schema.ts';
import { box, emptySelection, Logbook, writeJobFile } from '../src/index.ts';

describe('the published schema of a job file', () => {
  it('is the one that job files are read with: "npm run schema" writes it', () => {
    const published = readFileSync(new URL('../../docs/job-file.schema.json', import.meta.url), 'utf8');
    expect(JSON.parse(published)).toEqual(JSON.parse(JSON.stringify(publishedSchema())));
  });

  it('takes what is written, and refuses what is not whole', () => {
    const schema = publishedSchema() as { $defs: { entry: object } };
    const ajv = new Ajv2019({ strict: false, allErrors: true });
    const [isManifest, isEntry] = [ajv.compile(schema), ajv.compile(schema.$defs.entry)];
    const logbook = new Logbook();
    const mesh = box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 });
    logbook.add({ operation: 'bring-in', part: 'a', params: {}, selection: emptySelection(), cast: mesh, makes: { name: 'Box', kind: 'cage' } });
    logbook.add({ operation: 'divide-once', part: 'a', params: {}, selection: emptySelection() });
    const parts = unzipSync(writeJobFile({ ...logbook.settings, name: 'Job', cursor: 2, entries: logbook.entries }));
    const json = (name: string) => JSON.parse(strFromU8(parts[name])) as Record<string, unknown>;
    expect([isManifest(json('manifest.json')), isManifest.errors]).toEqual([true, null]);
    const entries = Object.keys(parts).filter((name) => /^entries\/.*\.json$/.test(name));
    expect(entries).toHaveLength(2);
    for (const name of entries) expect([isEntry(json(name)), isEntry.errors]).toEqual([true, null]);
    expect(isManifest({ ...json('manifest.json'), cursor: -1 })).toBe(false);
    expect(isEntry({ ...json(entries[0]), operation: 7 })).toBe(false);
    const { selection: _selection, ...without } = json(entries[0]);
    expect(isEntry(without)).toBe(false);
  });
});
