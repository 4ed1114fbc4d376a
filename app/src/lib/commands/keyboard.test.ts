import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { KeySettings } from '$lib/settings/keys.ts';
import type { Workshop } from './command.ts';
import { keydown } from './keyboard.ts';

class Button {}
const settings: KeySettings = { letters: true, changed: {} };
/** A workshop that notes what it is asked for. */
function workshop(running = false) {
  const done: string[] = [];
  const note = (what: string) => () => void done.push(what);
  const job = {
    view: { bench: 3, pick: 'edge', smooth: false },
    running: running ? {} : undefined,
    apply: note('apply'),
    undo: note('undo'),
    escape: note('escape'),
    saveViewSoon: () => undefined
  };
  return { done, job, now: { job, stand: undefined, start: note('start'), show: (what: string) => done.push(what) } as unknown as Workshop };
}
const press = (code: string, more: Omit<Partial<KeyboardEvent>, 'target'> & { target?: object } = {}) => {
  const event = { code, key: code.replace(/Key|Digit/, '').toLowerCase(), target: { tagName: 'BODY' }, preventDefault: vi.fn(), ...more };
  return event as unknown as KeyboardEvent & { preventDefault: ReturnType<typeof vi.fn> };
};
const input = (type = 'number') => ({ tagName: 'INPUT', type, blur: vi.fn() });
let field: { focus: ReturnType<typeof vi.fn>; value: string } | null;

beforeEach(() => {
  field = null;
  vi.stubGlobal('document', { activeElement: null, querySelector: () => field });
  vi.stubGlobal('HTMLButtonElement', Button);
});
afterEach(() => vi.unstubAllGlobals());

describe('keys in the workshop', () => {
  it('do what they mean, and are not handed on', () => {
    const { job, now } = workshop();
    const event = press('KeyT');
    keydown(event, now, settings);
    expect([job.view.smooth, event.preventDefault.mock.calls.length]).toEqual([true, 1]);
    keydown(press('Digit5'), now, settings);
    expect(job.view.bench).toBe(5);
  });

  it('mean what they have been changed to', () => {
    const { job, now } = workshop();
    keydown(press('KeyT'), now, { letters: true, changed: { smooth: 'KeyP' } });
    expect(job.view.smooth).toBe(false);
    keydown(press('KeyP'), now, { letters: true, changed: { smooth: 'KeyP' } });
    expect(job.view.smooth).toBe(true);
  });

  it('are single letters only where those are wanted', () => {
    const { job, done, now } = workshop();
    keydown(press('KeyT'), now, { letters: false, changed: {} });
    keydown(press('KeyZ', { ctrlKey: true }), now, { letters: false, changed: {} });
    expect([job.view.smooth, done]).toEqual([false, ['undo']]);
  });

  it('go into a field that is typed into; Enter leaves it and applies, undo and the lookup work all the same', () => {
    const { job, done, now } = workshop(true);
    const target = input();
    keydown(press('KeyT', { target }), now, settings);
    keydown(press('Delete', { target }), now, settings);
    expect([job.view.smooth, done]).toEqual([false, []]);
    keydown(press('Enter', { target }), now, settings);
    keydown(press('KeyZ', { target, ctrlKey: true }), now, settings);
    keydown(press('KeyK', { target, ctrlKey: true }), now, settings);
    expect([done, target.blur.mock.calls.length]).toEqual([['apply', 'undo', 'lookup'], 1]);
  });

  it('are digits for the first number of the open card, and benches without one', () => {
    const { job, now } = workshop(true);
    field = { focus: vi.fn(), value: '7' };
    keydown(press('Digit2'), now, settings);
    expect([field.value, field.focus.mock.calls, job.view.bench]).toEqual(['', [[{ preventScroll: true }]], 3]);
    field = null;
    keydown(press('Digit2'), now, settings);
    expect(job.view.bench).toBe(2);
  });

  it('leave Enter to a button that has the focus', () => {
    const { done, now } = workshop();
    vi.stubGlobal('document', { activeElement: new Button(), querySelector: () => null });
    keydown(press('Enter'), now, settings);
    expect(done).toEqual([]);
  });
});
