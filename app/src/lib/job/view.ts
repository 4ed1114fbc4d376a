import type { CameraState, PickKind } from '$lib/stand/stand.ts';
import type { Bench } from '@ulvrin/core';

/** How a job is looked at; kept with the job, but no part of its logbook. */
export interface View {
  bench: Bench;
  pick: PickKind;
  cage: boolean;
  smooth: boolean;
  level: number;
  cageOpacity: number;
  overlays: { triangles: boolean; ngons: boolean; poles: boolean; borders: boolean };
  /** ids of parts that are not shown */
  hidden: string[];
  activePart: string;
  panel: 'logbook' | 'parts';
  camera?: CameraState;
}

export const startView = (): View => ({
  bench: 1,
  pick: 'nearest',
  cage: true,
  smooth: false,
  level: 2,
  cageOpacity: 1,
  overlays: { triangles: true, ngons: true, poles: false, borders: true },
  hidden: [],
  activePart: '',
  panel: 'logbook'
});

/** A stored view with what it lacks filled in. */
export function restoredView(stored: Record<string, unknown> | undefined): View {
  const base = startView();
  const view = { ...base, ...(stored as Partial<View> | undefined) };
  return { ...view, overlays: { ...base.overlays, ...view.overlays } };
}
