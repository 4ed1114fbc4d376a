import { Cage, playRoutine, readRoutine, RoutineError, type Routine } from '../../src/index.ts';
import { type Command, flag, listOf, texts } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, readJson, surfaceOf, write } from '../files.ts';

function routineIn(path: string | undefined): Routine {
  if (!path) throw new Complaint('A routine (.json) is missing.');
  const data = readJson(path);
  return complaining(() => readRoutine(data));
}

function complaining<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof RoutineError) throw new Complaint(error.message);
    throw error;
  }
}

/** Plays a routine on a part, and tells what each step found. */
export const routine: Command = {
  name: 'routine',
  usage: 'ROUTINE.json IN OUT [--set NAME=NUMBER ...] [--json]',
  options: { set: texts, json: flag },
  run([path, input, output], { set, json }) {
    const own = routineIn(path);
    const numbers = Object.fromEntries(
      listOf(set).map((text) => {
        const [name, value] = text.split('=');
        return [name, number(value, `set ${name}`, -1e9, 1e9, false)];
      })
    );
    const part = read(input);
    const { cage, steps } = complaining(() => playRoutine(Cage.fromPolygons(part.mesh), own, numbers, { surface: surfaceOf(part) }));
    write(output, cage.toPolygons(), { scheme: part.scheme, borderCorners: part.borderCorners });
    if (json) process.stdout.write(`${JSON.stringify({ name: own.name, steps: steps.map(({ done: _done, ...told }) => told) })}\n`);
    else
      for (const [i, { operation, found, notes, left }] of steps.entries())
        process.stdout.write(`${i + 1}. ${operation} on ${found}: ${left ? `left out, ${left}` : notes.join(' ') || 'done.'}\n`);
  }
};
