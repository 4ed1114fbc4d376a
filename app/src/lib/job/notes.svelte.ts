import type { Selection } from '@ulvrin/core';
import { refusalOf } from './refusal-of.ts';

/** Something the page tells: what was found, where, what to do. */
export interface Message {
  kind: 'error' | 'info';
  text: string;
  /** elements it is about, to be shown on the stand */
  where?: Selection;
}

/** The one message that the page shows. */
export class Notes {
  message: Message | undefined = $state.raw();

  tell(kind: Message['kind'], text: string): void {
    this.message = { kind, text };
  }

  /** Takes a step; what is thrown is told, with its place. */
  attempt(step: () => void): void {
    try {
      step();
    } catch (error) {
      const refusal = refusalOf(error);
      this.message = { kind: 'error', text: [refusal.found, refusal.instead].filter(Boolean).join(' '), where: refusal.where };
    }
  }
}
