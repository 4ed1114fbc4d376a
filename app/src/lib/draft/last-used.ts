import { fieldsOf, type Operation, type Params } from '@ulvrin/core';

/** The numbers that operations begin with: those used last, but for what is meant once. */
export class LastUsed {
  private readonly kept = new Map<string, Params>();

  keep(operation: Operation, params: Params): void {
    const { once = [] } = operation;
    const lasting = Object.entries(params).filter(([name]) => !once.includes(name));
    const before = operation.settings === undefined ? {} : this.kept.get(operation.settings);
    this.kept.set(operation.settings ?? operation.id, { ...before, ...Object.fromEntries(lasting) });
  }

  for(operation: Operation): Params {
    const { id, settings } = operation;
    const kept = Object.entries(this.kept.get(settings ?? id) ?? {});
    if (settings === undefined) return Object.fromEntries(kept);
    // of operations that share theirs each has some of its own
    const own = new Set(fieldsOf(operation).map(({ name }) => name));
    return Object.fromEntries(kept.filter(([name]) => own.has(name)));
  }
}
