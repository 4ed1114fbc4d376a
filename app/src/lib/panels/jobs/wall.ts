import { counted } from '@ulvrin/core';
import type { JobRecord } from '$lib/platform/storage/database.ts';

export type SortBy = 'changed' | 'name' | 'faces';

/** Ways to sort the wall, as its chooser has them. */
export const sorts: readonly { id: SortBy; label: string }[] = [
  { id: 'changed', label: 'Last change' },
  { id: 'name', label: 'Name' },
  { id: 'faces', label: 'Size' }
];

const sizeOf = ({ counts }: JobRecord) => counts.faces + counts.triangles;

const ORDER: Record<SortBy, (a: JobRecord, b: JobRecord) => number> = {
  changed: (a, b) => b.changed.localeCompare(a.changed),
  name: (a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }),
  faces: (a, b) => sizeOf(b) - sizeOf(a)
};

/** Jobs whose name has every word that was typed, in an order. */
export function shownJobs<Job extends JobRecord>(jobs: readonly Job[], typed: string, by: SortBy): Job[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return jobs.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word))).sort(ORDER[by]);
}

/** What is in a job, in one line. */
export function countsLine({ counts: { faces, quads, triangles } }: JobRecord): string {
  if (faces > 0) return quads === faces ? counted(faces, 'quad') : `${counted(faces, 'face')}, ${(faces - quads).toLocaleString('en')} not quads`;
  return triangles > 0 ? counted(triangles, 'triangle') : 'empty';
}

/** "today 09:12", "yesterday 18:40" or "26 Nov 07:05". */
export function changedWhen(iso: string, now = new Date()): string {
  const then = new Date(iso);
  const dayOf = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime();
  const days = Math.round((dayOf(now) - dayOf(then)) / 86_400_000);
  const day = days === 0 ? 'today' : days === 1 ? 'yesterday' : then.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
  return `${day} ${then.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`;
}
