import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { FIRST_LEVEL } from '@/core/sync/sightings';
import { enqueue } from '@/server/jobs/jobs';
import type { JobControl } from '@/server/jobs/worker';
import { keepWhatIsThere } from '@/server/listings/agreement';
import { listingGuards } from '@/server/listings/guards';
import { prepareListed, standingOf, type ListingRow } from '@/server/listings/listings';
import { listingAt } from '@/server/listings/place';
import { missingIn, sayOfMissing } from '@/server/listings/missing';
import { dueIds, lookInShops, readingsAtOnce } from '@/server/listings/readings';
import { requestSend } from '@/server/listings/request-send';
import { differencesOf, leaveAsThere } from '@/server/listings/settle';
import { sightingsOf } from '@/server/listings/sightings';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import type { Product } from '@/server/products/products';
import { openStore } from '@/server/stores/keys';
import type { Store } from '@/server/stores/stores';
import { codeOf, connectStore, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
let product: Product;

beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
});
afterAll(() => world.close());

async function listOne(): Promise<void> {
  ({ product } = await makeTee(world.ctx, actor));
  await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), store, 'live');
  await runJobs(world.ctx);
}
const rowNow = async () => (await listingAt(world.ctx, actor.workspaceId, product.id, store.id, 1))!;
async function now() {
  const [bundle, row] = [await loadBundle(world.ctx, actor.workspaceId, product.id), await rowNow()];
  const prepared = prepareListed(world.ctx, bundle, store, row);
  const differences = differencesOf(row, prepared.form);
  const guards = listingGuards(world.ctx, bundle, store, row, prepared, differences).map(({ id }) => id);
  return { row, state: standingOf(row, prepared), guards };
}
type Article = NonNullable<ReturnType<World['shop']['world']['articles']['get']>>;
let moment = Date.now();
/** Somebody changes the listing in the shop; nobody is told. */
async function changeThere(change: Partial<Article> | ((article: Article) => Partial<Article>)): Promise<void> {
  const { articles } = world.shop.world;
  const article = articles.get((await rowNow()).externalId!)!;
  moment = Math.max(moment, Date.now()) + 1000;
  const changed = typeof change === 'function' ? change(article) : change;
  articles.put(article.id, { ...article, ...changed, changedAt: moment });
}
const set = (columns: string, row: Pick<ListingRow, 'id'>) =>
  world.ctx.db.run(`UPDATE listing SET ${columns} WHERE id = ?`, [row.id]);
/** Shops are looked into as the chore does it, whenever they were last. */
async function look(): Promise<string[]> {
  await world.ctx.db.run('UPDATE store_watch SET asked_at = NULL');
  await lookInShops(world.ctx);
  const kinds = await world.ctx.db.rows<{ kind: string }>("SELECT kind FROM job WHERE state = 'queued' ORDER BY kind");
  await runJobs(world.ctx);
  return kinds.map(({ kind }) => kind);
}
const readings = () => world.shop.world.taken;

