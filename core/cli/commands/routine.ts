import { readFileSync } from 'node:fs';
import { Cage, playRoutine, readRoutine, RoutineError, type Routine } from '../../src/index.ts';
import { type Command, flag } from '../command.ts';
import { Complaint } from '../complaint.ts';
import { number, read, write } from '../files.ts';

function routineIn(path: string | undefined): Routine {
  if (!path) throw new Complaint('A routine (.json) is missing.');
  let data: unknown;
  try {
    data = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Complaint(`${path} cannot be read as JSON: ${(error as Error).message}`);
  }
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
  options: { set: { type: 'string', multiple: true }, json: flag },
  run([path, input, output], { set, json }) {
    const own = routineIn(path);
    const numbers = Object.fromEntries(
      ((set as string[] | undefined) ?? []).map((text) => {
        const [name, value] = text.split('=');
        return [name, number(value, `set ${name}`, -1e9, 1e9, false)];
      })
    );
    const { mesh, scheme, borderCorners } = read(input);
    const surface = { scheme: scheme === 'loop' ? 'loop' : 'catmull-clark', borderCorners: borderCorners ?? 'sharp' } as const;
    const { cage, steps } = complaining(() => playRoutine(Cage.fromPolygons(mesh), own, numbers, { surface }));
    write(output, cage.toPolygons(), { scheme, borderCorners });
    if (json) process.stdout.write(`${JSON.stringify({ name: own.name, steps })}\n`);
    else
      for (const [i, { operation, found, notes, left }] of steps.entries())
        process.stdout.write(`${i + 1}. ${operation} on ${found}: ${left ? `left out, ${left}` : notes.join(' ') || 'done.'}\n`);
  }
};
