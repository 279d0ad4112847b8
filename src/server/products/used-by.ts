import type { Blank } from '@/core/catalog/blank';
import { variantTroubles } from '@/core/variants/trouble';
import type { Context } from '../context';

/** A product that is made on a blank. */
export interface BlankUse {
  readonly id: string;
  readonly title: string;
  readonly variants: number;
  /** What of its variants ended or is out of stock, in sentences; none when all can be made. */
  readonly troubles: readonly string[];
}

/** Where a workspace uses a blank, the newest first. */
export async function usesOf(ctx: Context, workspaceId: string, blank: Blank): Promise<BlankUse[]> {
  const rows = await ctx.db.rows<{ id: string; title: string; variants: string[] | null }>(
    `SELECT id, title, JSON_KEYS(document, '$.variants') AS variants FROM product
     WHERE workspace_id = ? AND blank_id = ? AND archived_at IS NULL ORDER BY updated_at DESC, id LIMIT 200`,
    [workspaceId, blank.id],
  );
  return rows.map(({ id, title, variants }) => {
    const keys = (typeof variants === 'string' ? (JSON.parse(variants) as string[]) : variants) ?? [];
    return {
      id,
      title,
      variants: keys.length,
      troubles: variantTroubles(blank, Object.fromEntries(keys.map((key) => [key, true]))).map((one) => one.says),
    };
  });
}
