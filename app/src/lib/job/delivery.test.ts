import { box, Cage, formats, readMesh, type Part } from '@ulvrin/core';
import { unzipSync } from 'fflate';
import { createHash } from 'node:crypto';
import { describe, expect, it, vi } from 'vitest';
import { makeDelivery, makeParcel, recordOf, type DeliverySettings } from './delivery.ts';

const cage = Cage.fromPolygons(box({ x: 20, y: 10, z: 30 }, { x: 2, y: 2, z: 2 }));
const part: Part = { id: 'a', name: 'Mooring cleat, left', kind: 'cage', scheme: 'catmull-clark', borderCorners: 'sharp', cage };
const as = (id: string, own: Partial<DeliverySettings> = {}): DeliverySettings => ({
  what: 'cage',
  format: formats.find((f) => f.id === id)!,
  upAxis: 'Y',
  tolerance: 0.1,
  level: 1,
  ...own
});
const glb = formats.find((f) => f.id === 'glb')!;
const high = (bytes: Uint8Array, name: string) => {
  const { positions } = readMesh(bytes, name).mesh;
  return [0, 1, 2].map((k) => Math.max(...positions.filter((_, i) => i % 3 === k)));
};

describe('a delivery', () => {
  it('is a file under the name of the part, with the axis up that is asked for', () => {
    const { name, bytes, faces } = makeDelivery(part, as('obj'));
    expect([name, faces, high(bytes, name)]).toEqual(['mooring-cleat-left.obj', 24, [10, 5, 15]]);
    const turned = makeDelivery(part, as('obj', { upAxis: 'Z' }));
    expect(high(turned.bytes, turned.name)).toEqual([10, 15, 5]);
  });

  it('is the cage, what is made of it on the way, or its smooth surface', () => {
    expect(makeDelivery(part, as('obj', { what: 'smooth', level: 2 })).faces).toBe(24 * 16);
    expect(makeDelivery(part, as('obj', { way: { levels: 1 } })).faces).toBe(96);
    const limit = makeDelivery(part, as('usda', { what: 'limit' }));
    expect(new TextDecoder().decode(limit.bytes)).toContain('subdivisionScheme = "none"');
  });

  it('with lower levels is a zip of them, numbered; the same cages make the same bytes, of every format', () => {
    const levels = [cage.toPolygons(), box({ x: 20, y: 10, z: 30 }, { x: 1, y: 1, z: 1 })];
    const { name, bytes, faces } = makeDelivery(part, as('obj', { what: 'levels' }), levels);
    expect([name, faces]).toEqual(['mooring-cleat-left-levels.zip', 30]);
    expect(Object.keys(unzipSync(bytes))).toEqual(['mooring-cleat-left.obj', 'mooring-cleat-left-level-1.obj']);
    vi.useFakeTimers();
    for (const { id } of formats) {
      const [first, second] = ['2026-01-01', '2027-06-06'].map((day) => {
        vi.setSystemTime(day);
        return makeDelivery(part, as(id)).bytes;
      });
      expect([id, Buffer.from(first).equals(Buffer.from(second))]).toEqual([id, true]);
    }
    vi.useRealTimers();
  });

  it('is recorded with the checksum of its bytes', async () => {
    const settings = as('glb');
    const made = makeDelivery(part, settings);
    const record = await recordOf([part], settings, [settings.format], made, {
      destination: 'Model room',
      losses: ['24 creases are lost.'],
      difference: 0.5
    });
    expect(record).toMatchObject({
      part: part.name,
      what: 'the cage',
      file: made.name,
      format: 'glb',
      faces: 24,
      bytes: made.bytes.length,
      difference: 0.5
    });
    const advised = await recordOf([part], as('glb', { way: { levels: 1 } }), [glb], made, { losses: [] });
    expect(advised.what).toBe('the cage, changed on its way as advised');
    expect(record.sha256).toBe(createHash('sha256').update(made.bytes).digest('hex'));
  });

  it('of several parts, or in several formats, is a zip in which no name is there twice; of one file it is that file', () => {
    const settings = as('obj');
    const obj = settings.format;
    expect(makeParcel([part], settings, [obj])).toEqual(makeDelivery(part, settings));
    const both = makeParcel([part], settings, [obj, glb]);
    expect([both.name, Object.keys(unzipSync(both.bytes))]).toEqual(['mooring-cleat-left.zip', ['mooring-cleat-left.obj', 'mooring-cleat-left.glb']]);
    const twins = makeParcel([part, { ...part, id: 'b' }], settings, [obj]);
    expect(twins.faces).toBe(48);
    expect(Object.keys(unzipSync(twins.bytes))).toEqual(['mooring-cleat-left.obj', 'mooring-cleat-left-2.obj']);
  });
});
