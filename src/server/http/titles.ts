import { isTypicaError } from '@/core/errors';
import type { Context } from '../context';
import type { Value } from '../db/pool';

/** What a tab is called by what it shows; a name for what is not there is the not-found page's. */
async function nameOf(ctx: Context, sql: string, values: readonly Value[]): Promise<string> {
  const row = await ctx.db.row<{ name: string }>(sql, [...values]).catch((error: unknown) => {
    // An address that no id can have is one of nothing.
    if (isTypicaError(error, 'text-impossible')) return null;
    throw error;
  });
  return row?.name || 'Page not found';
}

export const blankTitle = (ctx: Context, id: string): Promise<string> =>
  nameOf(ctx, 'SELECT b.name FROM blank b WHERE b.id = ?', [id]);

export const storeTitle = (ctx: Context, workspaceId: string, id: string): Promise<string> =>
  nameOf(ctx, 'SELECT name FROM store WHERE id = ? AND workspace_id = ?', [id, workspaceId]);

export const productTitle = (ctx: Context, workspaceId: string, id: string): Promise<string> =>
  nameOf(ctx, "SELECT IF(title = '', 'Untitled', title) AS name FROM product WHERE id = ? AND workspace_id = ?", [
    id,
    workspaceId,
  ]);

export const priceListTitle = (ctx: Context, workspaceId: string, id: string): Promise<string> =>
  nameOf(
    ctx,
    "SELECT CONCAT('Price list of ', p.name) AS name FROM price_list l JOIN partner p ON p.id = l.partner_id WHERE l.id = ? AND l.workspace_id = ?",
    [id, workspaceId],
  );
