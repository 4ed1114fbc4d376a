import { error } from '@sveltejs/kit';
import { joinedBytes } from '@ulvrin/core';

/**
 * The body of a request, once it is whole.
 * @param most bytes that are taken
 * @param idle milliseconds without a byte after which it is cut
 * @param what it is, for people
 * @throws HttpError 413 where it is too long, 408 where it stops coming
 */
export async function bodyOf(request: Request, most: number, idle: number, what = 'The surface'): Promise<Uint8Array> {
  const tooLong = () =>
    error(413, `${what} is larger than the server takes (${Math.round(most / 2 ** 20)} MB): thin it out, or do it in the browser.`);
  if (Number(request.headers.get('content-length') ?? 0) > most) tooLong();
  const reader = request.body?.getReader();
  const parts: Uint8Array[] = [];
  let length = 0;
  try {
    for (;;) {
      const part = reader ? await withinTime(reader.read(), idle) : { done: true as const };
      if (part.done) break;
      parts.push(part.value);
      length += part.value.length;
      if (length > most) tooLong();
    }
  } catch (reason) {
    void reader?.cancel().catch(() => undefined);
    throw reason;
  }
  return joinedBytes(parts);
}

async function withinTime<T>(work: Promise<T>, limit: number): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<'late'>((resolve) => (timer = setTimeout(() => resolve('late'), limit)));
  try {
    const first = await Promise.race([work, late]);
    if (first === 'late') error(408, 'The upload stopped: send it again.');
    return first as T;
  } finally {
    clearTimeout(timer);
  }
}
