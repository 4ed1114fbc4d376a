/** What the browser says of the room for this site. */
export interface Room {
  /** bytes in use, and how many there may be */
  used: number;
  most: number;
  /** whether the browser keeps it until the user clears it */
  kept: boolean;
}

/** @returns nothing where the browser does not tell */
export async function roomLeft(storage: StorageManager | undefined = globalThis.navigator?.storage): Promise<Room | undefined> {
  try {
    const [{ usage, quota }, kept] = await Promise.all([storage!.estimate(), storage!.persisted()]);
    return usage === undefined || quota === undefined ? undefined : { used: usage, most: quota, kept };
  } catch {
    return undefined;
  }
}

/** Asks the browser not to clear what is stored here. @returns whether it agrees */
export async function askToKeep(storage: StorageManager | undefined = globalThis.navigator?.storage): Promise<boolean> {
  try {
    return await storage!.persist();
  } catch {
    return false;
  }
}

const size = (bytes: number): string => (bytes < 2 ** 30 ? `${Math.max(1, Math.round(bytes / 2 ** 20))} MB` : `${(bytes / 2 ** 30).toFixed(1)} GB`);

/** The room as a sentence, and whether the browser may clear it. */
export const describeRoom = ({ used, most, kept }: Room): string =>
  `${size(used)} of ${size(most)} used. ${
    kept
      ? 'The browser keeps your jobs until you delete them.'
      : 'The browser may clear your jobs when it runs short of room: export those that matter.'
  }`;

/** How full the storage may get before it is told. */
export const isNearlyFull = ({ used, most }: Room): boolean => used > 0.8 * most;

/** Why the storage could not be opened, and the ways out. */
export function describeClosed(error: unknown): string {
  const why = error instanceof Error ? error.message.split('\n')[0].replace(/\.$/, '') : String(error);
  return `The browser’s storage for your jobs could not be opened (${why}). Your jobs are not lost by this. Close other tabs of Ulvrin and reload; if the window is private or site data is blocked, allow it; if the disk is full, free some room.`;
}

const EXPORTS = 'ulvrin-exports';
const REMINDER = 'ulvrin-export-reminder';
/** Days between reminders to export, as the user chooses; 0 is never. */
export const reminders = [0, 7, 30] as const;

const parsed = (): Record<string, string> => {
  try {
    return JSON.parse(localStorage.getItem(EXPORTS) ?? '{}') as Record<string, string>;
  } catch {
    return {};
  }
};

/** Remembers that a job was exported now. */
export function noteExport(id: string): void {
  localStorage.setItem(EXPORTS, JSON.stringify({ ...parsed(), [id]: new Date().toISOString() }));
}

export const reminderDays = (): number => Number(localStorage.getItem(REMINDER) ?? 0);
export const remindAfter = (days: number): void => localStorage.setItem(REMINDER, String(days));

/** Jobs that were changed since they were last exported, if that is longer ago than the reminder says. */
export function dueForExport<Job extends { id: string; changed: string }>(jobs: readonly Job[], days = reminderDays(), at = Date.now()): Job[] {
  if (days === 0) return [];
  const exports = parsed();
  const before = new Date(at - days * 24 * 3600 * 1000).toISOString();
  return jobs.filter(({ id, changed }) => (exports[id] ?? '') < changed && (exports[id] ?? '') < before);
}
