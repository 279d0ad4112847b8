import { FIRST_LISTING } from '@/core/document/split';
import { TypicaError } from '@/core/errors';
import { brokenRules } from '@/core/rules/evaluate';
import { othersToo } from '@/core/words/and-more';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { tellAll } from '../events/events';
import type { JobState } from '../jobs/job-row';
import { enqueueAll } from '../jobs/jobs';
import type { ProductBundle } from '../products/bundle';
import type { Product } from '../products/products';
import { refuseOver } from '../quotas/quotas';
import type { Store } from '../stores/stores';
import { isOpen, refuseDesign } from './listings';
import { prepareListing } from './prepare';

/** A listing that somebody wants sent. */
export interface AskedSend {
  readonly product: Pick<Product, 'id' | 'title'>;
  readonly store: Pick<Store, 'id' | 'name'>;
  /** Which of the product's listings in the store. */
  readonly number: number;
  readonly visibility: 'draft' | 'live';
  /** Of what the shop shows, as a person has seen it: that may be written over. */
  readonly seenHash?: string;
}

/** On whose behalf listings are sent, and with which others. */
interface Asking {
  readonly by?: string;
  readonly groupId?: string;
}

export interface RequestedSend {
  readonly listingId: string;
  readonly jobId: string;
}

/** Throws `store-paused` where something would go on sale in a store that is paused. */
export function refusePaused(store: Store, visibility: AskedSend['visibility']): void {
  if (store.pausedAt && visibility === 'live')
    throw new TypicaError(
      'invalid',
      'store-paused',
      `${store.name} is paused: end the pause first, or send it as a draft.`,
    );
}

/** Throws `rules-broken` with all of them, or `store-paused`, where a product cannot be sent to a store. */
function refuseUnfit(
  ctx: Context,
  bundle: ProductBundle,
  store: Store,
  { number, visibility }: Pick<AskedSend, 'number' | 'visibility'>,
): void {
  const broken = brokenRules(prepareListing(ctx, bundle, store, [], number).rules);
  if (broken.length > 0) {
    throw new TypicaError(
      'invalid',
      'rules-broken',
      `${store.name} would refuse this: ${broken[0]!.says} ${broken[0]!.mend ?? ''}${othersToo(broken.length)}`.trim(),
      { rules: broken },
    );
  }
  refusePaused(store, visibility);
}

/**
 * Asks for a product to be sent to a store, as a draft or live. The rules are checked first (`refuseUnfit`); what must be mended in the design
 * throws `design-stopped`, and nothing is sent. A send that is under way already is not begun a second time.
 */
export async function requestSend(
  ctx: Context,
  bundle: ProductBundle,
  store: Store,
  visibility: AskedSend['visibility'],
  { number = FIRST_LISTING, seenHash, ...asking }: Asking & Partial<Pick<AskedSend, 'number' | 'seenHash'>> = {},
): Promise<RequestedSend> {
  refuseUnfit(ctx, bundle, store, { number, visibility });
  await refuseOver(ctx, bundle.product.workspaceId, 'jobs');
  await refuseDesign(ctx, bundle);
  const { product } = bundle;
  const [requested] = await ctx.pools.transaction((db) =>
    writeSends(db, product.workspaceId, [{ product, store, number, visibility, seenHash }], asking),
  );
  return requested!;
}

/** Listings whose jobs are written down in one transaction, at most: it holds their rows. */
export const MAX_SENDS_AT_ONCE = 100;

interface LockedListing extends Pick<AskedSend, 'number'> {
  readonly id: string;
  readonly jobId: string | null;
  readonly productId: string;
  readonly storeId: string;
}

