import { entryTitle } from './entry-words.ts';
import { type Logbook } from './logbook.ts';

/** What the entries after an edited one came to, as a sentence; nothing where none follows. */
export function describeLater(logbook: Logbook, index: number): string | undefined {
  const { entries, cursor } = logbook;
  const later = Array.from({ length: Math.max(0, cursor - index - 1) }, (_, i) => index + 1 + i);
  if (later.length === 0) return undefined;
  void logbook.state;
  const outcomes = later.map((i) => logbook.outcome(i));
  const asBefore = outcomes.filter((o) => !o.problem && o.found.byPlace === 0).length;
  const said: string[] = asBefore > 0 ? [`${asBefore} as before`] : [];
  for (const { problem, found } of outcomes)
    if (!problem && found.byPlace > 0) said.push(`1 found ${found.byPlace} of ${found.of} elements by place`);
  const flagged = later.filter((_, i) => outcomes[i].problem);
  if (flagged.length > 0) said.push(`${flagged.length} flagged, the first is number ${flagged[0] + 1} (${entryTitle(entries[flagged[0]])})`);
  return `${later.length === 1 ? '1 later entry' : `${later.length} later entries`}: ${said.join(', ')}.`;
}
