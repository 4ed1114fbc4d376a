import { lookThrough, type Cage, type Checked, type Finding } from '@ulvrin/core';
import type { OpenDocument } from '$lib/document/open-document.svelte.ts';
import type { LeftFinding } from './view.ts';

/** Faces up to which a part is looked through after every entry; larger ones when that is asked for. */
const MOST_AT_ONCE = 60_000;
/** mm within which a finding of the same kind is the same one. */
const SAME = 1e-3;

/** What the check finds on the active cage, kept current with its entries. */
export class Findings {
  /** the one that is looked at */
  now: Finding | undefined = $state.raw();
  /** the kind that alone is listed; empty for all */
  wanted = $state('');
  private asked: Cage | undefined = $state.raw();
  /** what is found besides, and not listed, in words */
  unlisted: readonly string[] = [];
  /** what was found last, on whatever cage that was */
  private checked?: Checked;

  constructor(private readonly document: OpenDocument) {}

  /** All of them, the gravest first; nothing while a large part waits to be looked through. It is found when it is read. */
  private all = $derived.by((): Finding[] | undefined => {
    const { active, reference } = this.document;
    if (!active?.cage) return [];
    const { cage, scheme, borderCorners, plan } = active;
    if (cage.faceCount > MOST_AT_ONCE && this.asked !== cage) return undefined;
    const settings = { scheme: scheme!, borderCorners: borderCorners!, plan: $state.snapshot(plan) };
    // what an entry has not touched is not looked at again
    this.checked = lookThrough({ cage, settings, reference: reference?.mesh }, this.checked);
    this.unlisted = [...this.checked.unlisted].map(([{ name }, many]) => `${many.toLocaleString('en')} more of ${name.toLowerCase()}`);
    return this.checked.findings;
  });

  /** Those that were not left as they are. */
  shown = $derived.by((): Finding[] | undefined => this.all?.filter((finding) => this.reasonFor(finding) === undefined));
  /** Those that were left, each with its reason. */
  left = $derived.by((): { finding: Finding; reason: string }[] =>
    (this.all ?? []).flatMap((finding) => {
      const reason = this.reasonFor(finding);
      return reason === undefined ? [] : [{ finding, reason }];
    })
  );
  /** how many show; nothing while that is not known */
  visible = $derived.by((): number | undefined => this.shown?.filter((f) => f.visible).length);

  /** Kinds of those that show, with how many there are of each, the most first. */
  kinds = $derived.by((): { kind: string; many: number }[] => {
    const many = new Map<string, number>();
    for (const { kind, visible } of this.shown ?? []) if (visible) many.set(kind, (many.get(kind) ?? 0) + 1);
    return [...many].map(([kind, count]) => ({ kind, many: count })).sort((a, b) => b.many - a.many);
  });
  /** The kind that alone is listed, as long as there are any of it. */
  only = $derived(this.kinds.some(({ kind }) => kind === this.wanted) ? this.wanted : '');
  /** Those that are listed, marked, and gone through. */
  listed = $derived(this.only ? this.shown?.filter(({ kind }) => kind === this.only) : this.shown);

  /** Looks a large part through. */
  look(): void {
    this.asked = this.document.active?.cage;
  }

  /** Goes to the one after that which is looked at, from the last to the first. */
  next(): Finding | undefined {
    const listed = this.listed ?? [];
    const at = this.now ? listed.indexOf(this.now) : -1;
    return (this.now = listed[(at + 1) % Math.max(1, listed.length)]);
  }

  /** Leaves a finding as it is. */
  leave({ kind, place }: Finding, reason: string): void {
    this.document.view.leftFindings = [...this.document.view.leftFindings, { kind, place, reason }];
    this.document.saveViewSoon();
  }

  /** Takes a finding up again that was left. */
  takeUp(finding: Finding): void {
    this.document.view.leftFindings = this.document.view.leftFindings.filter((left) => !isSame(left, finding));
    this.document.saveViewSoon();
  }

  private reasonFor(finding: Finding): string | undefined {
    return this.document.view.leftFindings.find((left) => isSame(left, finding))?.reason;
  }
}

const isSame = (left: LeftFinding, { kind, place }: Finding): boolean =>
  left.kind === kind && left.place.every((x, k) => Math.abs(x - place[k]) <= SAME);
