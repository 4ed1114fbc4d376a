import { createRequire } from 'node:module';
import { loadSolids } from '../src/solids/engine.ts';
import { autoQuadsBench, autoQuadsSpeedBench, machinedPartsBench } from './auto-quads.bench.ts';
import { autoQuadsRealBench } from './auto-quads-real.bench.ts';
import { batchBench } from './batch.bench.ts';
import { checkBench } from './check.bench.ts';
import { deliverBench } from './deliver.bench.ts';
import { evenBench } from './even.bench.ts';
import { fillBench } from './fill.bench.ts';
import { handBench } from './hand.bench.ts';
import { keepingBench } from './keeping.bench.ts';
import { readObjBench } from './read-obj.bench.ts';
import { recordBench } from './record.bench.ts';
import { regionsBench } from './regions.bench.ts';
import { shapeBench } from './shape.bench.ts';
import { subdivisionBench } from './subdivision.bench.ts';

/** Benchmarks by name; each prints its figures and what they are compared with. */
const benches: Record<string, () => void | Promise<void>> = {
  subdivision: subdivisionBench,
  'read-obj': readObjBench,
  keeping: keepingBench,
  shape: shapeBench,
  fill: fillBench,
  even: evenBench,
  hand: handBench,
  check: checkBench,
  regions: regionsBench,
  deliver: deliverBench,
  batch: batchBench,
  record: recordBench,
  autoquad: autoQuadsBench,
  'autoquad-parts': machinedPartsBench,
  'autoquad-real': autoQuadsRealBench,
  'autoquad-speed': autoQuadsSpeedBench
};

await loadSolids(createRequire(import.meta.url).resolve('manifold-3d/manifold.wasm'));
const asked = process.argv.slice(2);
const unknown = asked.find((name) => !benches[name]);
if (unknown) {
  process.stderr.write(`"${unknown}" is not a benchmark; there are ${Object.keys(benches).join(', ')}.\n`);
  process.exitCode = 1;
} else for (const name of asked.length > 0 ? asked : Object.keys(benches)) await benches[name]();