describe('what is known of a listing', () => {
  beforeEach(listOne);

  it('is how the shop showed it right after it was sent, and nothing is read for what Typica itself sent', async () => {
    const { row } = await now();
    expect(row).toMatchObject({ seenHow: 'sent', wantedVisibility: 'live', readLevel: FIRST_LEVEL });
    await look();
    const before = readings();
    expect(await look()).toEqual(['ask-changes']);
    expect(readings() - before).toBe(1);
    expect((await now()).row.seenHow).toBe('sent');
  });

  it('comes from asking the shop what changed, without anybody asking for it', async () => {
    await look();
    await changeThere({ title: 'Named there' });
    await look();
    expect(await now()).toMatchObject({ state: 'behind', row: { seenHow: 'since', readHow: 'reading', readLevel: 2 } });
  });

  it('is kept once for each state that the shop was seen in, with how and when it was learnt', async () => {
    for (const title of ['One', 'Two', 'One']) {
      await changeThere({ title });
      await look();
    }
    const { row } = await now();
    const seen = await sightingsOf(world.ctx, row.id);
    expect(seen.map(({ form, how }) => [form.title, how])).toEqual([
      ['One', 'since'],
      ['Two', 'since'],
    ]);
    expect(seen[0]!.lastAt > seen[0]!.seenAt).toBe(true);
  });

  it('is read when its turn comes where nothing is told: what changes is read more often, what does not more rarely', async () => {
    await look();
    const { row } = await now();
    const { articles } = world.shop.world;
    const article = articles.get(row.externalId!)!;
    // A shop that keeps no account of it.
    articles.put(article.id, { ...article, title: 'In silence' });
    await look();
    expect((await now()).state).toBe('in-step');
    await set('read_due_at = UTC_TIMESTAMP(3)', row);
    await look();
    const after = await now();
    expect(after).toMatchObject({ state: 'behind', row: { seenHow: 'reading', readLevel: FIRST_LEVEL - 2 } });
    await set('read_due_at = UTC_TIMESTAMP(3)', row);
    await look();
    expect((await now()).row.readLevel).toBe(FIRST_LEVEL - 1);
  });

  it('is left alone while a send is on its way', async () => {
    const { row } = await now();
    await set('read_due_at = UTC_TIMESTAMP(3), sent_at = sent_at + INTERVAL 1 SECOND', row);
    const jobId = await enqueue(world.ctx.db, {
      ...{ workspaceId: actor.workspaceId, kind: 'send-listing', title: 'Send', payload: {}, storeId: store.id },
      notBefore: new Date(Date.now() + 3_600_000),
    });
    await set(`job_id = '${jobId}'`, row);
    await changeThere({ title: 'Half of it' });
    await look();
    expect((await now()).row).toMatchObject({ thereHash: row.thereHash, seenHow: 'sent' });
    await world.ctx.db.run('UPDATE listing SET job_id = NULL WHERE id = ?', [row.id]);
    await world.ctx.db.run('DELETE FROM job WHERE id = ?', [jobId]);
  });

  it('is not overwritten by a reading that began before a send', async () => {
    const stale = await rowNow();
    const client = await openStore(world.ctx, store);
    const control = { write: (work) => world.ctx.pools.transaction(work) } as JobControl;
    await changeThere({ title: 'Before it was sent' });
    await set('sent_at = sent_at + INTERVAL 1 SECOND', stale);
    expect(await keepWhatIsThere(world.ctx, control, client, stale, store, 'reading')).toBe('same');
    expect((await rowNow()).thereHash).toBe(stale.thereHash);
    // One that began after it does.
    expect(await keepWhatIsThere(world.ctx, control, client, await rowNow(), store, 'reading')).toBe('changed');
  });
});

describe('readings', () => {
  it('take first what the shop said that changed, then what changes most, then what waits longest', async () => {
    const rows = await world.ctx.db.rows<Pick<ListingRow, 'id'>>(
      'SELECT id FROM listing WHERE store_id = ? AND external_id IS NOT NULL LIMIT 4',
      [store.id],
    );
    const [a, b, c, d] = [rows[0]!, rows[1]!, rows[2]!, rows[3]!];
    await world.ctx.db.run('UPDATE listing SET read_due_at = NULL');
    const due = (minutes: number) => `read_due_at = UTC_TIMESTAMP(3) - INTERVAL ${minutes} MINUTE`;
    await set(`${due(90)}, read_level = 6`, a);
    await set(`${due(1)}, read_level = 1`, b);
    await set(`${due(1)}, read_level = 7, read_how = 'since'`, c);
    await set(`${due(30)}, read_level = 6`, d);
    const all = [c.id, b.id, a.id, d.id];
    expect(await dueIds(world.ctx.db, store.id, 10)).toEqual(all);
    expect(await dueIds(world.ctx.db, store.id, 2)).toEqual(all.slice(0, 2));
    await world.ctx.db.run('UPDATE listing SET read_due_at = NULL');
  });

  it('use a quarter of what the shop takes, and nothing while a person wants something of it', async () => {
    // 8 requests a second in a minute, a quarter of it, three each.
    expect(readingsAtOnce(world.ctx, 'pennyquay')).toBe(40);
    await set('read_due_at = UTC_TIMESTAMP(3)', await rowNow());
    const { id, workspaceId } = store;
    await enqueue(world.ctx.db, { workspaceId, kind: 'none', title: 'Send', payload: {}, storeId: id, priority: 5 });
    await world.ctx.db.run('UPDATE store_watch SET asked_at = NULL');
    await lookInShops(world.ctx);
    expect(
      await world.ctx.db.rows("SELECT 1 FROM job WHERE kind IN ('ask-changes', 'read-listings') AND state = 'queued'"),
    ).toEqual([]);
    await world.ctx.db.run("DELETE FROM job WHERE kind = 'none'");
  });

  it('are left out where the operator wants none', async () => {
    const none = { ...world.ctx, config: { ...world.ctx.config, lookSeconds: 0 } };
    expect(await lookInShops(none)).toBe(0);
  });
});

