import { describe, expect, it } from 'vitest';
import { readPreferences } from './preferences.svelte.ts';

describe('preferences', () => {
  it('are as they were kept', () => expect(readPreferences('{"orbitsPointer":true}')).toEqual({ orbitsPointer: true }));

  it('begin anew where nothing, or nonsense, was kept', () => {
    for (const stored of [null, '', '{', 'null', '[]', '{"orbitsPointer":"yes"}']) expect(readPreferences(stored)).toEqual({ orbitsPointer: false });
  });
});
