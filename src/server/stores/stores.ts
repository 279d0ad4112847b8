import crypto from 'node:crypto';
import { notFound, TypicaError } from '@/core/errors';
import { sameJson } from '@/core/json/bounds';
import { feesOn, type Fee } from '@/core/pricing/fees';
import type { AimsAt, Outlet } from '@/core/pricing/outlet';
import type { Channel, ChannelClient, ChannelSecrets } from '@/ports/channel';
import type { Context } from '../context';
import { newId } from '../db/ids';
import { emit } from '../events/events';
import { log } from '../log';
import type { Actor } from '../people/people';
import { newToken, open, seal, tokenHash } from '../people/secrets';
import { slowDown, takeTurn } from './rate';

export interface StoreSettings {
  /** Items over which a fee per listing is spread. */
  readonly expectedSales: number;
  /** Where its one price is to meet an aim; absent: at its first destination. */
  readonly aimsAt?: AimsAt;
  /** Print partners declared in the shop, by name, as last seen. */
  readonly declaredPartners: readonly string[];
}

export interface Store {
  readonly id: string;
  readonly workspaceId: string;
  readonly channel: string;
  readonly name: string;
  readonly shopId: string;
  readonly shopUrl: string;
  readonly currency: string;
  readonly state: 'connected' | 'lapsed' | 'disconnected';
  readonly settings: StoreSettings;
  readonly connectedAt: Date;
  /** What it takes as the seller knows it, on any day; null: as its channel publishes. */
  readonly ownFees: readonly Fee[] | null;
}

const NEWEST_FEES = (of: string) =>
  `(SELECT f.fees FROM fee_list f WHERE f.workspace_id = store.workspace_id AND f.channel = store.channel AND f.store_id = ${of} AND f.currency IN ('', store.currency) ORDER BY f.id DESC LIMIT 1)`;
const COLUMNS = `id, workspace_id AS workspaceId, channel, name, shop_id AS shopId, shop_url AS shopUrl, currency, state, settings, connected_at AS connectedAt,
  COALESCE(${NEWEST_FEES('store.id')}, ${NEWEST_FEES("''")}) AS ownFees`;

type StoreRow = Omit<Store, 'ownFees'> & { readonly ownFees: string | readonly Fee[] | null };
const asStore = ({ ownFees, ...row }: StoreRow): Store => ({
  ...row,
  ownFees: typeof ownFees === 'string' ? (JSON.parse(ownFees) as Fee[]) : ownFees,
});

export async function listStores(ctx: Context, workspaceId: string): Promise<Store[]> {
  const rows = await ctx.db.rows<StoreRow>(
    `SELECT ${COLUMNS} FROM store WHERE workspace_id = ? AND state <> 'disconnected' ORDER BY connected_at, id`,
    [workspaceId],
  );
  return rows.map(asStore);
}

export async function findStore(ctx: Context, workspaceId: string, id: string): Promise<Store> {
  const store = await ctx.db.row<StoreRow>(`SELECT ${COLUMNS} FROM store WHERE id = ? AND workspace_id = ?`, [
    id,
    workspaceId,
  ]);
  if (!store) throw notFound('store', id);
  return asStore(store);
}

export function channelOf(ctx: Context, code: string): Channel {
  const channel = ctx.channels.get(code);
  if (!channel)
    throw new TypicaError(
      'invalid',
      'channel-unknown',
      `There is no channel “${code}”; there are ${[...ctx.channels.keys()].join(', ')}.`,
    );
  return channel;
}

/** The day that decides what is in force, YYYY-MM-DD in UTC. */
export const today = (ctx: Context): string => ctx.clock.now().toISOString().slice(0, 10);

/** A store as pricing sees it today. */
export function outletOf(ctx: Context, store: Store): Outlet {
  const { fees: published, sellsTo } = channelOf(ctx, store.channel).about;
  const fees = feesOn(store.ownFees ?? published, today(ctx));
  return {
    id: store.id,
    name: store.name,
    currency: store.currency,
    fees,
    expectedSales: store.settings.expectedSales,
    sellsTo,
    aimsAt: store.settings.aimsAt ?? 'first',
  };
}

export const redirectUri = (ctx: Context): string => `${ctx.config.origin}/api/v1/stores/callback`;

/** PKCE challenge of a verifier: base64url of its SHA-256 (RFC 7636, method S256). */
export const pkceChallenge = (verifier: string): string =>
  crypto.createHash('sha256').update(verifier).digest('base64url');

