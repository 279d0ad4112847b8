import { RateTable, type ExchangeRate } from '@/core/pricing/rates';
import type { Context } from '../context';

/** Newest rate of each pair for a workspace, its own before a shared one of the same day or older. */
export async function loadExchangeRates(ctx: Context, workspaceId: string): Promise<ExchangeRate[]> {
  const rows = await ctx.db.rows<ExchangeRate & { own: number }>(
    `SELECT from_currency AS \`from\`, to_currency AS \`to\`, TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM rate)) AS rate, DATE_FORMAT(rate_date, '%Y-%m-%d') AS date, workspace_id <> '' AS own
     FROM exchange_rate WHERE workspace_id IN ('', ?) AND rate_date <= UTC_DATE() ORDER BY own DESC, rate_date DESC`,
    [workspaceId],
  );
  const newest = new Map<string, ExchangeRate>();
  for (const { from, to, rate, date } of rows)
    if (!newest.has(from + to)) newest.set(from + to, { from, to, rate, date });
  return [...newest.values()];
}

export const loadRateTable = async (ctx: Context, workspaceId: string): Promise<RateTable> =>
  new RateTable(await loadExchangeRates(ctx, workspaceId));
