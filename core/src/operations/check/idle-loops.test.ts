import { describe, expect, it } from 'vitest';
import { Cage } from '../../mesh/cage.ts';
import { emptySelection, selectEdges } from '../../select/selection.ts';
import { cylinder, plane, quadSphere } from '../../shapes/start-shapes.ts';
import { applyOperation } from '../apply.ts';
import { idleLoops } from './idle-loops.ts';

const around = { surface: { scheme: 'catmull-clark' as const, borderCorners: 'sharp' as const } };
const dropped = (cage: Cage, within: number, picks = emptySelection()) => applyOperation(idleLoops, cage, picks, { within }, around);

describe('drop idle loops', () => {
  it('takes out all that a flat sheet does not need, and what a tube does not need lengthwise', () => {
    expect(dropped(Cage.fromPolygons(plane(10, 10, 4, 4)), 1e-6).cage.faceCount).toBe(1);
    const { cage, notes } = dropped(Cage.fromPolygons(cylinder(10, 30, 16, 6, false)), 0.002);
    expect(cage.faceCount).toBe(16);
    expect(notes[0]).toMatch(/^5 loops taken out, 80 faces fewer; each moved the smooth surface by 0/);
  });

  it('keeps what the form needs, and tries picked loops alone', () => {
    const tube = Cage.fromPolygons(cylinder(10, 30, 16, 1, false));
    expect(dropped(tube, 0.001).notes[0]).toContain('No loop can go');
    const sheet = Cage.fromPolygons(plane(10, 10, 4, 4));
    const inner = [...sheet.edges()].find((e) => !sheet.isBorderEdge(e))!;
    expect(dropped(sheet, 1e-6, selectEdges([inner])).cage.faceCount).toBe(12);
    expect(() => dropped(Cage.fromPolygons(plane(1, 1, 1, 1)), 1)).toThrow('No loop runs through regular vertices');
    expect(dropped(Cage.fromPolygons(quadSphere(20, 8)), 1e-4).cage.faceCount).toBe(384);
  });
});
