// Lays quads in a thread of the server's own: told its input when it starts, it posts phases, and the result or the reason there is none.
import { parentPort, workerData } from 'node:worker_threads';
import { encodeLaid, encodeTold, lay, type LayTask, loadSolids, reporting } from '../src/index.ts';

const task = workerData as LayTask;
const tell = (line: object) => parentPort!.postMessage(line);

try {
  if (task.options.oneSkin) await loadSolids();
  const report = reporting((...told) => tell(encodeTold(...told)));
  tell(encodeLaid(lay(task, report)));
} catch (error) {
  tell({ error: error instanceof Error ? error.message : String(error) });
}
