import { describe, expect, it } from 'vitest';
import { roundedBox, turnedPart } from '../../../testing/known-regions.ts';
import { assertValid } from '../../mesh/assert-valid.ts';
import { Cage } from '../../mesh/cage.ts';
import { regionList } from '../../regions/edit-regions.ts';
import { emptySelection } from '../../select/selection.ts';
import { applyOperation } from '../apply.ts';
import { cageFromRegionsOperation, findRegionsOperation } from './find-regions.ts';

const surface = { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const };
const done = (operation: typeof findRegionsOperation, cage: Cage, params = {}) =>
  applyOperation(operation, cage, emptySelection(), params, { surface });

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

  it('says why none can be one', () => {
    expect(() => done(cageFromRegionsOperation, Cage.fromPolygons(turnedPart(1).mesh), { cuts: 0 })).toThrow(
      /No region can be a face of a cage\. It runs round as a ring/
    );
    expect(() => done(findRegionsOperation, new Cage())).toThrow('The part has no faces.');
  });
});
