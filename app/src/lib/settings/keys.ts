/** One thing a key does. `code` is the physical key; see the key sheet. */
export interface KeyBinding {
  id: string;
  label: string;
  /** Like "KeyT", "Shift+KeyE", "Control+KeyZ" */
  code: string;
}

const STORE = 'ulvrin-keys';

export interface KeySettings {
  /** single-letter keys work */
  letters: boolean;
  /** changed codes by binding id */
  changed: Record<string, string>;
}

export function loadKeys(): KeySettings {
  try {
    return { letters: true, changed: {}, ...(JSON.parse(localStorage.getItem(STORE) ?? '{}') as Partial<KeySettings>) };
  } catch {
    return { letters: true, changed: {} };
  }
}
export const saveKeys = (settings: KeySettings): void => localStorage.setItem(STORE, JSON.stringify(settings));

/** The code of a binding as it is now. */
export const codeOf = ({ id, code }: Pick<KeyBinding, 'id' | 'code'>, { changed }: KeySettings): string => changed[id] ?? code;

/** The code of a pressed key as bindings write it. */
export function pressed(event: KeyboardEvent): string {
  return [event.ctrlKey || event.metaKey ? 'Control' : '', event.altKey ? 'Alt' : '', event.shiftKey ? 'Shift' : '', event.code]
    .filter(Boolean)
    .join('+');
}

/** How a code reads on the key sheet. */
export const readable = (code: string): string =>
  code
    .replace(/Control/, 'Ctrl')
    .replace(/Key|Digit/g, '')
    .replace('Backquote', '` (left of 1)')
    .replace('Shift+Slash', '?')
    .replace('Escape', 'Esc');

export const isTyping = (event: Event): boolean => {
  const target = event.target as HTMLElement;
  return (
    target.isContentEditable ||
    (/^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName) &&
      (target as HTMLInputElement).type !== 'range' &&
      (target as HTMLInputElement).type !== 'checkbox')
  );
};

/** Letters that are held down now, by their physical keys. */
export const heldLetters = new Set<string>();

/** Notes that a key goes down or up. */
export function noteKey({ type, code }: Pick<KeyboardEvent, 'type' | 'code'>): void {
  if (type === 'keydown' && code.startsWith('Key')) heldLetters.add(code);
  else heldLetters.delete(code);
}
