import {
  cornerClicked,
  cutAcross,
  edgeNear,
  filledAlong,
  filledOnReference,
  intentAt,
  joinedBy,
  openRow,
  pendingOf,
  pulledOut,
  Reference,
  rowAcross,
  scaled,
  slidRow,
  slidTo,
  subtract,
  SurfaceWalk,
  there,
  type Act,
  type Anchor,
  type Cage,
  type Intent,
  type Place,
  type RowWay
} from '@ulvrin/core';
import type { Drag, DragGesture, Pixel, Press, Scene } from './gesture.ts';

/** Pixels within which a vertex or an edge is under the pointer, and by which a click may be off. */
export const [NEAR, STILL] = [9, 4];

export type Ground = Pick<Scene, 'job' | 'stand'>;

/** Whether quads are laid on the reference. */
export const laysOn = (job: Pick<Scene['job'], 'running'>): boolean => filledOnReference(job.running?.operation) !== undefined;

/** Whether that is done by clicks and drags; otherwise by strokes. */
export const lays = (job: Pick<Scene['job'], 'running'>): boolean => filledOnReference(job.running?.operation) === 'acts';

/** What has been done so far. */
export const actsOf = ({ job }: Pick<Scene, 'job'>): readonly Act[] => (job.running?.params.acts ?? []) as readonly Act[];

/** What is laid on: the cage as it is now, and the walk over the reference. */
function groundOf({ job }: Ground): { cage: Cage; walk: SurfaceWalk; weld: number } | undefined {
  const cage = job.preview?.cage ?? job.active?.cage;
  const mesh = job.reference?.mesh;
  return cage && mesh ? { cage, walk: SurfaceWalk.over(Reference.of(mesh)), weld: Number(job.running?.params.weld) } : undefined;
}

/** Where the pointer is on the reference. */
function anchorAt({ stand }: Ground, walk: SurfaceWalk, at: Pixel): Anchor | undefined {
  const hit = stand.referenceAt(...at);
  return hit && walk.nearest(hit.at, hit.normal);
}

/** What is meant at a pixel; nothing beside the reference. */
export function meantAt(ground: Ground, at: Pixel): { intent: Intent; pointer: Anchor } | undefined {
  const known = groundOf(ground);
  const pointer = known && anchorAt(ground, known.walk, at);
  if (!known || !pointer) return undefined;
  const { seeThrough } = ground.job.view;
  const sight = seeThrough > 0 ? { way: scaled(ground.stand.viewAxes[2], -1), deep: seeThrough } : undefined;
  const intent = intentAt(known.cage, known.walk, pointer, { near: NEAR * ground.stand.scale, weld: known.weld, sight });
  // a face that was begun is ended first: its next corner may lie beside others
  const isBegun = pendingOf(actsOf(ground)).length > 0;
  return { intent: isBegun && intent.over === 'beside' ? { over: 'surface' } : intent, pointer };
}

/** Does acts; what cannot be done is told, and left. @returns whether it was done */
function perform({ job }: Pick<Scene, 'job'>, before: readonly Act[], acts: readonly Act[]): boolean {
  job.setParams({ acts: [...before, ...acts] });
  const refusal = job.preview?.refusal;
  if (!refusal || refusal.waits) return true;
  job.setParams({ acts: before });
  job.tell('error', refusal.found);
  return false;
}

/** Takes out the vertex under the pointer, or the face. */
function erase(scene: Scene, intent: Intent, at: Pixel): void {
  const { cage } = groundOf(scene)!;
  const acts = actsOf(scene);
  if (intent.over === 'vertex') return void perform(scene, acts, [{ do: 'erase', faces: [], vertices: [there(cage.position(intent.vertex))] }]);
  const hit = scene.stand.surfaceAt(...at);
  if (!hit || !cage.hasFace(hit.face)) return scene.job.tell('info', 'There is nothing laid to erase here.');
  perform(scene, acts, [{ do: 'erase', faces: [cage.faceVertices(hit.face).map((v) => there(cage.position(v)))], vertices: [] }]);
}

/** Cuts a loop across the edge under the pointer; beside what is laid a face is begun apart from it. */
function cut(scene: Scene, at: Pixel): void {
  const { cage, walk } = groundOf(scene)!;
  const hit = scene.stand.surfaceAt(...at);
  const near = hit && cage.hasFace(hit.face) ? edgeNear(cage, hit.face, hit.at) : undefined;
  const apart = near ? undefined : anchorAt(scene, walk, at);
  if (apart) return void perform(scene, actsOf(scene), cornerClicked(walk, actsOf(scene), apart.at));
  const act = near && cutAcross(cage, walk, near.half, Math.min(0.95, Math.max(0.05, near.share)));
  if (act) return void perform(scene, actsOf(scene), [act]);
  scene.job.tell(
    'info',
    near ? 'No loop can run across that edge: there is no quad beside it, or the loop crosses itself.' : 'There is nothing laid to cut here.'
  );
}

