import { env } from 'node:process';

/** A whole number that the environment may set. @throws Error naming the variable where it is no such number */
function whole(name: string, least: number, usual: number, most = Number.MAX_SAFE_INTEGER): number {
  const text = env[name];
  if (text === undefined || text === '') return usual;
  const value = Number(text);
  if (!Number.isInteger(value) || value < least || value > most)
    throw new Error(`${name} must be a whole number from ${least} to ${most.toLocaleString('en')}; it is "${text}".`);
  return value;
}

/** What the server takes; read once, when it starts. */
export const limits = {
  /** bytes that a request may bring: about four million triangles */
  bytes: whole('ULVRIN_MOST_BYTES', 1024, 256 * 2 ** 20, 2 ** 31),
  /** tasks at a time; each fills a core */
  tasks: whole('ULVRIN_MOST_TASKS', 1, 2, 64),
  /** seconds that a task may take */
  seconds: whole('ULVRIN_MOST_SECONDS', 1, 1800, 86_400),
  /** MB of objects that a task's thread may fill */
  megabytes: whole('ULVRIN_MOST_MEMORY', 64, 4096, 65_536),
  /** seconds without a byte after which an upload is cut */
  idle: whole('ULVRIN_IDLE_SECONDS', 1, 15, 600)
};

/** Uploads at a time for each task that may run: bodies are held in memory until they are whole. */
export const UPLOADS_A_TASK = 2;

/** Hosts that this server answers for, as browsers name them. */
export function ownHosts(): Set<string> {
  const port = env.PORT ?? '4820';
  const names = ['localhost', '127.0.0.1', '[::1]'].map((name) => `${name}:${port}`);
  const more = (env.ULVRIN_HOSTS ?? '').split(',').map((name) => name.trim().toLowerCase());
  const origin = env.ORIGIN ? [new URL(env.ORIGIN).host] : [];
  return new Set([...names, ...origin, ...more].filter(Boolean));
}
