import { describe, expect, it } from 'vitest';
import { roundedBox, turnedPart } from '../../../testing/known-regions.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { joinCages } from '../../mesh/join-cages.ts';
import { regionList } from '../../regions/edit-regions.ts';
import { emptySelection } from '../../select/selection.ts';
import { denseSphere } from '../../shapes/sample-surfaces.ts';
import { box } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { cageFromRegionsOperation, findRegionsOperation } from './find-regions.ts';

const surface = { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const };
const done = (operation: typeof findRegionsOperation, cage: Cage, params = {}) =>
  applyOperation(operation, cage, emptySelection(), params, { surface });

const besides = (cage: Cage, f: number, region: number) =>
  cage.loopOf(cage.faceEdge[f]).some((h) => cage.face[h ^ 1] >= 0 && cage.value('region', cage.face[h ^ 1]) === region);

describe('find regions', () => {
  it('names each by what it is and its radius, and picks those that can be no face', () => {
    const made = done(findRegionsOperation, Cage.fromPolygons(turnedPart(1).mesh));
    const names = regionList(made.cage).map(({ name }) => name.replace(/ [\d.]+ mm| \(\d+\)/g, ''));
    expect(names.sort()).toEqual(['cone', 'cylinder', 'cylinder', 'cylinder', 'fillet', 'fillet', 'plane', 'plane', 'plane']);
    expect(made.notes[1]).toMatch(/^9 can be no face of a cage: .*It runs round as a ring/);
    expect(made.selection.faces).toHaveLength(made.cage.faceCount);
    expect(done(findRegionsOperation, Cage.fromPolygons(roundedBox(1).mesh)).notes).toEqual(['26 regions: 6 plane, 20 fillet.']);
  });
});

describe('cage from regions', () => {
  it('reads each region as a face, all quads', () => {
    const { cage, notes } = done(cageFromRegionsOperation, Cage.fromPolygons(roundedBox(3).mesh));
    assertValid(cage);
    expect(notes).toEqual(['A cage of 96 faces.']);
  });

  it('reads the regions that are set, as they were corrected by hand, and says where there are none', () => {
    const found = done(findRegionsOperation, Cage.fromPolygons(roundedBox(3).mesh)).cage;
    const asSet = (cage: Cage) => done(cageFromRegionsOperation, cage, { read: 'carried', cuts: 0 });
    expect(asSet(found).cage.faceCount).toBe(96);
    // two regions are made one: it has six corners, and is a face still
    const [plane] = regionList(found).filter(({ name }) => name.startsWith('plane'));
    const fillet = regionList(found).find(
      ({ id, name, faces }) => id !== plane.id && name.startsWith('fillet') && faces.some((f) => besides(found, f, plane.id))
    )!;
    const merged = found.clone();
    for (const f of fillet.faces) merged.setValue('region', f, plane.id);
    const made = asSet(merged).cage;
    assertValid(made);
    expect(made.faceCount).not.toBe(96);
    expect(() => asSet(Cage.fromPolygons(roundedBox(3).mesh))).toThrow(/carries no regions/);
  });

  it('tells another way where most of the surface is left out', () => {
    const block = Cage.fromPolygons(box({ x: 20, y: 20, z: 20 }, { x: 1, y: 1, z: 1 }));
    const { cage: both } = joinCages(block, Cage.fromPolygons(denseSphere(40)));
    const { notes } = done(cageFromRegionsOperation, both);
    expect(notes[0]).toMatch(/^A cage of \d+ faces\.$/);
    expect(notes.at(-1)).toMatch(/^That is \d\d % of the surface: .*Auto quads/);
  });

  it('says why none can be one', () => {
    expect(() => done(cageFromRegionsOperation, Cage.fromPolygons(turnedPart(1).mesh), { cuts: 0 })).toThrow(
      /No region can be a face of a cage\. It runs round as a ring/
    );
    expect(() => done(findRegionsOperation, new Cage())).toThrow('The part has no faces.');
  });
});
