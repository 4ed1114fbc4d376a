import { describe, expect, it } from 'vitest';
import { failureInWords, twinsAmong } from './batch.ts';

describe('a batch', () => {
  it('tells files apart by what comes of them', () => {
    expect(twinsAmong(['horn.obj', 'horn-2.obj', 'bell.ply'])).toBeUndefined();
    expect(twinsAmong(['horn.obj', 'bell.ply', 'horn.obj.gz'])).toMatch(/^Two files are called horn: .* Rename one\.$/);
  });

  it('says what to do where a thread runs out of memory, or the disk is full', () => {
    expect(failureInWords(Object.assign(new Error('Worker terminated'), { code: 'ERR_WORKER_OUT_OF_MEMORY' }), 4096)).toMatch(
      /^It needed more than 4,096 MB\. Thin it out/
    );
    expect(failureInWords(Object.assign(new Error('write'), { code: 'ENOSPC' }), 64)).toMatch(/^The disk is full: free some/);
    expect(failureInWords(new Error('Line 3 has no face.'), 64)).toBe('Line 3 has no face.');
  });
});
