import Joi from 'joi';
import { type Place } from '../../hand/acts.ts';
import { bandAlong, bandProblem, type BandSettings, edgesAlong, endsOf, liesOverItself, onOneSide } from '../../hand/band.ts';
import { type BandPoint, bandPointsSchema, type BandWay, wayThrough } from '../../hand/band-way.ts';
import { layFaces } from '../../hand/lay-act.ts';
import { SurfaceWalk } from '../../hand/surface-walk.ts';
import { type Cage } from '../../mesh/cage.ts';
import { type Triple } from '../../numeric/vectors.ts';
import { Reference } from '../../reference/reference.ts';
import { type Axis } from '../../select/counterparts.ts';
import { selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal, type Surroundings } from '../operation.ts';
import { meetingNotes, NO_REFERENCE, suiting, weldField } from './laying.ts';
import { counted } from '../shared/words.ts';
import { mirroredField } from '../shared/mirrored-field.ts';

interface BandParams extends BandSettings {
  stroke: Triple[];
  points: BandPoint[];
  weld: number;
  welds: 'outline' | 'ends';
  mirrored: 'none' | Axis;
}

/** Width at first, as a share of the reference's diagonal. */
const WIDTH = 0.05;

/** The way that was drawn, or clicked; of one across a mirror the longer side. */
function wayOf({ stroke, points, closed, mirrored }: BandParams): BandWay {
  const way = points.length > 0 ? wayThrough(points, closed) : { places: stroke };
  return mirrored === 'none' ? way : onOneSide(way, 'XYZ'.indexOf(mirrored));
}

function check(_cage: Cage, _selection: Selection, params: Params, { reference }: Surroundings): Refusal | undefined {
  if (!reference) return NO_REFERENCE;
  const settings = params as unknown as BandParams;
  const way = wayOf(settings);
  const found = bandProblem(way, settings);
  if (found === undefined) return undefined;
  const isMissing = way.places.length < 2;
  if (settings.points.length === 1) return { numbers: true, waits: true, found: 'Click the next point of the band.' };
  return { numbers: true, waits: isMissing || undefined, found, instead: isMissing ? undefined : 'Draw a longer one, or make it narrower.' };
}

/** What an end of a band comes to lie on, where its count does not fit. */
function endNote(cage: Cage, places: readonly Place[], across: number, weld: number): string | undefined {
  const last = places.length - 1;
  const ends: [Place, Place][] = [
    [places[0], places[across]],
    [places[last - across], places[last]]
  ];
  const met = ends
    .map(([a, b]) =>
      edgesAlong(
        cage,
        [
          [a[0], a[1], a[2]],
          [b[0], b[1], b[2]]
        ],
        weld
      )
    )
    .find((edges) => edges > 0 && edges !== across);
  return met === undefined ? undefined : `An end lies on ${counted(met, 'edge')}: ${met} across would meet each of their vertices.`;
}

function run(cage: Cage, _selection: Selection, params: Params, { reference }: Surroundings): CageResult {
  const settings = params as unknown as BandParams;
  const { across, width, closed, weld, welds: where, mirrored } = settings;
  const { act } = bandAlong(SurfaceWalk.over(Reference.of(reference!)), wayOf(settings), settings);
  const only = where === 'ends' && !closed ? endsOf(act.places.length, across) : undefined;
  const laid = layFaces(cage, act, weld, mirrored, only);
  const notes = [`A band of ${counted(act.faces.length, 'quad')}, ${act.faces.length / across} along.`];
  notes.push(...meetingNotes(laid, weld));
  const end = closed ? undefined : endNote(cage, act.places, across, weld);
  if (end) notes.push(end);
  const middles = act.places.filter((_, i) => i % (across + 1) === Math.floor(across / 2)).map(([x, y, z]): Triple => [x, y, z]);
  if (liesOverItself(middles, width, closed)) notes.push('It comes to lie over itself: its faces would overlap there.');
  return { cage: laid.cage, selection: selectFaces(laid.made), notes };
}

/** Lays a strip of quads along a stroke. */
export const band: CageOperation = {
  kind: 'cage',
  id: 'band',
  bench: 2,
  key: 'C',
  name: 'Band',
  purpose: 'Lay a strip of quads along a stroke on the reference, open or closed; its ends and sides weld to what they come near.',
  icon: 'FlowStream',
  needs: 'Needs a reference to lay on.',
  onReference: 'stroke',
  goesOn: true,
  once: ['stroke', 'points'],
  hint: 'Drag over the reference for a band, or click its points. Drag a point: moves it. Enter applies. The card lists all.',
  gestures: [
    ['Drag', 'a band along the stroke'],
    ['Click', 'its points, one after another'],
    ['Drag a point', 'moves it'],
    ['Shift+click', 'a sharp bend at a point, or none'],
    ['Ctrl+click', 'takes a point out'],
    ['Alt+wheel', 'makes it wider or narrower at a point; with Shift turns it']
  ],
  params: Joi.object({
    across: Joi.number().integer().min(1).max(50).default(1).label('Quads across'),
    along: Joi.number().integer().min(0).max(2000).default(0).label('Quads along').description('0: as many as make them about square'),
    width: Joi.number().greater(0).max(1e5).default(4).label('Width').unit('mm').meta({ step: 0.5 }),
    closed: Joi.boolean().default(false).label('Closed'),
    weld: weldField(),
    welds: Joi.string()
      .valid('outline', 'ends')
      .default('outline')
      .label('Welds')
      .meta({ labels: { outline: 'All round', ends: 'At its ends only' } }),
    mirrored: mirroredField(),
    points: bandPointsSchema.meta({ hidden: true }),
    stroke: Joi.array().items(Joi.array().items(Joi.number()).length(3)).max(20_000).default([]).meta({ hidden: true })
  }),
  fits: (_positions, reference) => ({ width: suiting(reference, WIDTH), weld: suiting(reference) }),
  check,
  run
};
