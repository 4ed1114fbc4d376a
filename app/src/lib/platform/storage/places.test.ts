import 'fake-indexeddb/auto';
import { destinations } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { Database } from './database.ts';
import { forgetPlace, keepPlace, ownPlaces, readPlace } from './places.ts';

const loft = { ...destinations[0], id: 'rope-loft', name: 'Rope loft', creases: 'ignores' as const };

describe('destinations of the user', () => {
  it('are kept by name, changed and forgotten', async () => {
    const db = new Database('places');
    await keepPlace(loft, db);
    await keepPlace({ ...loft, id: 'anchor-yard', name: 'Anchor yard' }, db);
    await keepPlace({ ...loft, levels: 5 }, db);
    expect((await ownPlaces(db)).map(({ name, levels }) => `${name} ${levels}`)).toEqual(['Anchor yard 3', 'Rope loft 5']);
    await forgetPlace('anchor-yard', db);
    expect(await ownPlaces(db)).toEqual([{ ...loft, levels: 5 }]);
  });

  it('come back from the file they were exported as; nonsense is refused with the reason', () => {
    expect(readPlace(JSON.stringify(loft))).toEqual(loft);
    expect(() => readPlace('{')).toThrow('no JSON');
    expect(() => readPlace(JSON.stringify({ ...loft, borders: 'frayed' }))).toThrow(/describes no destination: "borders" must be one of/);
  });
});
