import { describe, expect, it } from 'vitest';
import { standColours } from '$lib/settings/theme.svelte.ts';
import { clayBall } from './clay.ts';
import { Floor, floorSteps, shadowOn, type Standing } from './floor.ts';

/** A flat square of places at a height, 1 mm apart, over a floor at 0. */
const slab = (height: number): Standing => {
  const points = Array.from({ length: 21 * 21 }, (_, i) => [(i % 21) - 10, height, Math.floor(i / 21) - 10]).flat();
  return { points: [Float32Array.from(points)], min: [-10, 0, -10], max: [10, 20, 10] };
};

describe('the floor', () => {
  it('has lines 1, 2 or 5 times a power of ten apart, never too close, strong ones among them', () => {
    for (const scale of [2e-8, 0.003, 0.1, 0.77, 12, 4e5]) {
      const { pitch, strong } = floorSteps(scale);
      expect(['1', '2', '5']).toContain(pitch.toExponential(6)[0]);
      expect(pitch / scale).toBeGreaterThan(25.9);
      expect(pitch / scale).toBeLessThan(26 * 2.51);
      expect([5, 10]).toContain(Math.round(strong / pitch));
    }
  });

  it('is dark where something stands on it, less the higher that is, and not beside it', () => {
    const at = (standing: Standing, px: number, pz: number) => {
      const { cells, x, z, size } = shadowOn(standing);
      const side = Math.sqrt(cells.length);
      return cells[Math.floor((side * (pz - z)) / size) * side + Math.floor((side * (px - x)) / size)];
    };
    const lying = slab(0);
    expect(at(lying, 0, 0)).toBeGreaterThan(0.9);
    expect(at(lying, 15, 15)).toBeLessThan(0.05);
    // what is high throws none beside what lies
    const both = { ...lying, points: [...lying.points, Float32Array.of(14, 19, 0)] };
    expect(at(both, 14, 0)).toBeLessThan(0.3);
    expect([...shadowOn(slab(19)).cells].every((c) => c === 0)).toBe(true);
  });

  it('lies under what is shown, and goes with it', () => {
    const floor = new Floor();
    floor.colour(standColours.light);
    floor.under({ ...slab(0), min: [-10, -7, -10] });
    expect([floor.mesh.visible, floor.mesh.position.y]).toEqual([true, -7]);
    floor.under(undefined);
    expect(floor.mesh.visible).toBe(false);
  });
});

describe('the clay', () => {
  it('is lit from the upper left, and dark below', () => {
    const { data, width } = clayBall('#cbd5d8').image as { data: Uint8Array; width: number };
    const light = (x: number, y: number) => data[4 * (Math.round(((y + 1) / 2) * (width - 1)) * width + Math.round(((x + 1) / 2) * (width - 1)))];
    expect(light(-0.5, 0.6)).toBeGreaterThan(light(0.5, -0.6) + 40);
    expect(clayBall('#cbd5d8')).toBe(clayBall('#cbd5d8'));
    expect(clayBall('#3a444a')).not.toBe(clayBall('#cbd5d8'));
  });
});
