// Lays quads in a thread of the server's own: told its input when it starts, it posts phases, and the result or the reason there is none.
import { parentPort, workerData } from 'node:worker_threads';
import { encodeLaid, lay, type LayTask } from '../src/operations/lay/lay-task.ts';
import { loadSolids } from '../src/solids/engine.ts';

const task = workerData as LayTask;
const tell = (line: object) => parentPort!.postMessage(line);
let now = { phase: 'Starting', fraction: 0 };

try {
  if (task.options.oneSkin) await loadSolids();
  const laid = lay(task, {
    phase: (phase, fraction) => tell((now = { phase, fraction })),
    poles: (poles) => tell({ ...now, poles })
  });
  tell(encodeLaid(laid));
} catch (error) {
  tell({ error: error instanceof Error ? error.message : String(error) });
}
