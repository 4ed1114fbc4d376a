import { expect, it } from 'vitest';
import { cube, run } from '../../testing/run-operation.ts';
import { emptySelection, selectFaces } from '../select/selection.ts';
import { followFaces } from './followed-faces.ts';
import { faceNormal } from './normals.ts';

it('faces are followed through what is made of them, and the mark is gone afterwards', () => {
  const cage = cube();
  const top = [...cage.faces()].filter((f) => faceNormal(cage, f)[1] > 0.9);
  const divided = followFaces(cage, top, (marked) => run('divide-once', marked, emptySelection(), { places: 'flat' }));
  expect(divided.faces).toHaveLength(4);
  for (const f of divided.faces) expect(faceNormal(divided.cage, f)[1]).toBeGreaterThan(0.9);
  expect([...divided.cage.layers.keys(), ...cage.layers.keys()]).toEqual([]);
  const gone = followFaces(cage, top, (marked) => run('delete', marked, selectFaces(top)));
  expect(gone.faces).toEqual([]);
});
