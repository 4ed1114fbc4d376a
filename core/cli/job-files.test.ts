import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { readMesh, readJobFile, writeJobFile, Logbook, emptySelection, selectVertices } from '../src/index.ts';
import { type JobFacts } from './job-files.ts';

const folder = mkdtempSync(join(tmpdir(), 'ulvrin-'));
afterAll(() => rmSync(folder, { recursive: true }));
const command = fileURLToPath(new URL('../bin/ulvrin.mjs', import.meta.url));
function ulvrin(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [command, ...args], { encoding: 'utf8' });
  return { status, stderr, stdout, facts: () => JSON.parse(stdout) as JobFacts };
}

/** A box whose corner is moved, and a vertex beside it. */
const job = join(folder, 'box.ulvrin');
const logbook = new Logbook();
const params = { shape: 'box', across: 4, up: 4, deep: 4 };
logbook.add({ operation: 'start-shape', part: 'p', params, selection: emptySelection(), makes: { name: 'Box', kind: 'cage' } });
const { cage } = logbook.part('p')!;
const at = (x: number, y: number, z: number) =>
  [...cage!.vertices()].find((v) => [x, y, z].every((c, k) => Math.abs(c - cage!.position(v)[k]) < 1e-9))!;
for (const v of [at(20, 20, 20), at(10, 20, 20)]) logbook.add({ operation: 'move', part: 'p', params: { z: 5 }, selection: selectVertices([v]) });
writeFileSync(job, writeJobFile({ name: 'Box', cursor: 3, entries: logbook.entries }));

describe('job files on the command line', () => {
  it('info tells entries, flags and parts', () => {
    const { status, facts } = ulvrin('info', job, '--json');
    expect(status).toBe(0);
    expect(facts()).toEqual({
      entries: [
        { id: 1, operation: 'start-shape', flag: null },
        { id: 2, operation: 'move', flag: null },
        { id: 3, operation: 'move', flag: null }
      ],
      parts: [{ name: 'Box', faces: 96 }]
    });
    expect(ulvrin('info', job).stdout).toMatch(/3 entries, 3 in force, 0 flagged\nBox: 96 faces/);
  });

  it('replay changes fields of entries, writes the job or its cage, and ends with 2 where an entry is flagged', () => {
    const [mesh, changed] = [join(folder, 'out.obj'), join(folder, 'out.ulvrin')];
    const { status, facts } = ulvrin('replay', job, mesh, '--set', '1.across=5', '--set', '2.z=7', '--json');
    expect(status).toBe(2);
    expect(facts().entries.map((e) => e.flag)).toEqual([null, null, expect.stringMatching(/it lay at 10, 20, 20 mm/)]);
    const { positions } = readMesh(readFileSync(mesh), 'out.obj').mesh;
    expect(Math.max(...positions.filter((_, i) => i % 3 === 2))).toBe(27);
    expect(ulvrin('replay', job, changed, '--set', '2.z=7').status).toBe(0);
    expect(readJobFile(readFileSync(changed)).entries[1].params.z).toBe(7);
  });

  it('replay disables, removes and inserts entries; verify says what is wrong with a job', () => {
    const [less, more, entry] = [join(folder, 'less.ulvrin'), join(folder, 'more.ulvrin'), join(folder, 'move.json')];
    expect(ulvrin('replay', job, less, '--disable', '2', '--remove', '3').status).toBe(0);
    expect(readJobFile(readFileSync(less)).entries.map(({ id, disabled }) => [id, disabled])).toEqual([
      [1, undefined],
      [2, true]
    ]);
    writeFileSync(entry, JSON.stringify({ operation: 'move', part: 'p', params: { x: 2 }, selection: { vertices: [at(20, 20, 20)] } }));
    expect(ulvrin('replay', job, more, '--insert', `${entry}@3`).status).toBe(0);
    expect(readJobFile(readFileSync(more)).entries.map(({ id }) => id)).toEqual([1, 2, 4, 3]);
    const fine = ulvrin('verify', more, '--json');
    expect([fine.status, JSON.parse(fine.stdout)]).toEqual([0, { entries: 4, inForce: 4, faults: [] }]);
    const bad = join(folder, 'bad.ulvrin');
    const [first, second, third] = readJobFile(readFileSync(job)).entries;
    const entries = [first, { ...second, params: { z: 'far' } }, { ...third, part: 'q' }];
    writeFileSync(bad, writeJobFile({ name: 'Box', cursor: 3, entries }));
    const { status, stdout } = ulvrin('verify', bad);
    expect(status).toBe(2);
    expect(stdout).toMatch(/2 faults, 3 entries\nentry 2: .*"Move z|entry 2: Move: /);
    expect(stdout).toMatch(/entry 3: it works on part "q", which no entry before it makes/);
    expect(ulvrin('replay', job, less, '--insert', 'nothing@1').stderr).toMatch(/cannot be read as JSON/);
  });

  it.each<[string, string[], RegExp]>([
    ['an entry that is not there', ['--set', '9.z=1'], /no entry 9; its entries are 1, 2, 3/],
    ['a field of nonsense', ['--set', 'z=1'], /ENTRY\.FIELD=VALUE/],
    ['a value that a field cannot take', ['--set', '1.across=many'], /Faces across/]
  ])('refuses %s', (_what, args, reason) => {
    const { status, stderr } = ulvrin('replay', job, join(folder, 'no.obj'), ...args);
    expect([status, stderr]).toEqual([1, expect.stringMatching(reason)]);
  });

  it('a damaged file is refused with the place and what of it is whole', () => {
    const bytes = readFileSync(job);
    const bad = join(folder, 'bad.ulvrin');
    writeFileSync(bad, bytes.subarray(0, bytes.length - 300));
    const { status, stderr } = ulvrin('info', bad);
    expect([status, stderr]).toEqual([1, expect.stringMatching(/This job file is damaged: .*\d of 3 entries are whole/)]);
  });
});
