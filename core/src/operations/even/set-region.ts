import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { facesByIsland } from '../../mesh/topology.ts';
import { flatPanels, floodedTo, regionList, regionName, regionNamed, withNeighbours } from '../../regions/edit-regions.ts';
import { regionsOf } from '../../select/finds.ts';
import { facesOf, selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { counted } from '../shared/words.ts';

const ways = ['picked', 'flood', 'grow', 'merge', 'name', 'islands', 'panels', 'clear'] as const;

interface RegionParams {
  by: (typeof ways)[number];
  angle: number;
  name: string;
}

/** Ways that need nothing picked. */
const ofAll = (by: RegionParams['by']) => by === 'islands' || by === 'panels' || by === 'clear';

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const { by, name } = params as unknown as RegionParams;
  if (cage.faceCount === 0) return { found: 'The part has no faces.', instead: 'Lay or bring in faces first.' };
  const faces = facesOf(cage, selection);
  if (!ofAll(by) && faces.length === 0)
    return { numbers: true, found: 'No face is picked.', instead: 'Pick faces, or take all pieces or flat panels as regions.' };
  if (by === 'name' && name.trim() === '') return { numbers: true, found: 'The region needs a name.', instead: 'Type one.' };
  if (by === 'merge' && new Set(faces.map((f) => cage.value('region', f))).size < 2)
    return {
      numbers: true,
      found: 'The picked faces are in one region already.',
      where: selectFaces(faces),
      instead: 'Pick faces of two regions or more.'
    };
  if (by === 'clear' && regionList(cage).length === 0)
    return { numbers: true, found: 'The part has no regions to clear.', instead: 'Make one first.' };
  return undefined;
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { by, angle, name } = params as unknown as RegionParams;
  const copy = cage.clone();
  const faces = facesOf(cage, selection);
  const put = (members: Iterable<number>, id: number) => {
    for (const f of members) copy.setValue('region', f, id);
  };
  if (by === 'islands' || by === 'panels') {
    copy.regionNames = [];
    const groups = by === 'islands' ? facesByIsland(cage) : flatPanels(cage, angle);
    copy.regionNames = groups.map((_, i) => `${by === 'islands' ? 'Piece' : 'Panel'} ${i + 1}`);
    groups.forEach((group, i) => put(group, i));
    return { cage: copy, selection, notes: [`${counted(groups.length, 'region')}.`] };
  }
  if (by === 'clear') {
    copy.layers.delete('region');
    copy.regionNames = [];
    return { cage: copy, selection, notes: ['All faces are in one region again.'] };
  }
  if (by === 'merge' || by === 'name') {
    const members = regionsOf(cage, selection).faces;
    const id = by === 'name' && name.trim() !== '' ? regionNamed(copy, name) : cage.value('region', faces[0]);
    put(members, id);
    return { cage: copy, selection: selectFaces(members), notes: [`${regionName(copy, id)}: ${counted(members.length, 'face')}.`] };
  }
  const members = by === 'flood' ? floodedTo(cage, faces, angle) : by === 'grow' ? grownRegions(cage, faces) : new Set(faces);
  const id = by === 'grow' ? cage.value('region', faces[0]) : regionNamed(copy, name);
  put(members, id);
  return { cage: copy, selection: selectFaces(members), notes: [`${regionName(copy, id)}: ${counted(members.size, 'face')}.`] };
}

/** Faces of the first picked face's region, and those beside it. */
const grownRegions = (cage: Cage, faces: readonly number[]) => withNeighbours(cage, regionsOf(cage, selectFaces([faces[0]])).faces);

const when = (is: string) => ({ when: { field: 'by', is } });

/** Makes and changes regions: named groups of faces whose outlines can be held. */
export const setRegion: CageOperation = {
  kind: 'cage',
  id: 'set-region',
  bench: 6,
  group: 'Regions and colours',
  name: 'Set region',
  purpose: 'Make regions: of picked faces, of all up to sharp edges, of pieces or of flat panels; grow, merge, name and clear them.',
  icon: 'Group',
  needs: 'Needs a part with faces.',
  shows: 'regions',
  params: Joi.object({
    by: Joi.string()
      .valid(...ways)
      .default('picked')
      .label('Region of')
      .meta({
        labels: {
          picked: 'The picked faces',
          flood: 'All from the picks up to sharp edges',
          grow: 'The region of the first pick, grown by a row',
          merge: 'All regions of the picks, as one',
          name: 'The regions of the picks, under a name',
          islands: 'Every piece',
          panels: 'Every flat panel',
          clear: 'Clear all regions'
        }
      }),
    name: Joi.string().allow('').max(60).default('').label('Name').meta(when('picked|flood|name')),
    angle: Joi.number()
      .min(0.1)
      .max(180)
      .default(30)
      .label('Turns by less than')
      .unit('°')
      .meta({ step: 5, ...when('flood|panels') })
  }),
  check,
  run
};
