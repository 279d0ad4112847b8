import fs from 'node:fs';
import path from 'node:path';
import { describe, expect, inject, it } from 'vitest';
import { ApiClient } from '../../demo/client';

const root = path.resolve(import.meta.dirname, '../..');
const api = path.join(root, 'src/app/api/v1');
/** Shops tell their changes without a session: what they tell must be signed (tests/world/four-shops.test.ts). */
const OPEN = new Set(['GET /health', 'POST /people', 'POST /sessions', 'DELETE /sessions', 'POST /hooks/[key]']);

/** Every route of the API from its files: method and path with `[id]` places. */
const ROUTES = fs
  .readdirSync(api, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('route.ts'))
  .flatMap((file) => {
    const text = fs.readFileSync(path.join(api, file), 'utf8');
    return [...text.matchAll(/export const (GET|POST|PUT|PATCH|DELETE)\b/g)].map((match) => ({
      method: match[1]!,
      path: `/${path.dirname(file)}`,
    }));
  });

describe('every route', () => {
  it('is there to be tested', () => expect(ROUTES.length).toBeGreaterThan(40));

  it.each(ROUTES.filter((r) => !OPEN.has(`${r.method} ${r.path}`)))(
    '$method $path wants someone signed in',
    async ({ method, path: address }) => {
      const answer = await fetch(`${inject('origin')}/api/v1${address.replace(/\[\w+\]/g, 'x')}`, {
        method,
        body: method === 'POST' || method === 'PATCH' ? '{}' : undefined,
      });
      expect(answer.status).toBe(401);
      expect(answer.headers.get('content-type')).toBe('application/problem+json');
      expect(await answer.json()).toMatchObject({
        status: 401,
        code: 'not-signed-in',
        title: expect.any(String),
        detail: expect.stringMatching(/\.$/),
        type: expect.stringMatching(/^urn:/),
      });
    },
  );

  it.each(['GET', 'POST', 'PUT', 'PATCH', 'DELETE'])(
    '%s of what is no route is refused in the same form',
    async (method) => {
      for (const address of ['/api/v1/nope', '/api/v1/products/x/nope', '/api/nope']) {
        const answer = await fetch(`${inject('origin')}${address}`, {
          method,
          body: method === 'GET' ? undefined : '{}',
        });
        expect(answer.status, address).toBe(404);
        expect(answer.headers.get('content-type')).toBe('application/problem+json');
        expect(await answer.json()).toMatchObject({
          status: 404,
          code: 'not-found',
          detail: expect.stringMatching(/\.$/),
        });
      }
    },
  );

  it('for messages of shops knows its address alone', async () => {
    const answer = await fetch(`${inject('origin')}/api/v1/hooks/x`, { method: 'POST', body: '{}' });
    expect([answer.status, answer.headers.get('content-type')]).toEqual([404, 'application/problem+json']);
  });

  it('is told of in docs/api.md', () => {
    const page = fs.readFileSync(path.join(root, 'docs/api.md'), 'utf8');
    const missing = ROUTES.filter(({ path: address }) => {
      const parts = address.split('/').slice(1);
      return (
        !page.includes(`/${parts[0]}`) ||
        (parts.length > 2 && !page.includes(parts.filter((part) => !part.startsWith('[')).at(-1)!))
      );
    });
    expect(missing).toEqual([]);
  });
});