/** Begins a connection: gives the address of the shop's consent page. The state ties the answer to this person, for ten minutes. */
export async function beginConnect(ctx: Context, actor: Actor, channelCode: string): Promise<{ authorizeUrl: string }> {
  const channel = channelOf(ctx, channelCode);
  const [state, verifier] = [newToken(), newToken()];
  const hash = tokenHash(state);
  await ctx.db.run('DELETE FROM connect_attempt WHERE expires_at < UTC_TIMESTAMP(3)');
  await ctx.db.run(
    'INSERT INTO connect_attempt (state_hash, workspace_id, person_id, channel, sealed_verifier, expires_at) VALUES (?, ?, ?, ?, ?, UTC_TIMESTAMP(3) + INTERVAL 10 MINUTE)',
    [hash, actor.workspaceId, actor.personId, channelCode, seal(ctx.masterKey, verifier, hash)],
  );
  return {
    authorizeUrl: channel.authorizeUrl({ state, challenge: pkceChallenge(verifier), redirectUri: redirectUri(ctx) }),
  };
}

/** Ends a connection with the shop's answer. The state is used up whatever happens. Throws `connect-state`, and what the channel throws. */
export async function finishConnect(
  ctx: Context,
  actor: Actor,
  answer: { state: string; code: string },
): Promise<Store> {
  const hash = tokenHash(answer.state);
  const attempt = await ctx.pools.transaction(async (db) => {
    const row = await db.row<{ channel: string; personId: string; workspaceId: string; sealedVerifier: Buffer }>(
      'SELECT channel, person_id AS personId, workspace_id AS workspaceId, sealed_verifier AS sealedVerifier FROM connect_attempt WHERE state_hash = ? AND expires_at > UTC_TIMESTAMP(3) FOR UPDATE',
      [hash],
    );
    if (row) await db.run('DELETE FROM connect_attempt WHERE state_hash = ?', [hash]);
    return row;
  });
  if (!attempt || attempt.personId !== actor.personId || attempt.workspaceId !== actor.workspaceId) {
    throw new TypicaError(
      'forbidden',
      'connect-state',
      'This answer from the shop belongs to no connection that you began in the last ten minutes. Begin again.',
    );
  }
  const channel = channelOf(ctx, attempt.channel);
  const connection = await channel.exchange({
    code: answer.code,
    verifier: open(ctx.masterKey, attempt.sealedVerifier, hash),
    redirectUri: redirectUri(ctx),
  });
  const id = await ctx.pools.transaction(async (db) => {
    const have = await db.row<{ id: string }>(
      'SELECT id FROM store WHERE workspace_id = ? AND channel = ? AND shop_id = ? FOR UPDATE',
      [actor.workspaceId, attempt.channel, connection.shopId],
    );
    const storeId = have?.id ?? newId('s');
    if (have)
      await db.run(
        "UPDATE store SET state = 'connected', name = ?, shop_url = ?, connected_at = UTC_TIMESTAMP(3) WHERE id = ?",
        [connection.shopName, connection.shopUrl, storeId],
      );
    else {
      const settings: StoreSettings = { expectedSales: 10, declaredPartners: [] };
      await db.run(
        "INSERT INTO store (id, workspace_id, channel, name, shop_id, shop_url, currency, state, settings) VALUES (?, ?, ?, ?, ?, ?, ?, 'connected', ?)",
        [
          storeId,
          actor.workspaceId,
          attempt.channel,
          connection.shopName,
          connection.shopId,
          connection.shopUrl,
          connection.currency,
          JSON.stringify(settings),
        ],
      );
    }
    await db.run(
      'INSERT INTO store_secret (store_id, sealed) VALUES (?, ?) ON DUPLICATE KEY UPDATE sealed = VALUE(sealed)',
      [storeId, seal(ctx.masterKey, JSON.stringify(connection.secrets), storeId)],
    );
    await emit(db, actor.workspaceId, 'store', { storeId });
    return storeId;
  });
  const store = await findStore(ctx, actor.workspaceId, id);
  // It is connected: whether the shop answers once more does not change that.
  return refreshDeclaredPartners(ctx, store).catch((error: unknown) => {
    log.warn({ err: error, storeId: id }, 'declared partners could not be read after connecting');
    return store;
  });
}

const readSecrets = (ctx: Context, storeId: string, sealed: Buffer): ChannelSecrets =>
  JSON.parse(open(ctx.masterKey, sealed, storeId)) as ChannelSecrets;

const noKey = (store: Store) =>
  new TypicaError(
    'conflict',
    'store-disconnected',
    `${store.name} has no key any more. Connect it again on the Stores page.`,
  );

/**
 * Trades keys that ran out for new ones, once for all workers: a key to renew with is good for one use. The row is held meanwhile; who comes
 * second finds what the first was given.
 */
async function renewSecrets(
  ctx: Context,
  store: Store,
  stale: ChannelSecrets,
  ask: (stale: ChannelSecrets) => Promise<ChannelSecrets>,
): Promise<ChannelSecrets> {
  return ctx.pools.transaction(async (db) => {
    const row = await db.row<{ sealed: Buffer }>('SELECT sealed FROM store_secret WHERE store_id = ? FOR UPDATE', [
      store.id,
    ]);
    if (!row) throw noKey(store);
    const now = readSecrets(ctx, store.id, row.sealed);
    if (!sameJson(now, stale)) return now;
    const fresh = await ask(stale);
    await db.run('UPDATE store_secret SET sealed = ? WHERE store_id = ?', [
      seal(ctx.masterKey, JSON.stringify(fresh), store.id),
      store.id,
    ]);
    return fresh;
  });
}

