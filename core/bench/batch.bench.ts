import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { obj } from '../src/formats/obj.ts';
import { writeMesh } from '../src/formats/registry.ts';
import { quadSphere } from '../src/shapes/start-shapes.ts';
import { head, line } from './measure.ts';

/** How busy a batch of 40 files of different sizes keeps two cores, from its start to its end, the start of its threads included. */
export function batchBench(): void {
  head('Batch');
  const folder = mkdtempSync(join(tmpdir(), 'ulvrin-batch-bench-'));
  const own = (name: string, content: string | Uint8Array) => {
    const path = join(folder, name);
    writeFileSync(path, content);
    return path;
  };
  const files = Array.from({ length: 40 }, (_, i) => own(`ball-${i}.obj`, writeMesh(quadSphere(20, 16 + ((7 * i) % 24)), obj)));
  const settings = own('settings.json', JSON.stringify({ format: 'ulvrin-batch', version: 1, as: 'usda', to: 'model-room' }));
  const command = fileURLToPath(new URL('../bin/ulvrin.mjs', import.meta.url));
  const { stdout, stderr } = spawnSync(process.execPath, [command, 'batch', settings, ...files, '--out', join(folder, 'out'), '--workers', '2'], {
    encoding: 'utf8'
  });
  rmSync(folder, { recursive: true });
  const [, seconds, cores] = /([\d.]+) s, ([\d.]+) cores busy/.exec(stderr)!.map(Number);
  line(`${/^\d+/.exec(stdout)![0]} files in ${seconds} s: share of two cores that is busy`, (100 * cores) / 2, '%', { least: 90 });
}
