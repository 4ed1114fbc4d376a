import { bandAlong, bandProblem, Cage, deviation, LaidCage, Reference, SurfaceWalk, type Triple } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, readJson, write } from '../files.ts';

export const bandCommand: Command = {
  name: 'band',
  usage: 'REFERENCE POINTS.json OUT --along N --across M --width MM [--closed] [--json]',
  options: { along: text, across: text, width: text, closed: flag, json: flag },
  run([reference, points, output], values) {
    const given = (name: string) => values[name] as string | undefined;
    const settings = {
      along: number(given('along'), 'along', 1, 2000),
      across: number(given('across'), 'across', 1, 50),
      width: number(given('width'), 'width', 1e-6, 1e5, false),
      closed: values.closed === true
    };
    const { mesh } = read(reference);
    if (mesh.faceVertices.length === 0) throw new Complaint('The reference has no faces.');
    const on = Reference.of(mesh);
    const walk = SurfaceWalk.over(on);
    const stroke = strokeFrom(points).map((p) => walk.nearest(p)!.at);
    const problem = bandProblem({ places: stroke }, settings);
    if (problem) throw new Complaint(problem);
    const laid = new LaidCage(new Cage());
    laid.apply(bandAlong(walk, { places: stroke }, settings).act);
    const made = laid.cage.toPolygons();
    const { mean, most } = deviation(on, made.positions);
    if (values.json) process.stdout.write(`${JSON.stringify({ distance: { mean, max: most }, flagged: [] })}\n`);
    return write(output, made, {});
  }
};

/** Points of a file: a list of lists of three numbers. @throws Complaint */
function strokeFrom(path: string | undefined): Triple[] {
  if (!path) throw new Complaint('The file of points is missing.');
  const points = readJson(path);
  const isPoint = (p: unknown): p is Triple => Array.isArray(p) && p.length === 3 && p.every((x) => typeof x === 'number' && Number.isFinite(x));
  if (!Array.isArray(points) || points.length < 2 || !points.every(isPoint))
    throw new Complaint(`${path} must be a list of two points or more: [[x, y, z], ...].`);
  return points;
}
