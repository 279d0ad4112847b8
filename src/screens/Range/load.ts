import { chosenColors } from '@/core/document/chosen';
import { usefulShots } from '@/core/listing/pictures';
import { SYNC_MARKS, worstState } from '@/core/sync/state';
import { variantTroubles, type VariantTrouble } from '@/core/variants/trouble';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { standingsOf, type Standing } from '@/server/outcomes/read';
import { loadDesigns } from '@/server/products/bundle';
import { productPage, type ProductSort } from '@/server/products/product-page';
import type { ProductShelf } from '@/server/products/shelving';
import { listStores } from '@/server/stores/stores';

export interface RangeCell {
  readonly mark: string;
  readonly word: string;
  /** Of several listings: of all where they are alike, else null. */
  readonly visibility: 'draft' | 'live' | null;
  /** In how many listings the product is sold there; the mark is the worst of theirs. */
  readonly listings: number;
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

function priceRange(standings: readonly Standing[], currency: string | undefined): RangeRow['prices'] {
  const prices = standings.flatMap(({ lowMinor, highMinor }) => [lowMinor ?? [], highMinor ?? []].flat());
  if (prices.length === 0 || currency === undefined) return null;
  return { lowMinor: Math.min(...prices), highMinor: Math.max(...prices), currency };
}

function cellOf(standings: readonly Standing[]): RangeCell {
  const shown = new Set(standings.map(({ listing }) => (listing?.externalId ? listing.visibility : null)));
  const broken = standings.flatMap((one) => one.broken);
  return {
    ...SYNC_MARKS[worstState(standings.map(({ state }) => state))],
    visibility: shown.size === 1 ? [...shown][0]! : null,
    listings: standings.length,
    broken: broken.length,
    fix: broken[0]?.says ?? null,
  };
}

/** Products against stores, all states in a fixed number of queries. */
export async function loadRange(ctx: Context, actor: Actor, asked: RangeQuery): Promise<RangeData> {
  const [{ total, next, products }, stores] = await Promise.all([
    productPage(ctx, actor.workspaceId, { ...asked, limit: PAGE }),
    listStores(ctx, actor.workspaceId),
  ]);
  const [designs, standingIn] = await Promise.all([
    loadDesigns(ctx, actor.workspaceId, products),
    standingsOf(ctx, actor.workspaceId, products, stores),
  ]);
  const now = ctx.clock.now();
  const rows = designs.map(({ product, blank, shots }): RangeRow => {
    const [shot] = usefulShots(product.document, blank, shots);
    const [color] = chosenColors(product.document, blank);
    const standings = stores.map(({ id }) => standingIn(product.id, id));
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
      cells: standings.map(cellOf),
      prices: priceRange(standings[0] ?? [], stores[0]?.currency),
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
