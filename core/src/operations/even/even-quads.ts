import Joi from 'joi';
import { lengthStatistics } from '../../check/measures.ts';
import { evenedByEnergy } from '../../even/even-energy.ts';
import { linesOfCage, type NetLines } from '../../even/held-lines.ts';
import { type Cage } from '../../mesh/cage.ts';
import { isEmpty, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { outlineOf } from '../shared/extrude-walls.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';
import { heldFields } from '../shared/held-fields.ts';
import { edgeLengthField } from '../shared/edge-length-field.ts';

/** Seconds a vertex takes, as measured. */
const SECONDS = 2.5e-4;

const verticesFor = (cage: Cage, selection: Selection): number[] => (isEmpty(selection) ? [...cage.vertices()] : verticesOf(cage, selection));

function linesFor(cage: Cage, selection: Selection, { borders, creases, regions, outline }: Params): NetLines {
  const held = { borders: borders === true, creases: creases === true, regions: regions === true };
  return linesOfCage(cage, held, outline && selection.faces.length > 0 ? outlineOf(cage, selection.faces).map((h) => h >> 1) : []);
}

function check(cage: Cage, _selection: Selection, _params: Params): Refusal | undefined {
  return cage.faceCount === 0 ? { found: 'The part has no faces to even out.', instead: 'Lay or bring in faces first.' } : undefined;
}

/** Spread of the lengths of the edges between some vertices. */
function spreadOf(cage: Cage, vertices: readonly number[]): number {
  const own = new Set(vertices);
  const inside = [...cage.edges()].filter((e) => own.has(cage.origin[2 * e]) && own.has(cage.origin[2 * e + 1]));
  return lengthStatistics(inside.map((e) => cage.edgeLength(e))).spread;
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const vertices = verticesFor(cage, selection);
  const length = params.by === 'mm' ? (params.length as number) : undefined;
  const made = evenedByEnergy(cage, vertices, linesFor(cage, selection, params), { length });
  return {
    cage: made,
    selection,
    notes: [`Spread of edge lengths ${spreadOf(cage, vertices).toFixed(2)} to ${spreadOf(made, vertices).toFixed(2)}, on the surface as it was.`]
  };
}

/** Slides the vertices of an area so that its quads are as even and square as they can be. */
export const evenQuads: CageOperation = {
  kind: 'cage',
  id: 'even-quads',
  bench: 6,
  group: 'Form',
  name: 'Even quads',
  purpose: 'Slide the vertices of what is picked, or of the whole part, so that its quads are as even and square as can be; the surface stays.',
  icon: 'Grid',
  needs: 'Needs a part with faces.',
  heedsMask: true,
  keepsSurface: 'there too',
  params: Joi.object({
    by: Joi.string()
      .valid('mean', 'mm')
      .default('mean')
      .label('Edges')
      .meta({ labels: { mean: 'All of their mean length', mm: 'By mm' } }),
    length: edgeLengthField(),
    ...heldFields({ borders: false, creases: false, regions: true, outline: true }, { more: true }),
    keepSurface: keepSurfaceField().meta({ more: true })
  }),
  seconds: (cage, selection) => SECONDS * verticesFor(cage, selection).length,
  check,
  run
};
