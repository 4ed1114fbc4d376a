import { expect } from 'vitest';
import { bringIn } from '../src/formats/bring-in.ts';
import { FormatError } from '../src/formats/format.ts';

export const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

/** The sentence a file is refused with. */
export function refusal(content: string | Uint8Array, name: string): string {
  try {
    bringIn(typeof content === 'string' ? bytesOf(content) : content, name);
  } catch (error) {
    expect(error).toBeInstanceOf(FormatError);
    return (error as Error).message;
  }
  return 'was read';
}
