import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { runChannelTests } from '@/ports/conformance/channel';
import { sampleFormFor } from '@/ports/conformance/channel-sample';
import type { ChannelHooks, ChannelSecrets } from '@/ports/channel';
import { create } from '@/sim/pennyquay/server';
import {
  connectByConsent,
  consent as consentTo,
  REDIRECT,
  samplePictures,
  shopFolder,
  underTest,
} from '../../../tests/support/shop-under-test';
import { ALONE } from '../shop/connecting';
import { fetchTokens } from '../shop/oauth';
import { retryAfterMs } from '../shop/retry-after';
import { about } from './about';
import { pennyquay } from './channel';

let shop: Awaited<ReturnType<typeof create>>;
let pictures: Uint8Array[];
beforeAll(async () => {
  shop = await create({ port: 0, data: shopFolder(), clients: { typica: REDIRECT }, requestsPerSecond: 1000 });
  pictures = await samplePictures();
});
afterAll(() => shop.close());

const channel = () => pennyquay({ url: shop.url, clientId: 'typica' });
const consent = (verifier: string, answer = 'allow') => consentTo(channel(), verifier, { answer });
const connect = () => connectByConsent(channel());
const exchange = (answer: { code: string; verifier: string }) => {
  const { connecting } = channel();
  if (connecting.kind !== 'consent') throw new Error('Pennyquay asks for consent');
  return connecting.exchange({ ...answer, redirectUri: REDIRECT, region: null });
};
const hooks: ChannelHooks = ALONE;

runChannelTests('Pennyquay against its simulator', async () =>
  underTest(shop, channel(), await connect(), pictures, { scope: 'items:read' }),
);

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
    await expect(exchange({ code, verifier: 'b'.repeat(43) })).rejects.toMatchObject({
      code: 'shop-token',
    });
    const used = (await consent('a'.repeat(43))).get('code')!;
    await exchange({ code: used, verifier: 'a'.repeat(43) });
    await expect(exchange({ code: used, verifier: 'a'.repeat(43) })).rejects.toMatchObject({ code: 'shop-token' });
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
    await client.partners!.list();
    expect(kept).toMatchObject({ access: expect.not.stringMatching('run-out') });
    // A refresh token is good for one use.
    await expect(
      channel()
        .open({ ...secrets, access: 'run-out' }, hooks)
        .partners!.list(),
    ).rejects.toMatchObject({ code: 'shop-token' });
  });
});

describe('Pennyquay’s answers', () => {
  it('are mapped: refused with its words, busy with a time, unreachable', async () => {
    const client = channel().open((await connect()).secrets, hooks);
    const a = { key: 'k-map', reference: 'r-map', sentAt: new Date(), skus: [] };
    await expect(client.create(a, { ...sampleFormFor(about), title: 'x'.repeat(111) })).rejects.toMatchObject({
      code: 'shop-refused',
      fields: { words: 'Headlines run from 1 to 110 characters. Yours has 111.', shopFields: ['headline'] },
    });
    shop.faults.unavailable = 1;
    await expect(client.partners!.list()).rejects.toMatchObject({
      code: 'shop-busy',
      fields: { retryAfterMs: 1000 },
    });
    const away = pennyquay({ url: 'http://127.0.0.1:1', clientId: 'typica' }).open(
      { access: 'x', refresh: 'x' },
      hooks,
    );
    await expect(away.partners!.list()).rejects.toMatchObject({ code: 'shop-unreachable' });
  });

  it('that ask to wait are waited for, and the one request is repeated', async () => {
    const waits: number[] = [];
    const client = channel().open((await connect()).secrets, { ...hooks, slowDown: async (ms) => void waits.push(ms) });
    shop.faults.tooMany = 3;
    expect(await client.partners!.list()).toContain('Millrace Works');
    expect(waits).toEqual([1000, 1000, 1000]);
    // Nobody waits here, so that it is asked as often as it may be.
    shop.faults.tooMany = 99;
    await expect(client.partners!.list()).rejects.toMatchObject({ code: 'shop-busy', fields: { costsNoTry: true } });
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
    await expect(
      fetchTokens({ name: 'Pennyquay', url, clientId: 'typica', scopes: '' }, { grant_type: 'refresh_token' }),
    ).rejects.toMatchObject({
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
    await expect(client.partners!.list()).rejects.toMatchObject({ code: 'shop-unreachable' });
    server.close();
  });

  it('may say when to come back in seconds or as a date (RFC 9110, 10.2.3)', () => {
    const now = Date.parse('Wed, 25 Nov 2026 10:00:00 GMT');
    expect(retryAfterMs('120', now)).toBe(120_000);
    expect(retryAfterMs('Wed, 25 Nov 2026 10:00:30 GMT', now)).toBe(30_000);
    expect(retryAfterMs(null, now)).toBe(30_000);
    // By the shop's own clock, which its Date header tells: ten minutes ahead here.
    expect(retryAfterMs('Wed, 25 Nov 2026 10:10:30 GMT', now, 'Wed, 25 Nov 2026 10:10:00 GMT')).toBe(30_000);
  });
});
