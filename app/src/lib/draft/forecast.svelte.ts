import {
  describeForecast,
  describeLoops,
  describeMove,
  filledOnReference,
  forecast,
  isBrush,
  type Forecast as Change,
  type SurfaceSettings
} from '@ulvrin/core';
import type { OpenDocument } from '$lib/document/open-document.svelte.ts';
import type { Picked } from '$lib/selection/picked.svelte.ts';
import type { Draft } from './draft.svelte.ts';
import { MoveMeter, type Change as SurfaceChange } from './move-meter.svelte.ts';

const settingsOf = ({ scheme, borderCorners, plan }: SurfaceSettings): SurfaceSettings => ({ scheme, borderCorners, plan });

/** What the running operation would bring, before it is applied: poles, faces and loops at once, moves of the surface once measured. */
export class Forecast {
  private readonly meter = new MoveMeter();

  constructor(
    private readonly document: OpenDocument,
    private readonly picked: Picked,
    private readonly draft: Draft
  ) {}

  /** Poles and faces that would come and go; nothing for the handle and brushes, which move vertices alone, and where quads are laid by hand. */
  change = $derived.by((): Change | undefined => {
    const { preview, running } = this.draft;
    const { active } = this.document;
    const operation = running?.operation;
    const tellsItself = isBrush(operation) || filledOnReference(operation) || (operation?.kind === 'cage' && (operation.handle ?? operation.tries));
    if (!preview?.cage || !active?.cage || tellsItself) return undefined;
    return forecast(active.cage, preview.cage);
  });

  /** the smooth surface before and after the running operation; nothing where it tells no forecast */
  private surfaceChange = $derived.by((): SurfaceChange | undefined => {
    const { preview } = this.draft;
    const { active } = this.document;
    if (!active?.cage || !(preview?.surface || this.change)) return undefined;
    return {
      before: active.cage,
      after: preview?.cage ?? active.cage,
      settings: settingsOf(active),
      settingsAfter: settingsOf(preview?.surface ?? active)
    };
  });

  /** Has it measured how far the smooth surface would move. */
  measure(): void {
    if (this.surfaceChange) void this.meter.ask(this.surfaceChange);
  }

  /** The same as sentences, with the loops concerned and what the operation itself tells: a spiral is seen before the act. */
  text = $derived.by((): string | undefined => {
    const { change } = this;
    const { preview } = this.draft;
    const { active } = this.document;
    const moved = this.meter.of(this.surfaceChange);
    if (preview?.surface) return [moved === undefined ? '' : `Forecast: ${describeMove(moved)}.`, ...preview.notes!].filter(Boolean).join(' ');
    // of what moves vertices alone, its own live readings
    if (!change) return preview?.notes?.join(' ') || undefined;
    if (!preview?.cage || !active?.cage) return undefined;
    const [was, will] = [describeLoops(active.cage, this.picked.selection.edges), describeLoops(preview.cage, preview.selection!.edges)];
    const loops = preview.moves ? undefined : was && will ? `Loop before: ${was}; after: ${will}.` : will ? `Loop after: ${will}.` : undefined;
    return [describeForecast(change, moved), loops, ...preview.notes!].filter(Boolean).join(' ');
  });

  end(): void {
    this.meter.end();
  }
}
