import { othersToo } from '@/core/words/and-more';
import { RateTable, type ExchangeRate } from '@/core/pricing/rates';
import { invalid } from '@/core/errors';
import { rateFault, RateReader, type RateChecks } from '@/core/pricing/rates-csv';
import { note } from '../activity/note';
import type { Context } from '../context';
import { readCsvBody } from '../csv/body';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import { loadMoney } from '../pricing/settings';

/** A rate in force, and whether it is the workspace's own. */
export interface KeptRate extends ExchangeRate {
  readonly own: boolean;
}

/** Under which rates are kept that hold in every workspace. */
export const SHARED = '';

/** The newest rate of each pair that is of today or before, of several workspaces; found by the index alone, however many days there are. */
export const newestRates = (
  db: Database,
  workspaceIds: readonly string[],
): Promise<(ExchangeRate & { readonly workspaceId: string })[]> =>
  db.rows(
    `SELECT r.workspace_id AS workspaceId, r.from_currency AS \`from\`, r.to_currency AS \`to\`, TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM r.rate)) AS rate,
       DATE_FORMAT(r.rate_date, '%Y-%m-%d') AS date
     FROM (SELECT workspace_id, from_currency, to_currency, MAX(rate_date) AS rate_date FROM exchange_rate
           WHERE workspace_id IN (${workspaceIds.map(() => '?').join(',')}) AND rate_date <= UTC_DATE() GROUP BY workspace_id, from_currency, to_currency) n
     JOIN exchange_rate r USING (workspace_id, from_currency, to_currency, rate_date)
     ORDER BY workspaceId DESC, date DESC, r.from_currency, r.to_currency`,
    [...workspaceIds],
  );

/** The rates that hold for a workspace: the newest of each pair. One of its own holds in both directions, whatever is shared since, until it is taken away. */
export async function loadExchangeRates(ctx: Context, workspaceId: string): Promise<KeptRate[]> {
  const newest = new Map<string, KeptRate>();
  for (const { workspaceId: of, from, to, rate, date } of await newestRates(ctx.db, [SHARED, workspaceId])) {
    const own = of !== SHARED;
    // Its own come first: a shared one the other way round would be another rate of the same pair.
    if (newest.has(from + to) || (!own && newest.get(to + from)?.own)) continue;
    newest.set(from + to, { from, to, rate, date, own });
  }
  return [...newest.values()];
}

/** The rates of a workspace with its safety margin. */
export async function loadRateTable(ctx: Context, workspaceId: string): Promise<RateTable> {
  const [rates, { settings }] = await Promise.all([loadExchangeRates(ctx, workspaceId), loadMoney(ctx, workspaceId)]);
  return new RateTable(rates, settings.rateMarginPpm);
}

const today = (ctx: Context): string => ctx.clock.now().toISOString().slice(0, 10);

/** Rates that a workspace may keep: ten years of days for a few pairs. All are read wherever prices are. */
const MAX_RATES = 20_000;

/** What new rates are held against: those that hold. */
async function checksFor(ctx: Context, workspaceId: string, sure: boolean): Promise<RateChecks> {
  const table = new RateTable(await loadExchangeRates(ctx, workspaceId));
  return { today: today(ctx), sure, known: (from, to) => table.about(from, to) };
}

/**
 * Keeps rates of a workspace's own; one of the same pair and day is replaced. Throws `rate-invalid`, and `rate-jump` for one that is far from what
 * holds, unless it is said to be meant.
 */
export async function saveRates(
  ctx: Context,
  actor: Actor,
  rates: readonly ExchangeRate[],
  { source, sure = false }: { readonly source: string; readonly sure?: boolean },
): Promise<void> {
  const checks = await checksFor(ctx, actor.workspaceId, sure);
  for (const rate of rates) {
    const fault = rateFault(rate, checks);
    if (fault)
      throw invalid(fault.code === 'rate-jump' ? 'rate-jump' : 'rate-invalid', fault.says, {
        path: `/${fault.column}`,
      });
  }
  const held = await ctx.db.row<{ n: number }>('SELECT COUNT(*) AS n FROM exchange_rate WHERE workspace_id = ?', [
    actor.workspaceId,
  ]);
  if (held!.n + rates.length > MAX_RATES)
    throw invalid(
      'rates-too-many',
      `This workspace has ${held!.n} rates of its own; ${MAX_RATES} are the most. Delete those of a pair that is no longer needed.`,
    );
  await ctx.pools.transaction(async (db) => {
    await db.insertMany(
      'exchange_rate',
      ['workspace_id', 'from_currency', 'to_currency', 'rate_date', 'rate', 'source'],
      rates.map(({ from, to, rate, date }) => [actor.workspaceId, from, to, date, rate, source]),
      'ON DUPLICATE KEY UPDATE rate = VALUE(rate), source = VALUE(source)',
    );
    const [first] = rates;
    const says =
      rates.length === 1 && first
        ? `Set the rate of ${first.from} in ${first.to} to ${first.rate}.`
        : `Set ${rates.length} exchange rates, ${source}.`;
    await note(db, actor, { about: 'money', what: 'rates', says });
    await emit(db, actor.workspaceId, 'money', {});
  });
}

/** Takes rates from a file, all or nothing. Throws `csv-faulty` with all faults by line. */
export async function readRates(
  ctx: Context,
  actor: Actor,
  body: ReadableStream<Uint8Array> | null,
  sure = false,
): Promise<number> {
  const reader = new RateReader(await checksFor(ctx, actor.workspaceId, sure));
  await readCsvBody(body, reader, 1);
  const [first] = reader.faults;
  if (first)
    throw invalid(
      'csv-faulty',
      `Nothing was imported: line ${first.line}${first.column ? `, ${first.column}` : ''}: ${first.says}${othersToo(reader.faults.length)}`,
      { faults: reader.faults.slice(0, 500) },
    );
  if (reader.rates.length === 0) throw invalid('csv-empty', 'The file has no rates below its headings.');
  await saveRates(ctx, actor, reader.rates, { source: 'from a file', sure: true });
  return reader.rates.length;
}

/** Takes a workspace's own rates of a pair away, in both directions. */
export async function forgetRates(ctx: Context, actor: Actor, pair: string): Promise<void> {
  const [from, to] = pair.split('-');
  const [one, two] = [from ?? '', to ?? ''];
  await ctx.pools.transaction(async (db) => {
    await db.run(
      'DELETE FROM exchange_rate WHERE workspace_id = ? AND ((from_currency = ? AND to_currency = ?) OR (from_currency = ? AND to_currency = ?))',
      [actor.workspaceId, one, two, two, one],
    );
    await note(db, actor, { about: 'money', what: 'rates', says: `Deleted the own rates of ${one} and ${two}.` });
    await emit(db, actor.workspaceId, 'money', {});
  });
}
