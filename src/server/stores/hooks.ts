import crypto from 'node:crypto';
import { notFound, TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { tell } from '../events/events';
import { requestCheck } from '../listings/listings';
import { open, seal } from '../people/secrets';
import { openStore } from './keys';
import { signatureHolds } from './signature';
import { channelOf, type Store } from './stores';

/** A message that is older or newer than this is refused, as the Standard Webhooks specification has it. */
const TOLERANCE_SECONDS = 300;
/** What messages of shops may hold: they name a listing, and nothing more. */
export const MAX_MESSAGE_BYTES = 64 * 1024;

/** Has a store's shop tell its changes to us, where it does that. The address is a secret of its own; what is told there must be signed too. */
export async function subscribe(ctx: Context, store: Store): Promise<void> {
  const client = await openStore(ctx, store);
  if (!client.hooks) return;
  const have = await ctx.db.row<{ addressKey: string }>(
    'SELECT address_key AS addressKey FROM store_hook WHERE store_id = ?',
    [store.id],
  );
  const addressKey = have?.addressKey ?? crypto.randomBytes(16).toString('hex');
  const { secret } = await client.hooks.subscribe(`${ctx.config.origin}/api/v1/hooks/${addressKey}`);
  await ctx.db.run(
    'INSERT INTO store_hook (store_id, address_key, sealed) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE sealed = VALUE(sealed)',
    [store.id, addressKey, seal(ctx.masterKey, secret, store.id)],
  );
}

const refused = (says: string) => new TypicaError('unauthenticated', 'hook-refused', says);

/** What is needed of a store whose shop tells something. */
type TellingStore = Pick<Store, 'id' | 'workspaceId' | 'channel' | 'name'>;

/** A message as it came. */
export interface Message {
  readonly id: string;
  readonly seconds: string;
  readonly signatures: string;
  readonly body: string;
}

/**
 * Takes a message of a shop: its signature must hold, its time be near ours, and its id be new. What it tells is not believed but looked up: the listing
 * is read in the shop. Throws `not-found`, `hook-refused`.
 */
export async function takeMessage(ctx: Context, addressKey: string, message: Message): Promise<'taken' | 'known'> {
  const hook = await ctx.db.row<TellingStore & { sealed: Buffer }>(
    `SELECT s.id, s.workspace_id AS workspaceId, s.channel, s.name, h.sealed FROM store_hook h JOIN store s ON s.id = h.store_id
     WHERE h.address_key = ?`,
    [addressKey],
  );
  if (!hook) throw notFound('address for messages', addressKey);
  const { id, seconds, signatures, body } = message;
  if (!/^[\x21-\x7e]{1,120}$/.test(id) || !/^\d{1,12}$/.test(seconds))
    throw refused('The message has no webhook-id or webhook-timestamp.');
  if (!signatureHolds(open(ctx.masterKey, hook.sealed, hook.id), id, seconds, body, signatures))
    throw refused('The signature of the message does not hold.');
  const offSeconds = Math.abs(ctx.clock.now().getTime() / 1000 - Number(seconds));
  if (offSeconds > TOLERANCE_SECONDS)
    throw refused(
      `The message says that it is ${Math.round(offSeconds)} s from now; ${TOLERANCE_SECONDS} s are taken.`,
    );
  const { affectedRows } = await ctx.db.run('INSERT IGNORE INTO hook_message (store_id, message_id) VALUES (?, ?)', [
    hook.id,
    id,
  ]);
  if (affectedRows === 0) return 'known';
  await lookAt(ctx, hook, body);
  return 'taken';
}

/** Has the listing read that a message is about; one that is not ours is nothing to us yet. */
async function lookAt(ctx: Context, store: TellingStore, body: string): Promise<void> {
  let said: unknown;
  try {
    said = JSON.parse(body);
  } catch {
    throw refused('The message is no JSON.');
  }
  const news = channelOf(ctx, store.channel).readNews?.(said);
  if (!news) return;
  // What is being sent is read back when it is there: the message may be about that.
  const row = await ctx.db.row<{ id: string; workspaceId: string; storeId: string; productId: string }>(
    `SELECT l.id, l.workspace_id AS workspaceId, l.store_id AS storeId, l.product_id AS productId FROM listing l LEFT JOIN job j ON j.id = l.job_id
     WHERE l.store_id = ? AND l.external_id = ? AND COALESCE(j.state, 'done') NOT IN ('queued', 'running', 'waiting')`,
    [store.id, news.externalId],
  );
  if (!row) return;
  await requestCheck(ctx, row, store.name, 'told');
  await tell(ctx.db, store.workspaceId, 'listing', { productId: row.productId, storeId: store.id });
}
