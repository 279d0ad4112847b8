import { spawn, type ChildProcess } from 'node:child_process';
import crypto from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import mysql from 'mysql2/promise';
import { inject } from 'vitest';
import { isTypicaError } from '@/core/errors';
import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { makeContext, type Context } from '@/server/context';
import { loadBlanks } from '@/server/catalog/blanks';
import { migrate } from '@/server/db/migrate';
import { Pools } from '@/server/db/pool';
import { claim } from '@/server/jobs/claim';
import type { JobRow } from '@/server/jobs/job-row';
import { findJob } from '@/server/jobs/jobs';
import { handlers } from '@/server/jobs/handlers';
import { closeReckoners } from '@/server/reckoning/reckoners';
import { runJob } from '@/server/jobs/worker';
import { createAccount, type Actor, type SignedIn } from '@/server/people/people';
import { ALL_SCOPES } from '@/server/people/scopes';
import { patchProduct } from '@/server/products/patch';
import { createProduct, type Product } from '@/server/products/products';
import { beginConnect, finishConnect } from '@/server/stores/connect';
import { declarePartner } from '@/server/stores/shop-facts';
import { type Store } from '@/server/stores/stores';
import { uploadArtwork } from '@/server/artwork/artwork';
import { amount } from '@/sim/engine/goods';
import { create as createPennyquay } from '@/sim/pennyquay/server';
import { loadCatalog } from '../../demo/catalog';

const root = path.resolve(import.meta.dirname, '../..');
export const migrationsFolder = path.join(root, 'src/server/db/migrations');

export interface World {
  readonly ctx: Context;
  readonly env: Record<string, string>;
  readonly shop: Awaited<ReturnType<typeof createPennyquay>>;
  readonly shopItems: () => Promise<
    {
      id: string;
      stage: string;
      headline: string;
      reference: string;
      choices: { name: string; values: readonly string[] }[];
      offers: { sku: string; picks: readonly string[]; price: string; before: string | null }[];
      pictures: { id: string }[];
    }[]
  >;
  close(): Promise<void>;
}

/** The shots that these tests look at; all of them are for tests/golden. */
export const SHOTS = ['tee-front', 'tee-near', 'poster-iso', 'mug-front', 'cap-front', 'sticker-a6', 'sticker-near'];

