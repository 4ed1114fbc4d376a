import { Cage, cageFromRegions, entryTitle, formats, receive, type ComparedState, type Entry, type Part } from '@ulvrin/core';
import type { OpenDocument } from '$lib/document/open-document.svelte.ts';
import { places } from '$lib/settings/places.svelte.ts';
import { sentPart } from './sent.ts';
import type { Comparison } from './view.ts';

type Compares = Pick<OpenDocument, 'active' | 'parts' | 'partsBefore' | 'entries' | 'cursor' | 'stateBefore' | 'branchState' | 'version'>;

/** The part that the active one is compared with; nothing where it is not there. */
export function comparedPart(document: Compares, choice: Comparison): Part | undefined {
  const { active, parts, partsBefore, entries } = document;
  if (!active) return undefined;
  const own = (all: readonly Part[]) => all.find((p) => p.id === active.id);
  if (choice === 'smooth') return { ...active, plan: undefined };
  if (choice === 'before') return own(partsBefore);
  if (choice === 'scheme') return { ...active, scheme: active.scheme === 'loop' ? 'catmull-clark' : 'loop' };
  if (choice === 'regions') return ofRegions(active);
  if ('destination' in choice) return arrivedAt(active, choice.destination, choice.format);
  if ('branch' in choice) return own(document.branchState(choice.branch)?.parts ?? []);
  if ('part' in choice) return parts.find((p) => p.id === choice.part);
  const index = entries.findIndex(({ id }) => id === choice.entry);
  if (index < 0 || index >= document.cursor) return undefined;
  return own(index + 1 === document.cursor ? parts : document.stateBefore(index + 1).parts);
}

/** Faces of a part up to which a cage of its regions is made as they change. */
const MOST_LIVE = 60_000;

/** The cage that a part's regions make, as they are set, with its own smooth surface; nothing where none can be a face. */
function ofRegions(part: Part): Part | undefined {
  const { cage } = part;
  if (!cage?.layers.has('region') || cage.faceCount > MOST_LIVE) return undefined;
  const { cage: made } = cageFromRegions(cage.toPolygons(), { angle: 35, cuts: 4, asCarried: true });
  return made.faceCount > 0 ? { ...part, cage: made, scheme: 'catmull-clark' } : undefined;
}

/** The part as a destination has it that is sent it in a format. */
function arrivedAt(part: Part, destination: string, formatId: string): Part | undefined {
  const [to, format] = [places.byId(destination), formats.find((f) => f.id === formatId)];
  if (!to || !format || !part.cage) return undefined;
  const { mesh, settings, refused } = receive(sentPart(part), to, format);
  if (refused) return undefined;
  // faces that show as they are: all levels divide, and none smooths
  const plan = settings ? settings.plan : { steps: new Array<'divide'>(4).fill('divide') };
  return { ...part, name: to.name, cage: Cage.fromPolygons(mesh), scheme: 'catmull-clark', borderCorners: settings?.borderCorners ?? 'sharp', plan };
}

/** Entries in force after which the active part was another than it is now, the last one first. */
export const entriesToCompare = ({ active, entries, cursor }: Compares): Entry[] =>
  active
    ? entries
        .slice(0, Math.max(0, cursor - 1))
        .filter((e) => e.part === active.id)
        .reverse()
    : [];

export const entryInWords = (entry: Entry, entries: readonly Entry[]): string => `after ${entries.indexOf(entry) + 1}: ${entryTitle(entry)}`;

/** A choice as the value of a list, and back. */
export const choiceKey = (choice: Comparison): string =>
  typeof choice === 'string'
    ? choice
    : 'part' in choice
      ? `part ${choice.part}`
      : 'destination' in choice
        ? `sent ${choice.format} ${choice.destination}`
        : 'branch' in choice
          ? `way ${choice.branch}`
          : `entry ${choice.entry}`;
export function choiceOf(key: string): Comparison {
  if (key === 'smooth' || key === 'before' || key === 'scheme' || key === 'regions') return key;
  const [, format, destination] = /^sent (\S+) (\S+)$/.exec(key) ?? [];
  if (destination) return { destination, format };
  if (key.startsWith('way ')) return { branch: key.slice(4) };
  return key.startsWith('part ') ? { part: key.slice(5) } : { entry: Number(key.slice(6)) };
}

/** A part as one of two states that are measured. */
export const comparedState = ({ cage, mesh, scheme, borderCorners, plan }: Part): ComparedState =>
  cage ? { cage, settings: { scheme: scheme!, borderCorners: borderCorners!, plan } } : { dense: mesh! };
