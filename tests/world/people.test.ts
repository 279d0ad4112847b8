import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isTypicaError } from '@/core/errors';
import {
  accessTokens,
  actorOfAccessToken,
  actorOfSession,
  createAccessToken,
  createAccount,
  revokeAccessToken,
  signIn,
  signOut,
} from '@/server/people/people';
import { makeActor, makeWorld, type World } from '../support/world';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());
const code = (wanted: string) => (error: unknown) => isTypicaError(error, wanted);

describe('signing in', () => {
  it('gives a session that is stored only as a hash, and ends with signing out', async () => {
    const actor = await makeActor(world.ctx);
    const { token } = await signIn(world.ctx, actor.email, 'ebb-and-flood');
    expect(await actorOfSession(world.ctx, token)).toMatchObject({
      personId: actor.personId,
      workspaceId: actor.workspaceId,
    });
    const stored = await world.ctx.db.rows<{ token_hash: string }>('SELECT token_hash FROM session');
    expect(stored.some((row) => row.token_hash.includes(token))).toBe(false);
    await signOut(world.ctx, token);
    expect(await actorOfSession(world.ctx, token)).toBeNull();
  });

  it('keeps passwords as argon2id', async () => {
    const actor = await makeActor(world.ctx);
    const row = await world.ctx.db.row<{ password_hash: string }>('SELECT password_hash FROM person WHERE id = ?', [
      actor.personId,
    ]);
    expect(row!.password_hash).toMatch(/^\$argon2id\$/);
  });

  it('runs out', async () => {
    const actor = await makeActor(world.ctx);
    const { token, expiresAt } = await signIn(world.ctx, actor.email, 'ebb-and-flood');
    const later = { ...world.ctx, clock: { now: () => new Date(expiresAt.getTime() + 1000) } };
    expect(await actorOfSession(later, token)).toBeNull();
  });

  it('says the same for a wrong password and an unknown address, and pauses after eight', async () => {
    const actor = await makeActor(world.ctx);
    await expect(signIn(world.ctx, 'nobody@brackwater.example', 'x')).rejects.toSatisfy(code('sign-in-wrong'));
    for (let i = 0; i < 8; i += 1)
      await expect(signIn(world.ctx, actor.email, 'wrong')).rejects.toSatisfy(code('sign-in-wrong'));
    await expect(signIn(world.ctx, actor.email, 'ebb-and-flood')).rejects.toSatisfy(code('sign-in-paused'));
  });

  it('makes one account for one address, whatever its capitals', async () => {
    const actor = await makeActor(world.ctx);
    await expect(
      createAccount(world.ctx, {
        email: actor.email.toUpperCase(),
        name: 'x',
        password: 'long enough',
        workspaceName: 'x',
        currency: 'GBP',
        country: 'GB',
      }),
    ).rejects.toSatisfy(code('email-taken'));
  });
});

describe('personal tokens', () => {
  it('work until they are revoked, and only by their own person', async () => {
    const [actor, other] = [await makeActor(world.ctx), await makeActor(world.ctx)];
    const { id, token } = await createAccessToken(world.ctx, actor, 'script');
    expect(await actorOfAccessToken(world.ctx, token)).toMatchObject({ personId: actor.personId });
    expect(JSON.stringify(await accessTokens(world.ctx, actor))).not.toContain(token);
    expect(await revokeAccessToken(world.ctx, other, id)).toBe(false);
    expect(await revokeAccessToken(world.ctx, actor, id)).toBe(true);
    expect(await actorOfAccessToken(world.ctx, token)).toBeNull();
  });
});
