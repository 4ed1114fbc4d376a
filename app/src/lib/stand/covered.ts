import type { Rect } from './framing.ts';

/** Pixels that are kept free round what covers a view. */
const APART = 8;

/** Where a view is covered by what is marked `data-covers`: the brief, the title block, the strip of picks. */
export function coveredAreas(host: HTMLElement): Rect[] {
  const view = host.getBoundingClientRect();
  const areas = [...document.querySelectorAll('[data-covers]')].map((sheet) => {
    const { left, top, right, bottom } = sheet.getBoundingClientRect();
    return { left: left - view.left - APART, top: top - view.top - APART, right: right - view.left + APART, bottom: bottom - view.top + APART };
  });
  return areas.filter(({ left, top, right, bottom }) => right > 0 && bottom > 0 && left < view.width && top < view.height);
}
