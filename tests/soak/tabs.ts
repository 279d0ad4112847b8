import { ApiClient } from '../../demo/client';
import type { Operation } from '../../src/core/document/patch';
import type { Blank } from '../../src/core/catalog/blank';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import type { LoadResult, Newest, SendResult } from '../../src/bench/session-types';
import { histories, playHistory, type SharedProduct } from '../support/tab-histories';
import { hostileAccount } from '../support/hostile';
import { withStack } from './stack';

const COUNT = Number(process.env.SOAK_ROUNDS ?? 2000);
const STALE = new Set(['revision-conflict', 'revision-too-old', 'revision-unknown']);

/** A product over HTTP. */
async function over(api: ApiClient, blank: Blank): Promise<SharedProduct> {
  const { id } = await api.post<{ id: string }>('/products', { blankId: blank.id, title: 'Tide' });
  const newest = () => api.get<Newest>(`/products/${id}`);
  return {
    areaKey: blank.areas[0]!.key,
    newest,
    async revisions() {
      const { revisions } = await api.get<{ revisions: { patch: Operation[]; undo: Operation[] }[] }>(
        `/products/${id}/revisions`,
      );
      return revisions.toReversed();
    },
    transport: {
      load: async (): Promise<LoadResult> => ({ kind: 'loaded', ...(await newest()) }),
      async send({ revision, operations, label, key }): Promise<SendResult> {
        const answer = await api.request('PATCH', `/products/${id}`, operations, {
          'if-match': `"${revision}"`,
          'x-label': encodeURIComponent(label.slice(0, 120)),
          'idempotency-key': key,
        });
        const told = (await answer.json()) as Newest & { code: string; detail: string };
        if (answer.ok) return { kind: 'saved', revision: told.revision, document: told.document };
        if (STALE.has(told.code)) return { kind: 'stale', by: null };
        if (answer.status >= 500) return { kind: 'offline' };
        return { kind: 'refused', message: told.detail };
      },
    },
  };
}

/** Histories of two and three tabs over real HTTP, with requests and answers lost: no edit lost, nothing written over in silence. */
export default function tabs(): Promise<boolean> {
  return withStack(async ({ origin }, say) => {
    const { token } = await hostileAccount(origin);
    const api = new ApiClient(origin, { authorization: `Bearer ${token}` });
    const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?q=towpath&from=GB');
    const blank = await api.get<Blank>(`/blanks/${blanks[0]!.id}`);
    const all = histories(COUNT, 20);
    const sum = { edits: 0, patches: 0, asked: 0, lost: 0, overwritten: 0, unlike: 0 };
    const lane = async () => {
      for (let history = all.pop(); history; history = all.pop()) {
        const product = await over(api, blank);
        const verdict = await playHistory(history, product);
        sum.edits += verdict.edits;
        sum.patches += verdict.patches;
        sum.asked += verdict.asked;
        sum.lost += verdict.lost.length;
        sum.overwritten += verdict.overwritten.length;
        sum.unlike += verdict.unlike;
        if (verdict.lost.length + verdict.overwritten.length + verdict.unlike > 0) say(JSON.stringify(verdict));
      }
    };
    await Promise.all([lane(), lane(), lane(), lane()]);
    say(
      `soak tabs histories ${COUNT}, ${Object.entries(sum)
        .map(([name, n]) => `${name} ${n}`)
        .join(', ')}`,
    );
    return sum.lost + sum.overwritten + sum.unlike === 0;
  });
}
