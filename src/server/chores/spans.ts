import type { Context } from '../context';

/**
 * How long rows are kept that would only grow in number; docs/architecture.md lists them. Prices' history is kept as long as the product, and
 * revisions are thinned instead.
 */
const SPANS: readonly { readonly rows: string; readonly where: string }[] = [
  { rows: 'job', where: "state IN ('done', 'cancelled') AND finished_at < UTC_TIMESTAMP(3) - INTERVAL 14 DAY" },
  { rows: 'job', where: "state = 'failed' AND finished_at < UTC_TIMESTAMP(3) - INTERVAL 60 DAY" },
  {
    rows: 'job_group',
    where:
      'created_at < UTC_TIMESTAMP(3) - INTERVAL 14 DAY AND NOT EXISTS (SELECT 1 FROM job j WHERE j.group_id = job_group.id) AND NOT EXISTS (SELECT 1 FROM send s WHERE s.group_id = job_group.id)',
  },
  // Listings of old sends go first, page by page; what is left of a send then goes whole.
  {
    rows: 'send_item',
    where: 'send_id IN (SELECT id FROM send WHERE made_at < UTC_TIMESTAMP(3) - INTERVAL 180 DAY)',
  },
  {
    rows: 'send',
    where:
      'made_at < UTC_TIMESTAMP(3) - INTERVAL 180 DAY AND NOT EXISTS (SELECT 1 FROM send_item i WHERE i.send_id = send.id)',
  },
  { rows: 'activity', where: 'at < UTC_TIMESTAMP(3) - INTERVAL 730 DAY' },
  { rows: 'listing_sighting', where: 'last_at < UTC_TIMESTAMP(3) - INTERVAL 730 DAY' },
  // What many products' prices were before a change of many: its undo. The prices of each product go with it, by the key between them.
  { rows: 'price_batch', where: 'made_at < UTC_TIMESTAMP(3) - INTERVAL 180 DAY' },
  // So it is with other changes of many; their products go first, page by page.
  {
    rows: 'range_change_item',
    where: 'change_id IN (SELECT id FROM range_change WHERE made_at < UTC_TIMESTAMP(3) - INTERVAL 180 DAY)',
  },
  {
    rows: 'range_change',
    where:
      'made_at < UTC_TIMESTAMP(3) - INTERVAL 180 DAY AND NOT EXISTS (SELECT 1 FROM range_change_item i WHERE i.change_id = range_change.id)',
  },
  { rows: 'connect_attempt', where: 'expires_at < UTC_TIMESTAMP(3)' },
  { rows: 'session', where: 'expires_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY' },
  { rows: 'event', where: 'created_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY' },
  // A message that is older than its time may be is refused by that.
  { rows: 'hook_message', where: 'came_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY' },
  { rows: 'picture_upload', where: 'held_until < UTC_TIMESTAMP(3) - INTERVAL 1 HOUR' },
  { rows: 'store_share', where: 'held_until < UTC_TIMESTAMP(3) - INTERVAL 1 MINUTE' },
];

/** Rows that go in one statement: it must not hold others up. */
const AT_ONCE = 2000;
const MAX_ROUNDS = 20;

/** Takes out what is older than its span. Gives how many rows. */
export async function dropOldRows(ctx: Context): Promise<number> {
  let dropped = 0;
  for (const { rows, where } of SPANS)
    for (let round = 0; round < MAX_ROUNDS; round += 1) {
      const { affectedRows } = await ctx.db.run(`DELETE FROM ${rows} WHERE ${where} LIMIT ${AT_ONCE}`);
      dropped += affectedRows;
      if (affectedRows < AT_ONCE) break;
    }
  return dropped;
}
