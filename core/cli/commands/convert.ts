import { type Command } from '../command.ts';
import { read, write } from '../files.ts';

export const convert: Command = {
  name: 'convert',
  usage: 'IN OUT',
  options: {},
  run([input, output]) {
    const { mesh, scheme, borderCorners } = read(input);
    write(output, mesh, { scheme, borderCorners });
  }
};
