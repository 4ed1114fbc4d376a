import { lengthInWords } from '../numeric/length-words.ts';
import { counted } from '../operations/shared/words.ts';
import { unlessRefused } from '../operations/refusal.ts';
import { checkPart } from './check-part.ts';
import { type Apply } from './fix-all.ts';
import { type CheckedPart, type Finding } from './findings/finding.ts';

/** A way to mend a finding, and what it comes to. */
export interface WayOut {
  label: string;
  /** faces it costs, and what is left of the finding, in words */
  outcome: string;
}

const more = (n: number): string => (n === 0 ? 'no face more' : n > 0 ? `${counted(n, 'face')} more` : `${counted(-n, 'face')} fewer`);

/** What each of a finding's fixes comes to on its part. */
export function waysOut(part: CheckedPart, finding: Finding, apply: Apply): WayOut[] {
  const before = checkPart(part).filter((f) => f.kind === finding.kind).length;
  return finding.fixes.map(({ label, operation, params, pick }) => {
    const made = unlessRefused(() => apply(operation, part.cage, pick, params))?.cage;
    if (!made) return { label, outcome: 'refused here' };
    const left = checkPart({ ...part, cage: made });
    const same = left.filter((f) => f.kind === finding.kind);
    const others = left.filter((f) => f.visible && f.kind !== finding.kind).length;
    const said = [more(made.faceCount - part.cage.faceCount)];
    if (same.length < before) said.push('it is gone');
    else if (finding.unit === 'mm') said.push(`${lengthInWords(same[0].size)} in place of ${lengthInWords(finding.size)}`);
    else said.push('it stays');
    if (others > 0) said.push(`${counted(others, 'other finding shows', 'other findings show')} then`);
    return { label, outcome: said.join('; ') };
  });
}
