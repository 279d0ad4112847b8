import crypto from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { broadmere } from '@/adapters/broadmere/channel';
import { loopstall } from '@/adapters/loopstall/channel';
import { plainfront } from '@/adapters/plainfront/channel';
import { isTypicaError } from '@/core/errors';
import type { StoreAnswers } from '@/core/listing/answers';
import type { Channel } from '@/ports/channel';
import { claim } from '@/server/jobs/claim';
import { cancelJob } from '@/server/jobs/jobs';
import { runJob } from '@/server/jobs/worker';
import { forgetHere } from '@/server/listings/agreement';
import { findListing, listingsOf, listingView, prepareListed, requestRemoval } from '@/server/listings/listings';
import { requestSend } from '@/server/listings/request-send';
import { sendFiles } from '@/server/listings/send-file.job';
import { sendListing } from '@/server/listings/send.job';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import type { Product } from '@/server/products/products';
import { connectWithKeys, disconnectStore, renameStore } from '@/server/stores/connect';
import { takeMessage } from '@/server/stores/hooks';
import { changeSettings } from '@/server/stores/settings';
import { askExemption, readShopFacts } from '@/server/stores/shop-facts';
import { findStore, listStores, type Store } from '@/server/stores/stores';
import * as broadmereShop from '@/sim/broadmere/server';
import type { Feed } from '@/sim/broadmere/shop';
import * as loopstallShop from '@/sim/loopstall/server';
import { makeKey } from '@/sim/plainfront/keys';
import * as plainfrontShop from '@/sim/plainfront/server';
import { SCOPES } from '@/sim/plainfront/shop';
import { shopFolder } from '../support/shop-under-test';
import { connectByRegion, jobOf, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

/** How many times faster than real the shops' clocks run here. */
const PACE = 100;

let world: World;
let actor: Actor;
let mass: Awaited<ReturnType<typeof broadmereShop.create>>;
let own: Awaited<ReturnType<typeof plainfrontShop.create>>;
let clips: Awaited<ReturnType<typeof loopstallShop.create>>;
const stores: { mass: Store; own: Store; clips: Store } = {} as never;

beforeAll(async () => {
  mass = await broadmereShop.create({ port: 0, data: shopFolder(), pace: PACE });
  own = await plainfrontShop.create({ port: 0, data: shopFolder(), pace: PACE });
  clips = await loopstallShop.create({
    port: 0,
    data: shopFolder(),
    pace: PACE,
    troubles: 0,
    clients: { typica: 'http://127.0.0.1:1/api/v1/stores/callback' },
  });
  const channels = [
    broadmere({ url: mass.url, pace: PACE }),
    plainfront({ url: own.url }),
    loopstall({ url: clips.url, clientId: 'typica' }),
  ];
  world = await makeWorld({
    catalog: true,
    channels: new Map<string, Channel>(channels.map((channel) => [channel.about.code, channel])),
  });
  actor = await makeActor(world.ctx);
  const secret = mass.world.accounts.get('bm-55120')!.own.secret;
  stores.mass = await connectWithKeys(world.ctx, actor, 'broadmere', { number: 'bm-55120', secret }, 'us');
  stores.own = await connectWithKeys(world.ctx, actor, 'plainfront', { key: keyFor('pf-gb') }, null);
  stores.clips = await connectByRegion(world.ctx, actor, 'loopstall', 'eu');
  await answer('mass', { brand: 'Brackwater', shades: { estuary: 'Teal' } });
  await askExemption(world.ctx, stores.mass);
  mass.world.forward(120_000);
  stores.mass = await readShopFacts(world.ctx, stores.mass);
  const attributes = { cloth: 'Cotton', age: 'Adults', fit: 'Straight', wash: '30 degrees' };
  await answer('clips', { warehouse: 'wh-nl', byGood: { 'towpath-tee': { category: 'wear-tops-tee', attributes } } });
});
afterAll(async () => {
  await world.close();
  await Promise.all([mass.close(), own.close(), clips.close()]);
});

type Which = keyof typeof stores;

const keyFor = (account: string) =>
  makeKey(own.world, { name: 'Typica', scopes: SCOPES, accounts: [account], days: 90 });

async function answer(which: Which, answers: StoreAnswers): Promise<void> {
  await changeSettings(world.ctx, stores[which], { answers });
  stores[which] = await findStore(world.ctx, actor.workspaceId, stores[which].id);
}

let titles = 0;

/** A product that all of these shops take. */
async function tee(): Promise<Product> {
  titles += 1;
  const title = `Crossed Blades tee ${titles} for the crew`;
  const { product } = await makeTee(world.ctx, actor, title);
  const value = { [stores.mass.id]: { title: `${title} by Brackwater Boathouse` } };
  const operations = [{ op: 'replace' as const, path: '/words/stores', value }];
  return { ...product, ...(await patchProduct(world.ctx, actor, product.id, product.revision, operations)) };
}

const send = async (product: Product, which: Which, seenHash?: string) =>
  requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), stores[which], 'live', {
    seenHash,
  });

