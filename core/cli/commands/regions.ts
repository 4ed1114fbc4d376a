import { boundsOf, Cage, cageFromRegions, holdTo, knownRegions, measure, Reference, type KnownRegion } from '../../src/index.ts';
import { type Command, flag, text } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, write } from '../files.ts';

/** Degrees at first: edges that bend more part regions. */
const ANGLE = '35';

const asJson = ({ id, kind, radius, area, corners, problem }: KnownRegion) => ({
  id,
  kind,
  radius: radius ?? null,
  area,
  sides: corners[0]?.length ?? 0,
  problem: problem ?? null
});

/** Regions of a triangulated part. */
export const regionsCommand: Command = {
  name: 'regions',
  usage: 'IN [--angle A] [--json]',
  options: { angle: text, json: flag },
  run([input], values) {
    const { mesh } = read(input);
    if (mesh.faceVertices.length === 0) throw new Complaint('The file has no faces.');
    const { regions } = knownRegions(mesh, { angle: number((values.angle as string) ?? ANGLE, 'angle', 1, 89, false) });
    if (values.json) return void process.stdout.write(`${JSON.stringify({ regions: regions.map(asJson) })}\n`);
    const lines = regions.map((region) => {
      const { id, kind, radius, area, sides, problem } = asJson(region);
      return `${id}: ${kind}${radius === null ? '' : `, radius ${radius.toFixed(2)} mm`}, ${area.toFixed(1)} mm2, ${problem ?? `${sides} sides`}`;
    });
    process.stdout.write(`${lines.join('\n')}\n`);
  }
};

/** A cage with a face for each region, held to the part in passes. */
export const cageCommand: Command = {
  name: 'cage',
  usage: 'IN OUT [--angle A] [--cuts N] [--passes N] [--json]',
  options: { angle: text, cuts: text, passes: text, json: flag },
  run([input, output], values) {
    const { mesh } = read(input);
    if (mesh.faceVertices.length === 0) throw new Complaint('The file has no faces.');
    const passes = number((values.passes as string) ?? '5', 'passes', 0, 20);
    const { cage, left } = cageFromRegions(mesh, {
      angle: number((values.angle as string) ?? ANGLE, 'angle', 1, 89, false),
      cuts: number((values.cuts as string) ?? '4', 'cuts', 0, 64)
    });
    if (cage.faceCount === 0) throw new Complaint(`No region can be a face of a cage. ${left[0]?.problem ?? ''}`.trim());
    const settings = { way: 'nearest', fit: 'surface', offset: 0, even: false, passes, vertices: [...cage.vertices()] } as const;
    const surface = { scheme: 'catmull-clark', borderCorners: 'sharp' } as const;
    const held = passes > 0 ? holdTo(cage, Reference.of(mesh), surface, settings) : undefined;
    const made: Cage = held?.cage ?? cage;
    const { faces, quads } = measure(made);
    const { diagonal } = boundsOf(mesh.positions);
    if (values.json) process.stdout.write(`${JSON.stringify({ faces, quads, distance: held?.report.distance ?? null, left: left.map(asJson) })}\n`);
    else {
      const off = held ? `, smooth surface off by ${held.report.distance.max.toFixed(3)} mm at most (extent ${diagonal.toFixed(1)} mm)` : '';
      process.stderr.write(`${faces} faces, ${quads} quads${off}; ${left.length} regions left out.\n`);
      for (const { kind, problem } of left) process.stderr.write(`  ${kind}: ${problem}\n`);
    }
    return write(output, made.toPolygons(), {});
  }
};
