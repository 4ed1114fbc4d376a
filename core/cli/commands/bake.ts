import { bake } from '../../src/index.ts';
import { type Command, text } from '../command.ts';
import { number, read, write } from '../files.ts';

export const bakeCommand: Command = {
  name: 'bake',
  usage: 'IN OUT --tolerance MM',
  options: { tolerance: text },
  run([input, output], values) {
    const tolerance = number(values.tolerance as string | undefined, 'tolerance', 1e-6, 1e6, false);
    const { mesh, scheme, borderCorners } = read(input);
    const baked = bake(mesh, { scheme: scheme === 'loop' ? 'loop' : 'catmull-clark', borderCorners }, tolerance);
    process.stderr.write(`${baked.levels} levels: a receiver that ignores creases is off by ${baked.error.toFixed(4)} mm at most.\n`);
    return write(output, baked.mesh, { scheme, borderCorners });
  }
};