async function viewOf(product: Product, which: Which) {
  const bundle = await loadBundle(world.ctx, actor.workspaceId, product.id);
  const rows = await listingsOf(world.ctx.db, actor.workspaceId, [product.id]);
  const row = rows.find(({ storeId }) => storeId === stores[which].id) ?? null;
  return listingView(stores[which], { number: 1, row }, prepareListed(world.ctx, bundle, stores[which], row));
}

async function preparedFor(product: Product, which: Which) {
  return prepareListed(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), stores[which], null);
}

/** Runs jobs until these have ended: what waits is due now. */
async function finish(...jobIds: string[]): Promise<string[]> {
  for (let i = 0; i < 200; i += 1) {
    await world.ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
    await runJobs(world.ctx);
    const states = await Promise.all(jobIds.map(async (id) => (await jobOf(world.ctx, actor, id)).state));
    if (states.every((state) => !['queued', 'running', 'waiting'].includes(state))) return states;
    await new Promise((done) => setTimeout(done, 50));
  }
  const open = await Promise.all(jobIds.map((id) => jobOf(world.ctx, actor, id)));
  throw new Error(`the jobs did not end: ${JSON.stringify(open.map(({ state, error }) => [state, error]))}`);
}

describe('stores on four channels', () => {
  it('have names of their own, and keep them when they are connected again', async () => {
    const { ctx } = world;
    await renameStore(ctx, stores.own, 'Brackwater UK');
    await expect(renameStore(ctx, stores.clips, 'brackwater uk')).rejects.toMatchObject({ code: 'store-name-taken' });
    const euro = await connectWithKeys(ctx, actor, 'plainfront', { key: keyFor('pf-eu') }, null);
    expect([euro.currency, euro.shopName]).toEqual(['EUR', 'Brackwater Boathouse Europe']);
    await disconnectStore(ctx, stores.own);
    const again = await connectWithKeys(ctx, actor, 'plainfront', { key: ` ${keyFor('pf-gb')}\n` }, null);
    expect([again.id, again.name, again.state]).toEqual([stores.own.id, 'Brackwater UK', 'connected']);
    stores.own = again;
    const names = (await listStores(ctx, actor.workspaceId)).map(({ name }) => name);
    expect(new Set(names).size).toBe(4);
  });

  it('are refused with what is wrong: no region, no key, the wrong way', async () => {
    const { ctx } = world;
    const connect = (...args: [string, Record<string, string>, string | null]) => connectWithKeys(ctx, actor, ...args);
    await expect(connect('broadmere', { number: 'x', secret: 'y' }, null)).rejects.toMatchObject({
      code: 'region-unknown',
    });
    await expect(connect('plainfront', {}, null)).rejects.toMatchObject({ code: 'key-missing' });
    await expect(connect('plainfront', { __proto__: { key: 'x' } } as never, null)).rejects.toMatchObject({
      code: 'key-missing',
    });
    await expect(connect('loopstall', {}, 'eu')).rejects.toMatchObject({ code: 'connect-kind' });
  });

  it('keep answers that are given at once, and what the shop is asked meanwhile takes none back', async () => {
    const { ctx } = world;
    const stale = stores.clips;
    const cap = { category: 'wear-head-cap', attributes: {} };
    await Promise.all([
      changeSettings(ctx, stale, { answers: { byGood: { 'coxswain-cap': cap } } }),
      changeSettings(ctx, stale, { answers: { processingDays: 3 } }),
      readShopFacts(ctx, stale),
    ]);
    stores.clips = await findStore(ctx, actor.workspaceId, stale.id);
    const { answers } = stores.clips.settings;
    expect(answers).toMatchObject({ processingDays: 3, warehouse: 'wh-nl', byGood: { 'coxswain-cap': cap } });
    expect(Object.keys(answers!.byGood!).sort()).toEqual(['coxswain-cap', 'towpath-tee']);
    const wrong = changeSettings(ctx, stale, { answers: { processingDays: 0 } });
    await expect(wrong).rejects.toMatchObject({ code: 'answers-invalid' });
  });

  it.each(['mass', 'own', 'clips'] as const)('take a product as it is: %s', async (which) => {
    const product = await tee();
    expect((await viewOf(product, which)).rules.filter(({ kept }) => !kept)).toEqual([]);
    const { jobId } = await send(product, which);
    expect((await viewOf(product, which)).state).toBe('on-its-way');
    expect(await finish(jobId)).toEqual(['done']);
    expect(await viewOf(product, which)).toMatchObject({ state: 'in-step', visibility: 'live', thereHash: null });
  });

  it('upload a picture once for all listings that show it', async () => {
    const before = own.world.pictures.all().length;
    const [one, two] = [await tee(), await tee()];
    await finish((await send(one, 'own')).jobId);
    const after = own.world.pictures.all().length;
    await finish((await send(two, 'own')).jobId);
    // The pictures of a first listing were there already, from the test before.
    expect([after, own.world.pictures.all().length]).toEqual([before, before]);
  });
});

