import { operations } from '@ulvrin/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { noteCalled, recentNames, searchIn } from './search.ts';

const items = operations.map(({ name, purpose }) => ({ name, purpose, run: () => undefined }));
const search = searchIn(items);
const names = (typed: string, recent: string[] = []) => search(typed, recent).map(({ name }) => name);

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) });
});

describe('the lookup', () => {
  it('has what is called so first, then what begins so, then what speaks of it', () => {
    expect(names('crease')[0]).toBe('Crease');
    expect(names('brace')[0]).toBe('Brace');
    expect(names('falloff')).toContain('Move');
    expect(names('support')[0]).toMatch(/support/i);
  });

  it('forgives slips of the hand, and finds words in any order', () => {
    expect(names('extrde')).toContain('Extrude');
    expect(names('brdge')[0]).toMatch(/^Bridge/);
    expect(names('grid quad')).toContain('Quad grid');
    expect(names('zzzzqqqq')).toEqual([]);
  });

  it('shows what was called last on top, and remembers it', () => {
    noteCalled('Weld');
    noteCalled('Bevel');
    noteCalled('Weld');
    expect(recentNames()).toEqual(['Weld', 'Bevel']);
    expect(names('', recentNames()).slice(0, 2)).toEqual(['Weld', 'Bevel']);
    kept.set('ulvrin-recent', '{nonsense');
    expect(recentNames()).toEqual([]);
  });
});
