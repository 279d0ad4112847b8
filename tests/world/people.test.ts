import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isTypicaError } from '@/core/errors';
import { actorOfSession, createAccount, signIn, signOut, signOutEverywhere } from '@/server/people/people';
import { accessTokens, actorOfAccessToken, createAccessToken, revokeAccessToken } from '@/server/people/tokens';
import { emit, newestEvent } from '@/server/events/events';
import { eventStream, readAfter } from '@/server/http/sse';
import type { SignedIn } from '@/server/people/people';
import { beginSignUp } from '@/server/people/sign-in-limits';
import { makeActor, makeWorld, type World } from '../support/world';

/** Where tries to sign in come from. */
const HERE = '192.0.2.1';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());
const code = (wanted: string) => (error: unknown) => isTypicaError(error, wanted);

describe('signing in', () => {
  it('gives a session that is stored only as a hash, and ends with signing out', async () => {
    const actor = await makeActor(world.ctx);
    const { token } = await signIn(world.ctx, actor.email, 'ebb-and-flood', HERE);
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
    const { token, expiresAt } = await signIn(world.ctx, actor.email, 'ebb-and-flood', HERE);
    const later = { ...world.ctx, clock: { now: () => new Date(expiresAt.getTime() + 1000) } };
    expect(await actorOfSession(later, token)).toBeNull();
  });

  it('says the same for a wrong password and an unknown address', async () => {
    const actor = await makeActor(world.ctx);
    await expect(signIn(world.ctx, 'nobody@brackwater.example', 'x', HERE)).rejects.toSatisfy(code('sign-in-wrong'));
    await expect(signIn(world.ctx, actor.email, 'wrong', HERE)).rejects.toSatisfy(code('sign-in-wrong'));
  });

  it('pauses a place that tries too often, for longer each time, and nobody else', async () => {
    const actor = await makeActor(world.ctx);
    const from = (client: string, password = 'wrong') => signIn(world.ctx, actor.email, password, client);
    for (let i = 0; i < 5; i += 1) await expect(from('192.0.2.2')).rejects.toSatisfy(code('sign-in-wrong'));
    await expect(from('192.0.2.2', 'ebb-and-flood')).rejects.toSatisfy(code('sign-in-paused'));
    // The person, from home, is let in at once.
    await expect(from('192.0.2.3', 'ebb-and-flood')).resolves.toBeTruthy();
    // From the paused place after the wait; its failures are forgotten then.
    await world.ctx.db.run('UPDATE sign_in_try SET tried_at = tried_at - INTERVAL 3 SECOND');
    await expect(from('192.0.2.2', 'ebb-and-flood')).resolves.toBeTruthy();
    await expect(from('192.0.2.2')).rejects.toSatisfy(code('sign-in-wrong'));
  });

  it('looks at five of a hundred wrong passwords that come at once', async () => {
    const actor = await makeActor(world.ctx);
    const codes = await Promise.all(
      Array.from({ length: 100 }, () =>
        signIn(world.ctx, actor.email, 'wrong', '192.0.2.4').catch((error: { code: string }) => error.code),
      ),
    );
    expect(codes.filter((one) => one === 'sign-in-wrong')).toHaveLength(5);
    expect(codes.filter((one) => one === 'sign-in-paused')).toHaveLength(95);
  });

  it('counts a place over all the addresses that it tries', async () => {
    const regular = await makeActor(world.ctx);
    await signIn(world.ctx, regular.email, 'ebb-and-flood', '192.0.2.5');
    const codes: unknown[] = [];
    for (let i = 0; i < 32; i += 1)
      codes.push(
        await signIn(world.ctx, `guess${i}@brackwater.example`, 'x', '192.0.2.5').catch(
          (error: { code: string }) => error.code,
        ),
      );
    expect(codes.filter((one) => one === 'sign-in-wrong')).toHaveLength(30);
    // A newcomer from there waits; who has signed in from there before does not.
    const at = (actor: { email: string }) => signIn(world.ctx, actor.email, 'ebb-and-flood', '192.0.2.5');
    await expect(at(await makeActor(world.ctx))).rejects.toSatisfy(code('sign-in-paused'));
    await expect(at(regular)).resolves.toBeTruthy();
  });

  it('tells addresses apart that differ in an accent', async () => {
    const make = (email: string) =>
      createAccount(world.ctx, {
        email,
        name: 'x',
        password: 'long enough',
        workspaceName: 'x',
        currency: 'GBP',
        country: 'GB',
      });
    await make('jose@brackwater.example');
    await make('jos\u00e9@brackwater.example');
    await expect(make('jose\u0301@brackwater.example')).rejects.toSatisfy(code('email-taken'));
  });

  it('limits how many accounts one place makes in an hour', async () => {
    const ctx = { ...world.ctx, config: { ...world.ctx.config, signUpsPerHour: 2 } };
    await beginSignUp(ctx, '192.0.2.6');
    await beginSignUp(ctx, '192.0.2.6');
    await expect(beginSignUp(ctx, '192.0.2.6')).rejects.toSatisfy(code('sign-up-paused'));
    await beginSignUp(ctx, '192.0.2.7');
  });

  it('ends in all browsers at once', async () => {
    const actor = await makeActor(world.ctx);
    const first = await signIn(world.ctx, actor.email, 'ebb-and-flood', HERE);
    const second = await signIn(world.ctx, actor.email, 'ebb-and-flood', HERE);
    expect(await signOutEverywhere(world.ctx, actor)).toBe(2);
    for (const { token } of [first, second]) expect(await actorOfSession(world.ctx, token)).toBeNull();
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
    const { id, token } = await createAccessToken(world.ctx, actor, { name: 'script' });
    expect(await actorOfAccessToken(world.ctx, token)).toMatchObject({ personId: actor.personId });
    expect(JSON.stringify(await accessTokens(world.ctx, actor))).not.toContain(token);
    expect(await revokeAccessToken(world.ctx, other, id)).toBe(false);
    expect(await revokeAccessToken(world.ctx, actor, id)).toBe(true);
    expect(await actorOfAccessToken(world.ctx, token)).toBeNull();
  });

  it('run out', async () => {
    const actor = await makeActor(world.ctx);
    const { token, expiresAt } = await createAccessToken(world.ctx, actor, { name: 'script', days: 1 });
    expect(await actorOfAccessToken(world.ctx, token)).not.toBeNull();
    const later = { ...world.ctx, clock: { now: () => new Date(expiresAt.getTime() + 1000) } };
    expect(await actorOfAccessToken(later, token)).toBeNull();
  });

  it('may do what was chosen, and make none that may do more or lives longer', async () => {
    const actor = await makeActor(world.ctx);
    const { token } = await createAccessToken(world.ctx, actor, { name: 'keys', scopes: ['read', 'keys'], days: 2 });
    const holder = (await actorOfAccessToken(world.ctx, token))!;
    expect([...holder.credential.scopes]).toEqual(['read', 'keys']);
    await expect(createAccessToken(world.ctx, holder, { name: 'more', scopes: ['send'] })).rejects.toSatisfy(
      code('scope-missing'),
    );
    const child = await createAccessToken(world.ctx, holder, { name: 'same', scopes: ['read'], days: 300 });
    expect(child.expiresAt.getTime()).toBe(holder.credential.expiresAt.getTime());
    await expect(createAccessToken(world.ctx, actor, { name: 'none', scopes: [] })).rejects.toSatisfy(
      code('scopes-none'),
    );
  });

  it('are no more than a workspace may have', async () => {
    const ctx = { ...world.ctx, config: { ...world.ctx.config, quotas: { ...world.ctx.config.quotas, tokens: 1 } } };
    const actor = await makeActor(ctx);
    await createAccessToken(ctx, actor, { name: 'one' });
    await expect(createAccessToken(ctx, actor, { name: 'two' })).rejects.toSatisfy(code('quota-tokens'));
  });
});

