/** A sum of unknowns with small whole coefficients, by unknown. */
export type Form = Map<number, number>;

export function addTo(sum: Form, form: Form, factor: number): Form {
  for (const [k, c] of form) {
    const total = (sum.get(k) ?? 0) + factor * c;
    if (total === 0) sum.delete(k);
    else sum.set(k, total);
  }
  return sum;
}

/**
 * Unknowns of which some are given by others. Constraints (forms that are zero) are solved for an unknown with
 * coefficient 1 or -1, so that whole numbers stay whole.
 */
export class Eliminator {
  private readonly given = new Map<number, Form>();

  /** @param rank lower is eliminated first */
  constructor(private readonly rank: (unknown: number) => number) {}

  /** The form over unknowns that are not eliminated. */
  expand(form: Form): Form {
    let result: Form = new Map();
    let open = false;
    for (const [k, c] of form) {
      const inner = this.given.get(k);
      if (inner) {
        open = true;
        addTo(result, inner, c);
      } else addTo(result, new Map([[k, 1]]), c);
    }
    while (open) {
      open = false;
      const next: Form = new Map();
      for (const [k, c] of result) {
        const inner = this.given.get(k);
        if (inner) {
          open = true;
          addTo(next, inner, c);
        } else addTo(next, new Map([[k, 1]]), c);
      }
      result = next;
    }
    return result;
  }

  /** Makes `form` zero. @returns false where that asks for something without a coefficient of one */
  require(form: Form): boolean {
    const open = this.expand(form);
    if (open.size === 0) return true;
    divideByCommonFactor(open);
    let pivot = -1;
    for (const [k, c] of open) if (Math.abs(c) === 1 && (pivot < 0 || this.rank(k) < this.rank(pivot))) pivot = k;
    if (pivot < 0) return false;
    const sign = open.get(pivot)!;
    open.delete(pivot);
    const solution: Form = new Map();
    addTo(solution, open, -sign);
    this.given.set(pivot, solution);
    return true;
  }

  isGiven(unknown: number): boolean {
    return this.given.has(unknown);
  }
}

/** 2 x + 2 y = 0 is x + y = 0. */
function divideByCommonFactor(form: Form): void {
  let common = 0;
  for (let c of form.values()) {
    c = Math.abs(c);
    while (c !== 0) [common, c] = [c, common % c];
  }
  if (common > 1) for (const [k, c] of form) form.set(k, c / common);
}

/** Forms that do not change any more, one after the other in flat arrays: entries `start[i]` to `start[i + 1]` are those of form i. */
export class FlatForms {
  readonly start: Int32Array;
  readonly unknown: Int32Array;
  readonly coefficient: Int8Array;

  constructor(forms: readonly Form[]) {
    this.start = new Int32Array(forms.length + 1);
    forms.forEach((form, i) => (this.start[i + 1] = this.start[i] + form.size));
    this.unknown = new Int32Array(this.start[forms.length]);
    this.coefficient = new Int8Array(this.unknown.length);
    let at = 0;
    for (const form of forms)
      for (const [k, c] of form) {
        this.unknown[at] = k;
        this.coefficient[at++] = c;
      }
  }

  /** Value of form i. */
  value(i: number, x: Float64Array): number {
    let sum = 0;
    for (let e = this.start[i]; e < this.start[i + 1]; e++) sum += this.coefficient[e] * x[this.unknown[e]];
    return sum;
  }

  /** Values of all forms. */
  values(x: Float64Array): Float64Array {
    const { start, unknown, coefficient } = this;
    const all = new Float64Array(start.length - 1);
    for (let i = 0; i < all.length; i++) {
      let sum = 0;
      for (let e = start[i]; e < start[i + 1]; e++) sum += coefficient[e] * x[unknown[e]];
      all[i] = sum;
    }
    return all;
  }

  /** Adds a form, times a factor, to a sum. */
  collect(i: number, factor: number, sum: Form): void {
    for (let e = this.start[i]; e < this.start[i + 1]; e++) {
      const k = this.unknown[e];
      const total = (sum.get(k) ?? 0) + factor * this.coefficient[e];
      if (total === 0) sum.delete(k);
      else sum.set(k, total);
    }
  }
}
