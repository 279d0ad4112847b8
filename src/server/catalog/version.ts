import type { Context } from '../context';

/** Counts up whenever the shared catalog changes (import.ts): what is kept in memory of it holds as long as this stays. See docs/decisions/0008. */
export async function catalogVersion(ctx: Context): Promise<number> {
  const row = await ctx.db.row<{ version: number }>('SELECT version FROM catalog_version');
  return Number(row?.version ?? 0);
}
