import { isOpen } from '../listings/listings';
import { groupBy } from '@/core/group';
import type { SyncState } from '@/core/sync/state';
import type { Context } from '../context';
import type { JobState } from '../jobs/job-row';
import type { Product } from '../products/products';
import type { Store } from '../stores/stores';
import { judge, type Outcome } from './outcome';

/** Where a product stands in a store, with what came of the rules. */
export interface Standing extends Omit<Outcome, 'state'> {
  readonly state: SyncState;
  readonly listing: ListingStub | null;
}

/** What is written down of a listing, without its forms. */
interface ListingStub {
  readonly productId: string;
  readonly storeId: string;
  readonly number: number;
  readonly externalId: string | null;
  readonly url: string | null;
  readonly visibility: 'draft' | 'live';
  readonly sentAt: Date | null;
  readonly jobState: JobState | null;
}

type StoredRow = Omit<Outcome, 'broken' | 'changed' | 'left' | 'underFloor'> & {
  readonly rules: string;
  readonly changed: string;
  readonly leftMinor: number | null;
  readonly leftPpm: number | null;
  readonly underFloor: number;
};

const marksOf = (ids: readonly unknown[]) => ids.map(() => '?').join(',');

async function readStored(ctx: Context, workspaceId: string, ids: readonly string[]) {
  const [outcomes, listings, due] = await Promise.all([
    ctx.db.rows<StoredRow>(
      `SELECT product_id AS productId, store_id AS storeId, number, state, here_hash AS hereHash, rules, changed, variants, low_minor AS lowMinor, high_minor AS highMinor, left_minor AS leftMinor, left_ppm AS leftPpm, under_floor AS underFloor
       FROM listing_outcome WHERE workspace_id = ? AND product_id IN (${marksOf(ids)}) ORDER BY number`,
      [workspaceId, ...ids],
    ),
    ctx.db.rows<ListingStub>(
      `SELECT l.product_id AS productId, l.store_id AS storeId, l.number, l.external_id AS externalId, l.url, l.visibility, l.sent_at AS sentAt, j.state AS jobState
       FROM listing l LEFT JOIN job j ON j.id = l.job_id WHERE l.workspace_id = ? AND l.product_id IN (${marksOf(ids)})`,
      [workspaceId, ...ids],
    ),
    ctx.db.rows<{ productId: string }>(
      `SELECT product_id AS productId FROM judge_due WHERE product_id IN (${marksOf(ids)})`,
      ids,
    ),
  ]);
  return {
    outcomes: outcomes.map(({ rules, changed, leftMinor, leftPpm, underFloor, ...rest }): Outcome => ({
      ...rest,
      left: leftMinor === null || leftPpm === null ? null : { minor: leftMinor, ppm: leftPpm },
      underFloor: underFloor === 1,
      broken: JSON.parse(rules) as Outcome['broken'],
      changed: JSON.parse(changed) as Outcome['changed'],
    })),
    listings,
    due: new Set(due.map(({ productId }) => productId)),
  };
}

/**
 * Where products stand in stores, as it is stored. What is marked and not judged yet is judged here for the page, and not stored: nobody is
 * shown an old state, and the marks have one writer. Of a product in a store it is each of its listings there, by number. With `designs` what the checks say of their designs is waited for.
 */
export async function standingsOf(
  ctx: Context,
  workspaceId: string,
  products: readonly Product[],
  stores: readonly Store[],
  { designs = false } = {},
): Promise<(productId: string, storeId: string) => Standing[]> {
  const ids = products.map(({ id }) => id);
  const none: Awaited<ReturnType<typeof readStored>> = { outcomes: [], listings: [], due: new Set() };
  const { outcomes, listings, due } = ids.length > 0 ? await readStored(ctx, workspaceId, ids) : none;
  const pairOf = (one: { readonly productId: string; readonly storeId: string }) => `${one.productId}:${one.storeId}`;
  const found = groupBy(outcomes, pairOf);
  const old = products.filter(({ id }) => due.has(id) || stores.some((store) => !found.has(`${id}:${store.id}`)));
  const anew = groupBy(await judge(ctx, workspaceId, old, stores, { designs }), pairOf);
  const stubs = new Map(listings.map((one) => [`${pairOf(one)}:${one.number}`, one]));
  return (productId, storeId) => {
    const pair = `${productId}:${storeId}`;
    return (anew.get(pair) ?? found.get(pair) ?? []).map((outcome) => {
      const listing = stubs.get(`${pair}:${outcome.number}`) ?? null;
      return { ...outcome, state: isOpen(listing?.jobState ?? null) ? 'on-its-way' : outcome.state, listing };
    });
  };
}
