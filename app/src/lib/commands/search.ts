import Fuse from 'fuse.js';
import type { Found } from './registry.ts';

/** Most that the lookup shows at a time. */
const MOST = 14;
/** Names called last that are remembered. */
const MOST_RECENT = 8;
const KEY = 'ulvrin-recent';

/** Finds by name and purpose, small slips of the hand included; what is called so comes before what only speaks of it. */
export function search(items: readonly Found[], typed: string, recent: readonly string[]): Found[] {
  const phrase = typed.trim().toLowerCase();
  if (phrase === '') {
    const before = recent.flatMap((name) => items.find((item) => item.name === name) ?? []);
    return [...before, ...items.filter((item) => !before.includes(item))].slice(0, MOST);
  }
  const rank = ({ name }: Found) => {
    const own = name.toLowerCase();
    return own === phrase
      ? 0
      : own.startsWith(phrase)
        ? 1
        : own.split(/\W+/).some((word) => word.startsWith(phrase))
          ? 2
          : own.includes(phrase)
            ? 3
            : 4;
  };
  const fuse = new Fuse(items, {
    keys: [
      { name: 'name', weight: 3 },
      { name: 'purpose', weight: 1 }
    ],
    includeScore: true,
    ignoreLocation: true,
    threshold: 0.32,
    useTokenSearch: true
  });
  const found = fuse.search(phrase);
  const when = ({ name }: Found) => (recent.includes(name) ? recent.indexOf(name) : MOST_RECENT);
  return found
    .map(({ item, score = 1 }) => ({ item, score, rank: rank(item) }))
    .sort((a, b) => a.rank - b.rank || (a.rank < 4 ? when(a.item) - when(b.item) : 0) || a.score - b.score)
    .slice(0, MOST)
    .map(({ item }) => item);
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