/** Who makes requests: ends them, and is asked before each whether it still may. */
export interface Caller {
  readonly signal: AbortSignal;
  mayGoOn(): Promise<void>;
}

/**
 * A client for a store's shop: tokens are opened here and renewed for all, each request waits for the store's rate, and a job's requests end with
 * its lease.
 */
export async function openStore(ctx: Context, store: Store, by?: Caller): Promise<ChannelClient> {
  if (store.state === 'disconnected')
    throw new TypicaError(
      'conflict',
      'store-disconnected',
      `${store.name} is no longer connected. Connect it again on the Stores page.`,
    );
  const row = await ctx.db.row<{ sealed: Buffer }>('SELECT sealed FROM store_secret WHERE store_id = ?', [store.id]);
  if (!row) throw noKey(store);
  const channel = channelOf(ctx, store.channel);
  const { perSecond } = channel.about.rate;
  let lapsed = store.state === 'lapsed';
  return channel.open(readSecrets(ctx, store.id, row.sealed), {
    signal: by?.signal,
    renew: (stale, ask) => renewSecrets(ctx, store, stale, ask),
    slowDown: (retryAfterMs) => slowDown(ctx, store.id, perSecond, retryAfterMs),
    takeTurn: async () => {
      const turn = await takeTurn(ctx, store.id, perSecond, by?.signal);
      try {
        // As late as can be: whoever slept since it took its turn must not make the request.
        await by?.mayGoOn();
      } catch (error) {
        await turn.answered();
        throw error;
      }
      return {
        answered: async (taken) => {
          await turn.answered();
          if (taken && lapsed) {
            lapsed = false;
            await markWorking(ctx, store);
          }
        },
      };
    },
  });
}

async function saveSettings(ctx: Context, store: Store, settings: StoreSettings): Promise<Store> {
  await ctx.db.run('UPDATE store SET settings = ? WHERE id = ?', [JSON.stringify(settings), store.id]);
  await emit(ctx.db, store.workspaceId, 'store', { storeId: store.id });
  return { ...store, settings };
}

export async function refreshDeclaredPartners(ctx: Context, store: Store): Promise<Store> {
  const client = await openStore(ctx, store);
  return saveSettings(ctx, store, { ...store.settings, declaredPartners: await client.declaredPartners() });
}

/** Declares a print partner in the shop. */
export async function declarePartner(ctx: Context, store: Store, partnerId: string): Promise<Store> {
  const partner = await ctx.db.row<{ name: string; country: string }>(
    'SELECT name, country FROM partner WHERE id = ?',
    [partnerId],
  );
  if (!partner) throw notFound('print partner', partnerId);
  const client = await openStore(ctx, store);
  await client.declarePartner(partner);
  return refreshDeclaredPartners(ctx, store);
}

/** Changes what the seller decides about a store. */
export const changeSettings = (
  ctx: Context,
  store: Store,
  change: Partial<Pick<StoreSettings, 'expectedSales' | 'aimsAt'>>,
): Promise<Store> => saveSettings(ctx, store, { ...store.settings, ...change });

/** Forgets a store's keys, and gives them back to the shop where it answers. Its listings stay in the shop, and here with their history. */
export async function disconnectStore(ctx: Context, store: Store): Promise<void> {
  const row = await ctx.db.row<{ sealed: Buffer }>('SELECT sealed FROM store_secret WHERE store_id = ?', [store.id]);
  await ctx.pools.transaction(async (db) => {
    await db.run('DELETE FROM store_secret WHERE store_id = ?', [store.id]);
    await db.run("UPDATE store SET state = 'disconnected' WHERE id = ?", [store.id]);
    await emit(db, store.workspaceId, 'store', { storeId: store.id });
  });
  if (!row) return;
  const secrets = JSON.parse(open(ctx.masterKey, row.sealed, store.id)) as ChannelSecrets;
  // Here they are forgotten already; a shop that does not answer lets them run out by itself.
  await channelOf(ctx, store.channel)
    .revoke(secrets)
    .catch((error: unknown) => log.warn({ err: error, storeId: store.id }, 'a store’s keys could not be given back'));
}

async function markState(ctx: Context, store: Store, from: Store['state'], to: Store['state']): Promise<void> {
  const { affectedRows } = await ctx.db.run('UPDATE store SET state = ? WHERE id = ? AND state = ?', [
    to,
    store.id,
    from,
  ]);
  if (affectedRows > 0) await emit(ctx.db, store.workspaceId, 'store', { storeId: store.id });
}

/** The shop no longer takes the store's keys. */
export const markLapsed = (ctx: Context, store: Store): Promise<void> => markState(ctx, store, 'connected', 'lapsed');

/** The shop took the keys of a store that was thought lapsed. */
const markWorking = (ctx: Context, store: Store): Promise<void> => markState(ctx, store, 'lapsed', 'connected');