describe('what was done to a listing as a whole', () => {
  beforeEach(listOne);

  it('is told: taken off sale, until somebody leaves it so', async () => {
    await changeThere({ stage: 'draft' });
    await look();
    expect(await now()).toMatchObject({ state: 'in-step', guards: ['off-sale-there'], row: { visibility: 'draft' } });
    expect(await codeOf(leaveAsThere(world.ctx, actor, await rowNow(), 'live'))).toBe('listing-moved-on');
    await leaveAsThere(world.ctx, actor, await rowNow(), 'draft');
    expect((await now()).guards).toEqual([]);
  });

  it('is told: a price there at which each sale loses money', async () => {
    await changeThere(({ variants }) => ({ variants: variants.map((one) => ({ ...one, priceMinor: 300 })) }));
    await look();
    expect((await now()).guards).toEqual(['under-floor-there']);
  });

  it('is told: deleted, and believed at the second look alone', async () => {
    const { row } = await now();
    world.shop.world.articles.drop(row.externalId!);
    await set('read_due_at = UTC_TIMESTAMP(3)', row);
    await look();
    expect(await now()).toMatchObject({ guards: ['not-found'], row: { externalId: row.externalId } });
    await set('missing_since = missing_since - INTERVAL 2 MINUTE', row);
    await world.ctx.db.run(
      "UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE kind = 'check-listing' AND state = 'queued'",
    );
    await runJobs(world.ctx);
    expect(await now()).toMatchObject({ state: 'not-listed', guards: ['deleted-there'], row: { externalId: null } });
    await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), store, 'live');
    await runJobs(world.ctx);
    expect(await now()).toMatchObject({ state: 'in-step', guards: [] });
  });

  it('is told: so much not found at once that it may be the shop, and believed when somebody says so', async () => {
    const others: ListingRow[] = [];
    for (let i = 0; i < 3; i += 1) {
      await listOne();
      others.push((await now()).row);
    }
    await world.ctx.db.run(
      'UPDATE listing SET external_id = NULL, missing_since = NULL WHERE id NOT IN (?, ?, ?)',
      others.map(({ id }) => id),
    );
    const kept = others.map(({ externalId }) => world.shop.world.articles.get(externalId!)!);
    for (const { id } of kept) world.shop.world.articles.drop(id);
    const lookTwice = async () => {
      for (const row of others) await set('read_due_at = UTC_TIMESTAMP(3)', row);
      await look();
      await world.ctx.db.run('UPDATE listing SET missing_since = missing_since - INTERVAL 2 MINUTE');
      await world.ctx.db.run(
        "UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE kind = 'check-listing' AND state = 'queued'",
      );
      await runJobs(world.ctx);
    };
    await lookTwice();
    expect(await missingIn(world.ctx.db, store.id)).toEqual({ missing: 3, total: 3 });
    expect((await now()).guards).toEqual(['not-found']);
    world.shop.world.articles.put(kept[0]!.id, kept[0]!);
    expect(await sayOfMissing(world.ctx, actor, store, true)).toBe(3);
    await lookTwice();
    expect(await missingIn(world.ctx.db, store.id)).toEqual({ missing: 0, total: 1 });
    expect((await now()).guards).toEqual(['deleted-there']);
    expect(await codeOf(sayOfMissing(world.ctx, actor, store, true))).toBe('none-missing');
  });
});
