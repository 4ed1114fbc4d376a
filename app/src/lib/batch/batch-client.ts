import type { QueueState } from './state.ts';

/** Asks the server. @throws Error in one sentence where it refuses, or does not answer */
async function asked(path: string, init?: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api/batch${path}`, init);
  } catch {
    throw new Error('The server does not answer. What you chose stays here: start it again, and try once more.');
  }
  if (response.ok) return response;
  const { message } = (await response.json().catch(() => ({}))) as { message?: string };
  throw new Error(message ?? `The server answered with ${response.status}.`);
}

export const listBatches = async (): Promise<QueueState> => (await asked('')).json() as Promise<QueueState>;

/**
 * Begins a batch, and sends its files one after the other.
 * @param tell gets the file that is sent, and how many were
 */
export async function startBatch(name: string, settings: object, files: readonly File[], tell: (file: string, sent: number) => void): Promise<void> {
  const body = JSON.stringify({ name, settings, files: files.map((f) => f.name) });
  const { id } = (await (await asked('', { method: 'POST', headers: { 'content-type': 'application/json' }, body })).json()) as { id: string };
  for (const [sent, file] of files.entries()) {
    tell(file.name, sent);
    await asked(`/${id}/${encodeURIComponent(file.name)}`, { method: 'PUT', headers: { 'content-type': 'application/octet-stream' }, body: file });
  }
}

export const removeBatch = async (id: string): Promise<void> => void (await asked(`/${id}`, { method: 'DELETE' }));

/** All that was made of a batch, in a zip. */
export const madeOf = async (id: string): Promise<Uint8Array<ArrayBuffer>> => new Uint8Array(await (await asked(`/${id}`)).arrayBuffer());