describe('a shop that takes files', () => {
  const feeds = () => mass.world.records.table<Feed>('feeds').all();
  const references = () => mass.world.articles.all().map(({ reference }) => reference);

  it('gets what is sent together in one file, and each row is answered by itself', async () => {
    const products = [await tee(), await tee(), await tee()];
    const before = feeds().length;
    const jobs: string[] = [];
    for (const product of products) jobs.push((await send(product, 'mass')).jobId);
    // All of them are ready before the next file goes.
    for (let lease; (lease = await claim(world.ctx, ['send-listing']));) await runJob(world.ctx, lease, sendListing);
    expect(await finish(...jobs)).toEqual(['done', 'done', 'done']);
    expect(feeds().length - before).toBe(1);
    expect(feeds().at(-1)!.rows).toHaveLength(3);
    expect(await world.ctx.db.rows('SELECT id FROM batch_row')).toEqual([]);
  });

  it('says no in its own words', async () => {
    const products = [await tee(), await tee()];
    const jobs: string[] = [];
    for (const product of products) jobs.push((await send(product, 'mass')).jobId);
    // The shop has it otherwise than it is known here.
    const seller = mass.world.accounts.get('bm-55120')!;
    const waivers = seller.own.waivers;
    mass.world.accounts.put(seller.id, { ...seller, own: { ...seller.own, waivers: [] } });
    expect(await finish(...jobs)).toEqual(['failed', 'failed']);
    mass.world.accounts.put(seller.id, { ...seller, own: { ...seller.own, waivers } });
    expect((await viewOf(products[0]!, 'mass')).refusal?.words).toContain('product code');
    expect((await viewOf(products[0]!, 'mass')).state).toBe('refused');
  });

  it.each(['loseAnswers', 'cutAnswers', 'failAfter'] as const)('makes one listing through %s', async (fault) => {
    const product = await tee();
    const { jobId, listingId } = await send(product, 'mass');
    mass.faults[fault] = 1;
    expect(await finish(jobId)).toEqual(['done']);
    expect(mass.faults[fault]).toBe(0);
    expect(references().filter((reference) => reference === listingId)).toHaveLength(1);
    expect((await viewOf(product, 'mass')).state).toBe('in-step');
  });

  it('is sent again what it did not come to', async () => {
    const products = [await tee(), await tee()];
    mass.faults.halfBatches = 1;
    const jobs: string[] = [];
    for (const product of products) jobs.push((await send(product, 'mass')).jobId);
    expect(await finish(...jobs)).toEqual(['done', 'done']);
    for (const product of products) expect((await viewOf(product, 'mass')).state).toBe('in-step');
  });

  it('gets nothing of what was stopped before its file went, and what came too late is known here', async () => {
    const product = await tee();
    const { jobId } = await send(product, 'mass');
    const other = await send(await tee(), 'mass');
    for (let lease; (lease = await claim(world.ctx, ['send-listing']));) await runJob(world.ctx, lease, sendListing);
    await cancelJob(world.ctx, actor.workspaceId, jobId);
    expect(await finish(other.jobId)).toEqual(['done']);
    expect((await viewOf(product, 'mass')).state).toBe('not-listed');
    // And one whose file is there already.
    const late = await tee();
    const { jobId: lateId, listingId } = await send(late, 'mass');
    const sent = () =>
      world.ctx.db.row("SELECT id FROM batch_row WHERE listing_id = ? AND state = 'sent'", [listingId]);
    for (let i = 0; i < 100 && !(await sent()); i += 1) {
      await world.ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
      const lease = await claim(world.ctx, ['send-listing', 'send-file']);
      if (lease) await runJob(world.ctx, lease, lease.job.kind === 'send-file' ? sendFiles : sendListing);
      else await new Promise((done) => setTimeout(done, 20));
    }
    await cancelJob(world.ctx, actor.workspaceId, lateId);
    await finish((await send(await tee(), 'mass')).jobId);
    expect(references().filter((reference) => reference === listingId)).toHaveLength(1);
    const { externalId } = await viewOf(late, 'mass');
    expect(mass.world.articles.get(externalId!)?.reference).toBe(listingId);
    expect(await finish((await send(late, 'mass')).jobId)).toEqual(['done']);
    expect((await viewOf(late, 'mass')).state).toBe('in-step');
    expect(references().filter((reference) => reference === listingId)).toHaveLength(1);
  });

  it('gets the newer one where a product changes while its row is away', async () => {
    const product = await tee();
    const { jobId } = await send(product, 'mass');
    await runJobs(world.ctx);
    const path = '/words/base/description';
    await patchProduct(world.ctx, actor, product.id, product.revision, [
      { op: 'replace', path, value: 'Another text.' },
    ]);
    expect(await finish(jobId)).toEqual(['done']);
    const { externalId, state } = await viewOf(product, 'mass');
    expect([state, mass.world.articles.get(externalId!)?.text]).toEqual(['in-step', 'Another text.']);
  });
});

