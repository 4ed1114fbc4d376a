import type { OpenJob } from '$lib/job/open-job.svelte.ts';

/** The line below the stand: what can be done now. @param hovered what the pointer is over */
export function hintFor(job: OpenJob, hovered: string): string {
  if (job.task) return 'A task runs in the background: the view stays free; Stop is on the card.';
  if (job.running && hovered) return `${hovered}: drag.`;
  if (job.running?.operation.hint) return job.running.operation.hint;
  if (job.pointing) return 'Click places (points snap to middles and thirds of edges). Enter applies, Esc discards.';
  if (job.running) {
    const { operation } = job.running;
    const drags = operation.kind === 'cage' && (operation.handle || operation.grips);
    return `${drags ? 'Drag the handle or type numbers' : 'Type numbers'}. Enter applies, Esc discards.`;
  }
  return hovered
    ? `${hovered}. Click picks, Shift-click adds, double-click picks the loop, right click: more.`
    : 'Right-drag orbits, middle-drag pans, the wheel zooms. Ctrl+K finds anything, ? shows the keys.';
}
