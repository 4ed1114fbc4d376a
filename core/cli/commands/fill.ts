import { Cage, counted, describeHole, fillHole, fillMethods, fillRing, gapsOf, holeAlong, MOST_GRID_EDGES } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, write } from '../files.ts';

export const fill: Command = {
  name: 'fill',
  usage: 'IN OUT [--with grid|ring|triangles|face] [--swell 0..1] [--json]',
  options: { with: text, swell: text, json: flag },
  run([input, output], values) {
    const method = fillMethods.find((m) => m === (values.with ?? 'grid'));
    if (!method) throw new Complaint(`--with is ${fillMethods.join(', ')}; it is "${values.with}".`);
    const swell = number((values.swell as string | undefined) ?? '1', 'swell', 0, 1, false);
    const { mesh, scheme, borderCorners } = read(input);
    const cage = Cage.fromPolygons(mesh);
    const gaps = gapsOf(cage);
    const reports = gaps.map(({ hole: found, island }, i) => {
      process.stderr.write(`Hole ${i + 1} of ${gaps.length}: ${describeHole(found)}\n`);
      if (found.vertices.length > MOST_GRID_EDGES && (method === 'grid' || method === 'ring'))
        throw new Complaint(
          `The border of ${found.vertices.length} edges is too long for a grid; up to ${MOST_GRID_EDGES} are filled so. Use --with face.`
        );
      const hole = holeAlong(cage, found.halves);
      const faces = island ? fillRing(cage, hole, holeAlong(cage, island.halves)) : fillHole(cage, hole, method, { swell });
      const triangles = faces.filter((f) => cage.faceSize(f) === 3).length;
      return { hole: describeHole(hole), edges: hole.vertices.length, faces: faces.length, triangles };
    });
    if (values.json) process.stdout.write(`${JSON.stringify({ holes: reports })}\n`);
    else
      for (const { hole, faces, triangles } of reports)
        process.stderr.write(`${hole}: ${counted(faces, 'face')}, ${counted(triangles, 'triangle')} among them.\n`);
    return write(output, cage.toPolygons(), { scheme, borderCorners });
  }
};
