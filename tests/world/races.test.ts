import { setTimeout as delay } from 'node:timers/promises';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { isTypicaError, TypicaError } from '@/core/errors';
import { blobInfo, cleanBlobs, putBlob, readBlob } from '@/server/blobs/blobs';
import { doChores, type Chore } from '@/server/chores/chores';
import { dropOldRows } from '@/server/chores/spans';
import type { Context } from '@/server/context';
import { claim } from '@/server/jobs/claim';
import { enqueue } from '@/server/jobs/jobs';
import type { Lease } from '@/server/jobs/lease';
import { handlers } from '@/server/jobs/handlers';
import { runJob, type JobControl } from '@/server/jobs/worker';
import type { Database } from '@/server/db/pool';
import { uploadOnce } from '@/server/listings/picture-uploads';
import { requestSend } from '@/server/listings/request-send';
import { open, seal } from '@/server/people/secrets';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { productPage } from '@/server/products/product-page';
import { findProduct, type Product } from '@/server/products/products';
import { splitProduct } from '@/server/products/split';
import { slowDown, takeTurn } from '@/server/stores/rate';
import { openStore } from '@/server/stores/keys';
import { findStore, type Store } from '@/server/stores/stores';
import { connectStore, jobOf, makeActor, makeTee, makeWorld, type World } from '../support/world';

/** Each of these went wrong once: two at the same time, or one that was stopped in the middle. */
let world: World;
let actor: Actor;
let store: Store;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
});
afterAll(() => world.close());
afterEach(() => {
  vi.restoreAllMocks();
  Object.assign(world.shop.faults, { slowMs: 0, tooMany: 0 });
});

/** In one color: it has few pictures, and is sent soon. */
const tee = (title: string) => makeTee(world.ctx, actor, title, ['coal']);
const kinds = Object.keys(handlers);
const run = (lease: Lease) => runJob(world.ctx, lease, handlers[lease.job.kind]!);
/** Two lanes that take what there is until nothing is left. */
async function twoLanes(): Promise<void> {
  const lane = async () => {
    for (;;) {
      const open = await world.ctx.db.row(
        "SELECT 1 AS one FROM job WHERE state IN ('queued', 'running', 'waiting') LIMIT 1",
      );
      if (!open) return;
      const lease = await claim(world.ctx, kinds);
      if (lease) await run(lease);
      else await delay(30);
    }
  };
  await Promise.all([lane(), lane()]);
}
const send = async (product: Product) =>
  requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), store, 'draft');
const edit = async (id: string, title: string) => {
  const { revision } = await findProduct(world.ctx, actor.workspaceId, id);
  await patchProduct(world.ctx, actor, id, revision, [{ op: 'replace', path: '/words/base/title', value: title }]);
};

const RATE = { perSecond: 8 };

describe('a shop’s limit', () => {
  it('holds in any second, with several who ask and answers of 10 to 300 ms', async () => {
    const { ctx } = world;
    const arrivals: number[] = [];
    const began = Date.now();
    const ask = async (worker: number) => {
      for (let i = 0; i < 16; i += 1) {
        const turn = await takeTurn(ctx, store.id, RATE);
        const latency = 10 + ((i * 97 + worker * 131) % 290);
        const until = (i * 53 + worker * 17) % latency;
        await delay(until);
        arrivals.push(Date.now());
        await delay(latency - until);
        turn.answered();
      }
    };
    await Promise.all([1, 2, 3, 4].map(ask));
    arrivals.sort((a, b) => a - b);
    expect(arrivals).toHaveLength(64);
    const most = Math.max(...arrivals.map((at) => arrivals.filter((one) => one >= at && one < at + 1000).length));
    expect(most).toBeLessThanOrEqual(8);
    // And it is used: no more than half of it goes to waiting for answers.
    expect(64 / ((Date.now() - began) / 1000)).toBeGreaterThan(4);
  });

  it.each([0, 30, 150])('is no error when two products are sent at once and the shop takes %i ms', async (slowMs) => {
    const products = [await tee(`One ${slowMs}`), await tee(`Two ${slowMs}`)];
    await twoLanes();
    world.shop.faults.slowMs = slowMs;
    const jobs = await Promise.all(products.map(({ product }) => send(product)));
    await twoLanes();
    for (const { jobId } of jobs)
      expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done', attempts: 1 });
  });

  it('when it is told, costs no try, repeats the one request, and slows the store for all', async () => {
    const { product } = await tee('Told');
    await twoLanes();
    world.shop.faults.tooMany = 3;
    const { jobId } = await send(product);
    await twoLanes();
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done', attempts: 1 });
    const rate = await world.ctx.db.row<{ places: number }>('SELECT places FROM store_rate WHERE store_id = ?', [
      store.id,
    ]);
    expect(rate!.places).toBeLessThan(8);
  });

  it('for longer than one waits in place, is waited for without a lane', async () => {
    await slowDown(world.ctx, store.id, RATE, 60_000);
    await expect(takeTurn(world.ctx, store.id, RATE)).rejects.toMatchObject({
      code: 'shop-busy',
      fields: { costsNoTry: true },
    });
    await world.ctx.db.run('DELETE FROM store_rate WHERE store_id = ?', [store.id]);
  });
});

