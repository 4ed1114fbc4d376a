import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { obj, quadSphere, writeMesh } from '../src/index.ts';

const folder = mkdtempSync(join(tmpdir(), 'ulvrin-batch-'));
afterAll(() => rmSync(folder, { recursive: true }));
const command = fileURLToPath(new URL('../bin/ulvrin.mjs', import.meta.url));
const file = (name: string, content: string | Uint8Array) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
const run = (...args: string[]) => spawnSync(process.execPath, [command, 'batch', ...args], { encoding: 'utf8' });
const balls = (many: number, faces: number) =>
  Array.from({ length: many }, (_, i) => file(`ball-${i}.obj`, writeMesh(quadSphere(5 + i, faces), obj)));
const settings = (own: object) => file('settings.json', JSON.stringify({ format: 'ulvrin-batch', version: 1, as: 'obj', ...own }));

describe('a batch', () => {
  it('does the same with many files, tells of each, and goes on past one that is none', () => {
    const out = join(folder, 'out');
    const all = [...balls(3, 3), file('torn.obj', 'v 1 2 x\nf 1 2 3\n')];
    const steps = [{ operation: 'divide-once' }];
    const asked = settings({ routine: { format: 'ulvrin-routine', version: 1, name: 'Twice as fine', steps }, to: 'model-room' });
    const { status, stdout, stderr } = run(asked, ...all, '--out', out, '--workers', '2');
    expect([status, stdout]).toEqual([1, `3 of 4 done, in ${out}.\n`]);
    expect(stderr).toMatch(/4 of 4/);
    expect(stderr).toMatch(/torn\.obj: failed: .*line 1/);
    expect(stderr).not.toMatch(/at .*\.mjs/);
    const report = JSON.parse(readFileSync(join(out, 'ball-1.obj.json'), 'utf8')) as object;
    expect(report).toMatchObject({ name: 'ball-1.obj', faces: 216, visible: 0, difference: 0, files: ['ball-1.obj'] });
    expect(readFileSync(join(out, 'ball-1.obj'), 'utf8').match(/^f /gm)).toHaveLength(216);
  });

  it('that was killed goes on where it was: nothing is lost, and nothing done twice', async () => {
    const out = join(folder, 'killed');
    const all = balls(6, 24);
    const asked = settings({ check: true });
    const child = spawn(process.execPath, [command, 'batch', asked, ...all, '--out', out, '--workers', '1'], { stdio: 'ignore' });
    const reports = () => (existsSync(out) ? readdirSync(out).filter((name) => name.endsWith('.json')) : []);
    while (reports().length < 2) await new Promise((resolve) => setTimeout(resolve, 20));
    child.kill('SIGKILL');
    await new Promise((resolve) => child.once('exit', resolve));
    const before = new Map(reports().map((name) => [name, statSync(join(out, name)).mtimeMs]));
    expect(before.size).toBeLessThan(6);
    const { status, stderr } = run(asked, ...all, '--out', out);
    expect(status).toBe(0);
    expect(stderr.match(/done before/g)).toHaveLength(before.size);
    expect(reports()).toHaveLength(6);
    for (const [name, time] of before) expect(statSync(join(out, name)).mtimeMs).toBe(time);
    expect(readdirSync(out).filter((name) => name.endsWith('.part'))).toEqual([]);
    // with other settings all are done again
    expect(run(settings({ check: false }), ...all.slice(0, 2), '--out', out).stderr).not.toContain('done before');
  });

  it('says what is wrong with its settings before anything is done', () => {
    const [ball] = balls(1, 2);
    expect(run(settings({ as: 'paper' }), ball, '--out', folder).stderr).toMatch(/^These are no settings of a batch: "as" must be one of/);
    expect(run(settings({ to: 'nowhere' }), ball, '--out', folder).stderr).toMatch(/no settings of a batch: "to"/);
    expect(run(file('bad.json', '{'), ball, '--out', folder).stderr).toMatch(/cannot be read as JSON/);
    expect(run(settings({}), ball).stderr).toBe('--out must name a folder.\n');
    expect(run(settings({}), ball, ball, '--out', folder).stderr).toMatch(/^Two files are called ball-0/);
  });
});
