import { TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { isDuplicate } from '../db/errors';
import { emitEnded } from '../events/events';
import { hashPassword, passwordMatches } from './passwords';
import { emailOf, type SignedIn } from './people';
import { beginSignIn } from './sign-in-limits';

/** What is absent or null stays. */
export interface PersonChange {
  readonly name?: string | null;
  readonly email?: string | null;
  readonly password?: string | null;
  /** Needed to change the address or the password. */
  readonly currentPassword?: string | null;
}

/**
 * Changes a person's name, address or password. A new address or password needs the current password; a new password signs out everywhere
 * else. `client` is where the request comes from. Throws `password-wrong`, `email-taken`, or `sign-in-paused` after many wrong ones.
 */
export async function changePerson(ctx: Context, actor: SignedIn, change: PersonChange, client: string): Promise<void> {
  const email = change.email == null ? actor.email : emailOf(change.email);
  const guarded = email !== actor.email || change.password != null;
  if (guarded) await needPassword(ctx, actor, change.currentPassword ?? '', client);
  const passwordHash = change.password == null ? null : await hashPassword(change.password);
  try {
    await ctx.pools.transaction(async (db) => {
      await db.run('UPDATE person SET name = ?, email = ?, password_hash = COALESCE(?, password_hash) WHERE id = ?', [
        change.name ?? actor.personName,
        email,
        passwordHash,
        actor.personId,
      ]);
      if (passwordHash === null) return;
      const others = await db.rows<{ id: string; workspaceId: string }>(
        'SELECT token_hash AS id, workspace_id AS workspaceId FROM session WHERE person_id = ? AND token_hash <> ? FOR UPDATE',
        [actor.personId, actor.credential.id],
      );
      await db.run('DELETE FROM session WHERE person_id = ? AND token_hash <> ?', [
        actor.personId,
        actor.credential.id,
      ]);
      for (const { id, workspaceId } of others) await emitEnded(db, workspaceId, id);
    });
  } catch (error) {
    if (isDuplicate(error))
      throw new TypicaError(
        'conflict',
        'email-taken',
        'Another account has this address. Use another one.',
        { field: 'email' },
        error,
      );
    throw error;
  }
}

async function needPassword(ctx: Context, actor: SignedIn, typed: string, client: string): Promise<void> {
  const attempt = await beginSignIn(ctx, actor.email, client);
  const person = await ctx.db.row<{ kept: string }>('SELECT password_hash AS kept FROM person WHERE id = ?', [
    actor.personId,
  ]);
  if (!person || !(await passwordMatches(person.kept, typed)))
    throw new TypicaError(
      'invalid',
      'password-wrong',
      'Enter your current password to change your email or password.',
      { field: 'currentPassword' },
    );
  await attempt.succeeded();
}

/** What is absent or null stays. */
export interface WorkspaceChange {
  readonly name?: string | null;
  readonly country?: string | null;
  readonly currency?: string | null;
}

/**
 * Changes a workspace's name and where it is. Its currency can be changed only before the first product: prices and costs are kept in it.
 * Throws `currency-in-use`.
 */
export async function changeWorkspace(ctx: Context, actor: SignedIn, change: WorkspaceChange): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    // Locked, so that no product is made in the old currency meanwhile.
    await db.row('SELECT id FROM workspace WHERE id = ? FOR UPDATE', [actor.workspaceId]);
    const currency = change.currency ?? actor.currency;
    if (currency !== actor.currency) {
      const used = await db.row('SELECT id FROM product WHERE workspace_id = ? LIMIT 1', [actor.workspaceId]);
      if (used)
        throw new TypicaError(
          'conflict',
          'currency-in-use',
          `The currency stays ${actor.currency}: the prices of your products are kept in it. It can be changed only before the first product.`,
          { field: 'currency' },
        );
    }
    await db.run('UPDATE workspace SET name = ?, country = ?, currency = ? WHERE id = ?', [
      change.name ?? actor.workspaceName,
      change.country ?? actor.country,
      currency,
      actor.workspaceId,
    ]);
  });
}
