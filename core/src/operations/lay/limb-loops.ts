import Joi from 'joi';
import { fillHole } from '../../fill/fill-hole.ts';
import { holeAlong } from '../../fill/hole.ts';
import { layFaces, type LaidFaces } from '../../hand/lay-act.ts';
import { crossingLoops, type LimbLoop, loopsAlong, tubeThrough } from '../../hand/limb-loops.ts';
import { SurfaceWalk } from '../../hand/surface-walk.ts';
import { type Cage } from '../../mesh/cage.ts';
import { vertexNormal } from '../../mesh/normals.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { borderLoops } from '../../mesh/topology.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { length, mean, subtract, type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { type Axis } from '../../select/counterparts.ts';
import { selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal, type Surroundings } from '../operation.ts';
import { meetingNotes, NO_REFERENCE, suiting, weldField } from './laying.ts';
import { mirroredField } from '../shared/mirrored-field.ts';
import { counted } from '../shared/words.ts';

interface LimbParams {
  clicks: Triple[];
  count: number;
  weld: number;
  mirrored: 'none' | Axis;
  cap: 'none' | 'last' | 'both';
}

/** Loops round the limb at clicked places; nothing for those where none closes. */
function loopsAt(reference: PolygonMesh, clicks: readonly Triple[]): (LimbLoop | undefined)[] {
  const walk = SurfaceWalk.over(Reference.of(reference));
  return loopsAlong(
    walk,
    clicks.map((p) => walk.nearest(p))
  );
}

function check(_cage: Cage, _selection: Selection, params: Params, { reference }: Surroundings): Refusal | undefined {
  if (!reference) return NO_REFERENCE;
  const { clicks } = params as unknown as LimbParams;
  const loops = loopsAt(reference, clicks);
  const open = loops.findIndex((loop) => !loop);
  if (open >= 0) return { numbers: true, found: `Click ${open + 1}: no closed line runs round the reference there.`, instead: 'Click on a limb.' };
  if (clicks.length < 2)
    return {
      numbers: true,
      waits: true,
      found: clicks.length === 0 ? 'Click on a limb for a loop round it.' : 'One more click: loops become a tube.'
    };
  const [first] = crossingLoops(loops);
  if (first !== undefined)
    return {
      numbers: true,
      found: `Loops ${first + 1} and ${first + 2} cross each other.`,
      instead: 'Click farther along the limb.'
    };
  return undefined;
}

function run(cage: Cage, _selection: Selection, params: Params, { reference }: Surroundings): CageResult {
  const { clicks, count, weld, mirrored, cap } = params as unknown as LimbParams;
  const walk = SurfaceWalk.over(Reference.of(reference!));
  const loops = loopsAt(reference!, clicks) as LimbLoop[];
  const act = tubeThrough(walk, loops, count);
  const laid = layFaces(cage, act, weld, mirrored);
  const notes = [
    `A tube of ${counted(act.faces.length, 'quad')} through ${counted(loops.length, 'loop')}, ${loops.map((l) => lengthInWords(l.length)).join(', ')} round.`
  ];
  const caps = cap === 'none' ? [] : cappedEnds(laid, walk, cap === 'last' ? loops.slice(-1) : [loops[0], loops[loops.length - 1]], mirrored);
  if (cap !== 'none') notes.push(caps.length > 0 ? `Capped with ${counted(caps.length, 'face')}.` : 'No end is open: nothing was capped.');
  return { cage: laid.cage, selection: selectFaces([...laid.made, ...caps]), notes: [...notes, ...meetingNotes(laid, weld)] };
}

/** Caps the open ends of a tube where some of its loops lie, with quads on the reference. Changes the cage. @returns the new faces */
function cappedEnds({ cage, made }: LaidFaces, walk: SurfaceWalk, ends: readonly LimbLoop[], mirrored: 'none' | Axis): number[] {
  const own = new Set(made);
  const rims = borderLoops(cage).filter((halves) => halves.every((h) => own.has(cage.face[h ^ 1])));
  const middles = ends.map(({ line }) => mean(line));
  const images = mirrored === 'none' ? [] : middles.map((p) => p.map((x, k) => (k === 'XYZ'.indexOf(mirrored) ? -x : x)) as Triple);
  const off = (halves: readonly number[], p: Triple) => length(subtract(mean(halves.map((h) => cage.position(cage.origin[h]))), p));
  const meant = [...middles, ...images].flatMap((p) => [...rims].sort((a, b) => off(a, p) - off(b, p)).slice(0, 1));
  return [...new Set(meant)].flatMap((halves) => {
    const rim = new Set(halves.map((h) => cage.origin[h]));
    const faces = fillHole(cage, holeAlong(cage, halves), 'grid', { swell: 1 });
    for (const v of new Set(faces.flatMap((f) => cage.faceVertices(f))))
      if (!rim.has(v)) cage.positions.set(walk.nearest(cage.position(v), vertexNormal(cage, v))?.at ?? cage.position(v), 3 * v);
    return faces;
  });
}

/** Lays a tube of quads through loops round a limb. */
export const limbLoops: CageOperation = {
  kind: 'cage',
  id: 'limb-loops',
  bench: 2,
  key: 'V',
  name: 'Limb loops',
  purpose: 'Click along a limb: a loop runs round it at each place, and the loops become a tube of quads with equal counts and no twist.',
  icon: 'CircleOutline',
  needs: 'Needs a reference to lay on.',
  onReference: 'clicks',
  once: ['clicks'],
  hint: 'Click along a limb for loops round it. Backspace takes the last one back. Enter applies the tube.',
  params: Joi.object({
    count: Joi.number().integer().min(3).max(200).default(12).label('Vertices round').meta({ step: 1 }),
    weld: weldField(),
    mirrored: mirroredField(),
    cap: Joi.string()
      .valid('none', 'last', 'both')
      .default('none')
      .label('Cap')
      .meta({ labels: { none: 'Neither end', last: 'Where the clicks end', both: 'Both ends' } }),
    clicks: Joi.array().items(Joi.array().items(Joi.number()).length(3)).max(200).default([]).meta({ hidden: true })
  }),
  fits: (_positions, reference) => ({ weld: suiting(reference) }),
  check,
  run
};
