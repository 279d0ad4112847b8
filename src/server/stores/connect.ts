import crypto from 'node:crypto';
import { invalid, TypicaError } from '@/core/errors';
import { ownEntry } from '@/core/own-entry';
import type { Channel, Connection } from '@/ports/channel';
import { note } from '../activity/note';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import { log } from '../log';
import type { Actor } from '../people/people';
import { newToken, open, seal, tokenHash } from '../people/secrets';
import { subscribe } from './hooks';
import { readSecrets } from './keys';
import { readShopFacts } from './shop-facts';
import { channelOf, findStore, type Store, type StoreSettings } from './stores';

export const redirectUri = (ctx: Context): string => `${ctx.config.origin}/api/v1/stores/callback`;

/** PKCE challenge of a verifier: base64url of its SHA-256 (RFC 7636, method S256). */
export const pkceChallenge = (verifier: string): string =>
  crypto.createHash('sha256').update(verifier).digest('base64url');

/** The region that is asked for, where the channel has some. Throws `region-unknown`. */
function regionOf({ about }: Channel, region: string | null): string | null {
  if (about.regions.length === 0) return null;
  if (about.regions.some(({ code }) => code === region)) return region;
  throw invalid(
    'region-unknown',
    `Choose a region of ${about.name} first: ${about.regions.map(({ name, code }) => `${name} (${code})`).join(', ')}.`,
  );
}

/** Begins a connection: gives the address of the shop's consent page. The state ties the answer to this person, for ten minutes. Throws `connect-kind`. */
export async function beginConnect(
  ctx: Context,
  actor: Actor,
  channelCode: string,
  region: string | null = null,
): Promise<{ authorizeUrl: string }> {
  const channel = channelOf(ctx, channelCode);
  const { connecting, about } = channel;
  if (connecting.kind !== 'consent')
    throw invalid(
      'connect-kind',
      `${about.name} has no consent page: paste ${connecting.fields.map(({ label }) => label.toLowerCase()).join(' and ')} instead.`,
    );
  const in_ = regionOf(channel, region);
  const [state, verifier] = [newToken(), newToken()];
  const hash = tokenHash(state);
  await ctx.db.run('DELETE FROM connect_attempt WHERE expires_at < UTC_TIMESTAMP(3)');
  await ctx.db.run(
    'INSERT INTO connect_attempt (state_hash, workspace_id, person_id, channel, region, sealed_verifier, expires_at) VALUES (?, ?, ?, ?, ?, ?, UTC_TIMESTAMP(3) + INTERVAL 10 MINUTE)',
    [hash, actor.workspaceId, actor.personId, channelCode, in_, seal(ctx.masterKey, verifier, hash)],
  );
  return {
    authorizeUrl: connecting.authorizeUrl({
      state,
      challenge: pkceChallenge(verifier),
      redirectUri: redirectUri(ctx),
      region: in_,
    }),
  };
}

interface Attempt {
  readonly channel: string;
  readonly region: string | null;
  readonly personId: string;
  readonly workspaceId: string;
  readonly sealedVerifier: Buffer;
}

/** Ends a connection with the shop's answer. The state is used up whatever happens. Throws `connect-state`, and what the channel throws. */
export async function finishConnect(
  ctx: Context,
  actor: Actor,
  answer: { state: string; code: string },
): Promise<Store> {
  const hash = tokenHash(answer.state);
  const attempt = await ctx.pools.transaction(async (db) => {
    const row = await db.row<Attempt>(
      'SELECT channel, region, person_id AS personId, workspace_id AS workspaceId, sealed_verifier AS sealedVerifier FROM connect_attempt WHERE state_hash = ? AND expires_at > UTC_TIMESTAMP(3) FOR UPDATE',
      [hash],
    );
    if (row) await db.run('DELETE FROM connect_attempt WHERE state_hash = ?', [hash]);
    return row;
  });
  const channel = attempt && channelOf(ctx, attempt.channel);
  const mine = attempt?.personId === actor.personId && attempt.workspaceId === actor.workspaceId;
  if (!mine || channel?.connecting.kind !== 'consent')
    throw new TypicaError(
      'forbidden',
      'connect-state',
      'This answer from the shop belongs to no connection that you began in the last ten minutes. Begin again.',
    );
  const connection = await channel.connecting.exchange({
    code: answer.code,
    verifier: open(ctx.masterKey, attempt.sealedVerifier, hash),
    redirectUri: redirectUri(ctx),
    region: attempt.region,
  });
  return keepConnection(ctx, actor, attempt.channel, connection);
}

/** Connects with keys that the seller pasted. Throws `connect-kind`, and what the channel throws. */
export async function connectWithKeys(
  ctx: Context,
  actor: Actor,
  channelCode: string,
  typed: { readonly [field: string]: string },
  region: string | null,
): Promise<Store> {
  const channel = channelOf(ctx, channelCode);
  const { connecting, about } = channel;
  if (connecting.kind !== 'keys')
    throw invalid('connect-kind', `${about.name} takes no keys: it asks for your consent on its own page.`);
  const given = (name: string): string => ownEntry(typed, name)?.trim() ?? '';
  const missing = connecting.fields.filter(({ name }) => given(name) === '');
  if (missing.length > 0)
    throw invalid('key-missing', `Type ${missing.map(({ label }) => label.toLowerCase()).join(' and ')}.`);
  const clean = Object.fromEntries(connecting.fields.map(({ name }) => [name, given(name)]));
  return keepConnection(ctx, actor, channelCode, await connecting.connect(clean, regionOf(channel, region)));
}

