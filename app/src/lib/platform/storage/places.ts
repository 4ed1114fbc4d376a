import { type Destination, destinationSchema } from '@ulvrin/core';
import { database, type Database } from './database.ts';
import { exportedJson } from './exported-json.ts';

/** Destinations that the user has described, by name. */
export const ownPlaces = (db: Database = database()): Promise<Destination[]> => db.places.orderBy('name').toArray();
export const keepPlace = async (place: Destination, db: Database = database()): Promise<void> => void (await db.places.put(place));
export const forgetPlace = (id: string, db: Database = database()): Promise<void> => db.places.delete(id);

/** A destination as it was exported. @throws Error in one sentence where it is none */
export function readPlace(text: string): Destination {
  const { value, error } = destinationSchema.validate(exportedJson(text, 'destination'));
  if (error) throw new Error(`This file describes no destination: ${error.message}.`);
  return value as Destination;
}
