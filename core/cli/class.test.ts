import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, expect, it } from 'vitest';
import { formatByName, obj, ply, writeMesh } from '../src/index.ts';
import { plantedCage } from '../testing/planted-defects.ts';

const folder = mkdtempSync(join(tmpdir(), 'ulvrin-class-'));
afterAll(() => rmSync(folder, { recursive: true }));
const command = fileURLToPath(new URL('../bin/ulvrin.mjs', import.meta.url));

/** What a class of thirty hands in: 26 cages with planted defects, one clean, and three that are no meshes. */
function handedIn() {
  const formats = [obj, ply, formatByName('a.off')!];
  const messy = Array.from({ length: 26 }, (_, seed) => {
    const { cage, planted } = plantedCage(seed);
    const format = formats[seed % formats.length];
    // what is twice at one place is welded as a file is read
    const visible = planted.filter(({ kind, isFlat }) => kind !== 'crack' && kind !== 'hole' && !isFlat);
    return {
      name: `student-${seed + 1}.${format.extensions[0]}`,
      content: writeMesh(cage.toPolygons(), format),
      holes: planted.some((p) => p.kind === 'hole'),
      visible
    };
  });
  const whole = writeMesh(plantedCage(3).clean.toPolygons(), ply);
  const others = [
    { name: 'student-27.obj', content: writeMesh(plantedCage(3).clean.toPolygons(), obj) },
    { name: 'student-28.ply', content: whole.slice(0, whole.length / 2) },
    { name: 'student-29.obj', content: new Uint8Array() },
    { name: 'student-30.stl', content: new TextEncoder().encode('My dog ate it.') }
  ];
  for (const { name, content } of [...messy, ...others]) writeFileSync(join(folder, name), content);
  return { messy, names: [...messy, ...others].map(({ name }) => name) };
}

it('thirty messy files are checked in one go: a row for each that can be read, and a reason for each that cannot', () => {
  const { messy, names } = handedIn();
  const { status, stdout, stderr } = spawnSync(process.execPath, [command, 'check', ...names.map((name) => join(folder, name)), '--csv'], {
    encoding: 'utf8'
  });
  expect(status).toBe(1);
  for (const name of ['student-28.ply', 'student-29.obj', 'student-30.stl']) expect(stderr).toContain(name);
  expect(stderr.trim().split('\n').at(-1)).toBe('27 of 30 files were checked.');
  const cells = (line: string) => Array.from(line.matchAll(/(?:^|,)("(?:[^"]|"")*"|[^,]*)/g), ([, cell]) => cell);
  const [head, ...rows] = stdout.trim().split('\r\n').map(cells);
  const findings = new Map(rows.map((row) => [row[0], Number(row[head.indexOf('visible findings')])]));
  expect(findings.size).toBe(27);
  for (const { name, visible } of messy)
    if (visible.length > 0) expect(findings.get(name), `${name}: ${visible.map(({ kind }) => kind).join(', ')}`).toBeGreaterThanOrEqual(1);
  expect(findings.get('student-27.obj')).toBe(0);
});