/** The rows of listings, made where there are none and held until the transaction ends. In the order of `asked`. */
async function lockListings(
  db: Database,
  workspaceId: string,
  asked: readonly AskedSend[],
): Promise<readonly LockedListing[]> {
  const keyOf = (productId: string, storeId: string, number: number) => `${productId} ${storeId} ${number}`;
  await db.insertMany(
    'listing',
    ['id', 'workspace_id', 'product_id', 'store_id', 'number'],
    asked.map(({ product, store, number }) => [newId('l'), workspaceId, product.id, store.id, number]),
    'ON DUPLICATE KEY UPDATE number = VALUES(number)',
  );
  const [productIds, storeIds] = [
    [...new Set(asked.map(({ product }) => product.id))],
    [...new Set(asked.map(({ store }) => store.id))],
  ];
  const marks = (values: readonly string[]) => values.map(() => '?').join(',');
  const rows = await db.rows<LockedListing>(
    `SELECT id, job_id AS jobId, product_id AS productId, store_id AS storeId, number FROM listing
     WHERE product_id IN (${marks(productIds)}) AND store_id IN (${marks(storeIds)}) FOR UPDATE`,
    [...productIds, ...storeIds],
  );
  const byKey = new Map(rows.map((row) => [keyOf(row.productId, row.storeId, row.number), row]));
  return asked.map(({ product, store, number }) => byKey.get(keyOf(product.id, store.id, number))!);
}

/** Jobs of listings that go on already, or wait for their turn. */
async function openJobs(db: Database, rows: readonly LockedListing[]): Promise<ReadonlySet<string>> {
  const ids = rows.flatMap(({ jobId }) => (jobId === null ? [] : [jobId]));
  if (ids.length === 0) return new Set();
  const jobs = await db.rows<{ id: string; state: JobState }>(
    `SELECT id, state FROM job WHERE id IN (${ids.map(() => '?').join(',')}) FOR UPDATE`,
    ids,
  );
  return new Set(jobs.flatMap(({ id, state }) => (isOpen(state) ? [id] : [])));
}

/**
 * Writes down the jobs of listings that were looked at, at most `MAX_SENDS_AT_ONCE`, inside the caller's
 * transaction. One that is on its way already keeps its job. In the order of `asked`.
 */
export async function writeSends(
  db: Database,
  workspaceId: string,
  asked: readonly AskedSend[],
  { by, groupId }: Asking,
): Promise<RequestedSend[]> {
  if (asked.length === 0) return [];
  const rows = await lockListings(db, workspaceId, asked);
  const open = await openJobs(db, rows);
  const news = asked.flatMap((one, i) => (open.has(rows[i]!.jobId ?? '') ? [] : [{ one, listingId: rows[i]!.id }]));
  const jobIds = await enqueueAll(
    db,
    news.map(({ one: { product, store, visibility, seenHash }, listingId }) => ({
      workspaceId,
      kind: 'send-listing',
      title: `Send ${product.title} to ${store.name}`,
      payload: {
        ...{ listingId, visibility },
        ...(seenHash === undefined ? {} : { seenHash }),
        ...(by === undefined ? {} : { by }),
      },
      ...(groupId === undefined ? {} : { groupId }),
      subject: `listing:${listingId}`,
      storeId: store.id,
      priority: 5,
      maxAttempts: 8,
    })),
  );
  const jobOf = new Map(news.map(({ listingId }, i) => [listingId, jobIds[i]!]));
  await noteJobs(db, jobOf);
  await tellAll(
    db,
    workspaceId,
    'listing',
    news.map(({ one }) => ({ productId: one.product.id, storeId: one.store.id })),
  );
  return rows.map(({ id, jobId }) => ({ listingId: id, jobId: jobOf.get(id) ?? jobId! }));
}

/** Writes down at listings which job is theirs now. */
async function noteJobs(db: Database, jobOf: ReadonlyMap<string, string>): Promise<void> {
  if (jobOf.size === 0) return;
  const cases = [...jobOf].map(() => 'WHEN ? THEN ?').join(' ');
  await db.run(
    `UPDATE listing SET job_id = CASE id ${cases} END WHERE id IN (${[...jobOf].map(() => '?').join(',')})`,
    [...[...jobOf].flat(), ...jobOf.keys()],
  );
}
