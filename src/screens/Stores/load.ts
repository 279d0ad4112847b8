import { viewFees, type FeesView } from '@/server/stores/fees';
import { formatMoney, money } from '@/core/pricing/money';
import { SYNC_MARKS } from '@/core/sync/state';
import { colorSwatches, goodNames, parcelClasses, partnerNames } from '@/server/catalog/names';
import type { Context } from '@/server/context';
import { standingsOf } from '@/server/outcomes/read';
import type { ChannelAbout, ChannelRegion, KeyField } from '@/ports/channel';
import type { SizesIn } from '@/core/catalog/size-guide';
import type { Squares } from '@/core/listing/picture-format';
import type { StoreAnswers } from '@/core/listing/answers';
import { LOOKS_OTHER_AT, nearestShade } from '@/core/listing/shades';
import type { ShadeName } from '@/core/rules/demands';
import type { RateTable } from '@/core/pricing/rates';
import { loadRateTable } from '@/server/rates/rates';
import type { Missing } from '@/core/sync/missing';
import type { StandingRules } from '@/core/sync/standing-rules';
import type { StoreRule } from '@/core/pricing/store-rule';
import type { Actor } from '@/server/people/people';
import { missingIn } from '@/server/listings/missing';
import { productPage } from '@/server/products/product-page';
import { standings, type StoreStanding } from '@/server/stores/standing';
import {
  channelOf,
  findStore,
  listingFeeMinor,
  listStores,
  sendsAs,
  type Renewal,
  type SendsAs,
  type ShopFacts,
  type Store,
} from '@/server/stores/stores';
import { demandLines } from './demand-lines';

export interface StoreSummary {
  readonly id: string;
  /** The seller's own name for it, and what the shop calls itself. */
  readonly name: string;
  readonly shopName: string;
  readonly channel: string;
  readonly channelCode: string;
  readonly region: string | null;
  readonly state: Store['state'];
  readonly trouble: string | null;
  readonly keysEndAt: string | null;
  /** Since when its listings are off sale for a while; null: they are not. */
  readonly pausedAt: string | null;
  readonly currency: string;
  readonly shopUrl: string;
}

export interface StoreLine extends StoreSummary, StoreStanding {
  /** Requests that the shop takes in a second. */
  readonly allowed: number;
  readonly readAt: string | null;
}

/** A kind of shop, and how one is connected. */
export interface ConnectableChannel {
  readonly code: string;
  readonly name: string;
  readonly kind: string;
  readonly currency: string | null;
  readonly regions: readonly ChannelRegion[];
  /** What to paste and where it is found; null where the shop asks for consent on a page of its own. */
  readonly keys: { readonly fields: readonly KeyField[]; readonly page: string } | null;
}

export interface StoresData {
  readonly stores: readonly StoreLine[];
  readonly channels: readonly ConnectableChannel[];
}

function summary(ctx: Context, store: Store): StoreSummary {
  const { about } = channelOf(ctx, store.channel);
  const { id, name, shopName, state, trouble, currency, shopUrl, keysEndAt, pausedAt } = store;
  return {
    id,
    name,
    shopName,
    channel: about.name,
    channelCode: about.code,
    region: about.regions.find(({ code }) => code === store.region)?.name ?? store.region,
    state,
    trouble,
    keysEndAt: keysEndAt?.toISOString() ?? null,
    pausedAt: pausedAt?.toISOString() ?? null,
    currency,
    shopUrl,
  };
}

export async function loadStores(ctx: Context, actor: Actor): Promise<StoresData> {
  const [stores, standingOf] = await Promise.all([
    listStores(ctx, actor.workspaceId),
    standings(ctx, actor.workspaceId),
  ]);
  return {
    stores: stores.map((store) => ({
      ...summary(ctx, store),
      ...standingOf(store.id),
      allowed: channelOf(ctx, store.channel).about.rate.perSecond,
      readAt: store.readAt?.toISOString() ?? null,
    })),
    channels: [...ctx.channels.values()].map(({ about, connecting }) => ({
      code: about.code,
      name: about.name,
      kind: about.kind,
      currency: about.currency,
      regions: about.regions,
      keys: connecting.kind === 'keys' ? { fields: connecting.fields, page: connecting.page } : null,
    })),
  };
}

export type { FeeScope, FeesView } from '@/server/stores/fees';

export interface StoreData extends StoreSummary {
  readonly kind: string;
  readonly connectedAt: string;
  readonly expectedSales: number;
  readonly priceRule: StoreRule | null;
  readonly sendsAs: SendsAs;
  readonly sizesIn: SizesIn | null;
  /** How its pictures are made square; null where its channel takes them as they are. */
  readonly squares: Squares | null;
  /** What holds where the shop changed something; of what is not named somebody is asked. */
  readonly standing: StandingRules;
  /** Listings that the shop did not find when they were looked for last. */
  readonly missing: Missing;
  /** Listings that the shop changed and nobody has settled. */
  readonly changedThere: number;
  readonly language: string | null;
  readonly fees: FeesView;
  readonly demands: readonly string[];
  readonly asks: StoreAsks;
  readonly answers: StoreAnswers;
  /** What becomes of live listings that end by the shop's clock; null where they do not. */
  readonly ending: StoreEnding | null;
  /** What the shop itself was last seen to have. */
  readonly shop: ShopFacts;
  readonly partners: readonly { readonly id: string; readonly name: string; readonly declared: boolean }[];
  /** How many products were sent there, on whatever page; where the next page begins, and where this one does. */
  readonly total: number;
  readonly next: string | null;
  readonly after: string | null;
  readonly listings: readonly {
    readonly productId: string;
    readonly number: number;
    readonly title: string;
    readonly mark: string;
    readonly word: string;
    readonly visibility: 'draft' | 'live' | null;
    readonly url: string | null;
    readonly price: string;
    readonly sentAt: string | null;
  }[];
}

