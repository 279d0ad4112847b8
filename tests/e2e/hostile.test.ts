import { beforeAll, describe, expect, inject, it } from 'vitest';
import {
  complaint,
  hostileAccount,
  hostilePages,
  hostileRoutes,
  requestsFor,
  send,
  type Known,
} from '../support/hostile';

/** The short twin of `npm run soak hostile`: of everything that is tried on a route every so many-th, another selection for each route. */
const OF_EACH = 24;

let [token, cookie] = ['', ''];
let known: Known = {};
beforeAll(async () => ({ token, cookie, known } = await hostileAccount(inject('origin'))));

describe('a hostile request', () => {
  const routes = hostileRoutes();
  it('is tried on every route', () => expect(routes.length).toBeGreaterThan(90));

  it.each(routes.map((route, i) => ({ ...route, i })))(
    'to $method $path is answered, without a fault of ours and without an echo',
    async ({ i, ...route }) => {
      const all = [...requestsFor(route, known)];
      const step = Math.max(1, Math.floor(all.length / OF_EACH));
      const complaints: string[] = [];
      for (let at = i % step; at < all.length; at += step) {
        const request = all[at]!;
        const says = complaint(await send(inject('origin'), token, request));
        if (says) complaints.push(`${request.path.slice(0, 120)} ${request.body?.().slice(0, 200) ?? ''}: ${says}`);
      }
      expect(complaints).toEqual([]);
      expect((await fetch(`${inject('origin')}/api/v1/health`)).status).toBe(200);
    },
  );

  it('to a page is answered without a fault of ours', async () => {
    const faults: string[] = [];
    for (const [i, page] of hostilePages().entries()) {
      if (i % 2 > 0) continue;
      const { status } = await fetch(`${inject('origin')}${page}`, { headers: { cookie }, redirect: 'manual' });
      if (status >= 500) faults.push(`${page.slice(0, 100)}: ${status}`);
    }
    expect(faults).toEqual([]);
  });

  it('of the framework’s own kind is refused before it fails', async () => {
    const tried = [
      { path: '/range', headers: { rsc: '1', 'next-router-state-tree': '%5B%22' } },
      { path: '/range', headers: { rsc: '1', 'next-router-state-tree': '%5B1%2C2%5D' } },
      { path: '/%ff', headers: {} as Record<string, string> },
      { path: '/api/v1/health', headers: {} as Record<string, string>, method: 'TRACE' },
    ];
    for (const { path, headers, method = 'GET' } of tried) {
      const { status, type } = await send(inject('origin'), token, { method, path, headers, body: null }, '');
      expect([path, status >= 400 && status < 500]).toEqual([path, true]);
      expect(type).toBe('application/problem+json');
    }
  });
});
