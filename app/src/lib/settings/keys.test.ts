import { describe, expect, it } from 'vitest';
import { defaultBindings } from '$lib/commands/registry.ts';
import { codeOf, pressed, readable } from './keys.ts';

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