/** How long a listing is live, what the next span takes, and what the rule is. */
export interface StoreEnding {
  readonly liveDays: number;
  readonly fee: string;
  readonly renewal: Renewal;
}

function endingOf(ctx: Context, store: Store, rates: RateTable): StoreEnding | null {
  const { liveDays } = channelOf(ctx, store.channel).about;
  if (liveDays === null) return null;
  const fee = formatMoney(money(listingFeeMinor(ctx, store, rates), store.currency));
  return { liveDays, fee, renewal: store.settings.renewal ?? 'end' };
}

/** What a store's channel asks for good, so that its settings have a place for the answer. */
export interface StoreAsks {
  readonly partners: boolean;
  /** Goods, each of which wants a category; none where the channel has none. */
  readonly goods: readonly { readonly code: string; readonly name: string }[];
  readonly warehouse: boolean;
  readonly codes: boolean;
  readonly processingDays: { readonly min: number; readonly max: number } | null;
  readonly collections: boolean;
  /** Colors of blanks with the nearest of the shop's own names; no colors where it has no names of its own. */
  readonly colors: readonly {
    readonly code: string;
    readonly name: string;
    readonly hex: string;
    /** Null where none looks like it. */
    readonly nearest: string | null;
  }[];
  /** The shop's own names for colors. */
  readonly shades: readonly string[];
  /** Parcel classes with the goods that go in them. */
  readonly parcels: readonly { readonly code: string; readonly goods: string }[];
}

/** What the catalog has that a store can be asked about. */
interface Asked {
  readonly goods: StoreAsks['goods'];
  readonly colors: readonly Omit<StoreAsks['colors'][number], 'nearest'>[];
  readonly parcels: StoreAsks['parcels'];
}

function takenFor(hex: string, shades: readonly ShadeName[]): string | null {
  const { name, difference } = nearestShade(hex, shades);
  return difference < LOOKS_OTHER_AT ? name : null;
}

const asksOf = ({ demands, carries }: ChannelAbout, { goods, colors, parcels }: Asked): StoreAsks => ({
  partners: demands.partnerDeclared,
  goods: demands.category ? goods : [],
  warehouse: demands.warehouse === true,
  codes: demands.codes === true,
  processingDays: demands.processingDays ?? null,
  collections: carries.collections,
  colors: demands.shades ? colors.map((color) => ({ ...color, nearest: takenFor(color.hex, demands.shades!) })) : [],
  shades: (demands.shades ?? []).map(({ name }) => name),
  parcels,
});

/** Listings on a page. */
const PAGE = 50;

/** One store: what it takes, what it demands, who prints for it, and what is in it. */
export async function loadStore(ctx: Context, actor: Actor, id: string, after: string | null): Promise<StoreData> {
  const store = await findStore(ctx, actor.workspaceId, id);
  const { about } = channelOf(ctx, store.channel);
  const [{ products, total, next }, partners, goods, colors, parcels] = await Promise.all([
    productPage(ctx, actor.workspaceId, { storeId: id, sort: 'title', limit: PAGE, after }),
    partnerNames(ctx.db),
    goodNames(ctx.db),
    colorSwatches(ctx.db),
    parcelClasses(ctx.db),
  ]);
  const [fees, rates, standingIn, whole, missing] = await Promise.all([
    viewFees(ctx, store),
    loadRateTable(ctx, actor.workspaceId),
    standingsOf(ctx, actor.workspaceId, products, [store]),
    standings(ctx, actor.workspaceId),
    missingIn(ctx.db, store.id),
  ]);
  const { states } = whole(store.id);
  return {
    ...summary(ctx, store),
    total,
    next,
    after,
    kind: about.kind,
    connectedAt: store.connectedAt.toISOString(),
    expectedSales: store.settings.expectedSales,
    priceRule: store.settings.priceRule ?? null,
    sendsAs: sendsAs(store),
    sizesIn: store.settings.sizesIn ?? null,
    standing: store.settings.standing ?? {},
    squares: about.demands.pictureFormat.squareOn === null ? null : (store.settings.squares ?? 'margin'),
    missing,
    changedThere: (states.behind ?? 0) + (states.split ?? 0),
    language: store.settings.language ?? null,
    fees,
    demands: demandLines(about),
    asks: asksOf(about, { goods, colors, parcels }),
    answers: store.settings.answers ?? {},
    ending: endingOf(ctx, store, rates),
    shop: { ...store.shopFacts },
    partners: partners.map((partner) => ({
      ...partner,
      declared: store.settings.declaredPartners.includes(partner.name),
    })),
    listings: products.flatMap(({ id, title }) =>
      standingIn(id, store.id).map(({ number, state, listing, lowMinor, highMinor }) => ({
        productId: id,
        number,
        title,
        ...SYNC_MARKS[state],
        visibility: listing?.externalId ? listing.visibility : null,
        url: listing?.url ?? null,
        price: priceText(lowMinor, highMinor, store.currency),
        sentAt: listing?.sentAt?.toISOString() ?? null,
      })),
    ),
  };
}

function priceText(lowMinor: number | null, highMinor: number | null, currency: string): string {
  if (lowMinor === null || highMinor === null) return '–';
  return [...new Set([lowMinor, highMinor])].map((minor) => formatMoney(money(minor, currency))).join(' – ');
}
