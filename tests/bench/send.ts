import { setTimeout as delay } from 'node:timers/promises';
import { about as broadmere } from '../../src/adapters/broadmere/about';
import { about as loopstall } from '../../src/adapters/loopstall/about';
import { about as pennyquay } from '../../src/adapters/pennyquay/about';
import { about as plainfront } from '../../src/adapters/plainfront/about';
import { withStack } from '../soak/stack';
import { SendLoad } from '../support/send-load';
import type { Once } from './bench';

const PACE = 10;
const LISTINGS = 200;
const ABOUTS = [pennyquay, broadmere, plainfront, loopstall];
const LOOK_MS = 100;
/** At a tenth of the real time there is ten times as much to do at once. */
const LANES = 10;
const END_MS = 15 * 60_000;

interface Store {
  readonly id: string;
  readonly channel: string;
}
interface SendView {
  readonly state: string;
  readonly unseen: number;
  readonly stores: readonly {
    readonly storeId: string;
    readonly progress: { readonly done: number; readonly failed: number };
  }[];
}

/** One line of what came of a shop. */
interface ShopTime {
  readonly name: string;
  readonly oursMs: number;
  readonly referenceMs: number;
  readonly requests: number;
  readonly tooMany: number;
}

const taken = async (url: string) =>
  (await (await fetch(`${url}/control/requests`)).json()) as { taken: number; tooMany: number };

/** Sends to one store of each shop at once, and gives when each was through. */
async function sendAll(load: SendLoad, stores: readonly Store[]): Promise<Map<string, number>> {
  const { api, productIds } = load;
  const { id } = await api.post<{ id: string }>('/sends', {
    productIds,
    storeIds: stores.map((store) => store.id),
    visibility: 'draft',
  });
  await api.until(async () => ((await api.get<SendView>(`/sends/${id}`)).unseen === 0 ? true : null), 'the plan', 300);
  const began = performance.now();
  await api.post(`/sends/${id}/begin`);
  const through = new Map<string, number>();
  while (through.size < stores.length && performance.now() - began < END_MS) {
    await delay(LOOK_MS);
    const view = await api.get<SendView>(`/sends/${id}`);
    for (const { storeId, progress } of view.stores) {
      if (progress.failed > 0) throw new Error(`${progress.failed} listings failed in ${storeId}`);
      if (progress.done === productIds.length && !through.has(storeId)) through.set(storeId, performance.now() - began);
    }
  }
  return through;
}

/** 200 listings to each of four shops at once, against what the shops' own limits demand for the requests that were needed. */
const send: Once = {
  name: 'send',
  reference:
    'requests needed ÷ requests that the shop takes a second; for Broadmere the wait for its answers is counted in',
  async measure() {
    const times: ShopTime[] = [];
    process.env.TYPICA_LANES = String(LANES);
    await withStack(
      async (stack, say) => {
        const load = await SendLoad.prepare(stack, LISTINGS);
        const { stores } = await load.api.get<{ stores: Store[] }>('/stores');
        const one = ABOUTS.map(({ code }) => stores.find(({ channel }) => channel === code)!);
        // One listing first: pictures are made and there, as in a working shop.
        say(`${LISTINGS} products are made`);
        const before = await Promise.all(ABOUTS.map(({ code }) => taken(stack.shops[code]!)));
        const through = await sendAll(load, one);
        for (const [i, about] of ABOUTS.entries()) {
          const now = await taken(stack.shops[about.code]!);
          const requests = now.taken - before[i]!.taken;
          const byRate = (requests / about.rate.perSecond / PACE) * 1000;
          const byFiles = about.batches
            ? (Math.ceil(LISTINGS / about.batches.rowsMax) * about.batches.everyMs) / PACE
            : 0;
          times.push({
            name: about.name,
            oursMs: through.get(one[i]!.id) ?? END_MS,
            referenceMs: byRate + byFiles,
            requests,
            tooMany: now.tooMany - before[i]!.tooMany,
          });
        }
        return true;
      },
      { workers: 2, shops: ABOUTS.map(({ code }) => code), pace: PACE },
    );
    const slowest = times.toSorted((a, b) => b.oursMs - a.oursMs)[0]!;
    const told = times.map(
      ({ name, oursMs, referenceMs, requests, tooMany }) =>
        `${name} ${(oursMs / referenceMs).toFixed(2)} (${oursMs.toFixed(0)} ms, reference ${referenceMs.toFixed(0)} ms, ${requests} requests, ${tooMany} too soon)`,
    );
    return { oursMs: slowest.oursMs, referenceMs: slowest.referenceMs, more: told.join('; ') };
  },
};
export default send;
