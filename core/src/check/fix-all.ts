import { type Cage } from '../mesh/cage.ts';
import { length, subtract } from '../numeric/vectors.ts';
import { type CageResult, type Params } from '../operations/operation.ts';
import { unlessRefused } from '../operations/refusal.ts';
import { type Selection } from '../select/selection.ts';
import { lookThrough, type Checked } from './check-part.ts';
import { type CheckedPart, type Finding } from './findings/finding.ts';

/** Findings that are mended in one go at most. */
const MOST = 300;

/** What mending all findings of a kind came to. */
export interface FixedAll {
  cage: Cage;
  fixed: number;
  /** those whose fixes were refused, or brought something graver */
  left: Finding[];
  /** how many of each kind show, before and after */
  before: ReadonlyMap<string, number>;
  after: ReadonlyMap<string, number>;
}

/** Applies an operation by its id. @throws what it throws where it refuses */
export type Apply = (operation: string, cage: Cage, pick: Selection, params: Params) => CageResult;

const countsOf = (findings: readonly Finding[]): Map<string, number> => {
  const counts = new Map<string, number>();
  for (const { kind, visible } of findings) if (visible) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  return counts;
};

/**
 * Mends all findings of a kind that show, the gravest first, each by the first of its fixes that takes it away and brings nothing graver.
 * @param kind id of a kind of findings
 */
export function fixAll(part: CheckedPart, kind: string, apply: Apply): FixedAll {
  let checked = lookThrough(part);
  const before = countsOf(checked.findings);
  const left: Finding[] = [];
  let fixed = 0;
  const isLeft = (f: Finding) => left.some(({ place }) => length(subtract(place, f.place)) < 1e-6);
  for (let time = 0; time < MOST; time++) {
    const next = checked.findings.find((f) => f.visible && f.kind === kind && !isLeft(f));
    if (!next) break;
    const mended = mend(checked, next, apply);
    if (mended) {
      checked = mended;
      fixed++;
    } else left.push(next);
  }
  return { cage: checked.part.cage, fixed, left, before, after: countsOf(checked.findings) };
}

/** What the check finds after the first fix that helps; nothing where none does. */
function mend(checked: Checked, finding: Finding, apply: Apply): Checked | undefined {
  const { part, findings: before } = checked;
  const gravest = before.find((f) => f.visible)!.rank;
  const ofKind = (findings: readonly Finding[]) => findings.filter((f) => f.visible && f.kind === finding.kind).length;
  for (const { operation, params, pick } of finding.fixes) {
    const cage = unlessRefused(() => apply(operation, part.cage, pick, params))?.cage;
    // refused there: the next one may do
    if (!cage) continue;
    const after = lookThrough({ ...part, cage }, checked);
    const worst = after.findings.find((f) => f.visible)?.rank ?? 0;
    if (ofKind(after.findings) < ofKind(before) && worst <= 1.05 * gravest) return after;
  }
  return undefined;
}
