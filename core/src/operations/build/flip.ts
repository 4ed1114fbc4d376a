import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { replaceFaces } from '../../mesh/replace-faces.ts';
import { facesByIsland } from '../../mesh/topology.ts';
import { dot, mean, subtract } from '../../numeric/vectors.ts';
import { faceAreaVector } from '../../mesh/normals.ts';
import { isEmpty, islandOf, selectFaces, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult } from '../operation.ts';
import { counted } from '../shared/words.ts';

/** Turns whole islands inside out; edges and corners keep their values. */
function turned(cage: Cage, faces: number[]): { copy: Cage; ids: number[] } {
  const copy = cage.clone();
  const added = faces.map((f) => {
    const loop = cage.loopOf(cage.faceEdge[f]).reverse();
    return { corners: loop.map((h) => cage.origin[h]), like: f, cornersLike: loop };
  });
  return { copy, ids: replaceFaces(copy, { gone: faces, added, keepLone: true }) };
}

/** Islands that picked elements belong to; all faces where nothing is picked. */
function islandsOfPicks(cage: Cage, selection: Selection): number[] {
  if (isEmpty(selection)) return [...cage.faces()];
  const touched = verticesOf(cage, selection)
    .flatMap((v) => cage.spokes(v).map((h) => cage.face[h]))
    .filter((f) => f >= 0);
  return islandOf(cage, touched);
}

/** Turns islands inside out; single faces cannot be turned against their neighbours in a cage. */
export const flip: CageOperation = {
  kind: 'cage',
  id: 'flip',
  bench: 3,
  group: 'Parts and solids',
  name: 'Flip',
  purpose: 'Turn the normals of the picked islands, or of the whole part, to the other side.',
  icon: 'ArrowsVertical',
  needs: 'A cage with faces.',
  atOnce: true,
  params: Joi.object({}),
  check: (cage, selection) =>
    islandsOfPicks(cage, selection).length === 0
      ? { found: 'There are no faces to turn.', instead: 'Pick faces, or nothing for all of them.' }
      : undefined,
  run: (cage, selection) => {
    const faces = islandsOfPicks(cage, selection);
    const { copy, ids } = turned(cage, faces);
    return { cage: copy, selection: isEmpty(selection) ? selection : selectFaces(ids), notes: [`${counted(faces.length, 'face')} turned over.`] };
  }
};

/** Faces of islands that look inward: closed ones by their volume, open ones by which way most of their area looks from their middle. */
function inwardFaces(cage: Cage): { faces: number[]; islands: number } {
  const inward = facesByIsland(cage).filter((faces) => {
    const middle = mean(verticesOf(cage, selectFaces(faces)).map((v) => cage.position(v)));
    return faces.reduce((sum, f) => sum + dot(faceAreaVector(cage, f), subtract(cage.position(cage.faceVertices(f)[0]), middle)), 0) < -1e-12;
  });
  return { faces: inward.flat(), islands: inward.length };
}

/** Makes every island look outward. */
export const turnOutward: CageOperation = {
  kind: 'cage',
  id: 'turn-outward',
  bench: 3,
  group: 'Parts and solids',
  name: 'Turn faces outward',
  purpose: 'Turn every island that looks inward, so that all normals point outward.',
  icon: 'ArrowUpRight',
  needs: 'A cage with faces.',
  params: Joi.object({}),
  check: (cage) =>
    cage.faceCount === 0 ? { found: 'This part has no faces to turn.', instead: 'Begin with a start shape, or lay quads.' } : undefined,
  run: (cage, selection): CageResult => {
    const { faces, islands: count } = inwardFaces(cage);
    if (faces.length === 0) return { cage: cage.clone(), selection, notes: ['All islands look outward already.'] };
    const { copy, ids } = turned(cage, faces);
    return { cage: copy, selection: selectFaces(ids), notes: [`${count} island${count === 1 ? '' : 's'} of ${faces.length} faces turned outward.`] };
  }
};
