import { isTypicaError } from '@/core/errors';
import { inScope } from '@/core/pricing/sale-scope';
import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import { listingsOf, requestSend, stateOf, type ListingRow } from '../listings/listings';
import { prepareListing } from '../listings/prepare';
import { loadBundles, scopedProduct, type ProductBundle } from '../products/bundle';
import { pageOfProducts } from '../products/products';
import { listStores, type Store } from '../stores/stores';
import { findSale, type SaleReport, type SaleRow } from './sales';

/** Products that are looked at in one go. */
const PAGE = 50;
const MOST_LEFT_TOLD = 100;

/** Why a listing is not touched by a sale; null when it is sent. */
async function turnListing(
  ctx: Context,
  sale: SaleRow,
  begins: boolean,
  bundle: ProductBundle,
  store: Store,
  row: ListingRow,
): Promise<string | null> {
  const now = prepareListing(ctx, bundle, store);
  // As it was before the turn: what was not sent then is not sent by a sale either.
  const others = bundle.sales.filter(({ id }) => id !== sale.id);
  const before = prepareListing(ctx, { ...bundle, sales: begins ? others : [...others, sale] }, store);
  if (now.hash !== null && now.hash === row.agreedHash && row.thereHash === row.agreedHash) return null;
  const state = stateOf(row, before);
  if (state === 'ahead') return 'It has changes that were not sent.';
  if (state !== 'in-step') return `It is ${state} there.`;
  if (!now.form) return now.rules[0]?.says ?? 'Its form cannot be made.';
  try {
    await requestSend(ctx, bundle, store, row.visibility);
    return null;
  } catch (error) {
    if (!isTypicaError(error) || !error.visible || error.kind !== 'invalid') throw error;
    return error.message;
  }
}

/**
 * Sends the listings that a sale changes, when it has begun or ended: those alone that were in step before, so that no edit goes out with it.
 * Repeating it sends nothing twice: what was sent already is as it should be.
 */
export async function turnSale(ctx: Context, { job, progress }: JobControl): Promise<unknown> {
  const { saleId, turn } = job.payload as { saleId: string; turn: 'begun' | 'ended' };
  const sale = await findSale(ctx, job.workspaceId, saleId);
  const stores = (await listStores(ctx, job.workspaceId)).filter(
    ({ id }) => sale.scope.storeIds.length === 0 || sale.scope.storeIds.includes(id),
  );
  const left: SaleReport['left'][number][] = [];
  let [sent, done] = [0, 0];
  for (let after = ''; ;) {
    const products = await pageOfProducts(ctx, job.workspaceId, after, PAGE);
    if (products.length === 0) break;
    after = products.at(-1)!.id;
    const rows = await listingsOf(
      ctx.db,
      job.workspaceId,
      products.map(({ id }) => id),
    );
    for (const bundle of await loadBundles(ctx, job.workspaceId, products)) {
      if (!inScope(sale.scope, scopedProduct(bundle))) continue;
      for (const store of stores) {
        const row = rows.find((one) => one.productId === bundle.product.id && one.storeId === store.id);
        if (!row?.externalId || !row.agreedForm) continue;
        const why = await turnListing(ctx, sale, turn === 'begun', bundle, store, row);
        if (why === null) sent += 1;
        else if (left.length < MOST_LEFT_TOLD) left.push({ productId: bundle.product.id, storeId: store.id, why });
      }
    }
    done += products.length;
    await progress(done, done + 1, `${done} products looked at`);
  }
  const report: SaleReport = { sent, left };
  await ctx.db.run(
    'UPDATE sale SET report = JSON_SET(COALESCE(report, JSON_OBJECT()), ?, JSON_EXTRACT(?, ?)) WHERE id = ?',
    [`$.${turn}`, JSON.stringify(report), '$', saleId],
  );
  return report;
}
