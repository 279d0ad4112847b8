import { isTypicaError } from '@/core/errors';
import { lossesAt } from '@/core/pricing/floor';
import { pricer } from '@/core/pricing/plan';
import { saleAt, salePrice } from '@/core/pricing/sale';
import { inScope } from '@/core/pricing/sale-scope';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { loadBundles, scopedProduct, type ProductBundle } from '../products/bundle';
import { pageOfProducts } from '../products/products';
import { listStores, outletOf, type Store } from '../stores/stores';
import { refuseSaleFaults, type SalePlan } from './sales';

/** What a sale makes of one product in one store. Sums in minor units of the store's currency. */
export interface SaleLine {
  readonly productId: string;
  readonly title: string;
  readonly storeId: string;
  readonly storeName: string;
  readonly currency: string;
  readonly variants: number;
  /** The span of prices, before and in the sale. */
  readonly before: readonly [least: number, most: number];
  readonly then: readonly [least: number, most: number];
  /** Variants that their floor holds above what the sale says. */
  readonly held: number;
  /** Variants that lose money to a destination in the sale. */
  readonly losing: number;
}

export interface SalePreview {
  /** The first 200 lines. */
  readonly lines: readonly SaleLine[];
  readonly products: number;
  readonly held: number;
  readonly losing: number;
  /** Whether there are more products than were looked at. */
  readonly cutOff: boolean;
}

const PAGE = 50;
const MOST_LINES = 200;
/** Products that are looked at: a preview is asked for while a person waits. */
const MOST_PRODUCTS = 2000;

function lineOf(ctx: Context, bundle: ProductBundle, store: Store, plan: SalePlan): SaleLine | null {
  const { product, blank, list, rates, settings, home } = bundle;
  const outlet = outletOf(ctx, store);
  try {
    const off = saleAt(plan.terms, outlet.currency, rates);
    const price = pricer(product.document, { blank, list, rates, outlet, settings, home });
    const priced = Object.keys(product.document.variants).map((key) => {
      const one = price(key);
      const { priceMinor, held } = salePrice(one, off);
      return { before: one.retailMinor, then: priceMinor, held, losing: lossesAt(one.to, priceMinor).length > 0 };
    });
    if (priced.length === 0) return null;
    const span = (of: 'before' | 'then') =>
      [Math.min(...priced.map((one) => one[of])), Math.max(...priced.map((one) => one[of]))] as const;
    return {
      productId: product.id,
      title: product.title,
      storeId: store.id,
      storeName: store.name,
      currency: outlet.currency,
      variants: priced.length,
      before: span('before'),
      then: span('then'),
      held: priced.filter(({ held }) => held).length,
      losing: priced.filter(({ losing }) => losing).length,
    };
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
    return null;
  }
}

/** What a sale would do, product by product in each of its stores. Nothing is changed. Throws `sale-invalid`. */
export async function previewSale(ctx: Context, actor: Actor, plan: SalePlan): Promise<SalePreview> {
  refuseSaleFaults(ctx, plan);
  const stores = (await listStores(ctx, actor.workspaceId)).filter(
    ({ id }) => plan.scope.storeIds.length === 0 || plan.scope.storeIds.includes(id),
  );
  const lines: SaleLine[] = [];
  let [products, looked, held, losing] = [0, 0, 0, 0];
  for (let after = ''; looked < MOST_PRODUCTS;) {
    const page = await pageOfProducts(ctx, actor.workspaceId, after, PAGE);
    if (page.length === 0) break;
    after = page.at(-1)!.id;
    looked += page.length;
    for (const bundle of await loadBundles(ctx, actor.workspaceId, page)) {
      if (!inScope(plan.scope, scopedProduct(bundle))) continue;
      products += 1;
      for (const store of stores) {
        const line = lineOf(ctx, bundle, store, plan);
        if (!line) continue;
        held += line.held;
        losing += line.losing;
        if (lines.length < MOST_LINES) lines.push(line);
      }
    }
  }
  return { lines, products, held, losing, cutOff: looked >= MOST_PRODUCTS };
}
