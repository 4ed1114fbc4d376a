// Lays quads in a thread of the server's own: told its input when it starts, it posts phases, and the result or the reason there is none.
import { parentPort, workerData } from 'node:worker_threads';
import { autoQuads } from '../src/autoquad/auto-quads.ts';
import { type AutoQuadsOptions } from '../src/autoquad/auto-quads-options.ts';
import { type PolygonMesh } from '../src/mesh/polygon-mesh.ts';
import { loadSolids } from '../src/solids/engine.ts';
import { encodeMesh } from '../src/task/mesh-body.ts';

const { mesh: surface, options } = workerData as { mesh: PolygonMesh; options: AutoQuadsOptions };
const tell = (line: object) => parentPort!.postMessage(line);

try {
  if (options.oneSkin) await loadSolids();
  const { mesh, notes } = autoQuads(surface, options, { phase: (phase, fraction) => tell({ phase, fraction }) });
  tell({ result: Buffer.from(encodeMesh(mesh, {})).toString('base64'), notes });
} catch (error) {
  tell({ error: error instanceof Error ? error.message : String(error) });
}
