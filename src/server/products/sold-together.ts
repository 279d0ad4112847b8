import { companionIdsOf } from '@/core/document/document';
import { baseOutlet } from '@/core/pricing/outlet';
import { viewBundles, type BundleView } from '@/core/pricing/bundle-view';
import { variantName } from '@/core/variants/tiers';
import { loadOffers } from '../catalog/kept-offers';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { findStore, outletOf } from '../stores/stores';
import { loadBundle } from './bundle';
import { productsById, productsTitled, type Product } from './products';

/** A product that a bundle can hold, with its chosen variants. */
export interface BundleGood {
  readonly productId: string;
  readonly title: string;
  readonly variants: readonly { readonly key: string; readonly name: string }[];
}

/** Products that are offered at once. */
const MAX_OFFERED = 12;
/** Longest text that is looked for in titles. */
export const MAX_TITLE_SOUGHT = 80;

async function goodsOf(ctx: Context, workspaceId: string, products: readonly Product[]): Promise<BundleGood[]> {
  if (products.length === 0) return [];
  const offers = await loadOffers(ctx, workspaceId, [...new Set(products.map(({ blankId }) => blankId))]);
  return products.flatMap(({ id, title, blankId, document }) => {
    const blank = offers.find((offer) => offer.blank.id === blankId)?.blank;
    if (!blank) return [];
    const variants = blank.variants
      .filter(({ key, ended }) => !ended && Object.hasOwn(document.variants, key))
      .map(({ key }) => ({ key, name: variantName(blank, key) || 'the only one' }));
    return variants.length > 0 ? [{ productId: id, title, variants }] : [];
  });
}

/** Products whose title holds a text, changed last first, without the product itself. */
export async function goodsToBundle(
  ctx: Context,
  actor: Actor,
  productId: string,
  text: string,
): Promise<BundleGood[]> {
  const found = await productsTitled(ctx, actor.workspaceId, text.trim().slice(0, MAX_TITLE_SOUGHT), MAX_OFFERED + 1);
  return goodsOf(ctx, actor.workspaceId, found.filter(({ id }) => id !== productId).slice(0, MAX_OFFERED));
}

/** The bundles of a product in a store, or in none, with the products that they hold. */
export async function bundlesTold(
  ctx: Context,
  actor: Actor,
  productId: string,
  storeId: string | null,
): Promise<{ revision: number; bundles: BundleView[]; goods: BundleGood[] }> {
  const { product, companions, ...world } = await loadBundle(ctx, actor.workspaceId, productId);
  const { blank, list, rates, settings, home } = world;
  const outlet = storeId
    ? outletOf(ctx, await findStore(ctx, actor.workspaceId, storeId))
    : baseOutlet(actor.currency, home, settings);
  const others = await productsById(ctx.db, actor.workspaceId, companionIdsOf(product.document));
  return {
    revision: product.revision,
    bundles: viewBundles(product.document, { blank, list, rates, settings, home, outlet }, companions),
    goods: await goodsOf(ctx, actor.workspaceId, others),
  };
}
