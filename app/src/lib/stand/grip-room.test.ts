import { describe, expect, it } from 'vitest';
import { withinReach } from './grip-room.ts';

describe('stops of a grip', () => {
  it('stay where they are seen while all of them can be reached', () => {
    expect(
      withinReach(
        [300, 200],
        [
          [310, 200],
          [500, 100]
        ],
        [600, 400]
      )
    ).toEqual([
      [310, 200],
      [500, 100]
    ]);
  });

  it('come nearer by one share where one lies outside the view, in their order and direction', () => {
    const stops = withinReach(
      [300, 200],
      [
        [350, 200],
        [400, 200],
        [852, 200]
      ],
      [600, 400]
    );
    expect(stops).toEqual([
      [325, 200],
      [350, 200],
      [576, 200]
    ]);
    const up = withinReach(
      [300, 200],
      [
        [300, -152],
        [300, 24]
      ],
      [600, 400]
    );
    expect(up).toEqual([
      [300, 24],
      [300, 112]
    ]);
  });

  it('stay where they are seen where their start is outside, or hardly inside', () => {
    for (const from of [
      [-50, 200],
      [590, 200],
      [570, 200]
    ] as [number, number][])
      expect(withinReach(from, [[700, 200]], [600, 400])).toEqual([[700, 200]]);
  });
});
