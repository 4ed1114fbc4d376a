import { changedValues, deepestLevel, emptySelection, maskedVertices, millimetres, type Cage } from '@ulvrin/core';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import { comparedPart } from '$lib/job/compared.ts';
import { clayOf } from '$lib/job/layers.ts';
import { lookOf } from '$lib/job/view.ts';
import { theme } from '$lib/settings/theme.svelte.ts';
import { laysOn } from '../gestures/lay.ts';
import { cornersOf } from '../gestures/point.ts';
import { measuredWith, type Measured } from '../marks/overlay.ts';
import { paintOn } from '../marks/registry.ts';
import type { Side } from '../sides.ts';
import type { Stand } from '../stand.ts';

/** Faces of a smooth surface that can follow the pointer. */
const MOST_FOLLOWING = 150_000;

/**
 * Keeps what the stand draws in step with a job: parts, previews, marks, paints. Called while a component is set up.
 * @param side of a pane beside the first one; left out: it is the first
 */
export function bindDrawing(job: OpenJob, standNow: () => Stand | undefined, measured: Measured, side?: Side): void {
  let framed = false;
  const moves = $derived(job.preview?.moves === true);
  const isPreviewed = $derived(job.preview !== undefined);
  const isLaying = $derived(laysOn(job));

  // parts, switches and previews to the stand; a preview that only moves vertices takes the quick way
  $effect(() => {
    const stand = standNow();
    if (!stand) return;
    const { view } = job;
    stand.setTheme(theme.night);
    const { preview, pointing } = job;
    if (preview?.mesh) return stand.moveReference(job.document.dense!.id, preview.mesh, preview.moved ?? []);
    const cage = job.active?.cage;
    // while vertices are dragged a heavy surface is shown at a lower level, and at its own once they rest
    const own = lookOf(view, view.activePart);
    const level = preview?.moves && own.smooth && cage ? deepestLevel(cage.faceCount, MOST_FOLLOWING, own.level, 0) : own.level;
    const wasLaidOn = stand.laidOn;
    stand.laidOn = isLaying ? view.seeThrough : undefined;
    // what only moves vertices takes the quick way, where the same topology is drawn already
    const drawnLighter = (stand.shownLevel ?? 0) <= level || level === own.level;
    const isSame = wasLaidOn === stand.laidOn;
    if (preview?.moves && isSame && drawnLighter && (!preview.cage || stand.moveVertices(preview.cage, preview.moved))) return;
    stand.show(
      job.draft.shownParts,
      new Set(job.hidden),
      view.activePart,
      ({ id }) => ({ ...(id === view.activePart ? { ...own, level } : lookOf(view, id)), clay: clayOf(job.document, id) }),
      pointing && !['space', 'surface'].includes(pointing.kind) ? undefined : preview?.cage,
      job.isolated && new Set(job.isolated)
    );
    if (!side) job.shownLevel = stand.shownLevel;
    if (framed || job.parts.length === 0) return;
    framed = true;
    if (side) return stand.frame(undefined, true);
    if (view.camera) stand.cameraState = $state.snapshot(view.camera) as never;
    else stand.frame(undefined, true);
    job.document.keepPictureSoon();
  });

  /** what marks are drawn anew with, as they lie on it; moved vertices they follow */
  const drawnWith = () => {
    const { view } = job;
    return [job.version, view.activePart, JSON.stringify(lookOf(view, view.activePart)), job.isolated, theme.night];
  };

  $effect(() => {
    void [drawnWith(), moves ? undefined : job.preview];
    const stand = standNow();
    const { pointing } = job;
    // what is picked would hide what is laid on it
    const shown = job.message?.where ?? (isLaying ? emptySelection() : job.selection);
    if (pointing) stand?.markPlaces(pointing.kind === 'corners' ? cornersOf(job) : pointing.places, pointing.kind === 'corners');
    else if (!moves && job.preview?.cage && !isLaying) stand?.markPreview(job.preview.selection!, job.forecasts.change?.appear ?? []);
    else stand?.mark(shown);
  });

  $effect(() => {
    void drawnWith();
    const { overlays } = job.view;
    // what a brush paints is shown while it does; others not while a preview hides them
    const { shows, preview } = job;
    const isHidden = job.isolated !== undefined || (isPreviewed && !shows);
    const paint = isHidden ? undefined : paintOn(overlays, shows);
    const cage = (shows && preview?.cage) || job.active?.cage;
    const found = cage && paint?.values(cage, measuredWith(measured, job.compared), job.active);
    const values = found && { ...found, ...job.view.ranges[paint!.id] };
    const inWords = (value: number) =>
      paint!.say ? `${paint!.label}: ${paint!.say(cage!, value)}` : `${paint!.label} ${millimetres(value, values!.high)} ${paint!.unit}`;
    standNow()?.paint(paint && values && { values, ramp: paint.ramp, inWords });
  });

  /** what is masked of a cage, where that is shown */
  const maskedOf = (cage: Cage | undefined) => {
    if (!job.view.overlays.mask || !cage) return undefined;
    const masked = maskedVertices(cage);
    return masked.length > 0 ? new Map(masked.map((v) => [v, cage.value('mask', v)])) : undefined;
  };
  // a mask follows what is moved, and is drawn anew while it is painted
  let painted = false;
  $effect(() => {
    void drawnWith();
    standNow()?.markMask(maskedOf(job.active?.cage));
    painted = false;
  });
  $effect(() => {
    const [before, now] = [job.active?.cage, job.preview?.cage];
    const isPainted = before !== undefined && now !== undefined && changedValues(before, now, 'mask').length > 0;
    if (isPainted || painted) standNow()?.markMask(maskedOf(isPainted ? now : before));
    painted = isPainted;
  });

  $effect(() => {
    const stand = standNow();
    if (stand) stand.floorShown = job.view.floor;
  });
  $effect(() => {
    const { outlined, smooth } = job.view;
    void theme.night;
    standNow()?.outline(outlined && comparedPart(job.document, outlined), smooth);
  });
  $effect(() => standNow()?.section(job.section));
  $effect(() => standNow()?.markLines(job.laying.steering?.sharp, job.laying.steering?.sections));
  $effect(() => standNow()?.markComing(job.task?.shown.edges));
}
