import type { OpenJob } from '$lib/job/open-job.svelte.ts';

/** The counts of a job that a report may tell; nothing of what the user made. */
export interface Counts {
  entries: number;
  cursor: number;
  parts: { kind: string; faces: number }[];
  /** operations of the entries that are flagged, and why */
  flagged: { operation: string; problem: string }[];
}

/** What a report says of an open job; where even that fails, nothing. */
export function countsFor(job: OpenJob | undefined): Counts | undefined {
  try {
    if (!job) return undefined;
    return {
      entries: job.entries.length,
      cursor: job.cursor,
      parts: job.parts.map((p) => ({ kind: p.kind, faces: p.cage?.faceCount ?? p.mesh!.faceStart.length - 1 })),
      flagged: job.entries.flatMap(({ operation, problem }) => (problem ? [{ operation, problem }] : []))
    };
  } catch {
    return undefined;
  }
}

/** A text to copy for whoever looks after Ulvrin: what failed and where, and counts; no names, no geometry. */
export function reportOf(error: unknown, counts: Counts | undefined, browser: string): string {
  const { name, message, stack } = error instanceof Error ? error : { name: 'Error', message: String(error), stack: '' };
  const lines = [`Ulvrin report, ${new Date().toISOString()}`, browser, `${name}: ${message}`];
  if (counts) {
    lines.push(`Entries: ${counts.entries}, in force: ${counts.cursor}`);
    lines.push(`Parts: ${counts.parts.map((p) => `${p.kind} of ${p.faces} faces`).join(', ') || 'none'}`);
    for (const { operation, problem } of counts.flagged) lines.push(`Flagged: ${operation}: ${problem}`);
  }
  return [...lines, stack ?? ''].join('\n');
}