describe('what somebody changed in the shop', () => {
  it('is not written over unless it was seen, and just that', async () => {
    const product = await tee();
    await finish((await send(product, 'own')).jobId);
    const { externalId } = await viewOf(product, 'own');
    const rename = (title: string) => {
      const article = own.world.articles.get(externalId!)!;
      own.world.articles.put(externalId!, { ...article, title, changedAt: own.world.now() });
    };
    const path = '/words/base/description';
    const operations = [{ op: 'replace' as const, path, value: 'Another text.' }];
    const edited = { ...product, ...(await patchProduct(world.ctx, actor, product.id, product.revision, operations)) };
    rename('Renamed in the shop');
    expect(await finish((await send(edited, 'own')).jobId)).toEqual(['failed']);
    const seen = await viewOf(edited, 'own');
    expect(seen.state).toBe('split');
    expect(own.world.articles.get(externalId!)!.title).toBe('Renamed in the shop');
    // Seen, and changed once more meanwhile.
    rename('Renamed again');
    expect(await finish((await send(edited, 'own', seen.thereHash!)).jobId)).toEqual(['failed']);
    const again = await viewOf(edited, 'own');
    expect(await finish((await send(edited, 'own', again.thereHash!)).jobId)).toEqual(['done']);
    expect((await viewOf(edited, 'own')).state).toBe('in-step');
    expect(own.world.articles.get(externalId!)!.title).toContain('Crossed Blades');
  });
});

describe('pictures of a listing that is there', () => {
  it.each(['mass', 'own', 'clips'] as const)(
    'are changed like everything else, the first one too: %s',
    async (which) => {
      const product = await tee();
      await finish((await send(product, which)).jobId);
      const { pictures } = await preparedFor(product, which);
      const [first, second, ...rest] = pictures;
      const turned = [second!, first!, ...rest];
      // Another order, so that another one stands on white where the shop wants that.
      const value = Object.fromEntries(
        turned.map(({ shotId, color }, i) => [`p${i}`, { shotId, color, order: `a${i}` }]),
      );
      const operations = [{ op: 'replace' as const, path: '/pictures/base', value }];
      const edited = {
        ...product,
        ...(await patchProduct(world.ctx, actor, product.id, product.revision, operations)),
      };
      expect((await viewOf(edited, which)).state).toBe('ahead');
      expect(await finish((await send(edited, which)).jobId)).toEqual(['done']);
      const { state, externalId } = await viewOf(edited, which);
      expect(state).toBe('in-step');
      expect({ mass, own, clips }[which].world.articles.get(externalId!)!.pictures).toHaveLength(turned.length);
    },
  );
});