/** A click, where nothing was dragged. @param onwards fills on between two rows */
function clicked(scene: Ground, { intent, pointer }: { intent: Intent; pointer: Anchor }, onwards: boolean): void {
  const { cage, walk } = groundOf(scene)!;
  const acts = actsOf(scene);
  if (onwards && (intent.over === 'beside' || intent.over === 'edge')) {
    const filled = filledAlong(cage, walk, intent.half);
    if (filled) return void perform(scene, acts, [filled]);
  }
  const corner = (place: Place) => void perform(scene, acts, cornerClicked(walk, acts, place));
  if (intent.over === 'vertex') return corner(there(cage.position(intent.vertex)));
  if (intent.over === 'surface' || (intent.over === 'edge' && pendingOf(acts).length > 0)) return corner(pointer.at);
  if (intent.over === 'beside') perform(scene, acts, [{ do: 'faces', places: intent.corners, faces: [intent.corners.map((_, i) => i)] }]);
}

/** Drags a vertex over the reference; dropped on another one it welds. */
function slides(scene: Scene, vertex: number): Drag {
  const before = actsOf(scene);
  const { cage, walk, weld } = groundOf(scene)!;
  let last: ReturnType<typeof slidTo> | undefined;
  // beside the reference it stays where it was last
  const slid = (at: Pixel) => {
    const pointer = anchorAt(scene, walk, at);
    return pointer ? (last = slidTo(cage, vertex, pointer.at, weld)) : last;
  };
  return {
    move(at) {
      const act = slid(at);
      // a weld is done when it is dropped
      if (act) scene.job.setParams({ acts: [...before, act.do === 'weld' ? { do: 'move', from: act.from, to: act.onto.map(beside) } : act] });
    },
    up(at) {
      const act = slid(at);
      if (act) perform(scene, before, [act]);
    }
  };
}

/** Drags the whole row through a vertex over the reference: the one that the pointer goes across. */
function slidesRow(scene: Scene, vertex: number): Drag {
  const before = actsOf(scene);
  const { cage, walk } = groundOf(scene)!;
  let row: ReturnType<typeof rowAcross>;
  let last: ReturnType<typeof slidRow> | undefined;
  const { rows, join, weld } = scene.job.running!.params as { rows: RowWay; join: boolean; weld: number };
  const slide = (at: Pixel) => {
    const pointer = anchorAt(scene, walk, at);
    if (!pointer) return;
    row ??= rowAcross(cage, vertex, subtract(pointer.at, cage.position(vertex)));
    if (row) last = slidRow(cage, walk, row, vertex, pointer.at, rows);
    if (last) perform(scene, before, [last]);
  };
  return {
    move: slide,
    up(at) {
      slide(at);
      const joined = last && join ? joinedBy(cage, last, weld) : undefined;
      if (joined) perform(scene, [...before, last!], [joined]);
    }
  };
}

/** A place a hair beside another: two vertices at one place could not be told apart. */
const beside = ([x, y, z]: Place): Place => [x + 1e-6, y, z];

/** Drags a row of quads out of a border edge, or out of all that follow it. */
function pulls(scene: Scene, half: number, whole: boolean): Drag {
  const before = actsOf(scene);
  const { cage, walk, weld } = groundOf(scene)!;
  const row = openRow(cage, half, whole);
  let last: Act | undefined;
  const pull = (at: Pixel) => {
    const pointer = anchorAt(scene, walk, at);
    if (pointer) last = pulledOut(cage, walk, row, row.halves.indexOf(half), pointer.at, weld).act;
    return last ? perform(scene, before, [last]) : false;
  };
  return { move: pull, up: pull };
}

/** Lays quads on the reference by clicking and dragging. */
export const lay: DragGesture = {
  id: 'lay',
  takesClicks: true,
  takes: ({ job }) => lays(job),
  begin(scene: Scene, press: Press) {
    const meant = meantAt(scene, press.at);
    if (!meant) {
      scene.job.tell('info', 'The pointer is not over the reference.');
      return { move: () => undefined, up: () => undefined };
    }
    const { intent } = meant;
    const isHeld = press.how !== 'take' && intent.over !== 'surface';
    let drag: Drag | undefined;
    return {
      move(at) {
        if (!isHeld || (!drag && Math.hypot(at[0] - press.at[0], at[1] - press.at[1]) < STILL)) return;
        const whole = press.how === 'add';
        if (intent.over === 'vertex') drag ??= (whole ? slidesRow : slides)(scene, intent.vertex);
        else drag ??= pulls(scene, (intent as { half: number }).half, whole);
        drag.move(at);
      },
      up(at) {
        if (drag) return drag.up(at);
        if (press.how === 'take') return erase(scene, intent, at);
        if (press.alt) return cut(scene, at);
        clicked(scene, meant, press.how === 'add');
      }
    };
  }
};
