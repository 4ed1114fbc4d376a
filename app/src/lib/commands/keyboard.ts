import { codeOf, isTyping, noteKey, pressed, type KeySettings } from '$lib/settings/keys.ts';
import type { Workshop } from './command.ts';
import { call, defaultBindings } from './registry.ts';

/** Keys that work while something is typed. */
const WHILE_TYPING = /^Control\+(KeyZ|Shift\+KeyZ|KeyK)$/;
/** Keys that `letters: false` turns off. */
const LETTERS = /^(Shift\+)?(Key|Digit|Backquote)/;

/** The first number of the open card: what is typed goes there while an operation runs. */
const firstField = () => document.querySelector<HTMLInputElement>('section[aria-label="Card"] input[type="number"]');

/** Does what a pressed key means in the workshop; keys that mean nothing go on to the browser. */
export function keydown(event: KeyboardEvent, workshop: Workshop, keys: KeySettings): void {
  const { job } = workshop;
  noteKey(event);
  const code = pressed(event);
  const typing = isTyping(event);
  if (typing) {
    // a form of its own is sent by Enter
    if (event.code === 'Enter' && (event.target as HTMLInputElement).form) return;
    if (event.code === 'Escape' || event.code === 'Enter') (event.target as HTMLElement).blur();
    if (event.code === 'Enter') job.apply(true);
    if (!WHILE_TYPING.test(code)) return;
  }
  // while an operation runs, digits, point and minus go to its first field
  if (job.running && !typing && /^[0-9.,-]$/.test(event.key)) {
    const field = firstField();
    if (field) {
      // the page itself never scrolls
      field.focus({ preventScroll: true });
      field.value = '';
      return;
    }
  }
  const binding = defaultBindings.find((b) => codeOf(b, keys) === code);
  if (!binding || (!keys.letters && LETTERS.test(code))) return;
  if (document.activeElement instanceof HTMLButtonElement && event.code === 'Enter' && !job.running) return;
  // the space bar presses what has the focus
  if (event.code === 'Space' && document.activeElement?.matches('button, input, select, summary, [tabindex]')) return;
  event.preventDefault();
  // a letter that is held calls its command once
  if (!(event.repeat && LETTERS.test(code))) call(binding.id, workshop);
}
