import { hash, verify } from '@node-rs/argon2';
import { TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { isDuplicate } from '../db/errors';
import { newId } from '../db/ids';
import { newToken, tokenHash } from './secrets';

/** Who acts, and in which workspace: every query of a seller's data takes its `workspaceId`. */
export interface Actor {
  readonly personId: string;
  readonly personName: string;
  readonly email: string;
  readonly workspaceId: string;
  readonly workspaceName: string;
  readonly currency: string;
  readonly country: string;
}

const SESSION_DAYS = 30;
const FAILURES_IN_15_MINUTES = 8;

// A hash that nothing matches, so that an unknown address takes as long as a wrong password.
let dummyHash: Promise<string> | undefined;

export async function createAccount(
  ctx: Context,
  account: { email: string; name: string; password: string; workspaceName: string; currency: string; country: string },
): Promise<{ personId: string; workspaceId: string }> {
  const passwordHash = await hash(account.password);
  const [personId, workspaceId] = [newId('u'), newId('w')];
  try {
    await ctx.pools.transaction(async (db) => {
      await db.run('INSERT INTO workspace (id, name, currency, country) VALUES (?, ?, ?, ?)', [
        workspaceId,
        account.workspaceName,
        account.currency,
        account.country,
      ]);
      await db.run('INSERT INTO person (id, email, name, password_hash) VALUES (?, ?, ?, ?)', [
        personId,
        account.email,
        account.name,
        passwordHash,
      ]);
      await db.run('INSERT INTO membership (person_id, workspace_id) VALUES (?, ?)', [personId, workspaceId]);
    });
  } catch (error) {
    if (isDuplicate(error))
      throw new TypicaError(
        'conflict',
        'email-taken',
        'There is an account with this address already; sign in instead.',
        { field: 'email' },
        error,
      );
    throw error;
  }
  return { personId, workspaceId };
}

/** Checks address and password; gives a session token. Throws `sign-in-wrong` or, after many failures, `sign-in-paused`. */
export async function signIn(
  ctx: Context,
  email: string,
  password: string,
): Promise<{ token: string; expiresAt: Date }> {
  const failures = await ctx.db.row<{ n: number }>(
    'SELECT COUNT(*) AS n FROM failed_sign_in WHERE email = ? AND failed_at > UTC_TIMESTAMP(3) - INTERVAL 15 MINUTE',
    [email],
  );
  if ((failures?.n ?? 0) >= FAILURES_IN_15_MINUTES) {
    throw new TypicaError(
      'forbidden',
      'sign-in-paused',
      'Too many wrong passwords for this address. Wait 15 minutes and try again.',
    );
  }
  const person = await ctx.db.row<{ id: string; password_hash: string; workspace_id: string }>(
    'SELECT p.id, p.password_hash, m.workspace_id FROM person p JOIN membership m ON m.person_id = p.id WHERE p.email = ? ORDER BY m.workspace_id LIMIT 1',
    [email],
  );
  const matches = await verify(person?.password_hash ?? (await (dummyHash ??= hash(newToken()))), password);
  if (!person || !matches) {
    await ctx.db.run('INSERT INTO failed_sign_in (email) VALUES (?)', [email]);
    await ctx.db.run('DELETE FROM failed_sign_in WHERE failed_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY');
    throw new TypicaError(
      'unauthenticated',
      'sign-in-wrong',
      'Address and password do not go together. Check both and try again.',
    );
  }
  const token = newToken();
  const expiresAt = new Date(ctx.clock.now().getTime() + SESSION_DAYS * 86_400_000);
  await ctx.db.run('DELETE FROM session WHERE expires_at < UTC_TIMESTAMP(3)');
  await ctx.db.run('INSERT INTO session (token_hash, person_id, workspace_id, expires_at) VALUES (?, ?, ?, ?)', [
    tokenHash(token),
    person.id,
    person.workspace_id,
    expiresAt,
  ]);
  return { token, expiresAt };
}

export async function signOut(ctx: Context, token: string): Promise<void> {
  await ctx.db.run('DELETE FROM session WHERE token_hash = ?', [tokenHash(token)]);
}

const ACTOR = `p.id AS personId, p.name AS personName, p.email, w.id AS workspaceId, w.name AS workspaceName, w.currency, w.country`;

/** The actor of a browser's session, or null when there is none or it has run out. */
export function actorOfSession(ctx: Context, token: string): Promise<Actor | null> {
  return ctx.db.row<Actor>(
    `SELECT ${ACTOR} FROM session s JOIN person p ON p.id = s.person_id JOIN workspace w ON w.id = s.workspace_id WHERE s.token_hash = ? AND s.expires_at > ?`,
    [tokenHash(token), ctx.clock.now()],
  );
}

/** The actor of a personal token, or null. Notes its use, at most once a minute. */
export async function actorOfAccessToken(ctx: Context, token: string): Promise<Actor | null> {
  const actor = await ctx.db.row<Actor & { tokenId: string }>(
    `SELECT ${ACTOR}, t.id AS tokenId FROM access_token t JOIN person p ON p.id = t.person_id JOIN workspace w ON w.id = t.workspace_id WHERE t.token_hash = ? AND t.revoked_at IS NULL`,
    [tokenHash(token)],
  );
  if (!actor) return null;
  await ctx.db.run(
    'UPDATE access_token SET last_used_at = UTC_TIMESTAMP(3) WHERE id = ? AND (last_used_at IS NULL OR last_used_at < UTC_TIMESTAMP(3) - INTERVAL 1 MINUTE)',
    [actor.tokenId],
  );
  return actor;
}

export interface AccessToken {
  readonly id: string;
  readonly name: string;
  readonly createdAt: Date;
  readonly lastUsedAt: Date | null;
}

export const TOKEN_PREFIX = 'typica_';

/** A new personal token; its text is given once and never again. */
export async function createAccessToken(
  ctx: Context,
  actor: Actor,
  name: string,
): Promise<AccessToken & { token: string }> {
  const [id, token] = [newId('t'), TOKEN_PREFIX + newToken()];
  await ctx.db.run('INSERT INTO access_token (id, token_hash, person_id, workspace_id, name) VALUES (?, ?, ?, ?, ?)', [
    id,
    tokenHash(token),
    actor.personId,
    actor.workspaceId,
    name,
  ]);
  return { id, name, createdAt: ctx.clock.now(), lastUsedAt: null, token };
}

export function accessTokens(ctx: Context, actor: Actor): Promise<AccessToken[]> {
  return ctx.db.rows<AccessToken>(
    'SELECT id, name, created_at AS createdAt, last_used_at AS lastUsedAt FROM access_token WHERE person_id = ? AND workspace_id = ? AND revoked_at IS NULL ORDER BY created_at DESC',
    [actor.personId, actor.workspaceId],
  );
}

export async function revokeAccessToken(ctx: Context, actor: Actor, id: string): Promise<boolean> {
  const { affectedRows } = await ctx.db.run(
    'UPDATE access_token SET revoked_at = UTC_TIMESTAMP(3) WHERE id = ? AND person_id = ? AND workspace_id = ? AND revoked_at IS NULL',
    [id, actor.personId, actor.workspaceId],
  );
  return affectedRows > 0;
}
