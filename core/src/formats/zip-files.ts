import { zipSync } from 'fflate';

/** The earliest date that a zip can hold: the same files make the same zip whenever it is made. */
export const NO_DATE = new Date(1980, 0, 1);

/** Several files as one zip. @param files names that differ, with slashes for folders */
export const zipFiles = (files: readonly { name: string; bytes: Uint8Array }[]): Uint8Array<ArrayBuffer> =>
  zipSync(Object.fromEntries(files.map(({ name, bytes }) => [name, bytes])), { mtime: NO_DATE }) as Uint8Array<ArrayBuffer>;