describe('a picture that several listings show', () => {
  /** A job as far as an upload needs one. */
  const control = (id: string) =>
    ({
      job: { id },
      signal: new AbortController().signal,
      write: (work: (db: Database) => Promise<unknown>) => world.ctx.pools.transaction(work),
    }) as unknown as JobControl;
  const pictureOf = (letter: string) => ({
    storeId: store.id,
    key: letter.repeat(64),
    formatHash: 'f'.repeat(64),
  });

  const oneOf = async (job: string, letter: string, upload: () => Promise<string>): Promise<string> =>
    (await uploadOnce(world.ctx, control(job), [{ picture: pictureOf(letter), upload }]))[0]!;

  it('is uploaded once, however many are sent at the same time', async () => {
    const upload = vi.fn(async () => {
      await delay(300);
      return 'pic-1';
    });
    const ids = await Promise.all(['j-1', 'j-2', 'j-3'].map((id) => oneOf(id, 'a', upload)));
    expect(ids).toEqual(['pic-1', 'pic-1', 'pic-1']);
    expect(await oneOf('j-4', 'a', upload)).toBe('pic-1');
    expect(upload).toHaveBeenCalledTimes(1);
  });

  it('is one of several that they share among them', async () => {
    const letters = [...'defghijkl'];
    const uploaded: string[] = [];
    const of = (job: string) =>
      uploadOnce(
        world.ctx,
        control(job),
        letters.map((letter) => ({
          picture: pictureOf(letter),
          upload: async () => {
            uploaded.push(`${job} ${letter}`);
            await delay(250);
            return `pic-${letter}`;
          },
        })),
      );
    const ids = await Promise.all(['j-1', 'j-2', 'j-3'].map(of));
    expect(ids).toEqual(Array.from({ length: 3 }, () => letters.map((letter) => `pic-${letter}`)));
    expect(uploaded.length).toBe(letters.length);
    // Each of the three had some to do: none waited for another's while there was one that nobody had.
    expect(new Set(uploaded.map((one) => one.split(' ')[0])).size).toBe(3);
  });

  it('is another’s to upload when one failed, or its worker died', async () => {
    const failed = oneOf('j-1', 'b', () => Promise.reject(new Error('cut')));
    await expect(failed).rejects.toThrow('cut');
    expect(await oneOf('j-2', 'b', async () => 'pic-2')).toBe('pic-2');
    // Its worker was killed in the middle: others wait, and say so; it comes back itself; and then its time is over.
    await world.ctx.db.run(
      'INSERT INTO picture_upload (store_id, picture_key, format_hash, job_id, held_until) VALUES (?, ?, ?, ?, UTC_TIMESTAMP(3) + INTERVAL 1 HOUR)',
      [store.id, pictureOf('c').key, pictureOf('c').formatHash, 'j-dead'],
    );
    const other = oneOf('j-3', 'c', async () => 'pic-3');
    await expect(other).rejects.toMatchObject({ code: 'picture-coming', fields: { costsNoTry: true } });
    await world.ctx.db.run('UPDATE picture_upload SET held_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND');
    expect(await oneOf('j-3', 'c', async () => 'pic-3')).toBe('pic-3');
    expect(await world.ctx.db.rows('SELECT * FROM picture_upload')).toEqual([]);
  });
});

