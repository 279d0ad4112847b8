import { isTypicaError } from '@/core/errors';
import { everyOffer, offersOf } from '@/core/listing/form';
import { codeEffect, DeepestCodeFinder, type CodeOff, type DeepestCode } from '@/core/pricing/code';
import { lossesAt } from '@/core/pricing/floor';
import { splitBundled } from '@/core/pricing/bundle';
import type { PricedVariant } from '@/core/pricing/pricer';
import { saleAt, salePrice, type SaleTerms } from '@/core/pricing/sale';
import { inScope } from '@/core/pricing/sale-scope';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { loadBundles, scopedProduct, type ProductBundle } from '../products/bundle';
import { pageOfProducts } from '../products/products';
import { listStores, outletOf, type Store } from '../stores/stores';
import { refuseSaleFaults, salesDuring, type SalePlan, type SaleRow } from './sales';

/** What a sale makes of one product in one store. Sums in minor units of the store's currency. */
export interface SaleLine {
  readonly productId: string;
  readonly title: string;
  readonly storeId: string;
  readonly storeName: string;
  readonly currency: string;
  readonly variants: number;
  /** The span of prices, before and in the sale; of a code: what is asked for, other sales counted in, and what is paid. */
  readonly before: readonly [least: number, most: number];
  readonly then: readonly [least: number, most: number];
  /** Variants that their floor holds above what the sale says. */
  readonly held: number;
  /** Variants that lose money to a destination in the sale, or with the code. */
  readonly losing: number;
  /** Variants that lose money where a code is used that holds at the same time; of a sale alone. */
  readonly losingWithCode: number;
}

/** The deepest code that still pays on all that is looked at in a store. */
export interface StoreDeepest extends DeepestCode {
  readonly storeId: string;
  readonly storeName: string;
  readonly currency: string;
}

export interface SalePreview {
  /** The first 200 lines. */
  readonly lines: readonly SaleLine[];
  readonly products: number;
  readonly held: number;
  readonly losing: number;
  readonly losingWithCode: number;
  /** Of a code alone. */
  readonly deepest: readonly StoreDeepest[];
  /** Whether there are more products than were looked at. */
  readonly cutOff: boolean;
}

const PAGE = 50;
const MAX_LINES = 200;
/** Products that are looked at: a preview is asked for while a person waits. */
const MAX_PRODUCTS = 2000;

/** A plan with what holds beside it in its time. */
interface Looking {
  readonly plan: SalePlan;
  readonly beside: readonly SaleRow[];
  readonly finders: Map<string, { readonly store: Store; readonly finder: DeepestCodeFinder }>;
}

interface Effect {
  readonly before: number;
  readonly then: number;
  readonly held: boolean;
  readonly losing: boolean;
  readonly losingWithCode: boolean;
}

/** Terms of a code at an outlet. Throws `rate-missing`. */
const codeAt = (terms: SaleTerms, { currency }: Pick<Store, 'currency'>, { rates }: ProductBundle): CodeOff => {
  const off = saleAt(terms, currency, rates);
  return off.kind === 'share' ? off : { kind: 'sum', amountMinor: off.amountMinor };
};

/** What sales and codes hold beside a plan for one product in one store. */
function besideOf(bundle: ProductBundle, store: Store, { beside }: Looking) {
  const here = beside.filter(
    ({ scope }) =>
      (scope.storeIds.length === 0 || scope.storeIds.includes(store.id)) && inScope(scope, scopedProduct(bundle)),
  );
  return {
    sales: here.filter(({ code }) => code === null).map(({ terms }) => saleAt(terms, store.currency, bundle.rates)),
    codes: here.filter(({ code }) => code !== null).map(({ terms }) => codeAt(terms, store, bundle)),
  };
}

