import crypto from 'node:crypto';
import fs from 'node:fs';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { runChannelTests, sampleForm } from '@/ports/conformance/channel';
import type { ChannelHooks, ChannelSecrets } from '@/ports/channel';
import { create } from '@/sim/pennyquay/server';
import { pennyquay } from './channel';
import { fetchTokens, retryAfterMs } from './http';

const REDIRECT = 'http://127.0.0.1:1/back';
let shop: Awaited<ReturnType<typeof create>>;
let picture: Uint8Array;
const data = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-pennyquay-'));
beforeAll(async () => {
  shop = await create({ port: 0, data, clients: { typica: REDIRECT } });
  picture = await sharp({ create: { width: 1500, height: 1000, channels: 3, background: '#345' } })
    .jpeg()
    .toBuffer();
});
afterAll(() => shop.close());

const channel = () => pennyquay({ url: shop.url, clientId: 'typica' });

/** Consent, as the shop's owner gives it in the browser. */
async function consent(
  verifier: string,
  answer = 'allow',
  challenge = crypto.createHash('sha256').update(verifier).digest('base64url'),
) {
  const ask = new URL(channel().authorizeUrl({ state: 'st', challenge, redirectUri: REDIRECT }));
  expect((await fetch(ask)).status).toBe(200);
  const form = new URLSearchParams(ask.search);
  form.set('answer', answer);
  const given = await fetch(`${ask.origin}/consent`, { method: 'POST', body: form, redirect: 'manual' });
  return new URL(given.headers.get('location')!).searchParams;
}
const connect = async () =>
  channel().exchange({
    code: (await consent('v'.repeat(43))).get('code')!,
    verifier: 'v'.repeat(43),
    redirectUri: REDIRECT,
  });
const hooks: ChannelHooks = {
  takeTurn: async () => ({ answered: async () => {} }),
  slowDown: (retryAfterMs) => delay(retryAfterMs),
  renew: (stale, ask) => ask(stale),
};

runChannelTests('Pennyquay against its simulator', async () => {
  const { secrets } = await connect();
  return {
    channel: channel(),
    client: channel().open(secrets, hooks),
    revoke: () => channel().revoke(secrets),
    count: async () =>
      ((await (await fetch(`${shop.url}/control/ledger`)).json()) as { items: unknown[] }).items.length,
    loseNextAnswer: () => void (shop.faults.loseAnswers = 1),
    passTime: () => {},
    picture,
  };
});

describe('connecting to Pennyquay', () => {
  it('says for which shop it is', async () => {
    expect(await connect()).toMatchObject({
      shopName: 'Brackwater Boathouse',
      currency: 'USD',
      shopUrl: expect.stringContaining('/shops/'),
    });
  });

  it('needs the verifier of the challenge (PKCE, RFC 7636), and takes a code once', async () => {
    const code = (await consent('a'.repeat(43))).get('code')!;
    await expect(channel().exchange({ code, verifier: 'b'.repeat(43), redirectUri: REDIRECT })).rejects.toMatchObject({
      code: 'shop-token',
    });
    const used = (await consent('a'.repeat(43))).get('code')!;
    await channel().exchange({ code: used, verifier: 'a'.repeat(43), redirectUri: REDIRECT });
    await expect(
      channel().exchange({ code: used, verifier: 'a'.repeat(43), redirectUri: REDIRECT }),
    ).rejects.toMatchObject({ code: 'shop-token' });
  });

  it('comes back with a no when the owner says no', async () => {
    const back = await consent('v'.repeat(43), 'deny');
    expect([back.get('error'), back.get('state')]).toEqual(['access_denied', 'st']);
  });

  it('renews a token that has run out, keeps the new one, and says when consent is gone', async () => {
    const { secrets } = await connect();
    let kept: ChannelSecrets | null = null;
    const client = channel().open(
      { ...secrets, access: 'run-out' },
      { ...hooks, renew: async (stale, ask) => (kept = await ask(stale)) },
    );
    await client.declaredPartners();
    expect(kept).toMatchObject({ access: expect.not.stringMatching('run-out') });
    // A refresh token is good for one use.
    await expect(
      channel()
        .open({ ...secrets, access: 'run-out' }, hooks)
        .declaredPartners(),
    ).rejects.toMatchObject({ code: 'shop-token' });
  });
});

