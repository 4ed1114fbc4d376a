import type { DragGesture, Pixel, Scene } from './gesture.ts';
import type { Triple } from '@ulvrin/core';

/** Pixels between two places of a stroke; of the size brush, whose touches are large. */
const [APART, SIZES_APART] = [4, 20];
/** Pixels within which a planned pole is meant; one on the far side counts as farther by the second. */
const [NEAR, BEHIND] = [14, 7];

/** Whether dragging draws strokes that steer auto quads. */
export const isSteered = ({ job }: Pick<Scene, 'job'>): boolean => job.laying.steering !== undefined && job.laying.steering.kind !== 'none';

/** The planned pole that is drawn at a place of the stand. */
function poleAt({ job, stand }: Scene, [x, y]: Pixel): Triple | undefined {
  let [best, least]: [Triple | undefined, number] = [undefined, NEAR];
  for (const { at } of job.laying.polePlan ?? []) {
    const [px, py] = stand.onScreen(at);
    // one on the side that is seen comes before one behind it
    let off = Math.hypot(px - x, py - y);
    if (off < least && stand.hides(at)) off += BEHIND;
    if (off < least) [best, least] = [at, off];
  }
  return best;
}

/** Notes a place of the surface under a stroke, some pixels on from the last one. @param stroke places so far; added to */
function drawOn(scene: Scene, stroke: Triple[], at: Pixel): void {
  const { job, stand } = scene;
  const { steering } = job.laying;
  const last = scene.drawn.at(-1);
  const apart = steering?.kind === 'size' ? SIZES_APART : APART;
  if (last && Math.hypot(at[0] - last[0], at[1] - last[1]) < apart) return;
  const onSurface = job.reference ? stand.referenceAt(...at)?.at : stand.surfaceAt(...at)?.at;
  const place = (stroke.length === 0 && steering?.kind === 'pole' && poleAt(scene, at)) || onSurface;
  if (!place) return;
  stroke.push(place);
  scene.drawn = [...scene.drawn, at];
}

/** Draws strokes on the surface that steer auto quads. */
export const steer: DragGesture = {
  id: 'steer',
  takesClicks: true,
  takes: isSteered,
  begin(scene, press) {
    const { job, stand } = scene;
    const stroke: Triple[] = [];
    scene.drawnAs = 'line';
    drawOn(scene, stroke, press.at);
    return {
      move: (at) => drawOn(scene, stroke, at),
      up(at) {
        drawOn(scene, stroke, at);
        if (stroke.length > 0) job.laying.steering?.add(stroke, stand.viewAxes[2]);
        else job.tell('info', 'The stroke does not lie on the surface.');
      }
    };
  }
};
