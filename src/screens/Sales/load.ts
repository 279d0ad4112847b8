import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { listSales, type SaleRow } from '@/server/sales/sales';
import { listStores } from '@/server/stores/stores';

export interface SaleTold extends Omit<SaleRow, 'startsAt' | 'endsAt' | 'workspaceId'> {
  readonly startsAt: string;
  readonly endsAt: string;
}

export interface SalesData {
  readonly sales: readonly SaleTold[];
  readonly stores: readonly { readonly id: string; readonly name: string }[];
  readonly kinds: readonly string[];
  readonly tags: readonly string[];
  /** Titles of products that sales name. */
  readonly titles: { readonly [productId: string]: string };
  readonly currency: string;
}

/** Tags that are offered. */
const MOST_TAGS = 100;

/** Everything that the page of sales shows. */
export async function loadSales(ctx: Context, actor: Actor): Promise<SalesData> {
  const [sales, stores, kinds, tags] = await Promise.all([
    listSales(ctx, actor.workspaceId),
    listStores(ctx, actor.workspaceId),
    ctx.db.rows<{ kind: string }>(
      `SELECT DISTINCT g.kind FROM product p JOIN blank b ON b.id = p.blank_id JOIN good g ON g.id = b.good_id
       WHERE p.workspace_id = ? AND p.archived_at IS NULL ORDER BY g.kind`,
      [actor.workspaceId],
    ),
    ctx.db.rows<{ tag: string }>(
      `SELECT DISTINCT t.tag FROM artwork a, JSON_TABLE(a.tags, '$[*]' COLUMNS (tag VARCHAR(80) PATH '$')) t
       WHERE a.workspace_id = ? ORDER BY t.tag LIMIT ?`,
      [actor.workspaceId, MOST_TAGS],
    ),
  ]);
  const named = [
    ...new Set(
      sales
        .flatMap(({ report }) => [report?.begun, report?.ended].flatMap((one) => one?.left ?? []))
        .map((one) => one.productId),
    ),
  ];
  const titles =
    named.length === 0
      ? []
      : await ctx.db.rows<{ id: string; title: string }>(
          `SELECT id, title FROM product WHERE workspace_id = ? AND id IN (${named.map(() => '?').join(',')})`,
          [actor.workspaceId, ...named],
        );
  return {
    sales: sales.map(({ workspaceId: _own, startsAt, endsAt, ...sale }) => ({
      ...sale,
      startsAt: startsAt.toISOString(),
      endsAt: endsAt.toISOString(),
    })),
    stores: stores.map(({ id, name }) => ({ id, name })),
    kinds: kinds.map(({ kind }) => kind),
    tags: tags.map(({ tag }) => tag),
    titles: Object.fromEntries(titles.map(({ id, title }) => [id, title])),
    currency: actor.currency,
  };
}
