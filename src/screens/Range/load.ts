import { chosenColors } from '@/core/listing/form';
import { usefulShots } from '@/core/listing/pictures';
import { SYNC_MARKS } from '@/core/sync/state';
import { variantTroubles, type VariantTrouble } from '@/core/variants/trouble';
import type { Context } from '@/server/context';
import { listingsOf, stateOf } from '@/server/listings/listings';
import { prepareListing } from '@/server/listings/prepare';
import type { Actor } from '@/server/people/people';
import { loadBundles } from '@/server/products/bundle';
import { productPage, type ProductSort } from '@/server/products/product-page';
import { listStores } from '@/server/stores/stores';

export interface RangeCell {
  readonly mark: string;
  readonly word: string;
  readonly visibility: 'draft' | 'live' | null;
  readonly broken: number;
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
}

export interface RangeQuery {
  /** Words of titles, or beginnings of SKUs; empty: all products. */
  readonly words: string;
  readonly sort: ProductSort;
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
  const rows = bundles.map((bundle) => {
    const { product, blank, shots } = bundle;
    const [shot] = usefulShots(product.document, blank, shots);
    const [color] = chosenColors(product.document, blank);
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
      cells: stores.map((store) => {
        const row = listings.find((l) => l.productId === product.id && l.storeId === store.id) ?? null;
        const prepared = prepareListing(ctx, bundle, store);
        return {
          ...SYNC_MARKS[stateOf(row, prepared)],
          visibility: row?.externalId ? row.visibility : null,
          broken: prepared.rules.filter((rule) => !rule.kept).length,
        };
      }),
    };
  });
  return {
    stores: stores.map((store) => ({
      id: store.id,
      name: store.name,
      channel: ctx.channels.get(store.channel)?.about.name ?? store.channel,
    })),
    asked,
    total,
    next,
    rows,
  };
}
