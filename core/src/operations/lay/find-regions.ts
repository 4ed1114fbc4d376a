import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { cageFromRegions, type CageSettings, knownRegions, type KnownRegion } from '../../regions/cage-from-regions.ts';
import { regionNamed } from '../../regions/edit-regions.ts';
import { lengthInWords } from '../../numeric/length-words.ts';
import { emptySelection, selectFaces } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { counted } from '../shared/words.ts';

const angleField = (): Joi.NumberSchema => Joi.number().min(1).max(89).default(35).label('Regions end at bends over').unit('°').meta({ step: 5 });

/** Share of the surface that is left out from which on another way is told. */
const MUCH = 0.3;

/** The faces of a cage that a region's triangles are cut from. */
function facesOfRegion(faceIds: Int32Array, polygonOf: Uint32Array, { triangles }: KnownRegion): number[] {
  return [...new Set(triangles.map((t) => faceIds[polygonOf[t]]))];
}

/** How a region is named: by what it is, and its radius. */
const nameOf = ({ kind, radius, id }: KnownRegion): string => `${kind}${radius === undefined ? '' : ` ${lengthInWords(radius)}`} (${id + 1})`;

/** What is told of regions: how many of each kind, and those that can be no face. */
function told(regions: readonly KnownRegion[]): string[] {
  const many = new Map<string, number>();
  for (const { kind } of regions) many.set(kind, (many.get(kind) ?? 0) + 1);
  const notes = [`${counted(regions.length, 'region')}: ${[...many].map(([kind, n]) => `${n} ${kind}`).join(', ')}.`];
  const wrong = regions.filter(({ problem }) => problem);
  if (wrong.length > 0)
    notes.push(
      `${counted(wrong.length, 'can', 'can')} be no face of a cage: ${wrong
        .slice(0, 3)
        .map((region) => `${nameOf(region)}: ${region.problem}`)
        .join(' ')}`
    );
  return notes;
}

function run(cage: Cage, { angle }: Params): CageResult {
  const copy = cage.clone();
  const mesh = cage.toPolygons();
  const {
    regions,
    facets: { polygonOf }
  } = knownRegions(mesh, { angle: angle as number });
  for (const region of regions) {
    const id = regionNamed(copy, nameOf(region));
    for (const f of facesOfRegion(mesh.faceIds, polygonOf, region)) copy.setValue('region', f, id);
  }
  const wrong = regions.filter(({ problem }) => problem).flatMap((region) => facesOfRegion(mesh.faceIds, polygonOf, region));
  return { cage: copy, selection: wrong.length > 0 ? selectFaces(wrong) : emptySelection(), notes: told(regions) };
}

/** Finds the regions of a triangulated part by what its surfaces are. */
export const findRegionsOperation: CageOperation = {
  kind: 'cage',
  id: 'find-regions',
  bench: 2,
  group: 'Regions',
  name: 'Find regions',
  purpose: 'Part a triangulated mesh into regions by what its surfaces are: planes, cylinders, cones, balls, tori, fillets, and what is free.',
  icon: 'ShapeExcept',
  needs: 'Needs a cage with faces: bring the part in as a cage.',
  shows: 'regions',
  params: Joi.object({ angle: angleField() }),
  seconds: (cage) => 4e-6 * cage.faceCount,
  check: (cage) => (cage.faceCount > 0 ? undefined : { found: 'The part has no faces.', instead: 'Bring a triangulated part in as a cage.' }),
  run: (cage, _selection, params) => run(cage, params)
};

/** What the regions are read from: the reference where nothing is laid yet, else the part itself. */
const sourceOf = (cage: Cage, reference: PolygonMesh | undefined): PolygonMesh => (reference && cage.faceCount === 0 ? reference : cage.toPolygons());

/** Makes a cage whose faces are the regions of a triangulated part. */
export const cageFromRegionsOperation: CageOperation = {
  kind: 'cage',
  id: 'cage-from-regions',
  bench: 2,
  group: 'Regions',
  name: 'Cage from regions',
  purpose: 'Read each region of a triangulated part as one face of a cage, all quads; what can be no face is named with the reason.',
  icon: 'ShapeIntersect',
  needs: 'Needs a triangulated part: bring one in, as a reference or as a cage.',
  onReference: 'whole',
  params: Joi.object({
    read: Joi.string()
      .valid('found', 'carried')
      .default('found')
      .label('Regions')
      .meta({ labels: { found: 'Found by its surfaces', carried: 'As they are set' } }),
    angle: angleField().meta({ when: { field: 'read', is: 'found' } }),
    cuts: Joi.number()
      .integer()
      .min(0)
      .max(64)
      .default(4)
      .label('Corners of round borders')
      .description('0: rings, discs and holes are left out')
      .meta({ step: 1 })
  }),
  seconds: (cage) => 4e-6 * cage.faceCount,
  check: (cage, _selection, _params, { reference }) =>
    cage.faceCount > 0 || (reference && reference.faceVertices.length > 0)
      ? undefined
      : { found: 'There are no faces to find regions on.', instead: 'Bring a triangulated part in.' },
  run(cage, _selection, params, { reference }) {
    const source = sourceOf(cage, reference);
    const asCarried = params.read === 'carried';
    if (asCarried && !source.faceRegion)
      refuse('The part carries no regions.', undefined, 'Find regions, or set them by hand (bench 6), or have them found here.');
    const { cage: made, left, leftShare } = cageFromRegions(source, { ...(params as unknown as CageSettings), asCarried });
    if (made.faceCount === 0)
      refuse(`No region can be a face of a cage. ${left[0].problem}`, undefined, 'Try another angle, or set regions by hand.');
    const notes = [`A cage of ${counted(made.faceCount, 'face')}.`];
    if (left.length > 0)
      notes.push(
        `${counted(left.length, 'region is', 'regions are')} left out: ${left
          .slice(0, 3)
          .map((r) => `${nameOf(r)}: ${r.problem}`)
          .join(' ')}`
      );
    if (leftShare > MUCH)
      notes.push(`That is ${Math.round(100 * leftShare)} % of the surface: for a form without edges, Auto quads lays quads over it as a reference.`);
    return { cage: made, selection: emptySelection(), notes };
  }
};