describe('Pennyquay’s answers', () => {
  it('are mapped: refused with its words, busy with a time, unreachable', async () => {
    const client = channel().open((await connect()).secrets, hooks);
    const a = { key: 'k-map', reference: 'r-map', sentAt: new Date() };
    await expect(client.create(a, { ...sampleForm, title: 'x'.repeat(111) })).rejects.toMatchObject({
      code: 'shop-refused',
      fields: { words: 'Headlines run from 1 to 110 characters. Yours has 111.', shopFields: ['headline'] },
    });
    shop.faults.unavailable = 1;
    await expect(client.declaredPartners()).rejects.toMatchObject({
      code: 'shop-busy',
      fields: { retryAfterMs: 30_000 },
    });
    const away = pennyquay({ url: 'http://127.0.0.1:1', clientId: 'typica' }).open(
      { access: 'x', refresh: 'x' },
      hooks,
    );
    await expect(away.declaredPartners()).rejects.toMatchObject({ code: 'shop-unreachable' });
  });

  it('that ask to wait are waited for, and the one request is repeated', async () => {
    const waits: number[] = [];
    const client = channel().open((await connect()).secrets, { ...hooks, slowDown: async (ms) => void waits.push(ms) });
    shop.faults.tooMany = 3;
    expect(await client.declaredPartners()).toEqual(['Millrace Works']);
    expect(waits).toEqual([1000, 1000, 1000]);
    // Nobody waits here, so that it is asked as often as it may be.
    shop.faults.tooMany = 99;
    await expect(client.declaredPartners()).rejects.toMatchObject({ code: 'shop-busy', fields: { costsNoTry: true } });
    shop.faults.tooMany = 0;
  });

  it.each([
    [429, { 'retry-after': '7' }, {}, 'shop-busy'],
    [503, {}, {}, 'shop-busy'],
    [500, {}, {}, 'shop-unreachable'],
    [400, {}, { error: 'slow_down' }, 'shop-unreachable'],
    [400, {}, { error: 'invalid_grant' }, 'shop-token'],
  ] as const)('to a request for new tokens: %s %j %j is %s', async (status, headers, body, code) => {
    const server = http.createServer((_request, response) => {
      response.writeHead(status, headers);
      response.end(JSON.stringify(body));
    });
    await new Promise<void>((next) => server.listen(0, '127.0.0.1', next));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    await expect(fetchTokens({ url, clientId: 'typica' }, { grant_type: 'refresh_token' })).rejects.toMatchObject({
      code,
    });
    server.close();
  });

  it('that are cut off or something else may have been done: they are no refusal', async () => {
    const server = http.createServer((_request, response) => {
      response.writeHead(200, { 'content-type': 'text/html' });
      response.end('<p>Please wait');
    });
    await new Promise<void>((next) => server.listen(0, '127.0.0.1', next));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const client = pennyquay({ url, clientId: 'typica' }).open({ access: 'x', refresh: 'x' }, hooks);
    await expect(client.declaredPartners()).rejects.toMatchObject({ code: 'shop-unreachable' });
    server.close();
  });

  it('may say when to come back in seconds or as a date (RFC 9110, 10.2.3)', () => {
    const now = Date.parse('Wed, 25 Nov 2026 10:00:00 GMT');
    expect(retryAfterMs('120', now)).toBe(120_000);
    expect(retryAfterMs('Wed, 25 Nov 2026 10:00:30 GMT', now)).toBe(30_000);
    expect(retryAfterMs(null, now)).toBe(30_000);
  });
});
