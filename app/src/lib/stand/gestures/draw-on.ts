import { filledOnReference, type BandPoint, type Triple } from '@ulvrin/core';
import type { Drag, DragGesture, Pixel, Press, Scene } from './gesture.ts';
import { NEAR, STILL, type Ground } from './lay.ts';

/** Draws over the reference; what goes off its edge is left out. @param draw gets the places so far */
function drawsOn({ stand }: Scene, draw: (places: Triple[]) => void): { at(pixel: Pixel): void; drawn(): number } {
  const places: Triple[] = [];
  let last: Pixel | undefined;
  return {
    at(pixel) {
      if (last && Math.hypot(pixel[0] - last[0], pixel[1] - last[1]) < STILL) return;
      const hit = stand.referenceAt(...pixel);
      if (!hit) return;
      places.push(hit.at);
      last = pixel;
      draw([...places]);
    },
    drawn: () => places.length
  };
}

/** The points that a band was clicked with. */
export const bandPointsOf = ({ running }: Pick<Scene['job'], 'running'>): readonly BandPoint[] =>
  filledOnReference(running?.operation) === 'stroke' ? (running!.params.points as readonly BandPoint[]) : [];

/** The number of the band's point at a pixel; -1 where there is none. */
const bandPointAt = ({ job, stand }: Ground, [x, y]: Pixel): number =>
  bandPointsOf(job).findIndex(({ at }) => {
    const [px, py] = stand.onScreen(at);
    return Math.hypot(px - x, py - y) <= NEAR;
  });

/** Changes one of the band's points; without a change it is taken out. */
function changePoint(job: Scene['job'], i: number, change?: Partial<BandPoint>): void {
  const points = bandPointsOf(job);
  job.setParams({ points: change ? points.with(i, { ...points[i], ...change }) : points.toSpliced(i, 1) });
}

/** A step of the wheel over a point of a band makes it wider there, or turns it. @returns whether there is one */
export function wheelOnPoint(ground: Ground, at: Pixel, by: number, turns: boolean): boolean {
  const i = bandPointAt(ground, at);
  if (i < 0) return false;
  const { wide, turn } = bandPointsOf(ground.job)[i];
  const change = turns ? { turn: Math.min(80, Math.max(-80, turn - 5 * by)) } : { wide: Math.min(20, Math.max(0.05, wide * 1.1 ** -by)) };
  changePoint(ground.job, i, change);
  return true;
}

/** A press on a point of a band: it is dragged, bent, or taken out. */
function onBandPoint({ job, stand }: Scene, i: number, press: Press): Drag {
  const { kink } = bandPointsOf(job)[i];
  let dragged = false;
  return {
    move(at) {
      dragged ||= Math.hypot(at[0] - press.at[0], at[1] - press.at[1]) >= STILL;
      const hit = dragged && press.how === 'instead' ? stand.referenceAt(...at) : undefined;
      if (hit) changePoint(job, i, { at: hit.at });
    },
    up() {
      if (dragged || press.how === 'instead') return;
      changePoint(job, i, press.how === 'add' ? { kink: !kink } : undefined);
    }
  };
}

/** Draws the stroke that a band is laid along, or clicks its points. */
export const stroke: DragGesture = {
  id: 'band',
  takesClicks: true,
  takes: ({ job }) => filledOnReference(job.running?.operation) === 'stroke',
  begin(scene: Scene, press: Press) {
    const { job, stand } = scene;
    const point = bandPointAt(scene, press.at);
    if (point >= 0) return onBandPoint(scene, point, press);
    let pen: ReturnType<typeof drawsOn> | undefined;
    return {
      move(at) {
        if (!pen && Math.hypot(at[0] - press.at[0], at[1] - press.at[1]) < STILL) return;
        if (!pen) {
          pen = drawsOn(scene, (places) => job.setParams({ stroke: places, points: [] }));
          pen.at(press.at);
        }
        pen.at(at);
      },
      up(at) {
        if (pen) {
          pen.at(at);
          if (pen.drawn() === 0) job.tell('info', 'The stroke does not lie on the reference.');
          return;
        }
        const hit = stand.referenceAt(...press.at);
        if (!hit) return job.tell('info', 'The pointer is not over the reference.');
        job.setParams({ stroke: [], points: [...bandPointsOf(job), { at: hit.at, wide: 1, turn: 0, kink: false }] });
      }
    };
  }
};

/** The strokes that have been drawn for a skin. */
export const strokesOf = ({ running }: Pick<Scene['job'], 'running'>): readonly Triple[][] =>
  filledOnReference(running?.operation) === 'strokes' ? (running!.params.strokes as readonly Triple[][]) : [];

/** Draws strokes that become a skin, one after the other. */
export const strokes: DragGesture = {
  id: 'sections',
  takesClicks: true,
  takes: ({ job }) => filledOnReference(job.running?.operation) === 'strokes',
  begin(scene: Scene, press: Press) {
    const { job } = scene;
    const before = strokesOf(job);
    const pen = drawsOn(scene, (places) => job.setParams({ strokes: [...before, places] }));
    pen.at(press.at);
    return {
      move: pen.at,
      up(at) {
        pen.at(at);
        if (pen.drawn() > 1) return;
        job.setParams({ strokes: before });
        job.tell('info', pen.drawn() === 0 ? 'The stroke does not lie on the reference.' : 'Drag for a stroke: one place makes no section.');
      }
    };
  }
};

/** Clicks places that loops run round a limb at. */
export const clicks: DragGesture = {
  id: 'limb-clicks',
  takesClicks: true,
  takes: ({ job }) => filledOnReference(job.running?.operation) === 'clicks',
  begin: ({ job, stand }: Scene, press: Press) => ({
    move: () => undefined,
    up() {
      const hit = stand.referenceAt(...press.at);
      if (!hit) return job.tell('info', 'The pointer is not over the reference.');
      const before = clicksOf(job);
      job.setParams({ clicks: [...before, hit.at] });
      const refusal = job.preview?.refusal;
      if (!refusal || refusal.waits) return;
      job.setParams({ clicks: before });
      job.tell('error', [refusal.found, refusal.instead].filter(Boolean).join(' '));
    }
  })
};

/** Places that have been clicked for loops. */
export const clicksOf = ({ running }: Pick<Scene['job'], 'running'>): readonly Triple[] => (running?.params.clicks ?? []) as readonly Triple[];
