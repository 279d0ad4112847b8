import { invalid, TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { newId } from '../db/ids';
import { emitEnded } from '../events/events';
import { refuseOver } from '../quotas/quotas';
import type { Actor, SignedIn } from './people';
import { readScopes, SCOPES, type Scope } from './scopes';
import { newToken, tokenHash } from './secrets';

export interface AccessToken {
  readonly id: string;
  readonly name: string;
  readonly scopes: readonly Scope[];
  readonly createdAt: Date;
  readonly expiresAt: Date;
  readonly lastUsedAt: Date | null;
}

export const TOKEN_PREFIX = 'typica_';

/** Longest life of a token, and what one has that says nothing. */
export const MAX_DAYS = 366;
export const PLAIN_DAYS = 90;

/** The actor of a personal token, or null when it is not known, was revoked or has run out. Notes its use, at most once a minute. */
export async function actorOfAccessToken(ctx: Context, token: string): Promise<SignedIn | null> {
  const row = await ctx.db.row<Actor & { tokenId: string; scopes: string; expiresAt: Date }>(
    `SELECT p.id AS personId, p.name AS personName, p.email, w.id AS workspaceId, w.name AS workspaceName, w.currency, w.country,
       t.id AS tokenId, t.scopes, t.expires_at AS expiresAt
     FROM access_token t JOIN person p ON p.id = t.person_id JOIN workspace w ON w.id = t.workspace_id
     WHERE t.token_hash = ? AND t.revoked_at IS NULL AND t.expires_at > ?`,
    [tokenHash(token), ctx.clock.now()],
  );
  if (!row) return null;
  const { tokenId, scopes, expiresAt, ...actor } = row;
  await ctx.db.run(
    'UPDATE access_token SET last_used_at = UTC_TIMESTAMP(3) WHERE id = ? AND (last_used_at IS NULL OR last_used_at < UTC_TIMESTAMP(3) - INTERVAL 1 MINUTE)',
    [tokenId],
  );
  return { ...actor, credential: { kind: 'token', id: tokenId, scopes: readScopes(scopes), expiresAt } };
}

/**
 * A new personal token; its text is given once and never again. It can do no more, and lives no longer, than what it is made with. Throws
 * `scope-missing`, `scopes-none`, `quota-tokens`.
 */
export async function createAccessToken(
  ctx: Context,
  actor: SignedIn,
  wanted: { readonly name: string; readonly scopes?: readonly Scope[]; readonly days?: number },
): Promise<AccessToken & { token: string }> {
  const scopes = SCOPES.filter((scope) => (wanted.scopes ?? SCOPES).includes(scope));
  if (scopes.length === 0) throw invalid('scopes-none', 'A token needs at least one scope; choose what it may do.');
  const beyond = scopes.find((scope) => !actor.credential.scopes.has(scope));
  if (beyond)
    throw new TypicaError(
      'forbidden',
      'scope-missing',
      `A token cannot make one that may do more than itself; it lacks the scope “${beyond}”.`,
      { scope: beyond },
    );
  await refuseOver(ctx, actor.workspaceId, 'tokens');
  const now = ctx.clock.now().getTime();
  const asked = new Date(now + (wanted.days ?? PLAIN_DAYS) * 86_400_000);
  const expiresAt =
    actor.credential.kind === 'token' && actor.credential.expiresAt < asked ? actor.credential.expiresAt : asked;
  const [id, token] = [newId('t'), TOKEN_PREFIX + newToken()];
  await ctx.db.run(
    'INSERT INTO access_token (id, token_hash, person_id, workspace_id, name, scopes, expires_at) VALUES (?, ?, ?, ?, ?, ?, ?)',
    [id, tokenHash(token), actor.personId, actor.workspaceId, wanted.name, scopes.join(','), expiresAt],
  );
  return { id, name: wanted.name, scopes, createdAt: new Date(now), expiresAt, lastUsedAt: null, token };
}

/** The person's tokens that were not revoked, the newest first; those that have run out among them. */
export async function accessTokens(ctx: Context, actor: Actor): Promise<AccessToken[]> {
  const rows = await ctx.db.rows<Omit<AccessToken, 'scopes'> & { scopes: string }>(
    'SELECT id, name, scopes, created_at AS createdAt, expires_at AS expiresAt, last_used_at AS lastUsedAt FROM access_token WHERE person_id = ? AND workspace_id = ? AND revoked_at IS NULL ORDER BY created_at DESC, id LIMIT 500',
    [actor.personId, actor.workspaceId],
  );
  return rows.map((row) => ({ ...row, scopes: [...readScopes(row.scopes)] }));
}

/** Revokes a token, and ends the streams that are open under it. False when there is none. */
export async function revokeAccessToken(ctx: Context, actor: Actor, id: string): Promise<boolean> {
  return ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(
      'UPDATE access_token SET revoked_at = UTC_TIMESTAMP(3) WHERE id = ? AND person_id = ? AND workspace_id = ? AND revoked_at IS NULL',
      [id, actor.personId, actor.workspaceId],
    );
    if (affectedRows > 0) await emitEnded(db, actor.workspaceId, id);
    return affectedRows > 0;
  });
}
