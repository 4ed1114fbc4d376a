import { gzipSync } from 'fflate';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { noisySphere } from '../testing/noisy-shapes.ts';
import { box, cylinder, formatByName, writeMesh, obj, usda, Cage, channelBuoy, denseSphere, plane, quadSphere, ventElbow } from '../src/index.ts';

const folder = mkdtempSync(join(tmpdir(), 'ulvrin-'));
afterAll(() => rmSync(folder, { recursive: true }));
const file = (name: string, content?: string | Uint8Array) => {
  const path = join(folder, name);
  if (content !== undefined) writeFileSync(path, content);
  return path;
};
const command = fileURLToPath(new URL('../bin/ulvrin.mjs', import.meta.url));
function ulvrin(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [command, ...args], { encoding: 'utf8' });
  return { status, stdout, stderr };
}

describe('ulvrin on the command line', () => {
  it('info tells counts, as text and as JSON, of packed files too', () => {
    const sphere = file('sphere.obj.gz', gzipSync(writeMesh(quadSphere(10, 4), obj)));
    expect(ulvrin('info', sphere).stdout).toMatch(
      /98 vertices, 192 edges, 96 faces: 0 triangles, 96 quads, 0 n-gons\n0 borders, 1 island, genus 0, 20\.00 x/
    );
    const facts = JSON.parse(ulvrin('info', sphere, '--json').stdout) as Record<string, unknown>;
    expect(facts).toMatchObject({ quads: 96, borders: 0, islands: 1, suggestion: 'cage' });
  });

  it('convert says what is lost, and the file can be read', () => {
    const creased = file(
      'a.usda',
      writeMesh({ ...plane(2, 2, 2, 2), creaseEdges: Int32Array.of(0, 1), creaseSharpness: Float64Array.of(3) }, usda, { millimetresPerUnit: 1 })
    );
    const out = file('a.ply');
    const { status, stderr } = ulvrin('convert', creased, out);
    expect([status, stderr]).toEqual([0, expect.stringContaining('PLY holds no creases: 1 creased edges')]);
    expect(ulvrin('info', out).stdout).toMatch(/4 quads/);
  });

  it('even relaxes with the volume kept, smooths, stays on a reference, and says what it cannot do', () => {
    const noisy = file('noisy.obj', writeMesh(noisySphere(8).toPolygons(), obj));
    const out = file('even.obj');
    interface Facts {
      volume: { before: number; after: number };
      spread: { before: number; after: number };
      greatestMove: number;
    }
    const facts = (...args: string[]) => {
      const { status, stdout } = ulvrin('even', noisy, out, ...args, '--json');
      expect(status).toBe(0);
      return JSON.parse(stdout) as Facts;
    };
    const { volume, spread, greatestMove } = facts('--relax', '20');
    expect([spread.after < spread.before, greatestMove > 0]).toEqual([true, true]);
    expect(volume.after / volume.before).toBeCloseTo(1, 5);
    expect(readFileSync(out, 'utf8').match(/^f /gm)).toHaveLength(384);
    const smoothed = facts('--smooth', '20', '--strength', '0.8').volume;
    expect(smoothed.after).toBeLessThan(0.8 * smoothed.before);
    const sphere = file('sphere-reference.obj', writeMesh(quadSphere(10, 30), obj));
    expect(facts('--on', sphere).volume.after).toBeGreaterThan(0.95 * (4 / 3) * Math.PI * 1000);
    const strip = file('strip.obj', writeMesh(plane(4, 1, 4, 1), obj));
    for (const [args, why] of [
      [[noisy, out, '--relax', '3', '--smooth', '3'], /do not go together/],
      [[noisy, out, '--hold', 'edges'], /"edges" is none of them/],
      [[noisy, out, '--strength', 'much'], /--strength must be a number from 0 to 1/],
      [[noisy, out, '--relax', '0'], /--relax must be a whole number from 1/],
      [[strip, out], /Nothing moves: all vertices lie on what is held/]
    ] as const)
      expect(ulvrin('even', ...args)).toMatchObject({ status: 1, stderr: expect.stringMatching(why) });
    expect(ulvrin('even', strip, out, '--hold', '').status).toBe(0);
  });

  it('regions lists what the surfaces of a part are, and cage makes faces of them', () => {
    const part = file('part.stl', writeMesh(box({ x: 30, y: 20, z: 30 }, { x: 4, y: 3, z: 4 }), formatByName('part.stl')!));
    const { regions } = JSON.parse(ulvrin('regions', part, '--json').stdout) as {
      regions: { id: number; kind: string; sides: number; problem: string | null }[];
    };
    expect(regions.map(({ kind, sides, problem }) => [kind, sides, problem])).toEqual(Array(6).fill(['plane', 4, null]));
    const out = file('cage.obj');
    const made = JSON.parse(ulvrin('cage', part, out, '--passes', '0', '--json').stdout) as { faces: number; left: unknown[] };
    expect([made.faces, made.left]).toEqual([6, []]);
    expect(readFileSync(out, 'utf8').match(/^f /gm)).toHaveLength(6);
    const tube = file('tube.obj', writeMesh(cylinder(10, 30, 32, 6, true), obj));
    expect(ulvrin('regions', tube).stdout).toMatch(/cylinder, radius 10\.00 mm, .* mm2, It runs round as a ring/);
    expect(ulvrin('cage', tube, out, '--cuts', '0')).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('No region can be a face of a cage.')
    });
    expect(ulvrin('regions', part, '--angle', '200').stderr).toContain('--angle must be a number from 1 to 89');
  });

  it('check lists what shows, ends with 2 where something does, and writes a sheet and a page', () => {
    const clean = file('clean.obj', writeMesh(quadSphere(20, 8), obj));
    const elbow = file('elbow.obj', writeMesh(ventElbow(), obj));
    expect(ulvrin('check', clean)).toMatchObject({ status: 0, stdout: expect.stringContaining('clean.obj: nothing that shows') });
    const { status, stdout } = ulvrin('check', elbow, '--json');
    expect(status).toBe(2);
    const { findings } = JSON.parse(stdout) as {
      findings: { kind: string; place: number[]; unit: string; visible: boolean; rank: number; fixes: string[] }[];
    };
    expect(findings.filter((f) => f.visible).map((f) => f.kind)).toEqual(['unbraced-corner', 'cut-end', 'cut-end']);
    expect(findings[1]).toMatchObject({
      unit: 'mm',
      place: [expect.any(Number), expect.any(Number), expect.any(Number)],
      fixes: ['run-cut-out', 'dissolve']
    });
    const sheet = ulvrin('check', clean, elbow, '--csv').stdout.trim().split('\r\n');
    expect([sheet.length, sheet[0].split(',')[0], sheet[2].startsWith('elbow.obj,227,')]).toEqual([3, 'file', true]);
    const page = file('report.html');
    ulvrin('check', elbow, '--html', page);
    expect(readFileSync(page, 'utf8')).toMatch(/<h2>elbow\.obj<\/h2>[^]*A face of five sides where a cut ends on a bend/);
    expect(ulvrin('check')).toMatchObject({ status: 1, stderr: expect.stringContaining('A file to check is missing') });
    expect(ulvrin('check', file('none.obj')).stderr).toContain('is not a file that can be read');
  });

  it('hold brings a cage onto a reference, band lays a strip along points on one, and both say what is wrong', () => {
    const dense = file('ball.obj', writeMesh(denseSphere(40), obj));
    const cage = file('cage.obj', writeMesh(quadSphere(17, 8), obj));
    const out = file('held.obj');
    interface Facts {
      distance: { mean: number; max: number };
      flagged: number[][];
    }
    const facts = (...args: string[]) => {
      const { status, stdout } = ulvrin(...args, '--json');
      expect(status).toBe(0);
      return JSON.parse(stdout) as Facts;
    };
    expect(facts('hold', cage, dense, out)).toMatchObject({ distance: { max: expect.closeTo(0, 6) }, flagged: [] });
    expect(readFileSync(out, 'utf8').match(/^f /gm)).toHaveLength(384);
    expect(facts('hold', cage, dense, out, '--fit', 'surface', '--passes', '6').distance.max).toBeLessThan(0.1);
    const points = file(
      'points.json',
      Buffer.from(
        JSON.stringify([
          [-6, 20, 0],
          [0, 20, 1],
          [6, 20, 0]
        ])
      )
    );
    expect(facts('band', dense, points, out, '--along', '6', '--across', '2', '--width', '3').distance.max).toBeLessThan(1e-6);
    expect(readFileSync(out, 'utf8').match(/^f /gm)).toHaveLength(12);
    const bad = file('bad.json', Buffer.from('[[1, 2]]'));
    for (const [args, why] of [
      [['hold', cage, dense, out, '--fit', 'all'], /--fit is vertices or surface; "all" is neither/],
      [['hold', cage, file('none.obj'), out], /is not a file that can be read/],
      [['band', dense, bad, out, '--along', '6', '--across', '2', '--width', '3'], /must be a list of two points or more/],
      [['band', dense, points, out, '--along', '6', '--across', '2', '--width', '900'], /too short for a band 900 mm wide/],
      [['band', dense, points, out, '--across', '2', '--width', '3'], /--along must be a whole number/]
    ] as const)
      expect(ulvrin(...args)).toMatchObject({ status: 1, stderr: expect.stringMatching(why) });
  });

  it('quads lays quads and tells its phases', () => {
    const dense = file('dense.obj', writeMesh(denseSphere(30), obj));
    const out = file('quads.obj');
    const { status, stdout, stderr } = ulvrin('quads', dense, out, '--count', '300', '--seed', '4', '--json');
    expect(status).toBe(0);
    expect(stderr).toMatch(/0 % .* Preparing[\s\S]*100 % .* Done/);
    type Facts = Record<'quads' | 'spirals' | 'awayPercent' | 'seconds', number> & { stages: { phase: string; seconds: number }[] };
    const facts = JSON.parse(stdout) as Facts & { ways: { name: string; read: number }[]; taken: string };
    const { quads, spirals, awayPercent, seconds, stages, ways, taken } = facts;
    expect(stages.map(({ phase }) => phase)).toEqual(expect.arrayContaining(['Directions', 'Map', 'Rounding', 'Fitting']));
    expect(stages.reduce((sum, stage) => sum + stage.seconds, 0)).toBeLessThanOrEqual(seconds);
    expect(ways.at(-1)).toMatchObject({ name: taken, poles: 8, folds: 0 });
    expect(ways.at(-1)).not.toHaveProperty('failure');
    expect(ways.at(-1)!.read).toBeGreaterThan(0);
    expect(readFileSync(out, 'utf8').match(/^f /gm)).toHaveLength(quads);
    expect([spirals, awayPercent < 0.5]).toEqual([0, true]);
    expect(stderr).toMatch(/Laid on one side of X = 0.00 and mirrored/);
    const ring = Array.from({ length: 30 }, (_, i) => [20 * Math.cos(i / 5), 2, 20 * Math.sin(i / 5)]);
    const guides = file('guides.json', JSON.stringify({ guides: [{ points: ring, influence: 80, closed: true, count: 32 }] }));
    const steered = ulvrin('quads', dense, out, '--count', '600', '--symmetry', 'none', '--guides', guides);
    expect([steered.status, steered.stderr]).toEqual([0, expect.stringContaining('Guide 1: 32 quads round it.')]);
    expect(JSON.parse(ulvrin('quads', dense, '--count', '600', '--poles').stdout)).toHaveLength(8);
    expect(ulvrin('quads', dense, out, '--count', '600', '--guides', dense)).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('holds no guides')
    });
    const ranged = ulvrin('quads', dense, out, '--count', '500..700', '--json');
    expect((JSON.parse(ranged.stdout) as { quads: number }).quads).toBeGreaterThanOrEqual(500);
    expect((JSON.parse(ranged.stdout) as { quads: number }).quads).toBeLessThanOrEqual(700);
    expect(ulvrin('quads', dense, out, '--count', '700..500')).toMatchObject({ status: 1, stderr: expect.stringContaining('fewest') });
    expect(ulvrin('quads', dense, out, '--count', '500..many')).toMatchObject({ status: 1, stderr: expect.stringContaining('"many"') });
    expect(ulvrin('quads', dense, out, '--size', '2..1')).toMatchObject({ status: 1, stderr: expect.stringContaining('coarsest') });
    expect(ulvrin('quads', dense, out, '--count', '600', '--symmetry', 'w')).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('Symmetry')
    });
  });

  it('subdivide divides, with either scheme, to the limit', () => {
    const sheet = file('sheet.obj', writeMesh(plane(2, 2, 1, 1), obj));
    const out = file('fine.obj');
    expect(ulvrin('subdivide', sheet, out, '--levels', '2', '--limit').status).toBe(0);
    expect(readFileSync(out, 'utf8').match(/^f /gm)).toHaveLength(16);
    expect(ulvrin('subdivide', sheet, out, '--levels', '1', '--scheme', 'loop')).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('face 0 has 4 corners')
    });
  });

  it('subdivide follows a level plan, and honours the creases, corners and border convention of usda', () => {
    const sheet = { ...plane(2, 2, 2, 2), creaseEdges: Int32Array.of(1, 4, 4, 7), creaseSharpness: Float64Array.of(2.5, 2.5) };
    const fine = (borderCorners: 'sharp' | 'rounded', ...more: string[]) => {
      const input = file('sheet.usda', writeMesh(sheet, usda, { millimetresPerUnit: 1, borderCorners }));
      const out = file('fine.usda');
      expect(ulvrin('subdivide', input, out, ...more).status).toBe(0);
      return usda.read(readFileSync(out)).mesh;
    };
    const divided = fine('sharp', '--plan', 'divide,divide');
    expect([divided.faceVertices.length / 4, new Set(divided.creaseSharpness)]).toEqual([64, new Set([2.5])]);
    expect(new Set(fine('sharp', '--plan', 'divide,smooth').creaseSharpness)).toEqual(new Set([1.5]));
    const corner = (borderCorners: 'sharp' | 'rounded') => [...fine(borderCorners, '--levels', '2').positions.subarray(0, 3)];
    expect(corner('sharp')).toEqual([...sheet.positions.subarray(0, 3)]);
    expect(Math.abs(corner('rounded')[0])).toBeLessThan(1);
  });

  it('fill fills every border and reports each', () => {
    const input = file('buoy.obj', writeMesh(channelBuoy(), obj));
    const out = file('filled.obj');
    const { status, stdout } = ulvrin('fill', input, out, '--json');
    expect(status).toBe(0);
    const { holes } = JSON.parse(stdout) as { holes: { edges: number; faces: number }[] };
    expect(holes.length).toBeGreaterThanOrEqual(6);
    expect(holes.every((hole) => hole.faces > 0)).toBe(true);
    expect(JSON.parse(ulvrin('info', out, '--json').stdout)).toMatchObject({ borders: 0 });
    expect(ulvrin('fill', input, out, '--with', 'glue')).toMatchObject({ status: 1, stderr: expect.stringContaining('it is "glue"') });
  });

  it('bake subdivides until a receiver without creases is within the tolerance, and says how far', () => {
    const cage = Cage.fromPolygons(quadSphere(10, 3));
    for (const e of cage.edges()) if (e % 4 === 0) cage.setValue('crease', e, 3);
    const input = file('creased.usda', writeMesh(cage.toPolygons(), usda, { millimetresPerUnit: 1 }));
    const { status, stderr } = ulvrin('bake', input, file('baked.obj'), '--tolerance', '0.5');
    expect([status, stderr]).toEqual([0, expect.stringMatching(/^\d levels: a receiver that ignores creases is off by 0\.\d+ mm/)]);
    expect(ulvrin('bake', input, file('baked.obj'))).toMatchObject({ status: 1, stderr: expect.stringContaining('--tolerance') });
  });

  it.each([
    ['an unknown command', ['melt', 'a'], /"melt" is not a command/],
    ['a missing file', ['info', '/nowhere/at/all.obj'], /not a file that can be read/],
    ['a damaged file', ['info', 'BROKEN'], /line 1/],
    ['a damaged .gz', ['info', 'BROKEN.gz'], /damaged or not gzip/],
    ['a missing number', ['quads', 'GOOD', 'OUT.obj'], /--count must be a whole number from 24 to/],
    ['a wrong number', ['subdivide', 'GOOD', 'OUT.obj', '--levels', 'two'], /--levels must be a whole number from 0 to 9; it is "two"/],
    ['a plan that is none', ['subdivide', 'GOOD', 'OUT.obj', '--plan', 'divide,melt'], /"melt"/],
    ['an unknown output format', ['convert', 'GOOD', 'OUT.xyz'], /names no format that is written/],
    ['an unknown option', ['info', 'GOOD', '--loud'], /loud/]
  ])('%s gives exit code 1 and one sentence', (_what, args, sentence) => {
    file('GOOD', undefined);
    const paths: Record<string, string> = {
      GOOD: file('good.obj', writeMesh(quadSphere(1, 2), obj)),
      BROKEN: file('broken.obj', 'v 1 2\n'),
      'BROKEN.gz': file('broken.obj.gz', 'no gzip'),
      'OUT.obj': file('out.obj'),
      'OUT.xyz': file('out.xyz')
    };
    const { status, stdout, stderr } = ulvrin(...args.map((a) => paths[a] ?? a));
    expect([status, stdout]).toEqual([1, '']);
    expect(stderr).toMatch(sentence);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).not.toMatch(/at .*\.mjs|Error:/);
  });

  it('deliver writes a file and tells what arrives, what is lost and what would help', () => {
    const creased = file(
      'creased.usda',
      writeMesh(
        { ...box({ x: 20, y: 20, z: 20 }, { x: 1, y: 1, z: 1 }), creaseEdges: Int32Array.of(0, 1), creaseSharpness: Float64Array.of(10) },
        usda
      )
    );
    const out = file('out.glb');
    const { status, stdout } = ulvrin('deliver', creased, out, '--to', 'model-room', '--json');
    expect(status).toBe(0);
    const told = JSON.parse(stdout) as { losses: string[]; difference: number; advice: { text: string; difference: number }[] };
    expect(told.losses[0]).toBe('1 crease is lost: glTF binary holds none for others.');
    expect(told.difference).toBeGreaterThan(0.5);
    expect(told.advice[0].difference).toBeLessThan(told.difference);
    expect(JSON.parse(ulvrin('info', out, '--json').stdout)).toMatchObject({ quads: 6 });
    expect(ulvrin('deliver', creased, out, '--to', 'nowhere').stderr).toMatch(/--to must name a destination: pattern-shop, model-room/);
  });

  it('routine plays steps on a part, and tells what each found', () => {
    const steps = [{ operation: 'crease', params: { sharpness: '$sharpness' }, on: [{ find: 'sharp', number: 60 }] }];
    const numbers = { sharpness: { label: 'Sharpness', value: 4 } };
    const path = file('firm.json', JSON.stringify({ format: 'ulvrin-routine', version: 1, name: 'Firm', numbers, steps }));
    const [block, out] = [file('block.obj', writeMesh(box({ x: 20, y: 20, z: 20 }, { x: 2, y: 2, z: 2 }), obj)), file('firm.usda')];
    const { status, stdout } = ulvrin('routine', path, block, out, '--set', 'sharpness=2.5');
    expect([status, stdout]).toEqual([0, expect.stringMatching(/^1\. Crease on 24 edges.*: 24 edges at sharpness 2\.5/)]);
    expect(readFileSync(out, 'utf8')).toContain('2.5');
    expect(ulvrin('routine', path, block, out, '--set', 'depth=1').stderr).toMatch(/no number "depth"; it has sharpness/);
  });
});
