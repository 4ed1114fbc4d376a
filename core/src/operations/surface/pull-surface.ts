import Joi from 'joi';
import { add, type Triple } from '../../numeric/vectors.ts';
import { pulledTo, surfacePlaceAt } from '../../refit/limit-pulled.ts';
import { emptySelection } from '../../select/selection.ts';
import { type CageOperation } from '../operation.ts';
import { counted } from '../shared/words.ts';
import { elementAt, facesAt, placeExists, pointedPlaces, positionOf, type PointedPlace } from '../shared/places.ts';

const way = (axis: string) => Joi.number().default(0).label(axis).unit('mm').meta({ step: 0.5 });

/** Drags a point of the smooth surface; the cage follows. */
export const pullSurface: CageOperation = {
  kind: 'cage',
  id: 'pull-surface',
  bench: 4,
  key: 'B',
  group: 'Surface',
  name: 'Pull surface',
  purpose:
    'Move the smooth surface at a point, by dragging it or by typed mm: the cage near it moves as little as can be so that the surface passes there.',
  icon: 'TouchInteraction',
  needs: 'A cage with faces.',
  pointed: 'surface',
  once: ['points', 'x', 'y', 'z'],
  hint: 'Drag a point of the smooth surface across the view, or click it and type how far. Enter applies, Esc discards.',
  params: Joi.object({ points: pointedPlaces(false), x: way('X'), y: way('Y'), z: way('Z') }),
  check: (cage, _selection, params) => {
    const [place] = (params.points ?? []) as PointedPlace[];
    if (!place) return { found: 'No point of the surface is chosen.', instead: 'Click a point of the smooth surface, or drag it.' };
    if (!placeExists(cage, place)) return { found: 'The point lies on an element that is not there any more.', instead: 'Click it again.' };
    return facesAt(cage, place).length > 0
      ? undefined
      : { found: 'There is no face at the point.', where: elementAt(place), instead: 'Point at the smooth surface again.' };
  },
  run: (cage, selection, params, { surface }) => {
    const { points, x, y, z } = params as unknown as { points: PointedPlace[]; x: number; y: number; z: number };
    const place = points[0];
    const start = surfacePlaceAt(cage, facesAt(cage, place)[0], positionOf(cage, place), surface);
    const goal: Triple = add(start.at, [x, y, z]);
    const notes = [
      `${counted(start.vertices.length, 'vertex', 'vertices')} of the cage moved; the surface passes ${Math.hypot(x, y, z).toFixed(2)} mm from where it was.`
    ];
    return { cage: pulledTo(cage, start, goal), selection: selection ?? emptySelection(), notes };
  }
};
