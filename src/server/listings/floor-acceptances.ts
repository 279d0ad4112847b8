import type { Database } from '../db/pool';

/** Who took it upon themselves to sell below the floor in a store, in which words, and when. */
export interface FloorAcceptance {
  readonly storeId: string;
  readonly says: string;
  readonly by: string;
  readonly at: Date;
}

/** Acceptances of losses, by product. */
export async function floorAcceptances(
  db: Database,
  productIds: readonly string[],
): Promise<Map<string, FloorAcceptance[]>> {
  const all = new Map<string, FloorAcceptance[]>();
  if (productIds.length === 0) return all;
  const rows = await db.rows<FloorAcceptance & { productId: string }>(
    `SELECT f.product_id AS productId, SUBSTRING(f.finding_id, 7) AS storeId, f.says, p.name AS \`by\`, f.accepted_at AS at
     FROM finding_acceptance f JOIN person p ON p.id = f.person_id
     WHERE f.finding_id LIKE 'floor:%' AND f.product_id IN (${productIds.map(() => '?').join(',')})`,
    productIds,
  );
  for (const { productId, ...acceptance } of rows) all.set(productId, [...(all.get(productId) ?? []), acceptance]);
  return all;
}
