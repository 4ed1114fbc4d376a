import { describe, expect, it } from 'vitest';
import type { JobRecord } from '$lib/platform/storage/database.ts';
import { changedWhen, countsLine, shownJobs } from './wall.ts';

const job = (name: string, changed: string, counts = { faces: 0, quads: 0, triangles: 0 }) => ({ id: name, name, changed, counts }) as JobRecord;
const jobs = [
  job('Horn throat 10', '2026-11-30T09:00:00', { faces: 12, quads: 12, triangles: 0 }),
  job('Horn throat 2', '2026-11-29T09:00:00', { faces: 0, quads: 0, triangles: 900 }),
  job('Bellows', '2026-11-01T09:00:00', { faces: 1, quads: 0, triangles: 0 })
];

describe('the wall of jobs', () => {
  it('finds by every word typed, in any order', () => {
    expect(shownJobs(jobs, ' throat  HORN', 'name').map((j) => j.name)).toEqual(['Horn throat 2', 'Horn throat 10']);
    expect(shownJobs(jobs, 'lamp', 'name')).toEqual([]);
  });

  it('is sorted by change, name or size', () => {
    expect(shownJobs(jobs, '', 'changed')[0].name).toBe('Horn throat 10');
    expect(shownJobs(jobs, '', 'name')[0].name).toBe('Bellows');
    expect(shownJobs(jobs, '', 'faces')[0].name).toBe('Horn throat 2');
  });

  it('tells what is in a job, and when it was changed', () => {
    expect(jobs.map(countsLine)).toEqual(['12 quads', '900 triangles', '1 face, 1 not quads']);
    expect(countsLine(job('New', '2026-11-30T09:00:00'))).toBe('empty');
    const now = new Date('2026-11-30T10:00:00');
    expect(['2026-11-30T00:05:00', '2026-11-29T23:59:00', '2026-11-26T07:05:00'].map((at) => changedWhen(at, now))).toEqual([
      'today 00:05',
      'yesterday 23:59',
      '26 Nov 07:05'
    ]);
  });
});
