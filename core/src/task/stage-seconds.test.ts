import { expect, it } from 'vitest';
import { StageSeconds } from './stage-seconds.ts';

it('adds up stages that come more than once, and the time of each way', () => {
  let clock = 0;
  const seconds = new StageSeconds(() => clock);
  const pass = (stage: string, time: number) => {
    seconds.phase(stage);
    clock += time;
  };
  const way = { poles: 8, wholes: 20, read: 3, fitted: 1, folds: 0 };
  pass('Map', 2);
  pass('Fitting', 1);
  seconds.tried({ name: 'first', ...way });
  pass('Map', 4);
  seconds.tried({ name: 'second', ...way });
  pass('Fitting', 0.5);
  expect(seconds.stages()).toEqual([
    { phase: 'Map', seconds: 6 },
    { phase: 'Fitting', seconds: 1.5 }
  ]);
  expect(seconds.ways.map(({ name, seconds }) => [name, seconds])).toEqual([
    ['first', 3],
    ['second', 4]
  ]);
});