describe('a consent', () => {
  const runOut = async () => {
    const row = await world.ctx.db.row<{ sealed: Buffer }>('SELECT sealed FROM store_secret WHERE store_id = ?', [
      store.id,
    ]);
    const secrets = JSON.parse(open(world.ctx.masterKey, row!.sealed, store.id)) as Record<string, string>;
    await world.ctx.db.run('UPDATE store_secret SET sealed = ? WHERE store_id = ?', [
      seal(world.ctx.masterKey, JSON.stringify({ ...secrets, access: 'run-out' }), store.id),
      store.id,
    ]);
  };

  it('is renewed once for all who find that it has run out', async () => {
    await runOut();
    // All places of the shop's second are free: they ask at the same time.
    await delay(1_100);
    await world.ctx.db.run('UPDATE store_rate SET paused_until = NULL, places = NULL, slowed_at = NULL');
    world.shop.faults.slowMs = 80;
    const clients = await Promise.all(Array.from({ length: 5 }, () => openStore(world.ctx, store)));
    const answers = await Promise.all(clients.map((client) => client.partners!.list()));
    expect(answers.every((names) => names.length > 0)).toBe(true);
    expect((await findStore(world.ctx, actor.workspaceId, store.id)).state).toBe('connected');
  });

  it('that was thought lapsed and works again says so', async () => {
    await world.ctx.db.run("UPDATE store SET state = 'lapsed' WHERE id = ?", [store.id]);
    const client = await openStore(world.ctx, await findStore(world.ctx, actor.workspaceId, store.id));
    await client.partners!.list();
    expect((await findStore(world.ctx, actor.workspaceId, store.id)).state).toBe('connected');
  });
});

describe('a worker that was stopped past its lease', () => {
  /** Stops the job at its next request; gives what lets it go on, in a world where half a minute has passed. */
  async function stopped(jobId: string): Promise<{ wake: () => Promise<void> }> {
    await slowDown(world.ctx, store.id, RATE, 4_000);
    const lease = (await claim(world.ctx, kinds))!;
    expect(lease.job.id).toBe(jobId);
    const running = run(lease);
    await delay(300);
    await world.ctx.db.run('UPDATE job SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE id = ?', [jobId]);
    return {
      wake: async () => {
        // The shop lives in this process too: the time goes on.
        const now = () => Math.round(performance.timeOrigin + performance.now());
        vi.spyOn(Date, 'now').mockImplementation(() => now() + 40_000);
        await world.ctx.db.run('UPDATE store_rate SET paused_until = NULL, places = NULL, slowed_at = NULL');
        await running;
      },
    };
  }

  it('makes no second listing, and writes nothing', async () => {
    const { product } = await tee('Stopped');
    await twoLanes();
    const before = (await world.shopItems()).length;
    const { jobId } = await send(product);
    const first = await stopped(jobId);
    const second = (await claim(world.ctx, kinds))!;
    await first.wake();
    expect((await world.shopItems()).length).toBe(before);
    vi.restoreAllMocks();
    await run(second);
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done' });
    expect((await world.shopItems()).length).toBe(before + 1);
  });

  it('does not bring an older title back', async () => {
    const { product } = await tee('Old title');
    await twoLanes();
    await send(product);
    await twoLanes();
    await edit(product.id, 'Middle title');
    const { jobId } = await send(product);
    const first = await stopped(jobId);
    // Meanwhile another worker has it, and it is changed and sent once more.
    await world.ctx.db.run('UPDATE store_rate SET paused_until = NULL, places = NULL, slowed_at = NULL');
    await edit(product.id, 'New title');
    const second = (await claim(world.ctx, kinds))!;
    const both = [run(second), first.wake()];
    await Promise.all(both);
    vi.restoreAllMocks();
    await twoLanes();
    const items = await world.shopItems();
    expect(items.filter((item) => item.headline === 'New title')).toHaveLength(1);
    expect(items.some((item) => item.headline === 'Middle title')).toBe(false);
  });
});

