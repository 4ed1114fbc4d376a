import { strToU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { assertValid } from '../mesh/assert-valid.ts';
import { Cage } from '../mesh/cage.ts';
import { formats } from '../formats/registry.ts';
import { loopThrough } from '../select/loops.ts';
import { box, cylinder, plane, quadSphere, torus } from '../shapes/start-shapes.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { zipFiles } from '../formats/zip-files.ts';
import { deliverySheet } from './delivery-sheet.ts';
import { destinations } from './destination.ts';
import { detailLevels, fewerLevels } from './detail-levels.ts';
import { sculptDensity } from './sculpt-density.ts';

const settings: SurfaceSettings = { scheme: 'catmull-clark', borderCorners: 'sharp' };
const usda = formats.find(({ id }) => id === 'usda')!;
const at = (id: string) => destinations.find((d) => d.id === id)!;

/** A prism of twelve sides, its rims and its edges along it creased. */
function prism(): Cage {
  const cage = Cage.fromPolygons(cylinder(10, 20, 12, 3, true));
  for (const e of cage.edges()) {
    const [[ax, ay, az], [bx, by, bz]] = [cage.position(cage.origin[2 * e]), cage.position(cage.target(2 * e))];
    if ((Math.abs(ay) === 10 && ay === by) || (ax === bx && az === bz)) cage.setValue('crease', e, 10);
  }
  return cage;
}

describe('density for sculpting', () => {
  it('is told for every way to keep edges sharp: what is divided first lies evener than chamfers', () => {
    const steps: number[] = [];
    const rows = sculptDensity({ mesh: prism().toPolygons(), settings }, usda, at('pattern-shop'), 0.3, (f) => steps.push(f));
    expect(rows.map(({ way }) => way.replace(/[\d.]+ mm/, 'mm'))).toEqual([
      'Plain, without creases',
      'Creases',
      'Chamfers of mm',
      'Support loops of mm',
      'Divided 2 times first'
    ]);
    const [plain, creases, chamfers, loops, divided] = rows;
    expect(creases.difference).toBe(0);
    expect(plain.difference!).toBeGreaterThan(1);
    expect(divided.spacing.spread).toBeLessThan(chamfers.spacing.spread);
    expect(divided.spacing.spread).toBeLessThan(loops.spacing.spread);
    // narrow faces along edges leave less room for what is sunk into them
    expect(loops.turned).toBeGreaterThan(0);
    expect([plain.turned, divided.turned]).toEqual([0, 0]);
    for (const { histogram, spacing } of rows) {
      expect(histogram.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
      expect(spacing.finest).toBeLessThan(spacing.mean);
      expect(spacing.coarsest).toBeGreaterThan(spacing.mean);
    }
    expect(steps).toEqual([...steps].sort((a, b) => a - b));
  });

  it('of a ball is even, and detail as deep as its radius turns it over', () => {
    const ball = { mesh: quadSphere(10, 4), settings };
    const [shallow] = sculptDensity(ball, usda, at('carving-bench'), 0.1);
    expect([shallow.way, shallow.turned, shallow.pinched]).toEqual(['As it is', 0, 0]);
    const [deep] = sculptDensity(ball, usda, at('carving-bench'), 12);
    expect(deep.turned).toBe(deep.faces);
    expect(sculptDensity(ball, usda, at('print-house'), 0.1)).toEqual([]);
  });
});

describe('levels of detail', () => {
  it('lose whole loops within what they may move by, twice as much each, and keep creases', () => {
    const cage = Cage.fromPolygons(torus(30, 10, 24, 10));
    const ring = loopThrough(cage, 0).halves.map((h) => h >> 1);
    for (const e of ring) cage.setValue('crease', e, 2);
    const levels = detailLevels({ mesh: cage.toPolygons(), settings }, { levels: 2, within: 3 });
    expect(levels.length).toBeGreaterThan(2);
    levels.forEach(({ cage: own, difference }, i) => {
      assertValid(own);
      expect(difference).toBeLessThanOrEqual(i === 0 ? 0 : 3 * 2 ** (i - 1));
      if (i > 0) expect(own.faceCount).toBeLessThan(levels[i - 1].cage.faceCount);
      expect([...own.edges()].filter((e) => own.value('crease', e) === 2).length).toBeGreaterThan(3);
    });
  });

  it('keep seams of texture coordinates, and are one where no loop can go', () => {
    const sheet = Cage.fromPolygons({ ...plane(8, 8, 8, 8) });
    const flat = detailLevels({ mesh: sheet.toPolygons(), settings }, { levels: 4, within: 0.01 }).at(-1)!.cage;
    expect(flat.faceCount).toBe(1);
    const uv = sheet.toPolygons();
    // the left half on one piece of the map, the right half on another
    const cornerUv = Float64Array.from({ length: 2 * uv.faceVertices.length }, (_, i) => {
      const corner = i >> 1;
      const f = uv.faceStart.findIndex((start) => start > corner) - 1;
      const isRight = uv.faceVertices.subarray(uv.faceStart[f], uv.faceStart[f + 1]).some((v) => uv.positions[3 * v] > 1e-9);
      return uv.positions[3 * uv.faceVertices[corner] + (i % 2 ? 2 : 0)] + (isRight ? 100 : 0);
    });
    const seamed = detailLevels({ mesh: { ...uv, cornerUv }, settings }, { levels: 4, within: 0.01 }).at(-1)!.cage;
    expect(seamed.faceCount).toBe(2);
    const cube = Cage.fromPolygons(box({ x: 2, y: 2, z: 2 }, { x: 1, y: 1, z: 1 })).toPolygons();
    const few = { levels: 4, within: 0.001 };
    expect(detailLevels({ mesh: cube, settings }, few)).toHaveLength(1);
    expect(fewerLevels(0, few)).toMatch(/^No lower level could be made: .* more than 0\.0010 mm\.$/);
    expect(fewerLevels(1, few)).toMatch(/^1 of 4 lower levels could be made/);
    expect(fewerLevels(4, few)).toBeUndefined();
  });
});

describe('the delivery sheet', () => {
  it('tells of each delivery, the last one first, and nothing of it is taken for HTML', () => {
    const first = {
      at: '2026-11-30T09:15:00.000Z',
      part: 'Cleat <1>',
      what: 'the cage',
      file: 'cleat.usda',
      format: 'usda',
      faces: 1204,
      bytes: 48213,
      sha256: 'ab'.repeat(32),
      destination: 'Model room',
      losses: ['104 creases are lost: Model room knows none.'],
      difference: 6.7
    };
    const sheet = deliverySheet('Mooring cleat', [first, { ...first, file: 'cleat.glb', losses: [], difference: undefined, destination: undefined }]);
    expect(sheet.indexOf('cleat.glb')).toBeLessThan(sheet.indexOf('cleat.usda'));
    expect(sheet).toContain('2026-11-30 09:15 UTC');
    expect(sheet).toContain('Cleat &lt;1&gt;: the cage, 1,204 faces');
    expect(sheet).toContain('6.70 mm');
    expect(sheet).toContain('not looked at');
    expect(deliverySheet('Empty', [])).toContain('Nothing was delivered yet.');
  });

  it('comes with files in a zip that is the same for the same files', () => {
    const files = [
      { name: 'a.obj', bytes: strToU8('v 0 0 0\n') },
      { name: 'lower/a.obj', bytes: strToU8('v 1 0 0\n') }
    ];
    const packed = zipFiles(files);
    expect(Object.entries(unzipSync(packed)).map(([name, bytes]) => ({ name, bytes }))).toEqual(files);
    expect(zipFiles(files)).toEqual(packed);
  });
});
