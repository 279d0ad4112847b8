import { isTypicaError, TypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import { inScope } from '@/core/pricing/sale-scope';
import type { Context } from '../context';
import { enqueue } from '../jobs/jobs';
import type { JobControl } from '../jobs/worker';
import { listingsOf, stateOf, type ListingRow } from '../listings/listings';
import { requestSend } from '../listings/request-send';
import { prepareListing } from '../listings/prepare';
import { loadBundles, scopedProduct, type ProductBundle } from '../products/bundle';
import { pageOfProducts } from '../products/products';
import { listStores, type Store } from '../stores/stores';
import { turnCode } from './turn-code';
import { findSale, type SaleReport, type SaleRow } from './sales';

/** Products that are looked at in one go. */
const PAGE = 50;
const MAX_LEFT_TOLD = 100;

type Turn = 'begun' | 'ended';
type Turned = 'sent' | 'same' | { readonly why: string };

/** Sends one listing that a sale changes, or says why it is left as it is. */
async function turnListing(
  ctx: Context,
  sale: SaleRow,
  begins: boolean,
  bundle: ProductBundle,
  store: Store,
  row: ListingRow,
): Promise<Turned> {
  const now = prepareListing(ctx, bundle, store, [], row.number);
  // As it was before the turn: what was not sent then is not sent by a sale either.
  const others = bundle.sales.filter(({ id }) => id !== sale.id);
  const before = prepareListing(ctx, { ...bundle, sales: begins ? others : [...others, sale] }, store, [], row.number);
  if (now.hash === before.hash) return 'same';
  if (now.hash !== null && now.hash === row.agreedHash && row.thereHash === row.agreedHash) return 'sent';
  const state = stateOf(row, before);
  if (state === 'on-its-way')
    throw new TypicaError(
      'unavailable',
      'listing-on-its-way',
      'A listing of this sale is being sent just now; it waits for that.',
      {
        retryAfterMs: 3_000,
        costsNoTry: true,
      },
    );
  if (state === 'ahead' && !begins && others.length === 0) return takeBack(ctx, sale, row);
  if (state === 'ahead') return { why: 'It has changes that were not sent.' };
  if (state !== 'in-step') return { why: `It is ${state} there.` };
  if (!now.form) return { why: now.rules[0]?.says ?? 'Its form cannot be made.' };
  try {
    await requestSend(ctx, bundle, store, row.visibility, { number: row.number });
    return 'sent';
  } catch (error) {
    if (!isTypicaError(error) || !error.visible || error.kind !== 'invalid') throw error;
    return { why: error.message };
  }
}

/** The product was changed during the sale: its prices alone go back to what they were, where the shop was told those. */
async function takeBack(ctx: Context, sale: SaleRow, row: ListingRow): Promise<Turned> {
  const agreed = JSON.parse(row.agreedForm!) as ListingForm;
  if (row.thereHash !== row.agreedHash) return { why: 'It was changed in the shop during the sale.' };
  if (Object.values(agreed.variants).every(({ compareAtMinor }) => compareAtMinor === null))
    return { why: 'It has changes that were not sent.' };
  await enqueue(ctx.db, {
    workspaceId: row.workspaceId,
    kind: 'take-back-prices',
    title: `Restore the prices of ${sale.name}`,
    payload: { listingId: row.id },
    subject: `listing:${row.id}`,
    storeId: row.storeId,
    priority: 6,
    maxAttempts: 8,
  });
  return 'sent';
}

/**
 * Sends the listings that a sale changes, when it has begun or ended: those alone that were in step before, so that no edit goes out with it.
 * Repeating it sends nothing twice: what was sent already is as it should be.
 */
export async function turnSale(ctx: Context, control: JobControl): Promise<unknown> {
  const { job } = control;
  const { saleId, turn } = job.payload as { saleId: string; turn: Turn };
  const sale = await findSale(ctx, job.workspaceId, saleId);
  const report = await (sale.code === null
    ? turnListings(ctx, control, sale, turn)
    : turnCode(ctx, control, sale, turn));
  await ctx.db.run(
    'UPDATE sale SET report = JSON_SET(COALESCE(report, JSON_OBJECT()), ?, JSON_EXTRACT(?, ?)) WHERE id = ?',
    [`$.${turn}`, JSON.stringify(report), '$', saleId],
  );
  return report;
}

async function turnListings(
  ctx: Context,
  { job, progress }: JobControl,
  sale: SaleRow,
  turn: Turn,
): Promise<SaleReport> {
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
        const own = rows.filter((one) => one.productId === bundle.product.id && one.storeId === store.id);
        for (const row of own.filter(({ externalId, agreedForm }) => externalId && agreedForm)) {
          const turned = await turnListing(ctx, sale, turn === 'begun', bundle, store, row);
          if (turned === 'sent') sent += 1;
          else if (turned !== 'same' && left.length < MAX_LEFT_TOLD)
            left.push({ productId: bundle.product.id, storeId: store.id, why: turned.why });
        }
      }
    }
    done += products.length;
    await progress(done, done + 1, `${done} products looked at`);
  }
  return { sent, left };
}
