/** One thing a key does. `code` is the physical key; see the key sheet. */
export interface KeyBinding {
  id: string;
  label: string;
  /** Like "KeyT", "Shift+KeyE", "Control+KeyZ" */
  code: string;
}

export const defaultBindings: readonly KeyBinding[] = [
  ...Array.from({ length: 8 }, (_, i) => ({ id: `bench-${i + 1}`, label: `Bench ${i + 1}`, code: `Digit${i + 1}` })),
  { id: 'pick-vertex', label: 'Pick vertices', code: 'KeyQ' },
  { id: 'pick-edge', label: 'Pick edges', code: 'KeyW' },
  { id: 'pick-face', label: 'Pick faces', code: 'KeyE' },
  { id: 'pick-nearest', label: 'Pick whichever is nearest', code: 'KeyR' },
  ...['A', 'S', 'D', 'F', 'G'].map((letter) => ({ id: `upper-${letter}`, label: `Rack, upper row: ${letter}`, code: `Key${letter}` })),
  ...['Z', 'X', 'C', 'V', 'B'].map((letter) => ({ id: `lower-${letter}`, label: `Rack, lower row: ${letter}`, code: `Key${letter}` })),
  ...[1, 2, 3, 4, 5].map((n) => ({ id: `mine-${n}`, label: `Personal row: ${n}`, code: `Shift+Digit${n}` })),
  { id: 'smooth', label: 'Smooth surface on or off', code: 'KeyT' },
  { id: 'cage', label: 'Cage on or off', code: 'KeyY' },
  { id: 'all', label: 'Pick all of that kind, again: none', code: 'Control+KeyA' },
  { id: 'shrink', label: 'Shrink the selection', code: 'Shift+KeyQ' },
  { id: 'grow', label: 'Grow the selection', code: 'Shift+KeyW' },
  { id: 'loop', label: 'Loop of the picked edge', code: 'Shift+KeyE' },
  { id: 'ring', label: 'Ring of the picked edge', code: 'Shift+KeyR' },
  { id: 'path', label: 'Shortest path from the last pick to the pointer', code: 'Shift+KeyV' },
  { id: 'repeat', label: 'Repeat the last operation on what is picked', code: 'Shift+KeyT' },
  { id: 'border', label: 'Border of the picked edge', code: 'Shift+KeyC' },
  { id: 'isolate', label: 'Isolate the selection', code: 'Backquote' },
  { id: 'section', label: 'Section plane', code: 'Shift+Backquote' },
  { id: 'frame', label: 'Frame the selection, or all', code: 'Shift+KeyF' },
  { id: 'apply', label: 'Apply', code: 'Enter' },
  { id: 'escape', label: 'Close the list, the operation, the selection', code: 'Escape' },
  { id: 'delete', label: 'Delete', code: 'Delete' },
  { id: 'undo', label: 'Undo', code: 'Control+KeyZ' },
  { id: 'redo', label: 'Redo', code: 'Control+Shift+KeyZ' },
  { id: 'lookup', label: 'Lookup', code: 'Control+KeyK' },
  { id: 'keys', label: 'Key sheet', code: 'Shift+Slash' }
];

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

export const codeOf = (binding: KeyBinding, settings: KeySettings): string => settings.changed[binding.id] ?? binding.code;

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
