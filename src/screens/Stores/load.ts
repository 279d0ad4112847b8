import { viewFees, type FeesView } from '@/server/stores/fees';
import { formatMoney, money } from '@/core/pricing/money';
import { SYNC_MARKS } from '@/core/sync/state';
import { partnerNames } from '@/server/catalog/names';
import type { Context } from '@/server/context';
import { listingsOf, stateOf } from '@/server/listings/listings';
import { prepareListing } from '@/server/listings/prepare';
import type { Actor } from '@/server/people/people';
import { loadBundles } from '@/server/products/bundle';
import { productPage } from '@/server/products/product-page';
import { channelOf, findStore, listStores, type Store } from '@/server/stores/stores';

export interface StoreSummary {
  readonly id: string;
  readonly name: string;
  readonly channel: string;
  readonly state: Store['state'];
  readonly currency: string;
  readonly shopUrl: string;
}

export interface StoresData {
  readonly stores: readonly StoreSummary[];
  readonly channels: readonly {
    readonly code: string;
    readonly name: string;
    readonly kind: string;
    readonly currency: string;
  }[];
}

const summary = (ctx: Context, store: Store): StoreSummary => ({
  id: store.id,
  name: store.name,
  channel: channelOf(ctx, store.channel).about.name,
  state: store.state,
  currency: store.currency,
  shopUrl: store.shopUrl,
});

export async function loadStores(ctx: Context, actor: Actor): Promise<StoresData> {
  const stores = await listStores(ctx, actor.workspaceId);
  return {
    stores: stores.map((store) => summary(ctx, store)),
    channels: [...ctx.channels.values()].map(({ about: { code, name, kind, currency } }) => ({
      code,
      name,
      kind,
      currency,
    })),
  };
}

export type { FeeScope, FeesView } from '@/server/stores/fees';

export interface StoreData extends StoreSummary {
  readonly kind: string;
  readonly connectedAt: string;
  readonly expectedSales: number;
  readonly fees: FeesView;
  readonly demands: readonly string[];
  readonly partners: readonly { readonly id: string; readonly name: string; readonly declared: boolean }[];
  /** How many products were sent there, on whatever page; where the next page begins, and where this one does. */
  readonly total: number;
  readonly next: string | null;
  readonly after: string | null;
  readonly listings: readonly {
    readonly productId: string;
    readonly title: string;
    readonly mark: string;
    readonly word: string;
    readonly visibility: 'draft' | 'live' | null;
    readonly url: string | null;
    readonly price: string;
    readonly sentAt: string | null;
  }[];
}

/** Listings on a page. */
const PAGE = 50;

/** One store: what it takes, what it demands, who prints for it, and what is in it. */
export async function loadStore(ctx: Context, actor: Actor, id: string, after: string | null): Promise<StoreData> {
  const store = await findStore(ctx, actor.workspaceId, id);
  const { about } = channelOf(ctx, store.channel);
  const { demands: d } = about;
  const [{ products, total, next }, partners] = await Promise.all([
    productPage(ctx, actor.workspaceId, { storeId: id, sort: 'title', limit: PAGE, after }),
    partnerNames(ctx.db),
  ]);
  const [fees, bundles, rows] = await Promise.all([
    viewFees(ctx, store),
    loadBundles(ctx, actor.workspaceId, products),
    listingsOf(
      ctx.db,
      actor.workspaceId,
      products.map((product) => product.id),
    ),
  ]);
  return {
    ...summary(ctx, store),
    total,
    next,
    after,
    kind: about.kind,
    connectedAt: store.connectedAt.toISOString(),
    expectedSales: store.settings.expectedSales,
    fees,
    demands: [
      `Title of ${d.titleMin} to ${d.titleMax} characters, ${d.tagsMax} tags of ${d.tagMax}`,
      `Up to ${d.optionsMax} options and ${d.variantsMax} variants`,
      `${d.picturesMin} to ${d.picturesMax} pictures, long side ${d.pictureLongSideMinPx} px or more`,
      ...(d.partnerDeclared ? ['The print partner must be declared'] : []),
    ],
    partners: partners.map((partner) => ({
      ...partner,
      declared: store.settings.declaredPartners.includes(partner.name),
    })),
    listings: bundles.flatMap((bundle) => {
      const row = rows.find((l) => l.storeId === store.id && l.productId === bundle.product.id);
      if (!row) return [];
      const prepared = prepareListing(ctx, bundle, store);
      const prices = Object.values(prepared.form?.variants ?? {}).map((variant) => variant.priceMinor);
      const range =
        prices.length === 0
          ? '–'
          : [...new Set([Math.min(...prices), Math.max(...prices)])]
              .map((p) => formatMoney(money(p, store.currency)))
              .join(' – ');
      return [
        {
          productId: bundle.product.id,
          title: bundle.product.title,
          ...SYNC_MARKS[stateOf(row, prepared)],
          visibility: row.externalId ? row.visibility : null,
          url: row.url,
          price: range,
          sentAt: row.sentAt?.toISOString() ?? null,
        },
      ];
    }),
  };
}
