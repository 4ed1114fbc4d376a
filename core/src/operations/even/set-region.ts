import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { facesByIsland } from '../../mesh/topology.ts';
import { flatPanels, floodedTo, regionList, regionName, regionNamed, withNeighbours } from '../../regions/edit-regions.ts';
import { piecesAlong, quadGroups, snappedToSharp } from '../../regions/correct-regions.ts';
import { regionsOf } from '../../select/finds.ts';
import { facesOf, selectEdges, selectFaces, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { counted } from '../shared/words.ts';

const ways = ['picked', 'flood', 'grow', 'merge', 'split', 'name', 'islands', 'panels', 'quads', 'snap', 'clear'] as const;

interface RegionParams {
  by: (typeof ways)[number];
  angle: number;
  name: string;
  rows: number;
}

/** Ways that need nothing picked. */
const needsNothing: readonly RegionParams['by'][] = ['islands', 'panels', 'quads', 'snap', 'clear'];
/** Ways that part a whole cage anew: the groups they make, and what these are called. */
const partitions: Partial<Record<RegionParams['by'], { called: string; groups: (cage: Cage, angle: number) => number[][] }>> = {
  islands: { called: 'Piece', groups: facesByIsland },
  panels: { called: 'Panel', groups: flatPanels },
  quads: { called: 'Quad', groups: quadGroups }
};

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const { by, name } = params as unknown as RegionParams;
  if (cage.faceCount === 0) return { found: 'The part has no faces.', instead: 'Lay or bring in faces first.' };
  if (by === 'split') return checkSplit(cage, selection);
  if (by === 'snap' && regionList(cage).length === 0)
    return { numbers: true, found: 'The part has no regions to snap.', instead: 'Make some first.' };
  const faces = facesOf(cage, selection);
  if (!needsNothing.includes(by) && faces.length === 0)
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

function checkSplit(cage: Cage, { edges }: Selection): Refusal | undefined {
  if (edges.length === 0) return { numbers: true, found: 'No edge is picked.', instead: 'Pick the edges to split along.' };
  return piecesAlong(cage, edges).length > 0
    ? undefined
    : {
        numbers: true,
        found: 'The picked edges do not split a region.',
        where: selectEdges(edges),
        instead: 'Pick a path from border to border of the region, or all the way round.'
      };
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const { by, angle, name, rows } = params as unknown as RegionParams;
  const copy = cage.clone();
  const faces = facesOf(cage, selection);
  const put = (members: Iterable<number>, id: number) => {
    for (const f of members) copy.setValue('region', f, id);
  };
  const partition = partitions[by];
  if (partition) {
    const groups = partition.groups(cage, angle);
    copy.regionNames = groups.map((_, i) => `${partition.called} ${i + 1}`);
    groups.forEach((group, i) => put(group, i));
    return { cage: copy, selection, notes: [`${counted(groups.length, 'region')}.`] };
  }
  if (by === 'split') {
    const pieces = piecesAlong(cage, selection.edges);
    for (const piece of pieces) put(piece, regionNamed(copy, ''));
    return { cage: copy, selection: selectFaces(pieces.flat()), notes: [`${counted(pieces.length, 'new region')}.`] };
  }
  if (by === 'snap') {
    const changed = snappedToSharp(cage, rows, angle);
    for (const [f, id] of changed) copy.setValue('region', f, id);
    return { cage: copy, selection: selectFaces(changed.keys()), notes: [`${counted(changed.size, 'face')} changed region.`] };
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
  purpose:
    'Make regions: of picked faces, of all up to sharp edges, of pieces, flat panels or single quads; grow, merge, split, snap, name and clear them.',
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
          split: 'The regions beside picked edges, split there',
          name: 'The regions of the picks, under a name',
          islands: 'Every piece',
          panels: 'Every flat panel',
          quads: 'Every quad, or pair of triangles',
          snap: 'All regions, snapped to sharp edges',
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
      .meta({ step: 5, ...when('flood|panels|snap') }),
    rows: Joi.number()
      .integer()
      .min(1)
      .max(20)
      .default(2)
      .label('Rows that may change')
      .meta({ step: 1, ...when('snap') })
  }),
  check,
  run
};
