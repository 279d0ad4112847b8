import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { actorOfSession, createAccount, signIn, type SignedIn } from '@/server/people/people';
import { changePerson, changeWorkspace } from '@/server/people/settings';
import { createProduct } from '@/server/products/products';
import { findBlank, makeWorld, type World } from '../support/world';

let world: World;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
});
afterAll(() => world.close());

let n = 0;
async function person(): Promise<{ actor: SignedIn; email: string; again: () => Promise<string> }> {
  const email = `settings${(n += 1)}@example.org`;
  const account = { email, name: 'Ada Quill', password: 'first password', workspaceName: 'Ada’s', currency: 'GBP' };
  await createAccount(world.ctx, { ...account, country: 'GB' });
  const again = async () => (await signIn(world.ctx, email, 'first password', '127.0.0.1')).token;
  return { actor: (await actorOfSession(world.ctx, await again()))!, email, again };
}

describe('a person’s settings', () => {
  it('take a new name without the password, and nothing else', async () => {
    const { ctx } = world;
    const { actor, again } = await person();
    await changePerson(ctx, actor, { name: 'Ada Quayle' }, '127.0.0.1');
    expect((await actorOfSession(ctx, await again()))!.personName).toBe('Ada Quayle');
    for (const change of [{ email: 'other@example.org' }, { password: 'second password' }])
      await expect(
        changePerson(ctx, actor, { ...change, currentPassword: 'wrong one' }, '127.0.0.1'),
      ).rejects.toMatchObject({ code: 'password-wrong', fields: { field: 'currentPassword' } });
    await expect(again()).resolves.toBeTruthy();
  });

  it('take a new password, which signs out everywhere else', async () => {
    const { ctx } = world;
    const { actor, email, again } = await person();
    const other = await again();
    const change = { password: 'second password', currentPassword: 'first password' };
    await changePerson(ctx, actor, change, '127.0.0.1');
    expect(await actorOfSession(ctx, other)).toBeNull();
    expect(await ctx.db.row('SELECT 1 AS one FROM session WHERE token_hash = ?', [actor.credential.id])).not.toBeNull();
    await expect(again()).rejects.toMatchObject({ code: 'sign-in-wrong' });
    await expect(signIn(ctx, email, 'second password', '127.0.0.1')).resolves.toBeTruthy();
  });

  it('take a new address, small letters, unless somebody has it', async () => {
    const { ctx } = world;
    const [first, second] = [await person(), await person()];
    const currentPassword = 'first password';
    await expect(
      changePerson(ctx, second.actor, { email: first.email.toUpperCase(), currentPassword }, '127.0.0.1'),
    ).rejects.toMatchObject({ code: 'email-taken', fields: { field: 'email' } });
    await changePerson(ctx, second.actor, { email: 'New.Address@Example.org', currentPassword }, '127.0.0.1');
    await expect(signIn(ctx, 'new.address@example.org', currentPassword, '127.0.0.1')).resolves.toBeTruthy();
  });

  it('pause after many wrong passwords, as signing in does', async () => {
    const { ctx } = world;
    const { actor } = await person();
    const codes = new Set<string>();
    for (let i = 0; i < 8; i += 1)
      await changePerson(ctx, actor, { password: 'another one', currentPassword: `guess ${i}` }, '127.9.9.9').catch(
        (error: { code: string }) => codes.add(error.code),
      );
    expect([...codes]).toEqual(['password-wrong', 'sign-in-paused']);
  });
});

describe('a workspace’s settings', () => {
  it('take a name and a country at any time, another currency only before the first product', async () => {
    const { ctx } = world;
    const { actor, again } = await person();
    await changeWorkspace(ctx, actor, { name: 'Quill Prints', country: 'IE', currency: 'EUR' });
    const now = (await actorOfSession(ctx, await again()))!;
    expect(now).toMatchObject({ workspaceName: 'Quill Prints', country: 'IE', currency: 'EUR' });
    await createProduct(ctx, now, { blankId: (await findBlank(ctx, 'millrace', 'towpath-tee')).id });
    await expect(changeWorkspace(ctx, now, { currency: 'GBP', name: 'Lost?' })).rejects.toMatchObject({
      code: 'currency-in-use',
      fields: { field: 'currency' },
    });
    await changeWorkspace(ctx, now, { country: 'DE' });
    expect(await actorOfSession(ctx, await again())).toMatchObject({ workspaceName: 'Quill Prints', country: 'DE' });
  });
});
