import { describe, expect, it } from 'vitest';
import { areaToLay } from '../autoquad/beside/area-to-lay.ts';
import { middlesOf } from '../autoquad/beside/lay-beside.ts';
import { assertValid } from '../mesh/assert-valid.ts';
import { type Cage } from '../mesh/cage.ts';
import { replaceFaces } from '../mesh/replace-faces.ts';
import { lay } from '../operations/lay/lay-task.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices } from '../select/selection.ts';
import { denseSphere } from '../shapes/sample-surfaces.ts';
import { patchOf } from './laid-patch.ts';
import { Logbook } from './logbook.ts';

const PART = 'p';
const cageOf = (logbook: Logbook): Cage => logbook.part(PART)!.cage!;
const highest = (cage: Cage) => Math.max(...[...cage.vertices()].map((v) => cage.position(v)[0]));
const farDown = (cage: Cage) => [...cage.vertices()].reduce((a, b) => (cage.position(a)[0] < cage.position(b)[0] ? a : b));

/** A sphere of quads with a moved vertex, a creased edge, and then its top laid again. */
function capLaidAgain(): Logbook {
  const logbook = new Logbook();
  const surface = denseSphere(25);
  logbook.add({
    operation: 'start-shape',
    part: PART,
    params: { shape: 'sphere', radius: 20, across: 10 },
    selection: emptySelection(),
    makes: { name: 'Dome', kind: 'cage' }
  });
  const low = farDown(cageOf(logbook));
  logbook.add({ operation: 'move', part: PART, params: { x: -1 }, selection: selectVertices([low]) });
  const edge = cageOf(logbook).spokes(low)[0] >> 1;
  logbook.add({ operation: 'crease', part: PART, params: { sharpness: 3 }, selection: selectEdges([edge]) });
  const cage = cageOf(logbook);
  const top = highest(cage);
  const gone = areaToLay(
    cage,
    [...cage.faces()].filter((f) => cage.faceVertices(f).every((v) => cage.position(v)[0] > 0.5 * top))
  );
  const kept = cage.clone();
  replaceFaces(kept, { gone, added: [] });
  const polygons = kept.toPolygons();
  const { vertexIds: _v, faceIds: _f, ...stays } = polygons;
  const laid = lay({ surface, options: { count: 2 * gone.length }, beside: { kept: stays, middles: middlesOf(cage, gone) } });
  const patch = patchOf(laid, polygons, gone);
  logbook.add({
    operation: 'auto-quads',
    part: PART,
    params: {},
    selection: selectFaces(patch.gone),
    cast: patch.cast,
    seam: patch.seam,
    notes: laid.notes
  });
  return logbook;
}

describe('an area laid again', () => {
  const logbook = capLaidAgain();
  const low = farDown(cageOf(logbook));
  const creased = (cage: Cage) => [...cage.edges()].filter((e) => cage.value('crease', e) > 0);

  it('is put into the cage it was laid for: what stays keeps its ids and values, and nothing is left open', () => {
    const cage = cageOf(logbook);
    const before = logbook.stateBefore(3).parts[0].cage!;
    assertValid(cage);
    expect([...cage.edges()].some((e) => cage.isBorderEdge(e))).toBe(false);
    expect([...cage.faces()].every((f) => cage.faceSize(f) === 4)).toBe(true);
    expect(creased(cage)).toEqual(creased(before));
    expect(logbook.selection.faces.length).toBeGreaterThan(20);
  });

  it('does not freeze the part: an entry before it is edited, and shows', () => {
    const at = cageOf(logbook).position(low)[0];
    logbook.edit(1, { x: -4 });
    expect(cageOf(logbook).position(low)[0]).toBeCloseTo(at - 3, 9);
    expect(logbook.entries[3].problem).toBeUndefined();
    assertValid(cageOf(logbook));
    logbook.undo();
  });

  it('is flagged with the place where what it joined is elsewhere', () => {
    logbook.edit(0, { ...logbook.entries[0].params, across: 9 });
    void logbook.state;
    expect(logbook.entries[3].problem).toMatch(/not there any more \(the first lay at/);
    assertValid(cageOf(logbook));
    logbook.undo();
    void logbook.state;
    expect(logbook.entries[3].problem).toBeUndefined();
  });
});
