import { positionOf, verticesOf, type PointedPlace, type Triple } from '@ulvrin/core';
import type { OpenJob } from '$lib/job/open-job.svelte.ts';
import type { Pixel, Scene } from './gesture.ts';

/** Picked vertices and the places clicked after them, as a face that is being drawn has them. */
export const cornersOf = ({ active, selection, pointing }: OpenJob): PointedPlace[] => [
  ...(active?.cage ? verticesOf(active.cage, selection).map((vertex) => ({ vertex })) : []),
  ...(pointing?.places ?? [])
];

/** The pixel nearest to another on a line through a third at a multiple of an angle. */
function alongStep([ax, ay]: Pixel, [x, y]: Pixel, degrees: number): Pixel {
  const step = (degrees * Math.PI) / 180;
  const angle = Math.round(Math.atan2(y - ay, x - ax) / step) * step;
  const long = Math.cos(angle) * (x - ax) + Math.sin(angle) * (y - ay);
  return [ax + long * Math.cos(angle), ay + long * Math.sin(angle)];
}

/** A new point in space: across the view as deep as the last one, on the plane of the last three, or on the reference. */
function newPoint({ job, stand }: Scene, at: Pixel, on: string): PointedPlace | undefined {
  const cage = job.active!.cage!;
  const known = cornersOf(job).map((p) => positionOf(cage, p));
  if (on === 'reference') {
    const hit = stand.referenceAt(...at)?.at;
    return hit && { at: hit };
  }
  const depth: Triple = known.at(-1) ?? stand.cameraState.target;
  let normal: Triple | undefined;
  if (on === 'plane') {
    if (known.length < 3) return void job.tell('info', 'The plane needs three corners: pick or click three first.');
    const [a, b, c] = known.slice(-3);
    const [u, v] = [b.map((q, k) => q - a[k]), c.map((q, k) => q - a[k])];
    normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  }
  const place = stand.pointOnPlane(...at, depth, normal);
  return place && { at: place };
}

/** Adds the place under the pointer to the points of the running operation. @param free a new corner, whatever of the cage lies there */
export function point(scene: Scene, at: Pixel, free: boolean): void {
  const { job, stand } = scene;
  const { kind, places } = job.pointing!;
  const cage = job.active!.cage!;
  const params = job.running!.params as { angle?: number; reach?: string; newOn?: string };
  const last = places.at(-1);
  const aimed = params.angle && last ? alongStep(stand.onScreen(positionOf(cage, last)), at, Number(params.angle)) : at;
  const through = params.reach === 'through';
  const onCage = kind === 'space' || (free && kind === 'corners') ? undefined : stand.placeAt(...aimed);
  const isMeant = onCage && (kind === 'cage' || !('face' in onCage));
  const place = isMeant ? onCage : kind === 'cage' && !through ? undefined : newPoint(scene, aimed, params.newOn ?? 'view');
  if (!place) return job.tell('info', params.newOn === 'reference' ? 'The pointer is not over a reference.' : 'Nothing of the cage lies there.');
  job.setParams({ points: [...places, place], ...(through && stand.sight) });
}
