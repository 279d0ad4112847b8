import type { Database } from '../db/pool';

/** Kinds of goods that there are, by name. */
export const kindsOfGoods = async (db: Database): Promise<string[]> =>
  (await db.rows<{ kind: string }>('SELECT DISTINCT kind FROM good ORDER BY kind')).map(({ kind }) => kind);

/** Print partners, by name. */
export const partnerNames = (db: Database): Promise<{ id: string; name: string }[]> =>
  db.rows<{ id: string; name: string }>('SELECT id, name FROM partner ORDER BY name');

/** Goods, by name. */
export const goodNames = (db: Database): Promise<{ code: string; name: string }[]> =>
  db.rows<{ code: string; name: string }>('SELECT code, name FROM good ORDER BY name');
