import type { Database } from '../db/pool';

/** Kinds of goods that there are, by name. */
export const kindsOfGoods = async (db: Database): Promise<string[]> =>
  (await db.rows<{ kind: string }>('SELECT DISTINCT kind FROM good ORDER BY kind')).map(({ kind }) => kind);

/** Print partners, by name. */
export const partnerNames = (db: Database): Promise<{ id: string; name: string }[]> =>
  db.rows<{ id: string; name: string }>('SELECT id, name FROM partner ORDER BY name');

/** Colors of blanks by code, with a swatch of each. */
export const colorSwatches = (db: Database): Promise<{ code: string; name: string; hex: string }[]> =>
  db.rows<{ code: string; name: string; hex: string }>(
    'SELECT value_code AS code, MIN(name) AS name, MIN(hex) AS hex FROM blank_option_value WHERE hex IS NOT NULL GROUP BY value_code ORDER BY name',
  );

/** Parcel classes by code, with the goods that go in them. */
export const parcelClasses = (db: Database): Promise<{ code: string; goods: string }[]> =>
  db.rows<{ code: string; goods: string }>(
    "SELECT b.parcel_class AS code, GROUP_CONCAT(DISTINCT g.name ORDER BY g.name SEPARATOR ', ') AS goods FROM blank b JOIN good g ON g.id = b.good_id GROUP BY b.parcel_class ORDER BY code",
  );

/** Goods, by name. */
export const goodNames = (db: Database): Promise<{ code: string; name: string }[]> =>
  db.rows<{ code: string; name: string }>('SELECT code, name FROM good ORDER BY name');