/** Writes a connection down: a shop that was connected before keeps its listings, its settings and the seller's name for it. */
async function keepConnection(ctx: Context, actor: Actor, channel: string, connection: Connection): Promise<Store> {
  const { shopId, shopName, shopUrl, currency, region, secrets, endsAt } = connection;
  const { workspaceId } = actor;
  const id = await ctx.pools.transaction(async (db) => {
    const have = await db.row<{ id: string }>(
      'SELECT id FROM store WHERE workspace_id = ? AND channel = ? AND shop_id = ? FOR UPDATE',
      [workspaceId, channel, shopId],
    );
    const storeId = have?.id ?? newId('s');
    if (have)
      await db.run(
        "UPDATE store SET state = 'connected', trouble = NULL, shop_name = ?, shop_url = ?, region = ?, keys_end_at = ?, connected_at = UTC_TIMESTAMP(3) WHERE id = ?",
        [shopName, shopUrl, region, endsAt, storeId],
      );
    else {
      const settings: StoreSettings = { expectedSales: 10, declaredPartners: [] };
      const name = await freeName(db, workspaceId, shopName);
      await db.run(
        `INSERT INTO store (id, workspace_id, channel, name, shop_id, shop_name, shop_url, currency, region, keys_end_at, state, settings)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 'connected', ?)`,
        [
          storeId,
          workspaceId,
          channel,
          name,
          shopId,
          shopName,
          shopUrl,
          currency,
          region,
          endsAt,
          JSON.stringify(settings),
        ],
      );
    }
    await db.run(
      'INSERT INTO store_secret (store_id, sealed) VALUES (?, ?) ON DUPLICATE KEY UPDATE sealed = VALUE(sealed)',
      [storeId, seal(ctx.masterKey, JSON.stringify(secrets), storeId)],
    );
    await note(db, actor, { about: 'store', what: 'connected', says: `Connected ${shopName}.`, storeId });
    await emit(db, workspaceId, 'store', { storeId });
    return storeId;
  });
  const store = await findStore(ctx, workspaceId, id);
  // It is connected: whether the shop answers once more does not change that.
  try {
    await subscribe(ctx, store);
    return await readShopFacts(ctx, store);
  } catch (error) {
    log.warn({ err: error, storeId: id }, 'what a shop has could not be read after connecting');
    return store;
  }
}

const MAX_NAME = 160;

/** A name that no other store of the workspace has: two shops of one name are told apart from the first moment. */
async function freeName(db: Database, workspaceId: string, wanted: string): Promise<string> {
  const rows = await db.rows<{ name: string }>('SELECT name FROM store WHERE workspace_id = ?', [workspaceId]);
  const taken = new Set(rows.map(({ name }) => name.toLocaleLowerCase('en')));
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? wanted.slice(0, MAX_NAME) : `${wanted.slice(0, MAX_NAME - 5)} ${n}`;
    if (!taken.has(name.toLocaleLowerCase('en'))) return name;
  }
}

/** Gives a store a name of the seller's. Throws `store-name-taken`. */
export async function renameStore(ctx: Context, store: Store, name: string): Promise<void> {
  const clean = name.trim();
  const other = await ctx.db.row(
    "SELECT id FROM store WHERE workspace_id = ? AND name = ? AND id <> ? AND state <> 'disconnected'",
    [store.workspaceId, clean, store.id],
  );
  if (other) throw new TypicaError('conflict', 'store-name-taken', `Another store is called “${clean}” already.`);
  await ctx.db.run('UPDATE store SET name = ? WHERE id = ?', [clean, store.id]);
  await emit(ctx.db, store.workspaceId, 'store', { storeId: store.id });
}

/** Forgets a store's keys, and gives them back to the shop where it answers. Its listings stay in the shop, and here with their history. */
export async function disconnectStore(ctx: Context, store: Store): Promise<void> {
  const row = await ctx.db.row<{ sealed: Buffer }>('SELECT sealed FROM store_secret WHERE store_id = ?', [store.id]);
  await ctx.pools.transaction(async (db) => {
    await db.run('DELETE FROM store_secret WHERE store_id = ?', [store.id]);
    await db.run("UPDATE store SET state = 'disconnected' WHERE id = ?", [store.id]);
    await emit(db, store.workspaceId, 'store', { storeId: store.id });
  });
  if (!row) return;
  const secrets = readSecrets(ctx, store.id, row.sealed);
  // Here they are forgotten already; a shop that does not answer lets them run out by itself.
  await channelOf(ctx, store.channel)
    .revoke(secrets)
    .catch((error: unknown) => log.warn({ err: error, storeId: store.id }, 'a store’s keys could not be given back'));
}