/** How a plan moves one variant after the other of a product in a store. */
function mover(bundle: ProductBundle, store: Store, looking: Looking): (one: PricedVariant) => Effect {
  const { plan, finders } = looking;
  const { sales, codes } = besideOf(bundle, store, looking);
  const asked = (one: PricedVariant) =>
    Math.min(one.retailMinor, ...sales.map((sale) => salePrice(one, sale).priceMinor));
  if (plan.code != null) {
    const off = codeAt(plan.terms, store, bundle);
    const { finder } = finders.get(store.id)!;
    return (one) => {
      const before = asked(one);
      finder.look(one.to, before);
      const { paidMinor, losses } = codeEffect(one.to, before, off);
      return { before, then: paidMinor, held: false, losing: losses.length > 0, losingWithCode: false };
    };
  }
  const off = saleAt(plan.terms, store.currency, bundle.rates);
  return (one) => {
    const { priceMinor, held } = salePrice(one, off);
    const loses = (code: CodeOff) => codeEffect(one.to, priceMinor, code).losses.length > 0;
    return {
      before: one.retailMinor,
      then: priceMinor,
      held,
      losing: lossesAt(one.to, priceMinor).length > 0,
      losingWithCode: codes.some(loses),
    };
  };
}

function lineOf(ctx: Context, bundle: ProductBundle, store: Store, looking: Looking): SaleLine | null {
  const { product, blank, list, rates, settings, home } = bundle;
  const outlet = outletOf(ctx, store);
  try {
    const world = { blank, list, rates, outlet, settings, home };
    const offers = offersOf(product.document, world, bundle.companions);
    const effects = everyOffer(offers, Object.keys(product.document.variants))
      // A sale at one price is for the product, not for everything that is sold with it.
      .filter(({ key }) => looking.plan.terms.kind !== 'price' || splitBundled(key).bundleId === null)
      .map(mover(bundle, store, looking));
    if (effects.length === 0) return null;
    const span = (of: 'before' | 'then') =>
      [Math.min(...effects.map((one) => one[of])), Math.max(...effects.map((one) => one[of]))] as const;
    const count = (of: 'held' | 'losing' | 'losingWithCode') => effects.filter((one) => one[of]).length;
    return {
      productId: product.id,
      title: product.title,
      storeId: store.id,
      storeName: store.name,
      currency: outlet.currency,
      variants: effects.length,
      before: span('before'),
      then: span('then'),
      held: count('held'),
      losing: count('losing'),
      losingWithCode: count('losingWithCode'),
    };
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
    return null;
  }
}

/** The stores that a plan is for. */
const storesOf = async (ctx: Context, actor: Actor, { scope }: SalePlan): Promise<Store[]> =>
  (await listStores(ctx, actor.workspaceId)).filter(
    ({ id }) => scope.storeIds.length === 0 || scope.storeIds.includes(id),
  );

/** What a sale or a code would do, product by product in each of its stores. Nothing is changed. Throws `sale-invalid`. */
export async function previewSale(ctx: Context, actor: Actor, plan: SalePlan): Promise<SalePreview> {
  refuseSaleFaults(ctx, plan);
  const stores = await storesOf(ctx, actor, plan);
  const looking: Looking = {
    plan,
    beside: await salesDuring(ctx, actor.workspaceId, plan),
    finders: new Map(stores.map((store) => [store.id, { store, finder: new DeepestCodeFinder() }])),
  };
  const lines: SaleLine[] = [];
  const sums = { held: 0, losing: 0, losingWithCode: 0 };
  let [products, looked] = [0, 0];
  for (let after = ''; looked < MAX_PRODUCTS;) {
    const page = await pageOfProducts(ctx, actor.workspaceId, after, PAGE);
    if (page.length === 0) break;
    after = page.at(-1)!.id;
    looked += page.length;
    for (const bundle of await loadBundles(ctx, actor.workspaceId, page)) {
      if (!inScope(plan.scope, scopedProduct(bundle))) continue;
      products += 1;
      for (const store of stores) {
        const line = lineOf(ctx, bundle, store, looking);
        if (!line) continue;
        for (const sum of ['held', 'losing', 'losingWithCode'] as const) sums[sum] += line[sum];
        if (lines.length < MAX_LINES) lines.push(line);
      }
    }
  }
  return { lines, products, ...sums, deepest: deepestOf(looking), cutOff: looked >= MAX_PRODUCTS };
}

function deepestOf({ plan, finders }: Looking): StoreDeepest[] {
  if (plan.code == null) return [];
  return [...finders.values()].flatMap(({ store, finder }) => {
    const found = finder.found();
    return found ? [{ ...found, storeId: store.id, storeName: store.name, currency: store.currency }] : [];
  });
}