it('a close-up as the first picture is told before it is sent to a shop that wants it on white', async () => {
  const product = await tee();
  const { pictures } = await preparedFor(product, 'mass');
  const near = pictures.at(-1)!;
  expect(near.shot?.document.angle).toBe('close-up');
  const value = { p0: { shotId: near.shotId, color: near.color, order: 'a0' } };
  const operations = [{ op: 'replace' as const, path: '/pictures/base', value }];
  const edited = { ...product, ...(await patchProduct(world.ctx, actor, product.id, product.revision, operations)) };
  await expect(send(edited, 'mass')).rejects.toMatchObject({ code: 'rules-broken' });
  expect((await viewOf(edited, 'mass')).rules.filter(({ kept }) => !kept).map(({ id }) => id)).toEqual([
    'first-on-white',
  ]);
});

describe('a listing that is deleted', () => {
  it.each(['mass', 'own', 'clips'] as const)('goes here and there, and can be sent as a new one: %s', async (which) => {
    const product = await tee();
    await finish((await send(product, which)).jobId);
    const { externalId, listingId } = await viewOf(product, which);
    const remove = async () => {
      const row = (await findListing(world.ctx.db, actor.workspaceId, listingId!))!;
      return requestRemoval(world.ctx, row, stores[which].name);
    };
    const { jobId } = await remove();
    await expect(remove()).rejects.toMatchObject({ code: 'listing-busy' });
    expect(await finish(jobId)).toEqual(['done']);
    const shop = { mass, own, clips }[which];
    expect(shop.world.articles.get(externalId!)).toBeUndefined();
    expect(await viewOf(product, which)).toMatchObject({ state: 'not-listed', externalId: null });
    expect(await finish((await send(product, which)).jobId)).toEqual(['done']);
    const again = await viewOf(product, which);
    expect([again.state, again.externalId === externalId]).toEqual(['in-step', false]);
  });

  it('stays in the shop where it is deleted here alone', async () => {
    const product = await tee();
    await finish((await send(product, 'own')).jobId);
    const { externalId, listingId } = await viewOf(product, 'own');
    await forgetHere(world.ctx, (await findListing(world.ctx.db, actor.workspaceId, listingId!))!, 'the shop');
    expect((await viewOf(product, 'own')).state).toBe('not-listed');
    expect(own.world.articles.get(externalId!)).toBeDefined();
  });
});

describe('a message of a shop', () => {
  const address = async () =>
    (await world.ctx.db.row<{ key: string }>('SELECT address_key AS `key` FROM store_hook WHERE store_id = ?', [
      stores.own.id,
    ]))!.key;
  const secret = () => own.world.accounts.get('pf-gb')!.own.hooks.at(-1)!.secret;
  const message = (body: string, { id = crypto.randomUUID() as string, off = 0, key = secret() } = {}) => {
    const seconds = String(Math.floor(Date.now() / 1000) + off);
    const hmac = crypto.createHmac('sha256', Buffer.from(key.replace('whsec_', ''), 'base64'));
    return { id, seconds, body, signatures: `v1,AAAA v1,${hmac.update(`${id}.${seconds}.${body}`).digest('base64')}` };
  };
  const take = async (one: ReturnType<typeof message>) => takeMessage(world.ctx, await address(), one);
  const refused = (error: unknown) => isTypicaError(error, 'hook-refused');

  it('has the listing read that it is about, once', async () => {
    const product = await tee();
    await finish((await send(product, 'own')).jobId);
    const { externalId } = await viewOf(product, 'own');
    const article = own.world.articles.get(externalId!)!;
    own.world.articles.put(externalId!, { ...article, title: 'Told by message' });
    const one = message(JSON.stringify({ type: 'product.changed', product: externalId }));
    expect(await take(one)).toBe('taken');
    expect(await take(one)).toBe('known');
    await runJobs(world.ctx);
    expect((await viewOf(product, 'own')).state).toBe('behind');
  });

  it('is refused without its signature, at another time, and at no address of ours', async () => {
    const body = JSON.stringify({ type: 'product.changed', product: 'pr-0' });
    expect(await take(message(body))).toBe('taken');
    await expect(take(message(body, { key: `whsec_${btoa('another')}` }))).rejects.toSatisfy(refused);
    await expect(take({ ...message(body), body: `${body} ` })).rejects.toSatisfy(refused);
    await expect(take({ ...message(body), id: 'other' })).rejects.toSatisfy(refused);
    await expect(take(message(body, { off: 299 }))).resolves.toBe('taken');
    await expect(take(message(body, { off: 302 }))).rejects.toSatisfy(refused);
    await expect(take(message(body, { off: -302 }))).rejects.toSatisfy(refused);
    await expect(take(message('no JSON'))).rejects.toSatisfy(refused);
    await expect(takeMessage(world.ctx, 'f'.repeat(32), message(body))).rejects.toMatchObject({ code: 'not-found' });
  });
});
