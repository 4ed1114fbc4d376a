import type { JobRecord } from '$lib/platform/storage/database.ts';
import type { DrawingSettings } from '$lib/stand/cage-drawing.ts';
import { startOverlays } from '$lib/stand/marks/registry.ts';
import type { Side } from '$lib/stand/sides.ts';
import type { PickKind } from '$lib/stand/picking.ts';
import type { CameraState } from '$lib/stand/eye-control.ts';
import type { Bench, DeliveryRecord, Part, Triple } from '@ulvrin/core';

/** What the part is compared with: all levels smooth, before the last entry, the other scheme, a cage of its regions, after an entry by its id, another part, or what arrives at a destination. */
export type Comparison =
  'smooth' | 'before' | 'scheme' | 'regions' | { entry: number } | { branch: string } | { part: string } | { destination: string; format: string };

/** A finding that was left as it is, and why. */
export interface LeftFinding {
  kind: string;
  place: Triple;
  reason: string;
}

/** How one part is shown where it is not as all others are. */
export interface OwnLook {
  cage?: boolean;
  smooth?: boolean;
  level?: number;
}

/** How a job is looked at; kept with the job, but no part of its logbook. */
export interface View {
  bench: Bench;
  pick: PickKind;
  /** how dragging picks: the id of a gesture; empty: the first there is */
  gesture: string;
  /** dragging picks what the cage hides as well */
  through: boolean;
  /** radius of the brush that picks, in pixels */
  brush: number;
  /** degrees; a loop that turns more at a vertex ends there (180: it does not) */
  mostTurn: number;
  cage: boolean;
  smooth: boolean;
  level: number;
  cageOpacity: number;
  /** mm into the reference that laid quads are seen and picked through it; 0: as far as drawing needs */
  seeThrough: number;
  /** surfaces are seen through, and all wires */
  xray: boolean;
  /** parts that are shown in a way of their own, by id */
  own: Record<string, OwnLook>;
  /** ends of a paint's ramp as they were typed, by its id; left out: as they are measured */
  ranges: Record<string, { low: number; high: number }>;
  /** the grid of the floor */
  floor: boolean;
  /** the title block shows its scale alone; left out: where the window has no room for it */
  blockFolded?: boolean;
  /** overlays that are on, by id */
  overlays: Record<string, boolean>;
  /** what the second pane shows, beside the first and with the same eye: all levels smooth, the state before the last entry, or another part */
  compare?: Comparison;
  /** share of the stand, from the left, that the other version begins at, where it is laid over the first one; left out: it has a pane of its own */
  wipe?: number;
  /** the outline of the other version is drawn over the part */
  outlined?: Comparison;
  /** sides that further panes look from, straight */
  sides: Side[];
  activePart: string;
  /** what was sent, the last one last */
  deliveries: DeliveryRecord[];
  /** findings of the check that were left as they are, with the reason */
  leftFindings: LeftFinding[];
  /** the tab below the readings: the logbook, the parts, or a list of the bench by its id */
  panel: string;
  camera?: CameraState;
}

export const startView = (): View => ({
  bench: 1,
  pick: 'nearest',
  gesture: '',
  through: false,
  brush: 24,
  mostTurn: 180,
  cage: true,
  smooth: false,
  level: 2,
  cageOpacity: 1,
  xray: false,
  seeThrough: 0,
  own: {},
  ranges: {},
  sides: [],
  floor: true,
  overlays: startOverlays(),
  activePart: '',
  deliveries: [],
  leftFindings: [],
  panel: 'logbook'
});

/** A stored view with what it lacks filled in. */
export function restoredView(stored: Record<string, unknown> | undefined): View {
  const base = startView();
  const view = { ...base, ...(stored as Partial<View> | undefined) };
  return { ...view, overlays: { ...base.overlays, ...view.overlays } };
}

/** Ids of the formats that a job was delivered as, the last one last. */
export const deliveredAs = ({ deliveries }: View): string[] => deliveries.map(({ format }) => format);

/** How a part is drawn: in its own way where it has one. */
export function lookOf({ cage, smooth, level, cageOpacity, xray, overlays, own }: View, part: string): DrawingSettings {
  return { cage, smooth, level, ...own[part], cageOpacity, xray, overlays: { ...overlays } };
}

/** What the jobs page tells of a job's parts. */
export function countsOf(parts: readonly Part[]): JobRecord['counts'] {
  const counts = { faces: 0, quads: 0, triangles: 0 };
  for (const { kind, mesh, cage } of parts) {
    if (kind === 'reference') counts.triangles += mesh!.faceStart.length - 1;
    else {
      counts.faces += cage!.faceCount;
      for (const f of cage!.faces()) if (cage!.faceSize(f) === 4) counts.quads++;
    }
  }
  return counts;
}
