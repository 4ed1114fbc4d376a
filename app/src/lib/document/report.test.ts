import { expect, it } from 'vitest';
import { countsFor, reportOf } from './report.ts';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';

it('a report tells what failed and counts, and nothing of what the user made', () => {
  const job = {
    name: 'Secret horn',
    cursor: 2,
    entries: [{ operation: 'bring-in' }, { operation: 'move', problem: 'Move: its vertex is not there any more.' }],
    parts: [{ name: 'Secret part', kind: 'cage', cage: { faceCount: 96 } }]
  } as unknown as OpenJob;
  const text = reportOf(new TypeError('x is undefined'), countsFor(job), 'Chromium');
  expect(text).toMatch(/TypeError: x is undefined\nEntries: 2, in force: 2\nParts: cage of 96 faces\nFlagged: move: Move: its vertex/);
  expect(text).not.toContain('Secret');
  expect(countsFor({ get entries() { throw new Error('gone'); } } as unknown as OpenJob)).toBeUndefined(); // prettier-ignore
  expect(reportOf('plain', undefined, 'Chromium')).toContain('Error: plain');
});
