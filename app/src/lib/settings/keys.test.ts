import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultBindings } from '$lib/commands/registry.ts';
import { codeOf, isTyping, loadKeys, pressed, readable, saveKeys } from './keys.ts';

const event = (code: string, held: Partial<KeyboardEvent> = {}) =>
  ({ code, ctrlKey: false, altKey: false, shiftKey: false, metaKey: false, ...held }) as KeyboardEvent;

describe('keys', () => {
  it('are read by place, with what is held', () => {
    expect(pressed(event('KeyZ', { ctrlKey: true, shiftKey: true }))).toBe('Control+Shift+KeyZ');
    expect(pressed(event('Slash', { shiftKey: true }))).toBe('Shift+Slash');
  });

  it('mean one thing each', () => {
    const codes = defaultBindings.map((b) => b.code);
    expect(new Set(codes).size).toBe(codes.length);
    expect(new Set(defaultBindings.map((b) => b.id)).size).toBe(codes.length);
  });

  it('can be changed, and are shown as people write them', () => {
    const smooth = defaultBindings.find((b) => b.id === 'smooth')!;
    expect(codeOf(smooth, { letters: true, changed: { smooth: 'KeyP' } })).toBe('KeyP');
    expect(codeOf(smooth, { letters: true, changed: {} })).toBe('KeyT');
    expect([readable('Control+Shift+KeyZ'), readable('Digit3'), readable('Escape')]).toEqual(['Ctrl+Shift+Z', '3', 'Esc']);
  });
});

describe('key settings', () => {
  const stored = new Map<string, string>();
  beforeEach(() => {
    stored.clear();
    vi.stubGlobal('localStorage', {
      getItem: (key: string) => stored.get(key) ?? null,
      setItem: (key: string, text: string) => stored.set(key, text)
    });
  });
  afterEach(() => vi.unstubAllGlobals());

  it('come back as they were saved, and as at first where nothing or nonsense is stored', () => {
    expect(loadKeys()).toEqual({ letters: true, changed: {} });
    saveKeys({ letters: false, changed: { smooth: 'KeyP' } });
    expect(loadKeys()).toEqual({ letters: false, changed: { smooth: 'KeyP' } });
    for (const key of stored.keys()) stored.set(key, '{');
    expect(loadKeys()).toEqual({ letters: true, changed: {} });
  });

  it('know what is typed into, and what is dragged or ticked', () => {
    const at = (target: object) => isTyping({ target } as unknown as Event);
    expect(
      [{ tagName: 'INPUT', type: 'number' }, { tagName: 'TEXTAREA' }, { tagName: 'SELECT' }, { tagName: 'DIV', isContentEditable: true }].map(at)
    ).toEqual([true, true, true, true]);
    expect([{ tagName: 'INPUT', type: 'range' }, { tagName: 'INPUT', type: 'checkbox' }, { tagName: 'BUTTON' }].map(at)).toEqual([
      false,
      false,
      false
    ]);
  });
});
