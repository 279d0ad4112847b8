import type { Database } from './pool';

/** Throws where the database does not answer. */
export const ping = async (db: Database): Promise<void> => void (await db.row('SELECT 1'));
