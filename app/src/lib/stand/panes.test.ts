import { describe, expect, it } from 'vitest';
import { lookOf, startView } from '$lib/job/view.ts';
import { dividedInto, PANES, panesOf } from './panes.ts';

describe('how the stand is divided', () => {
  it('is what it was divided into', () => {
    for (const panes of PANES) expect(panesOf({ ...startView(), ...dividedInto(panes) })).toBe(panes);
  });

  it('is one view at first, and where a stored one is not known', () => {
    expect(panesOf(startView()).id).toBe('one');
    expect(panesOf({ sides: ['bottom'], compare: undefined }).id).toBe('one');
  });

  it('compares whatever else is shown, and with whatever version', () => {
    expect(panesOf({ sides: ['front'], compare: 'before' }).id).toBe('compare');
    expect(panesOf({ sides: [], compare: { part: 'horn' } }).id).toBe('compare');
  });
});

describe('how a part is shown', () => {
  it('is as the title block says, but for what it has of its own', () => {
    const view = { ...startView(), level: 3, own: { horn: { cage: false, smooth: true }, lamp: { level: 1 } } };
    expect(lookOf(view, 'cleat')).toMatchObject({ cage: true, smooth: false, level: 3 });
    expect(lookOf(view, 'horn')).toMatchObject({ cage: false, smooth: true, level: 3 });
    expect(lookOf(view, 'lamp')).toMatchObject({ cage: true, smooth: false, level: 1 });
  });
});
