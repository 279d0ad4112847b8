import { isTypicaError } from '@/core/errors';
import { checkRates, type HeldRate, type MovedRate } from '@/core/pricing/rate-feed';
import type { ExchangeRate } from '@/core/pricing/rates';
import { RateReader } from '@/core/pricing/rates-csv';
import type { Context } from '../context';
import { readRows } from '../csv/body';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import { log } from '../log';
import { newestRates, SHARED } from './rates';

/** What became of the daily rates, as the page of rates tells it. */
export interface RateFeedView {
  readonly broughtAt: Date | null;
  /** Day of the newest rate, YYYY-MM-DD. */
  readonly newestDate: string | null;
  /** Why the last try brought nothing; null when it did. */
  readonly fault: string | null;
  readonly held: readonly HeldRate[];
  readonly moved: readonly MovedRate[];
}

/** What became of the daily rates; null where this copy has no publisher of rates. */
export async function viewRateFeed(ctx: Context): Promise<RateFeedView | null> {
  if (!ctx.rateFeed) return null;
  const row = await ctx.db.row<RateFeedView>(
    "SELECT brought_at AS broughtAt, DATE_FORMAT(newest_date, '%Y-%m-%d') AS newestDate, fault, held, moved FROM rate_feed WHERE id = 1",
  );
  return row ?? { broughtAt: null, newestDate: null, fault: null, held: [], moved: [] };
}

const note = (db: Database, fault: string | null) =>
  db.run('UPDATE rate_feed SET asked_at = UTC_TIMESTAMP(3), fault = ? WHERE id = 1', [fault?.slice(0, 300) ?? null]);

/** Reads a day of rates: all of it, or nothing. Gives the first fault in words where it cannot be read. */
async function readDay(ctx: Context, bytes: Uint8Array): Promise<readonly ExchangeRate[] | { readonly fault: string }> {
  const today = ctx.clock.now().toISOString().slice(0, 10);
  // Jumps are checked apart: one of them does not keep the others out.
  const reader = new RateReader({ today, sure: true, known: () => null });
  await readRows(bytes, reader);
  const [fault] = reader.faults;
  if (fault) return { fault: `What the publisher of rates sent cannot be read: line ${fault.line}: ${fault.says}` };
  return reader.rates.length > 0 ? reader.rates : { fault: 'What the publisher of rates sent has no rates in it.' };
}

/** Tells the workspaces in which somebody is signed in that rates are others. */
const emitToAll = async (db: Database) => {
  const rows = await db.rows<{ id: string }>(
    'SELECT DISTINCT workspace_id AS id FROM session WHERE expires_at > UTC_TIMESTAMP(3) LIMIT 2000',
  );
  for (const { id } of rows) await emit(db, id, 'money', {});
};

async function saveDay(ctx: Context, read: readonly ExchangeRate[]): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    const before = await db.row<{ held: readonly HeldRate[]; moved: readonly MovedRate[] }>(
      'SELECT held, moved FROM rate_feed WHERE id = 1 FOR UPDATE',
    );
    const known = new Map((await newestRates(db, [SHARED])).map((rate) => [rate.from + rate.to, rate]));
    const { taken, held, moved } = checkRates(read, (from, to) => known.get(from + to) ?? null, before?.held ?? []);
    await db.insertMany(
      'exchange_rate',
      ['workspace_id', 'from_currency', 'to_currency', 'rate_date', 'rate', 'source'],
      taken.map(({ from, to, rate, date }) => [SHARED, from, to, date, rate, 'daily rates']),
      'ON DUPLICATE KEY UPDATE rate = VALUE(rate), source = VALUE(source)',
    );
    const dates = read.map(({ date }) => date).toSorted();
    await db.run(
      'UPDATE rate_feed SET asked_at = UTC_TIMESTAMP(3), brought_at = UTC_TIMESTAMP(3), newest_date = ?, fault = NULL, held = ?, moved = ? WHERE id = 1',
      [
        dates.at(-1)!,
        JSON.stringify(held),
        // What moved far is told until rates change again.
        JSON.stringify(taken.length > 0 ? moved : (before?.moved ?? [])),
      ],
    );
    if (taken.length > 0 || held.length > (before?.held.length ?? 0)) await emitToAll(db);
  });
}

/** Brings the rates of the day for all workspaces, where this copy has a publisher of them. What is wrong is noted, and rates stay as they are. */
export async function bringRates(ctx: Context): Promise<void> {
  if (!ctx.rateFeed) return;
  let bytes: Uint8Array;
  try {
    bytes = await ctx.rateFeed.newest();
  } catch (error) {
    if (!isTypicaError(error)) throw error;
    log.warn({ err: error }, 'rates did not come');
    await note(ctx.db, error.message);
    return;
  }
  const read = await readDay(ctx, bytes);
  if ('fault' in read) await note(ctx.db, read.fault);
  else await saveDay(ctx, read);
}
