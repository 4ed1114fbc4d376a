import { type Command } from './command.ts';
import { bandCommand } from './commands/band.ts';
import { bakeCommand } from './commands/bake.ts';
import { batch } from './commands/batch.ts';
import { check } from './commands/check.ts';
import { convert } from './commands/convert.ts';
import { deliver } from './commands/deliver.ts';
import { even } from './commands/even.ts';
import { fill } from './commands/fill.ts';
import { hold } from './commands/hold.ts';
import { info } from './commands/info.ts';
import { quads } from './commands/quads.ts';
import { cageCommand, regionsCommand } from './commands/regions.ts';
import { replay } from './commands/replay.ts';
import { routine } from './commands/routine.ts';
import { subdivide } from './commands/subdivide.ts';
import { verify } from './commands/verify.ts';

/** Every command of `ulvrin`, as its help lists them. */
export const commands: readonly Command[] = [
  info,
  replay,
  convert,
  deliver,
  batch,
  quads,
  subdivide,
  bakeCommand,
  fill,
  even,
  hold,
  bandCommand,
  check,
  regionsCommand,
  cageCommand,
  verify,
  routine
];
