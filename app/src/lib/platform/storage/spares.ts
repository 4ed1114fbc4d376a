import { readSpare, type Spare } from '@ulvrin/core';
import { database, type Database, type SpareRecord } from './database.ts';
import { exportedJson } from './exported-json.ts';

/** All spares, by name: they are there for every job. */
export const ownSpares = (db: Database = database()): Promise<SpareRecord[]> => db.spares.orderBy('name').toArray();
export const keepSpare = async (spare: Spare, picture?: string, db: Database = database()): Promise<void> =>
  void (await db.spares.put({ id: crypto.randomUUID(), at: new Date().toISOString(), name: spare.name, spare, picture }));
export const forgetSpare = (id: string, db: Database = database()): Promise<void> => db.spares.delete(id);

/** A spare as it was exported. @throws Error in one sentence where it is none */
export const spareIn = (text: string): Spare => readSpare(exportedJson(text, 'spare'));