/** A database of its own, a home of its own, the simulated shop on a free port, and a context over them. */
export async function makeWorld({
  catalog = false,
  requestsPerSecond = 8,
  channels = undefined as Context['channels'] | undefined,
} = {}): Promise<World> {
  const url = new URL(inject('databaseUrl'));
  const name = `t_${crypto.randomBytes(5).toString('hex')}`;
  const admin = await mysql.createConnection(url.toString());
  await admin.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci`);
  await admin.end();
  url.pathname = `/${name}`;
  const home = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-world-'));
  const keyFile = path.join(home, 'secret.key');
  fs.writeFileSync(keyFile, crypto.randomBytes(32).toString('base64'));
  const origin = 'http://127.0.0.1:1';
  const shop = await createPennyquay({
    port: 0,
    data: path.join(home, 'pennyquay'),
    clients: { typica: `${origin}/api/v1/stores/callback` },
    requestsPerSecond,
  });
  const env = {
    TYPICA_HOME: home,
    TYPICA_ORIGIN: origin,
    TYPICA_DATABASE_URL: url.toString(),
    TYPICA_KEY_FILE: keyFile,
    TYPICA_PENNYQUAY_URL: shop.url,
  };
  const pools = new Pools(url.toString());
  await migrate(pools, migrationsFolder);
  const ctx = makeContext(env as never, { pools, db: pools.db, ...(channels ? { channels } : {}) });
  if (catalog) await loadCatalog(ctx, path.join(root, 'demo'), SHOTS);
  return {
    ctx,
    env,
    shop,
    shopItems: async () =>
      shop.world.articles.all().map(({ id, stage, title, reference, options, variants, pictures }) => ({
        id,
        stage: stage === 'live' ? 'open' : 'draft',
        headline: title,
        reference: reference ?? '',
        choices: options,
        offers: variants.map(({ sku, picks, priceMinor, beforeMinor }) => ({
          sku,
          picks,
          price: amount(priceMinor),
          before: beforeMinor === null ? null : amount(beforeMinor),
        })),
        pictures,
      })),
    async close() {
      await shop.close();
      await closeReckoners(env.TYPICA_DATABASE_URL);
      await pools.db.run(`DROP DATABASE ${name}`);
      await pools.close();
      fs.rmSync(home, { recursive: true, force: true });
    },
  };
}

let people = 0;

/** A new person with a workspace. */
export async function makeActor(ctx: Context, currency = 'GBP'): Promise<SignedIn> {
  people += 1;
  const email = `person${people}@brackwater.example`;
  const { personId, workspaceId } = await createAccount(ctx, {
    email,
    name: `Person ${people}`,
    password: 'ebb-and-flood',
    workspaceName: `Boathouse ${people}`,
    currency,
    country: 'GB',
  });
  return {
    personId,
    workspaceId,
    email,
    personName: `Person ${people}`,
    workspaceName: `Boathouse ${people}`,
    currency,
    country: 'GB',
    credential: {
      kind: 'session',
      id: personId,
      scopes: ALL_SCOPES,
      expiresAt: new Date(ctx.clock.now().getTime() + 3_600_000),
    },
  };
}

/** Runs queued jobs in this process until none is left that can run now. */
export async function runJobs(ctx: Context): Promise<void> {
  for (;;) {
    const lease = await claim(ctx, Object.keys(handlers));
    if (!lease) return;
    await runJob(ctx, lease, handlers[lease.job.kind]!);
  }
}

export async function jobOf(ctx: Context, actor: Actor, id: string): Promise<JobRow> {
  const job = await findJob(ctx, actor.workspaceId, id);
  if (!job) throw new Error(`no job ${id}`);
  return job;
}

export const streamOf = (bytes: Uint8Array | string): ReadableStream<Uint8Array> =>
  new Blob([typeof bytes === 'string' ? bytes : new Uint8Array(bytes)]).stream();

export const artworkFile = (code: string): Buffer => fs.readFileSync(path.join(root, 'demo/artwork', `${code}.svg`));

export const blankIds = async (ctx: Context): Promise<string[]> =>
  (await ctx.db.rows<{ id: string }>('SELECT id FROM blank')).map(({ id }) => id);

/** A blank of the demo's catalog: two partners can have one of the same name. */
export async function findBlank(ctx: Context, partner: string, code: string): Promise<Blank> {
  const blank = (await loadBlanks(ctx, await blankIds(ctx))).find((b) => b.code === code && b.partner.code === partner);
  if (!blank) throw new Error(`${partner} has no ${code}`);
  return blank;
}

/** A tee with the crest on its front in two colors, described and priced: ready to be sent. */
export async function makeTee(
  ctx: Context,
  actor: Actor,
  title = 'Crossed Blades tee',
  colors: readonly string[] = ['estuary', 'coal'],
): Promise<{ product: Product; blank: Blank }> {
  const blank = await findBlank(ctx, 'millrace', 'towpath-tee');
  const artwork = await uploadArtwork(ctx, actor, streamOf(artworkFile('crossed-blades')), 'Crossed Blades.svg');
  await runJobs(ctx);
  const product = await createProduct(ctx, actor, { blankId: blank.id, title });
  const geometryId = blank.areas[0]!.geometries[0]!.geometryId;
  const variants = Object.fromEntries(
    blank.variants.filter((v) => colors.includes(v.values.color!)).map((v) => [v.key, {}]),
  );
  const { document, revision } = await patchProduct(ctx, actor, product.id, 1, [
    { op: 'add', path: '/areas/main.front', value: { layers: { crest: layerOf(artwork.id, geometryId) } } },
    { op: 'replace', path: '/variants', value: variants },
    { op: 'replace', path: '/words/base/description', value: 'The crest on a shirt.' },
  ]);
  return { product: { ...product, document, revision }, blank };
}

export const layerOf = (
  artworkId: string,
  geometryId: string,
  over: Partial<ProductDocument['areas'][string]['layers'][string]['placement']> = {},
) => ({
  kind: 'artwork',
  name: 'Crest',
  artworkId,
  order: 'a0',
  geometryId,
  fit: 'keep',
  overrides: {},
  hidden: false,
  locked: false,
  placement: { xMm: 152.5, yMm: 152, widthMm: 190, rotationDeg: 0, flipX: false, flipY: false, ...over },
});

/** Goes through a shop's consent as its owner would. */
export async function connectByRegion(
  ctx: Context,
  actor: Actor,
  channel: string,
  region: string | null,
): Promise<Store> {
  const ask = new URL((await beginConnect(ctx, actor, channel, region)).authorizeUrl);
  const form = new URLSearchParams(ask.search);
  form.set('answer', 'allow');
  const consent = await fetch(`${ask.origin}/consent`, { method: 'POST', body: form, redirect: 'manual' });
  const back = new URL(consent.headers.get('location')!);
  return finishConnect(ctx, actor, {
    state: back.searchParams.get('state')!,
    code: back.searchParams.get('code')!,
  });
}

/** Connects Pennyquay, and declares all partners. */
export async function connectStore(world: World, actor: Actor): Promise<Store> {
  const { ctx } = world;
  let store = await connectByRegion(ctx, actor, 'pennyquay', null);
  for (const { id } of await ctx.db.rows<{ id: string }>('SELECT id FROM partner'))
    store = await declarePartner(ctx, store, id);
  return store;
}

/** A worker as a process of its own, from the built program. */
export function startWorker(env: Record<string, string>): ChildProcess {
  return spawn(process.execPath, [path.join(root, 'dist/worker.mjs')], {
    cwd: root,
    env: { ...process.env, ...env, NODE_ENV: 'production' },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
}

/** Asks until it holds; fails with `what` after `seconds`. */
export async function eventually(check: () => Promise<boolean>, what: string, seconds = 40): Promise<void> {
  const until = Date.now() + seconds * 1000;
  while (!(await check())) {
    if (Date.now() > until) throw new Error(`${what} did not come within ${seconds} s`);
    await delay(50);
  }
}

/** The code of the error that a piece of work ends with; null where it does not. */
export const codeOf = (work: Promise<unknown>): Promise<string | null> =>
  work.then(
    () => null,
    (error: unknown) => (isTypicaError(error) ? error.code : String(error)),
  );
