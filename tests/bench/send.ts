import { setTimeout as delay } from 'node:timers/promises';
import mysql from 'mysql2/promise';
import { about as broadmere } from '../../src/adapters/broadmere/about';
import { about as loopstall } from '../../src/adapters/loopstall/about';
import { about as pennyquay } from '../../src/adapters/pennyquay/about';
import { about as plainfront } from '../../src/adapters/plainfront/about';
import { withStack } from '../soak/stack';
import { SendLoad } from '../support/send-load';
import type { Once } from './bench';

/** `SEND_PACE=1 SEND_LISTINGS=40` shows the same at the shops' own pace. */
const PACE = Number(process.env.SEND_PACE ?? 10);
const LISTINGS = Number(process.env.SEND_LISTINGS ?? 200);
const ABOUTS = [pennyquay, broadmere, plainfront, loopstall];
/** Other products that are sent before, to the same stores. */
const WARM_UP = 12;
const LOOK_MS = 1_000;
/** So often in a row nothing must be going on: longer than blanks wait for their pictures. */
const CALM_LOOKS = 15;
/** One worker, as `bin/start` runs it. In a tenth of the real time there is ten times as much to do at once; null: as many as there are without being told. */
const LANES = PACE > 1 ? 20 : null;
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

async function ask<T>(databaseUrl: string, sql: string, values: readonly string[] = []): Promise<T[]> {
  const database = await mysql.createConnection(databaseUrl);
  try {
    return (await database.query<mysql.RowDataPacket[]>(sql, [...values]))[0] as T[];
  } finally {
    await database.end();
  }
}

/** Waits until nothing is judged, checked or painted any more, small pictures of the catalog's blanks neither: the bench is about sending. */
async function quiet(databaseUrl: string): Promise<void> {
  let painted = -1;
  for (let calm = 0; calm < CALM_LOOKS;) {
    await delay(LOOK_MS);
    const [now] = await ask<{ open: number; painted: number }>(
      databaseUrl,
      `SELECT (SELECT COUNT(*) FROM judge_due) + (SELECT COUNT(*) FROM job WHERE state IN ('queued', 'running', 'waiting') AND run_after < UTC_TIMESTAMP(3)) AS open,
         (SELECT COUNT(*) FROM blank_thumbnail) AS painted`,
    );
    calm = Number(now!.open) === 0 && Number(now!.painted) === painted ? calm + 1 : 0;
    painted = Number(now!.painted);
  }
}

/** Has the pictures made that the stores will want of a product. All of one design show the same ones. */
async function makePictures({ api }: SendLoad, productId: string, stores: readonly Store[]): Promise<void> {
  for (const { id } of stores) {
    const answer = await api.request('GET', `/products/${productId}/pictures/archive?store=${id}`);
    if (!answer.ok) throw new Error(`pictures: ${await answer.text()}`);
    await answer.arrayBuffer();
  }
}

/** Sends to one store of each shop at once, and gives how long each took, ms: from the beginning of the send to the end of the store's last job. */
async function sendAll(
  { api }: SendLoad,
  productIds: readonly string[],
  stores: readonly Store[],
  databaseUrl: string,
) {
  const { id } = await api.post<{ id: string }>('/sends', {
    productIds,
    storeIds: stores.map((store) => store.id),
    visibility: 'draft',
  });
  await api.until(async () => ((await api.get<SendView>(`/sends/${id}`)).unseen === 0 ? true : null), 'the plan', 300);
  await quiet(databaseUrl);
  await api.post(`/sends/${id}/begin`);
  for (let until = performance.now() + END_MS; performance.now() < until; await delay(LOOK_MS)) {
    const { stores: now } = await api.get<SendView>(`/sends/${id}`);
    const failed = now.reduce((sum, { progress }) => sum + progress.failed, 0);
    if (failed > 0) throw new Error(`${failed} listings failed`);
    if (now.every(({ progress }) => progress.done === productIds.length)) break;
  }
  const rows = await ask<{ storeId: string; ms: number }>(
    databaseUrl,
    `SELECT i.store_id AS storeId, TIMESTAMPDIFF(MICROSECOND, s.begun_at, MAX(j.finished_at)) / 1000 AS ms
     FROM send s JOIN send_item i ON i.send_id = s.id JOIN job j ON j.id = i.job_id WHERE s.id = ? GROUP BY i.store_id`,
    [id],
  );
  return new Map(rows.map(({ storeId, ms }) => [storeId, Number(ms)]));
}

/** 200 listings to each of four shops at once, against what the shops' own limits demand for the requests that were needed. */
const send: Once = {
  name: 'send',
  reference:
    'requests needed ÷ requests that the shop takes a second; for Broadmere the wait for its answers is counted in',
  async measure() {
    const times: ShopTime[] = [];
    if (LANES !== null) process.env.TYPICA_LANES = String(LANES);
    await withStack(
      async (stack, say) => {
        const load = await SendLoad.prepare(stack, LISTINGS);
        const { stores } = await load.api.get<{ stores: Store[] }>('/stores');
        const one = ABOUTS.map(({ code }) => stores.find(({ channel }) => channel === code)!);
        say(`${LISTINGS} products are made`);
        const others = await load.others(WARM_UP);
        for (const productId of [others[0]!, load.productIds[0]!]) await makePictures(load, productId, one);
        say('their pictures are made');
        // As every other bench has a round that is not counted: programs that have just been started are slow.
        await sendAll(load, others, one, stack.databaseUrl);
        say('others were sent to warm up');
        const before = await Promise.all(ABOUTS.map(({ code }) => taken(stack.shops[code]!)));
        const through = await sendAll(load, load.productIds, one, stack.databaseUrl);
        for (const [i, about] of ABOUTS.entries()) {
          const now = await taken(stack.shops[about.code]!);
          const requests = now.taken - before[i]!.taken;
          const byRate = (requests / about.rate.perSecond / PACE) * 1000;
          const byFiles = about.batches
            ? (Math.ceil(LISTINGS / about.batches.rowsMax) * about.batches.everyMs) / PACE
            : 0;
          times.push({
            name: about.name,
            oursMs: through.get(one[i]!.id)!,
            referenceMs: byRate + byFiles,
            requests,
            tooMany: now.tooMany - before[i]!.tooMany,
          });
        }
        return true;
      },
      { workers: 1, shops: ABOUTS.map(({ code }) => code), pace: PACE },
    );
    // The shop whose own limits demand the longest.
    const slowest = times.toSorted((a, b) => b.referenceMs - a.referenceMs)[0]!;
    const told = times.map(
      ({ name, oursMs, referenceMs, requests, tooMany }) =>
        `${name} ${(oursMs / referenceMs).toFixed(2)} (${oursMs.toFixed(0)} ms, reference ${referenceMs.toFixed(0)} ms, ${requests} requests, ${tooMany} too soon)`,
    );
    return { oursMs: slowest.oursMs, referenceMs: slowest.referenceMs, more: told.join('; ') };
  },
};
export default send;
