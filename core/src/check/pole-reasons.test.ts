import { describe, expect, it } from 'vitest';
import { Cage } from '../mesh/cage.ts';
import { operationById } from '../operations/registry.ts';
import { applyOperation } from '../operations/apply.ts';
import { type CageOperation } from '../operations/operation.ts';
import { selectEdges } from '../select/selection.ts';
import { box, plane, quadSphere } from '../shapes/start-shapes.ts';
import { poleReasons } from './pole-reasons.ts';

const settings = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
const reasons = (cage: Cage) => poleReasons(cage, settings).map(({ reason }) => reason);

describe('why a pole is there', () => {
  it('is the form for the eight of a ball, and a sharp edge for those of a box', () => {
    expect(reasons(Cage.fromPolygons(quadSphere(20, 12)))).toEqual(Array(8).fill("the form's turning"));
    expect(new Set(reasons(Cage.fromPolygons(box({ x: 9, y: 9, z: 9 }, { x: 6, y: 6, z: 6 }))))).toEqual(new Set(['sharp edge']));
  });

  it('is nothing for those that a swung edge leaves on a flat sheet', () => {
    const sheet = Cage.fromPolygons(plane(20, 20, 14, 14));
    const inner = [...sheet.edges()].find((e) => [2 * e, 2 * e + 1].every((h) => Math.hypot(...sheet.position(sheet.origin[h])) < 2))!;
    const swung = applyOperation(operationById('swing-edge') as CageOperation, sheet, selectEdges([inner]), {}, { surface: settings }).cage;
    const found = poleReasons(swung, settings);
    expect(found.length).toBeGreaterThan(1);
    expect(new Set(found.map(({ reason }) => reason))).toEqual(new Set(['free']));
    expect(found[0].why).toMatch(/^Pole of \d: nothing asks for it/);
  });

  it('is a border near by', () => {
    const sheet = Cage.fromPolygons(plane(20, 20, 6, 6));
    const near = [...sheet.edges()].find(
      (e) =>
        !sheet.isBorderEdge(e) && [2 * e, 2 * e + 1].every((h) => sheet.position(sheet.origin[h])[0] < -5 && !sheet.isBorderVertex(sheet.origin[h]))
    )!;
    const swung = applyOperation(operationById('swing-edge') as CageOperation, sheet, selectEdges([near]), {}, { surface: settings }).cage;
    expect(new Set(reasons(swung))).toEqual(new Set(['border']));
  });
});
