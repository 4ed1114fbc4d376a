import { levelSteps, Subdivision } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, write } from '../files.ts';

export const subdivide: Command = {
  name: 'subdivide',
  usage: 'IN OUT [--levels N] [--plan divide,divide,smooth] [--scheme catmull-clark|loop] [--limit]',
  options: { levels: text, plan: text, scheme: text, limit: flag },
  run([input, output], values) {
    const steps = values.plan === undefined ? [] : levelSteps(values.plan as string);
    const levels = values.levels === undefined && steps.length > 0 ? steps.length : number(values.levels as string | undefined, 'levels', 0, 9);
    const { mesh, scheme: asked, borderCorners } = read(input);
    const scheme = values.scheme ?? (asked === 'loop' ? 'loop' : 'catmull-clark');
    if (scheme !== 'loop' && scheme !== 'catmull-clark') throw new Complaint(`--scheme is catmull-clark or loop; it is "${scheme}".`);
    const surface = new Subdivision(mesh, {
      scheme,
      levels,
      limit: values.limit === true,
      borderCorners,
      plan: steps.length > 0 ? { steps } : undefined
    });
    return write(output, surface.toPolygons(mesh), { scheme: values.limit ? 'none' : scheme, borderCorners });
  }
};