describe('one of two, or none', () => {
  it('a send is asked for many times at once: there is one job', async () => {
    const { product } = await tee('Many');
    await twoLanes();
    const all = await Promise.all(Array.from({ length: 6 }, () => send(product)));
    expect(new Set(all.map(({ jobId }) => jobId)).size).toBe(1);
    await twoLanes();
  });

  it('a split that meets somebody else’s change leaves no copy behind', async () => {
    const { ctx } = world;
    const { product } = await tee('Split');
    await twoLanes();
    const keys = Object.keys(product.document.variants);
    const before = (await productPage(ctx, actor.workspaceId)).total;
    let meddled = false;
    // Somebody types between the look at the product and the split.
    const pools = Object.create(ctx.pools, {
      transaction: {
        value: async (work: never) => {
          if (!meddled) {
            meddled = true;
            const op = { op: 'add' as const, path: `/variants/${keys[0]}/sku`, value: 'TYPED' };
            await patchProduct(ctx, actor, product.id, product.revision, [op]);
          }
          return ctx.pools.transaction(work);
        },
      },
    }) as Context['pools'];
    const split = splitProduct({ ...ctx, pools }, actor, product.id, { variantKeys: [keys[0]!], title: 'Copy' });
    await expect(split).rejects.toSatisfy((error) => isTypicaError(error, 'revision-conflict'));
    expect((await productPage(ctx, actor.workspaceId)).total).toBe(before);
  });

  it('a blob whose cleaning is cut off is never a row without its file that somebody uses', async () => {
    const { ctx } = world;
    const bytes = Buffer.from(`left ${Math.random()}`);
    const sha256 = await putBlob(ctx, bytes, 'text/plain');
    await ctx.db.run('UPDATE blob_object SET touched_at = UTC_TIMESTAMP(3) - INTERVAL 2 HOUR WHERE sha256 = ?', [
      sha256,
    ]);
    // The database goes away between the file and the end of the transaction.
    const pools = Object.create(ctx.pools, {
      transaction: {
        value: (work: (db: unknown) => Promise<unknown>) =>
          ctx.pools.transaction(async (db) => {
            await work(db);
            throw new TypicaError('unavailable', 'database-busy', 'gone');
          }),
      },
    }) as Context['pools'];
    await expect(cleanBlobs({ ...ctx, pools })).rejects.toMatchObject({ code: 'database-busy' });
    await expect(readBlob(ctx, sha256)).rejects.toThrow();
    // Its row came back with the transaction: it is not told as one that has its file.
    expect(await blobInfo(ctx, sha256)).toBeNull();
    expect(await putBlob(ctx, bytes, 'text/plain')).toBe(sha256);
    expect(await readBlob(ctx, sha256)).toEqual(bytes);
    expect(await blobInfo(ctx, sha256)).toMatchObject({ sizeBytes: bytes.length });
    await cleanBlobs(ctx, 60);
    expect(await readBlob(ctx, sha256)).toEqual(bytes);
  });
});

describe('housekeeping', () => {
  it('is done by one of many workers, each chore by itself', async () => {
    const done: string[] = [];
    const chore = (name: string, run: () => void): Chore => ({
      name,
      everySeconds: 60,
      run: async () => {
        run();
        done.push(name);
      },
    });
    const all = [
      chore('test-first', () => {}),
      chore('test-fails', () => {
        throw new Error('no');
      }),
      chore('test-last', () => {}),
    ];
    await Promise.all([1, 2, 3].map(() => doChores(world.ctx, all)));
    expect(done.toSorted()).toEqual(['test-first', 'test-last']);
    const fault = await world.ctx.db.row<{ fault: string }>("SELECT fault FROM chore WHERE name = 'test-fails'");
    expect(fault!.fault).toBe('no');
  });

  it('forgets rows that would only grow, and what they were about stays', async () => {
    const { ctx } = world;
    const { product } = await tee('Kept');
    await twoLanes();
    const { jobId, listingId } = await send(product);
    await twoLanes();
    const recent = await enqueue(ctx.db, { workspaceId: actor.workspaceId, kind: 'none', title: 'x', payload: {} });
    await ctx.db.run("UPDATE job SET state = 'done', finished_at = UTC_TIMESTAMP(3) WHERE id = ?", [recent]);
    await ctx.db.run('UPDATE job SET finished_at = UTC_TIMESTAMP(3) - INTERVAL 20 DAY WHERE id = ?', [jobId]);
    await dropOldRows(ctx);
    expect(await ctx.db.row('SELECT id FROM job WHERE id = ?', [jobId])).toBeNull();
    expect(await ctx.db.row('SELECT id FROM job WHERE id = ?', [recent])).not.toBeNull();
    expect(await ctx.db.row('SELECT job_id AS job FROM listing WHERE id = ?', [listingId])).toEqual({ job: null });
  });
});
