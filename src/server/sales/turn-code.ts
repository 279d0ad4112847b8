import { isTypicaError } from '@/core/errors';
import { inScope } from '@/core/pricing/sale-scope';
import { saleAt } from '@/core/pricing/sale';
import type { ShopCode } from '@/ports/channel';
import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import { listingsOf } from '../listings/listings';
import { loadBundles, scopedProduct } from '../products/bundle';
import { pageOfProducts } from '../products/products';
import { loadRateTable } from '../rates/rates';
import { openStore } from '../stores/keys';
import { channelOf, listStores, markLapsed, type Store } from '../stores/stores';
import type { SaleReport, SaleRow } from './sales';

const PAGE = 50;
/** Listings that one code can name; shops take no more. */
const MAX_NAMED = 500;

/** The shop's ids of the listings that a code is for, by store; null where it is for everything. */
async function namedListings(ctx: Context, sale: SaleRow): Promise<Map<string, string[]> | null> {
  const { productIds, kinds, tags } = sale.scope;
  if (productIds.length + kinds.length + tags.length === 0) return null;
  const named = new Map<string, string[]>();
  for (let after = ''; ;) {
    const products = await pageOfProducts(ctx, sale.workspaceId, after, PAGE);
    if (products.length === 0) return named;
    after = products.at(-1)!.id;
    const wanted = (await loadBundles(ctx, sale.workspaceId, products))
      .filter((bundle) => inScope(sale.scope, scopedProduct(bundle)))
      .map(({ product }) => product.id);
    for (const { storeId, externalId } of await listingsOf(ctx.db, sale.workspaceId, wanted))
      if (externalId) named.set(storeId, [...(named.get(storeId) ?? []), externalId]);
  }
}

/** Lets a code hold in one shop, or ends it there. Gives why it was left, or null. */
async function turnIn(
  ctx: Context,
  control: JobControl,
  store: Store,
  code: ShopCode,
  begins: boolean,
): Promise<string | null> {
  try {
    const client = await openStore(ctx, store, control);
    if (begins) await client.putCode(code);
    else await client.dropCode(code.code);
    return null;
  } catch (error) {
    if (!isTypicaError(error) || error.kind === 'unavailable') throw error;
    if (error.code === 'shop-token') await markLapsed(ctx, store, error.message);
    return error.message;
  }
}

/** Brings a discount code to the shops that take codes, or takes it out of them; for the others it is said that a person has to. Repeating it is harmless. */
export async function turnCode(
  ctx: Context,
  control: JobControl,
  sale: SaleRow,
  turn: 'begun' | 'ended',
): Promise<SaleReport> {
  const begins = turn === 'begun';
  const stores = (await listStores(ctx, sale.workspaceId)).filter(
    ({ id }) => sale.scope.storeIds.length === 0 || sale.scope.storeIds.includes(id),
  );
  const named = begins ? await namedListings(ctx, sale) : null;
  const rates = await loadRateTable(ctx, sale.workspaceId);
  const left: SaleReport['left'][number][] = [];
  let sent = 0;
  for (const [done, store] of stores.entries()) {
    await control.progress(done, stores.length, store.name);
    const leave = (why: string) => left.push({ productId: null, storeId: store.id, why });
    const externalIds = named && (named.get(store.id) ?? []);
    if (!channelOf(ctx, store.channel).about.takesCodes)
      leave(`${store.name} takes no codes from here: ${begins ? 'make it' : 'end it'} there by hand.`);
    else if (begins && externalIds?.length === 0) leave(`None of what it is for is listed in ${store.name}.`);
    else if (externalIds && externalIds.length > MAX_NAMED)
      leave(`It is for ${externalIds.length} listings in ${store.name}; a code can name ${MAX_NAMED}.`);
    else {
      const off = saleAt(sale.terms, store.currency, rates);
      const code: ShopCode = {
        code: sale.code!,
        off: off.kind === 'share' ? off : { kind: 'sum', amountMinor: off.amountMinor },
        externalIds,
      };
      const why = await turnIn(ctx, control, store, code, begins);
      if (why === null) sent += 1;
      else leave(why);
    }
  }
  return { sent, left };
}
