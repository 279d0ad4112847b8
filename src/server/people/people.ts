import { notFound, TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { isDuplicate } from '../db/errors';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emitEnded } from '../events/events';
import { hashPassword, passwordMatches } from './passwords';
import { ALL_SCOPES, type Scope } from './scopes';
import { newToken, tokenHash } from './secrets';
import { beginSignIn } from './sign-in-limits';

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

/** What a request showed to say who it is from: a session or a token, by which open streams are ended when it is. */
export interface Credential {
  readonly kind: 'session' | 'token';
  readonly id: string;
  readonly scopes: ReadonlySet<Scope>;
  readonly expiresAt: Date;
}

export type SignedIn = Actor & { readonly credential: Credential };

const SESSION_DAYS = 30;

// A hash that nothing matches, so that an unknown address takes as long as a wrong password.
let dummyHash: Promise<string> | undefined;

/** An address as it is kept and compared: small letters, composed. */
export const emailOf = (typed: string): string => typed.trim().normalize('NFC').toLowerCase();

/** Whether anybody has an account here. */
export const isAnyoneHere = async (db: Database): Promise<boolean> =>
  (await db.row('SELECT id FROM person LIMIT 1')) !== null;

export async function createAccount(
  ctx: Context,
  account: { email: string; name: string; password: string; workspaceName: string; currency: string; country: string },
): Promise<{ personId: string; workspaceId: string }> {
  const passwordHash = await hashPassword(account.password);
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
        emailOf(account.email),
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

/**
 * Checks address and password; gives a session token. `client` is where the request comes from. Throws `sign-in-wrong` or, after many
 * failures from there, `sign-in-paused`.
 */
export async function signIn(
  ctx: Context,
  typedEmail: string,
  password: string,
  client: string,
): Promise<{ token: string; expiresAt: Date }> {
  const email = emailOf(typedEmail);
  const attempt = await beginSignIn(ctx, email, client);
  const person = await ctx.db.row<{ id: string; password_hash: string; workspace_id: string }>(
    'SELECT p.id, p.password_hash, m.workspace_id FROM person p JOIN membership m ON m.person_id = p.id WHERE p.email = ? ORDER BY m.workspace_id LIMIT 1',
    [email],
  );
  const against = person?.password_hash ?? (await (dummyHash ??= hashPassword(newToken())));
  const matches = await passwordMatches(against, password);
  if (!person || !matches) {
    throw new TypicaError('unauthenticated', 'sign-in-wrong', 'Wrong email or password. Check both and try again.');
  }
  await attempt.succeeded();
  const token = newToken();
  const expiresAt = new Date(ctx.clock.now().getTime() + SESSION_DAYS * 86_400_000);
  await ctx.db.run('INSERT INTO session (token_hash, person_id, workspace_id, expires_at) VALUES (?, ?, ?, ?)', [
    tokenHash(token),
    person.id,
    person.workspace_id,
    expiresAt,
  ]);
  return { token, expiresAt };
}

/** Ends a session, and the streams that are open under it. */
export async function signOut(ctx: Context, token: string): Promise<void> {
  const id = tokenHash(token);
  await ctx.pools.transaction(async (db) => {
    const row = await db.row<{ workspaceId: string }>(
      'SELECT workspace_id AS workspaceId FROM session WHERE token_hash = ? FOR UPDATE',
      [id],
    );
    if (!row) return;
    await db.run('DELETE FROM session WHERE token_hash = ?', [id]);
    await emitEnded(db, row.workspaceId, id);
  });
}

/** Ends all sessions of a person, whichever browser they are in. Gives how many. */
export async function signOutEverywhere(ctx: Context, actor: Actor): Promise<number> {
  return ctx.pools.transaction(async (db) => {
    const rows = await db.rows<{ id: string; workspaceId: string }>(
      'SELECT token_hash AS id, workspace_id AS workspaceId FROM session WHERE person_id = ? FOR UPDATE',
      [actor.personId],
    );
    await db.run('DELETE FROM session WHERE person_id = ?', [actor.personId]);
    for (const { id, workspaceId } of rows) await emitEnded(db, workspaceId, id);
    return rows.length;
  });
}

const ACTOR = `p.id AS personId, p.name AS personName, p.email, w.id AS workspaceId, w.name AS workspaceName, w.currency, w.country`;

/** Somebody in whose name a job works. Throws `not-found` when they are no longer there. */
export async function actorOfPerson(ctx: Context, personId: string, workspaceId: string): Promise<Actor> {
  const row = await ctx.db.row<Actor>(
    `SELECT ${ACTOR} FROM membership m JOIN person p ON p.id = m.person_id JOIN workspace w ON w.id = m.workspace_id
     WHERE m.person_id = ? AND m.workspace_id = ?`,
    [personId, workspaceId],
  );
  if (!row) throw notFound('person', personId);
  return row;
}

/** The actor of a browser's session, or null when there is none or it has run out. */
export async function actorOfSession(ctx: Context, token: string): Promise<SignedIn | null> {
  const id = tokenHash(token);
  const row = await ctx.db.row<Actor & { expiresAt: Date }>(
    `SELECT ${ACTOR}, s.expires_at AS expiresAt FROM session s JOIN person p ON p.id = s.person_id JOIN workspace w ON w.id = s.workspace_id WHERE s.token_hash = ? AND s.expires_at > ?`,
    [id, ctx.clock.now()],
  );
  if (!row) return null;
  const { expiresAt, ...actor } = row;
  return { ...actor, credential: { kind: 'session', id, scopes: ALL_SCOPES, expiresAt } };
}
