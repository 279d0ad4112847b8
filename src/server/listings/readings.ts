import { LEVELS } from '@/core/sync/sightings';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { enqueue } from '../jobs/jobs';
import { channelOf } from '../stores/stores';

/** Part of what a shop takes in a time that readings may use. */
const SHARE = 0.25;
/** Requests that one reading needs at most, by and large. */
const REQUESTS_EACH = 3;
/** Stores that are looked at in one go. */
const STORES_AT_ONCE = 200;
/** Readings wait behind whatever a person wants. */
const PRIORITY = 1;

interface LookedAt {
  readonly id: string;
  readonly workspaceId: string;
  readonly channel: string;
  readonly name: string;
  readonly busy: number;
  readonly askDue: number;
}

/**
 * Sees to it that shops are looked into: those that tell what changed are asked for it, and listings whose turn has come are read, as long as nothing else
 * is to do in that store. The stores that were longest not looked at come first.
 */
export async function lookInShops(ctx: Context): Promise<number> {
  const everySeconds = ctx.config.lookSeconds;
  if (everySeconds === 0) return 0;
  const stores = await ctx.db.rows<LookedAt>(
    `SELECT s.id, s.workspace_id AS workspaceId, s.channel, s.name, w.asked_at IS NULL OR w.asked_at < UTC_TIMESTAMP(3) - INTERVAL ? SECOND AS askDue,
       EXISTS (SELECT 1 FROM job j WHERE j.state IN ('queued', 'running') AND j.held = FALSE AND j.workspace_id = s.workspace_id AND j.queue_store = s.id AND j.priority > ${PRIORITY} AND j.run_after <= UTC_TIMESTAMP(3)) AS busy
     FROM store s LEFT JOIN store_watch w ON w.store_id = s.id WHERE s.state = 'connected' ORDER BY w.looked_at LIMIT ${STORES_AT_ONCE}`,
    [everySeconds],
  );
  if (stores.length === 0) return 0;
  await ctx.db.insertMany(
    'store_watch',
    ['store_id'],
    stores.map(({ id }) => [id]),
    'ON DUPLICATE KEY UPDATE looked_at = UTC_TIMESTAMP(3)',
  );
  for (const store of stores) if (store.busy === 0) await lookInto(ctx, store);
  return stores.length;
}

async function lookInto(ctx: Context, store: LookedAt): Promise<void> {
  const asks = store.askDue === 1 && channelOf(ctx, store.channel).about.tellsChanges;
  const reads = (await dueIds(ctx.db, store.id, 1)).length > 0;
  if (!asks && !reads) return;
  await ctx.pools.transaction(async (db) => {
    if (asks) await enqueue(db, jobFor(store, 'ask-changes', `Ask ${store.name} what changed`));
    if (reads) await requestReadings(db, store);
  });
}

const jobFor = ({ id, workspaceId }: Pick<LookedAt, 'id' | 'workspaceId'>, kind: string, title: string) => ({
  workspaceId,
  kind,
  title,
  payload: { storeId: id },
  subject: `${kind}:${id}`,
  storeId: id,
  priority: PRIORITY,
});

/** Has listings of a store read whose turn it is. */
export const requestReadings = (db: Database, store: Pick<LookedAt, 'id' | 'workspaceId' | 'name'>): Promise<string> =>
  enqueue(db, jobFor(store, 'read-listings', `Read listings in ${store.name}`));

/** Listings that a store's readings may take in one job: as many as its shop has room for in the time until the next. */
export function readingsAtOnce(ctx: Context, channel: string): number {
  const { perSecond } = channelOf(ctx, channel).about.rate;
  return Math.max(1, Math.floor((perSecond * SHARE * ctx.config.lookSeconds) / REQUESTS_EACH));
}

/** Listings of a store whose turn it is to be read: first what the shop said that changed, then what changes most. */
export async function dueIds(db: Database, storeId: string, most: number): Promise<string[]> {
  const ids: string[] = [];
  for (const how of ['since', 'reading'])
    for (let level = 0; level < LEVELS && ids.length < most; level += 1) {
      const rows = await db.rows<{ id: string }>(
        `SELECT id FROM listing WHERE store_id = ? AND read_how = ? AND read_level = ? AND read_due_at <= UTC_TIMESTAMP(3) ORDER BY read_due_at LIMIT ?`,
        [storeId, how, level, most - ids.length],
      );
      ids.push(...rows.map(({ id }) => id));
    }
  return ids;
}
