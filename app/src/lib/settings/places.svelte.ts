import { type Destination, destinations } from '@ulvrin/core';
import { forgetPlace, keepPlace, ownPlaces } from '$lib/platform/storage/places.ts';

/** Destinations: those that ship, and those the user has described. */
class Places {
  own: readonly Destination[] = $state.raw([]);
  all = $derived<readonly Destination[]>([...destinations, ...this.own]);

  async load(): Promise<void> {
    this.own = await ownPlaces();
  }
  byId(id: string): Destination | undefined {
    return this.all.find((d) => d.id === id);
  }
  async keep(place: Destination): Promise<void> {
    await keepPlace(place);
    await this.load();
  }
  async forget(id: string): Promise<void> {
    await forgetPlace(id);
    await this.load();
  }
  /** An id for a new place that no other has. */
  freeId(name: string): string {
    const plain =
      name
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-|-$/g, '')
        .slice(0, 34) || 'place';
    let id = plain;
    for (let n = 2; this.byId(id); n++) id = `${plain}-${n}`;
    return id;
  }
}

export const places = new Places();
