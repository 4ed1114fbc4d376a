import { describe, expect, it } from 'vitest';
import * as THREE from 'three';
import { Follower, following, followIn, sendSlots, slotsByPoint } from './followers.ts';

const buffer = (slots: number) => new THREE.BufferAttribute(new Float32Array(3 * slots), 3);
const ranges = (attribute: THREE.BufferAttribute) => attribute.updateRanges.map(({ start, count }) => [start, count]);

describe('slots by point', () => {
  it('are those that name each point, in order', () => {
    const { start, slot } = slotsByPoint([2, 0, 2, 3], 5);
    expect([0, 1, 2, 3, 4].map((v) => [...slot.subarray(start[v], start[v + 1])])).toEqual([[1], [], [0, 2], [3], []]);
  });
});

describe('a follower', () => {
  it('writes and sends the slots of moved points alone', () => {
    const attribute = buffer(4);
    const version = attribute.version;
    new Follower(attribute, [2, 0, 2, 1]).follow([2], [0, 0, 0, 1, 1, 1, 5, 6, 7]);
    expect([...attribute.array]).toEqual([5, 6, 7, 0, 0, 0, 5, 6, 7, 0, 0, 0]);
    expect([ranges(attribute), attribute.version]).toEqual([[[0, 9]], version + 1]);
  });

  it('sends nothing where none of its points has moved', () => {
    const attribute = buffer(1);
    new Follower(attribute, [0]).follow([1], [0, 0, 0, 9, 9, 9]);
    expect([ranges(attribute), attribute.version]).toEqual([[], 0]);
  });

  it('sends slots that lie far apart in pieces', () => {
    const attribute = buffer(5000);
    sendSlots(attribute, Int32Array.of(4000, 3, 5, 4001));
    expect(ranges(attribute)).toEqual([
      [9, 9],
      [12000, 6]
    ]);
  });

  it('is found in groups, whatever they hold beside', () => {
    const attribute = buffer(1);
    const mark = following(new THREE.Points(), attribute, [1]);
    const group = new THREE.Group().add(new THREE.Group().add(mark), new THREE.Points());
    followIn(group, [1], [0, 0, 0, 1, 2, 3]);
    expect([[...attribute.array], mark.frustumCulled]).toEqual([[1, 2, 3], false]);
  });
});
