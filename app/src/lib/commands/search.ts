import Fuse from 'fuse.js';
import type { Found } from './registry.ts';

/** Most that the lookup shows at a time. */
const MOST = 14;
/** Names called last that are remembered. */
const MOST_RECENT = 8;
const KEY = 'ulvrin-recent';

/** Of those a name that is like what was typed: the closer the lower. */
function rankOf(name: string, phrase: string): number {
  const own = name.toLowerCase();
  const likenesses = [own === phrase, own.startsWith(phrase), own.split(/\W+/).some((word) => word.startsWith(phrase)), own.includes(phrase), true];
  return likenesses.indexOf(true);
}
/** Rank of what only speaks of it. */
const SPEAKS_OF_IT = 4;

/**
 * Finds by name and purpose, small slips of the hand included; what is called so comes before what only speaks of it.
 * @param items looked through every time, and made ready once
 */
export function searchIn<Item extends Pick<Found, 'name' | 'purpose' | 'key'>>(
  items: readonly Item[]
): (typed: string, recent: readonly string[]) => Item[] {
  const keys = [
    { name: 'name', weight: 3 },
    { name: 'purpose', weight: 1 },
    { name: 'key', weight: 1 }
  ];
  const fuse = new Fuse(items, { keys, includeScore: true, ignoreLocation: true, threshold: 0.32, useTokenSearch: true });
  return (typed, recent) => {
    const phrase = typed.trim().toLowerCase();
    if (phrase === '') {
      const before = recent.flatMap((name) => items.find((item) => item.name === name) ?? []);
      return [...before, ...items.filter((item) => !before.includes(item))].slice(0, MOST);
    }
    const when = ({ name }: Item) => (recent.includes(name) ? recent.indexOf(name) : MOST_RECENT);
    return fuse
      .search(phrase)
      .map(({ item, score = 1 }) => ({ item, score, rank: rankOf(item.name, phrase) }))
      .sort((a, b) => a.rank - b.rank || (a.rank < SPEAKS_OF_IT ? when(a.item) - when(b.item) : 0) || a.score - b.score)
      .slice(0, MOST)
      .map(({ item }) => item);
  };
}

/** Names called from the lookup, the last one first. */
export function recentNames(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? kept.filter((name) => typeof name === 'string').slice(0, MOST_RECENT) : [];
  } catch {
    return [];
  }
}

export function noteCalled(name: string): void {
  localStorage.setItem(KEY, JSON.stringify([name, ...recentNames().filter((n) => n !== name)].slice(0, MOST_RECENT)));
}
