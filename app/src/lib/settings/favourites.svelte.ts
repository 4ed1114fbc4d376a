const STORE = 'ulvrin-favourites';
/** Operations the personal row holds. */
export const MOST_FAVOURITES = 5;

/** The operations pinned to the personal row of the rack, by id, in order; kept in the browser. */
class Favourites {
  ids: string[] = $state([]);

  load(): void {
    try {
      const stored: unknown = JSON.parse(localStorage.getItem(STORE) ?? '[]');
      this.ids = Array.isArray(stored) ? stored.filter((id): id is string => typeof id === 'string').slice(0, MOST_FAVOURITES) : [];
    } catch {
      this.ids = [];
    }
  }

  /** Pins an operation behind the others, or takes it off. @returns why it could not be pinned */
  toggle(id: string): string | undefined {
    if (this.ids.includes(id)) this.ids = this.ids.filter((other) => other !== id);
    else if (this.ids.length >= MOST_FAVOURITES) return `The personal row holds ${MOST_FAVOURITES}: take one off first.`;
    else this.ids = [...this.ids, id];
    localStorage.setItem(STORE, JSON.stringify(this.ids));
    return undefined;
  }
}

export const favourites = new Favourites();
