import { readRoutine, type Routine } from '@ulvrin/core';
import { database, type Database } from './database.ts';
import { exportedJson } from './exported-json.ts';

/** Routines that the user keeps, by name; one kept under a name that there is takes its place. */
export const ownRoutines = (db: Database = database()): Promise<Routine[]> => db.routines.orderBy('name').toArray();
export const keepRoutine = async (routine: Routine, db: Database = database()): Promise<void> => void (await db.routines.put(routine));
export const forgetRoutine = (name: string, db: Database = database()): Promise<void> => db.routines.delete(name);

/** A routine as it was exported. @throws Error in one sentence where it is none */
export const routineIn = (text: string): Routine => readRoutine(exportedJson(text, 'routine'));
