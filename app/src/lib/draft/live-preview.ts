import type { Cage, LiveEdit, LiveOperation, Params, Selection } from '@ulvrin/core';

/** What a live edit was begun for; with anything of it changed it begins anew. */
interface Begun {
  operation: LiveOperation;
  cage: Cage;
  selection: Selection;
  settings: string;
  edit: LiveEdit;
}

/** The live edit of the running operation, begun once and stepped with every change of its numbers. */
export class LivePreview {
  private begun: Begun | undefined;

  /** The live edit for just this. @param params valid ones */
  for(operation: LiveOperation, cage: Cage, selection: Selection, params: Params): LiveEdit {
    const { live } = operation;
    const settings = JSON.stringify(Object.entries(params).filter(([name]) => !live.numbers.includes(name)));
    const { begun } = this;
    if (begun && begun.operation === operation && begun.cage === cage && begun.selection === selection && begun.settings === settings)
      return begun.edit;
    const edit = live.begin(cage, selection, params);
    this.begun = { operation, cage, selection, settings, edit };
    return edit;
  }

  /** Forgets what was begun: what it made may have become the document's own. */
  end(): void {
    this.begun = undefined;
  }
}
