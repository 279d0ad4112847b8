import { chosenColors } from '@/core/document/chosen';
import { type ListingForm } from '@/core/listing/form';
import { usefulShots } from '@/core/listing/pictures';
import { SYNC_MARKS } from '@/core/sync/state';
import { variantTroubles, type VariantTrouble } from '@/core/variants/trouble';
import type { Context } from '@/server/context';
import { listingsOf, prepareListed, stateOf } from '@/server/listings/listings';
import type { Actor } from '@/server/people/people';
import { loadBundles } from '@/server/products/bundle';
import { productPage, type ProductSort } from '@/server/products/product-page';
import type { ProductShelf } from '@/server/products/shelving';
import { listStores } from '@/server/stores/stores';

export interface RangeCell {
  readonly mark: string;
  readonly word: string;
  readonly visibility: 'draft' | 'live' | null;
  readonly broken: number;
  /** The first thing to fix, in a sentence; null where there is none. */
  readonly fix: string | null;
}

export interface RangeRow {
  readonly id: string;
  readonly title: string;
  readonly blank: string;
  readonly partner: string;
  readonly variants: number;
  /** What of its variants ended or is out of stock. */
  readonly troubles: readonly VariantTrouble[];
  readonly picture: string | null;
  readonly cells: readonly RangeCell[];
  /** Lowest and highest price in the first store, minor units; null without one. */
  readonly prices: { readonly lowMinor: number; readonly highMinor: number; readonly currency: string } | null;
  readonly changedAt: string;
}

export interface RangeQuery {
  /** Words of titles, or beginnings of SKUs; empty: all products. */
  readonly words: string;
  readonly sort: ProductSort;
  readonly shelf: ProductShelf;
  readonly after: string | null;
}

/** Products on a page. */
const PAGE = 50;

export interface RangeData {
  readonly stores: readonly { readonly id: string; readonly name: string; readonly channel: string }[];
  readonly asked: RangeQuery;
  /** Products found, on whatever page. */
  readonly total: number;
  /** Where the next page begins; null on the last. */
  readonly next: string | null;
  readonly rows: readonly RangeRow[];
  /** When this was read: what dates are told against. */
  readonly now: string;
}

function priceRange(form: ListingForm | null): RangeRow['prices'] {
  const prices = Object.values(form?.variants ?? {}).map(({ priceMinor }) => priceMinor);
  return form && prices.length > 0
    ? { lowMinor: Math.min(...prices), highMinor: Math.max(...prices), currency: form.currency }
    : null;
}

/** Products against stores, all states in a fixed number of queries. */
export async function loadRange(ctx: Context, actor: Actor, asked: RangeQuery): Promise<RangeData> {
  const [{ total, next, products }, stores] = await Promise.all([
    productPage(ctx, actor.workspaceId, { ...asked, limit: PAGE }),
    listStores(ctx, actor.workspaceId),
  ]);
  const [bundles, listings] = await Promise.all([
    loadBundles(ctx, actor.workspaceId, products),
    listingsOf(
      ctx.db,
      actor.workspaceId,
      products.map((product) => product.id),
    ),
  ]);
  const now = ctx.clock.now();
  const rowOf = (productId: string, storeId: string) =>
    listings.find((l) => l.productId === productId && l.storeId === storeId) ?? null;
  const rows = bundles.map((bundle): RangeRow => {
    const { product, blank, shots } = bundle;
    const [shot] = usefulShots(product.document, blank, shots);
    const [color] = chosenColors(product.document, blank);
    const prepared = stores.map((store) => ({
      store,
      prepared: prepareListed(ctx, bundle, store, rowOf(product.id, store.id)),
    }));
    return {
      id: product.id,
      title: product.title,
      blank: blank.name,
      partner: blank.partner.name,
      variants: Object.keys(product.document.variants).length,
      troubles: variantTroubles(blank, product.document.variants),
      picture:
        shot && color !== undefined
          ? `/api/v1/products/${product.id}/mock-ups/${shot.id}?${color ? `color=${color}&` : ''}size=proof&revision=${product.revision}`
          : null,
      cells: prepared.map(({ store, prepared }) => {
        const row = rowOf(product.id, store.id);
        return {
          ...SYNC_MARKS[stateOf(row, prepared)],
          visibility: row?.externalId ? row.visibility : null,
          broken: prepared.rules.filter((rule) => !rule.kept).length,
          fix: prepared.rules.find((rule) => !rule.kept)?.says ?? null,
        };
      }),
      prices: priceRange(prepared[0]?.prepared.form ?? null),
      changedAt: product.updatedAt.toISOString(),
    };
  });
  return {
    stores: stores.map((store) => ({
      id: store.id,
      name: store.name,
      channel: ctx.channels.get(store.channel)?.about.name ?? store.channel,
    })),
    now: now.toISOString(),
    asked,
    total,
    next,
    rows,
  };
}
