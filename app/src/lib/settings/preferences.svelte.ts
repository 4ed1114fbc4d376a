const STORE = 'ulvrin-preferences';

/** What a person prefers on this machine, whatever job is open. */
export interface Preferences {
  /** what a drag orbits round: what is under the pointer, or the middle of the view */
  orbitsPointer: boolean;
}

const FIRST: Preferences = { orbitsPointer: false };

/** Preferences as they were stored; what is missing or nonsense is as it begins. */
export function readPreferences(stored: string | null): Preferences {
  try {
    const kept = JSON.parse(stored ?? '{}') as Partial<Preferences> | null;
    return { orbitsPointer: typeof kept?.orbitsPointer === 'boolean' ? kept.orbitsPointer : FIRST.orbitsPointer };
  } catch {
    return { ...FIRST };
  }
}

class Kept {
  now: Preferences = $state({ ...FIRST });

  load(): void {
    this.now = readPreferences(localStorage.getItem(STORE));
  }
  change(part: Partial<Preferences>): void {
    Object.assign(this.now, part);
    localStorage.setItem(STORE, JSON.stringify(this.now));
  }
}

export const preferences = new Kept();
