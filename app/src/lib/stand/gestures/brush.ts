import { between, dabsIn, faceNormal, isBrush, length, subtract, withDab, type Params, type Triple } from '@ulvrin/core';
import type { DragGesture, Pixel, Scene } from './gesture.ts';

/** Pixels between two touches, and touches that a stroke holds at most. */
const [APART, MOST_DABS] = [4, 4000];

/** Whether a brush is in hand. */
export const brushes = ({ job }: Pick<Scene, 'job'>): boolean => isBrush(job.running?.operation);

/** Where a brush lies on the surface under a pixel: the place, and the normal of the face there. */
export function brushAt({ job, stand }: Pick<Scene, 'job' | 'stand'>, at: Pixel): { at: Triple; normal: Triple } | undefined {
  const cage = job.draft.preview?.cage ?? job.active?.cage;
  if (!cage && job.document.dense) return stand.referenceAt(...at);
  const hit = stand.surfaceAt(...at);
  return hit && cage?.hasFace(hit.face) ? { at: hit.at, normal: faceNormal(cage, hit.face) } : undefined;
}

/** A brush's radius, or its strength, a step of the wheel on. */
export function turned({ radius, strength }: Params, way: number, ofStrength: boolean): Params {
  if (ofStrength) return { strength: Math.min(100, Math.max(0, Number(strength) - 5 * way)) };
  return { radius: Number((Number(radius) * 1.1 ** -way).toPrecision(3)) };
}

/** Brushes over the surface: each stroke becomes an entry, and the brush stays in hand. */
export const brush: DragGesture = {
  id: 'brush',
  takesClicks: true,
  takes: brushes,
  begin(scene, press) {
    const { job, stand } = scene;
    const begun = brushAt(scene, press.at);
    if (!begun) {
      job.tell('info', 'Begin the stroke on the surface.');
      return { move: () => undefined, up: () => undefined };
    }
    const way = press.how === 'take' ? -1 : 1;
    let [last, onPlane]: [Pixel, Triple] = [press.at, begun.at];
    // it can trail behind the pointer, so that an unsteady hand draws a steady line
    const lag = Number(job.running?.params.lag ?? 0);
    let stroke: number[] = [];
    const touch = (pixel: Pixel, by: Triple) => {
      // a pull goes on beside the surface; what goes through the part goes the way it is looked at
      const place = { ...begun, ...brushAt(scene, pixel), ...(job.running?.params.through === true && { normal: stand.viewAxes[2] }) };
      stroke = withDab(stroke, { ...place, by, pressure: way * scene.pressure });
      job.setParams({ dabs: stroke });
    };
    touch(press.at, [0, 0, 0]);
    return {
      move(pixel) {
        if (dabsIn(stroke) >= MOST_DABS) return;
        // how far the pointer has gone, in the plane across the view through where the stroke began
        const pointed = stand.pointOnPlane(...pixel, begun.at);
        const away = pointed ? length(subtract(pointed, onPlane)) : 0;
        if (!pointed || away <= lag) return;
        const goal = lag > 0 ? between(onPlane, pointed, 1 - lag / away) : pointed;
        const at = lag > 0 ? stand.onScreen(goal) : pixel;
        if (Math.hypot(at[0] - last[0], at[1] - last[1]) < APART) return;
        touch(at, subtract(goal, onPlane));
        [last, onPlane] = [at, goal];
      },
      up: () => job.apply(true)
    };
  }
};
