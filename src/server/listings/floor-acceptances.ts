import type { AcceptedLosses } from '@/core/rules/accepted-losses';
import type { Database } from '../db/pool';

/** Who took losses in a store upon themselves, which ones, and when. */
export interface FloorAcceptance {
  readonly storeId: string;
  readonly losses: AcceptedLosses;
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
    `SELECT f.product_id AS productId, SUBSTRING(f.finding_id, 7) AS storeId, f.losses, p.name AS \`by\`, f.accepted_at AS at
     FROM finding_acceptance f JOIN person p ON p.id = f.person_id
     WHERE f.finding_id LIKE 'floor:%' AND f.losses IS NOT NULL AND f.product_id IN (${productIds.map(() => '?').join(',')})`,
    productIds,
  );
  for (const { productId, ...acceptance } of rows) all.set(productId, [...(all.get(productId) ?? []), acceptance]);
  return all;
}