describe('a stranger’s workspace', () => {
  it('is answered like something that does not exist', async () => {
    const origin = inject('origin');
    const owner = await ApiClient.signIn(origin, 'demo@brackwater.example', 'ebb-and-flood');
    await owner.request('GET', '/me');
    const { products } = await owner.get<{ products: { id: string }[] }>('/products');
    const { artwork } = await owner.get<{ artwork: { id: string }[] }>('/artwork');
    const { stores } = await owner.get<{ stores: { id: string }[] }>('/stores');
    const { jobs } = await owner.get<{ jobs: { id: string }[] }>('/jobs');
    const account = {
      email: 'stranger@brackwater.example',
      name: 'Stranger',
      password: 'not-my-boat',
      workspaceName: 'Elsewhere',
      currency: 'EUR',
      country: 'DE',
    };
    expect(
      (
        await fetch(`${origin}/api/v1/people`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(account),
        })
      ).status,
    ).toBe(201);
    const stranger = await ApiClient.signIn(origin, account.email, account.password);
    const [p, a, s, j] = [products[0]!.id, artwork[0]!.id, stores[0]!.id, jobs[0]!.id];
    for (const [method, address, body] of [
      ['GET', `/products/${p}`],
      ['DELETE', `/products/${p}`],
      ['GET', `/products/${p}/revisions`],
      ['GET', `/products/${p}/mock-ups`],
      ['GET', `/products/${p}/pictures`],
      ['POST', `/products/${p}/pictures`],
      ['GET', `/products/${p}/pictures/file?id=x`],
      ['GET', `/products/${p}/pictures/archive`],
      ['GET', `/pictures/${'0'.repeat(64)}`],
      ['DELETE', `/photographs/${a}`],
      ['GET', `/products/${p}/print-files`],
      ['POST', `/products/${p}/print-files`],
      ['GET', `/products/${p}/quotes`],
      ['GET', `/products/${p}/listings`],
      ['POST', `/products/${p}/listings`, { storeId: s, visibility: 'live' }],
      ['POST', `/products/${p}/listings/${s}/check`],
      ['GET', `/artwork/${a}`],
      ['GET', `/artwork/${a}/original`],
      ['GET', `/stores/${s}`],
      ['PATCH', `/stores/${s}`, { expectedSales: 3 }],
      ['DELETE', `/stores/${s}`],
      ['POST', `/stores/${s}/shop`],
      ['POST', `/stores/${s}/exemption`],
      ['DELETE', `/products/${p}/listings/${s}?there=true`],
      ['GET', `/jobs/${j}`],
    ] as const) {
      const answer = await stranger.request(method, address, body);
      expect([address, method, answer.status]).toEqual([address, method, 404]);
    }
    expect((await stranger.request('POST', `/jobs/${j}/cancel`)).status).toBe(409);
    expect(await stranger.get('/products')).toEqual({ total: 0, products: [], next: null });
  });

  it('cannot be changed from another site by a browser’s cookie', async () => {
    const owner = await ApiClient.signIn(inject('origin'), 'demo@brackwater.example', 'ebb-and-flood');
    const answer = await owner.request('POST', '/tokens', { name: 'x' }, { origin: 'http://elsewhere.example' });
    expect(await answer.json()).toMatchObject({ status: 403, code: 'foreign-origin' });
  });
});

describe('another name of this machine', () => {
  it('leads to the address that shops send people back to', async () => {
    const origin = inject('origin');
    const answer = await fetch(`${origin.replace('127.0.0.1', 'localhost')}/sign-in`, { redirect: 'manual' });
    expect([answer.status, answer.headers.get('location')]).toEqual([307, `${origin}/`]);
  });
});

describe('bad bodies', () => {
  it.each([
    ['no JSON', '{"blankId":', 'body-not-json'],
    ['unknown members', JSON.stringify({ blankId: 'x', color: 'red' }), 'body-invalid'],
    ['a number for an id', JSON.stringify({ blankId: 7 }), 'body-invalid'],
    ['a list', '[]', 'body-invalid'],
    ['too much', JSON.stringify({ blankId: 'x'.repeat(5_000_000) }), 'body-too-large'],
  ])('with %s are refused in a sentence', async (_name, body, code) => {
    const owner = await ApiClient.signIn(inject('origin'), 'demo@brackwater.example', 'ebb-and-flood');
    const answer = await owner.request('POST', '/products', new TextEncoder().encode(body), {
      'content-type': 'application/json',
    });
    expect(await answer.json()).toMatchObject({ code, detail: expect.stringMatching(/[.]$/) });
  });

  it('a patch says against which revision it was made', async () => {
    const owner = await ApiClient.signIn(inject('origin'), 'demo@brackwater.example', 'ebb-and-flood');
    const { products } = await owner.get<{ products: { id: string }[] }>('/products');
    expect(await (await owner.request('PATCH', `/products/${products[0]!.id}`, [])).json()).toMatchObject({
      status: 422,
      code: 'revision-missing',
    });
  });
});