describe('an event stream', () => {
  const decoder = new TextDecoder();
  /** Opens a stream; gives what it tells until it ends. */
  async function listen(signedIn: SignedIn, after: number | null = null) {
    const until = new AbortController();
    const { workspaceId, credential } = signedIn;
    const reader = eventStream(world.ctx, workspaceId, credential, until.signal, after).body!.getReader();
    let told = '';
    const ended = (async () => {
      for (;;) {
        const { done, value } = await reader.read();
        if (done) return;
        told += decoder.decode(value as Uint8Array);
      }
    })();
    // The reader begins with what is written from now on.
    await new Promise((next) => setTimeout(next, 600));
    return { ended, told: () => told, close: () => until.abort() };
  }

  it('ends with its session, and tells nothing that comes after', async () => {
    const actor = await makeActor(world.ctx);
    const { token } = await signIn(world.ctx, actor.email, 'ebb-and-flood', HERE);
    const [own, other] = [await listen((await actorOfSession(world.ctx, token))!), await listen(actor)];
    await emit(world.ctx.db, actor.workspaceId, 'money', { n: 1 });
    await signOut(world.ctx, token);
    await own.ended;
    await emit(world.ctx.db, actor.workspaceId, 'money', { n: 2 });
    await new Promise((next) => setTimeout(next, 600));
    expect(own.told()).toContain('{"n":1}');
    expect(own.told()).not.toContain('{"n":2}');
    // Another one of the same workspace goes on, and is not told whose session ended.
    expect(other.told()).toContain('{"n":2}');
    expect(other.told()).not.toContain('ended');
    other.close();
    await other.ended;
  });

  it('ends with its token', async () => {
    const actor = await makeActor(world.ctx);
    const { id, token } = await createAccessToken(world.ctx, actor, { name: 'script' });
    const stream = await listen((await actorOfAccessToken(world.ctx, token))!);
    await revokeAccessToken(world.ctx, actor, id);
    await stream.ended;
  });

  const pause = (ms: number) => new Promise((next) => setTimeout(next, ms));
  const numbers = (told: string) => [...told.matchAll(/"n":(\d+)/g)].map((found) => Number(found[1]));

  it('goes on after the event that was seen last, with nothing left out and nothing of others', async () => {
    const { ctx } = world;
    const [actor, stranger] = [await makeActor(ctx), await makeActor(ctx)];
    await emit(ctx.db, actor.workspaceId, 'money', { n: 1 });
    const seen = await newestEvent(ctx);
    await emit(ctx.db, actor.workspaceId, 'money', { n: 2 });
    await emit(ctx.db, stranger.workspaceId, 'money', { n: 99 });
    await emit(ctx.db, actor.workspaceId, 'money', { n: 3 });
    const stream = await listen(actor, seen);
    await emit(ctx.db, actor.workspaceId, 'money', { n: 4 });
    await pause(600);
    expect(numbers(stream.told()).filter((n) => n > 1)).toEqual([2, 3, 4]);
    expect(stream.told()).not.toContain('reset');
    stream.close();
  });

  it('takes what was seen last from the browser’s own header before what the page asks for', () => {
    const asked = (header: string | null, query: string) =>
      readAfter(
        new Request('http://desk/events', header === null ? {} : { headers: { 'last-event-id': header } }),
        new URLSearchParams(query),
      );
    expect([asked('17', ''), asked(null, 'after=4'), asked('17', 'after=4'), asked(null, ''), asked('', '')]).toEqual([
      17,
      4,
      17,
      null,
      null,
    ]);
    for (const wrong of ['-1', '1e3', 'x', '9'.repeat(16)]) expect(() => asked(wrong, '')).toThrow(/whole number/);
  });

  it('says reset to whoever missed too much, or what is no longer kept', async () => {
    const { ctx } = world;
    const actor = await makeActor(ctx);
    const seen = await newestEvent(ctx);
    for (let n = 0; n < 501; n += 1) await emit(ctx.db, actor.workspaceId, 'money', { n });
    const [much, long, future] = [
      await listen(actor, seen),
      await listen(actor, -1_000_000),
      await listen(actor, seen * 1000),
    ];
    for (const one of [much, long, future]) {
      expect(one.told()).toContain('event: reset');
      one.close();
    }
  });

  it('tells what a long transaction wrote before others that were done sooner', async () => {
    const { ctx } = world;
    const actor = await makeActor(ctx);
    const stream = await listen(actor);
    await ctx.pools.transaction(async (db) => {
      await emit(db, actor.workspaceId, 'money', { n: 1 });
      for (let n = 0; n < 120; n += 1) await emit(ctx.db, actor.workspaceId, 'job', { n: 1000 + n });
      await pause(700);
      expect(numbers(stream.told())).not.toContain(1);
    });
    await pause(700);
    expect(numbers(stream.told())).toContain(1);
    expect(numbers(stream.told())).toHaveLength(121);
    stream.close();
  });

  it('is one of as many as a workspace may have open', async () => {
    const ctx = { ...world.ctx, config: { ...world.ctx.config, quotas: { ...world.ctx.config.quotas, streams: 1 } } };
    const actor = await makeActor(world.ctx);
    const end = new AbortController();
    eventStream(ctx, actor.workspaceId, actor.credential, end.signal);
    expect(() => eventStream(ctx, actor.workspaceId, actor.credential, end.signal)).toThrow(/event streams open/);
    end.abort();
    eventStream(ctx, actor.workspaceId, actor.credential, AbortSignal.abort());
  });
});
