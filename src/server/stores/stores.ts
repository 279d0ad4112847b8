import type { SizesIn } from '@/core/catalog/size-guide';
import { squaredBy, type Squares } from '@/core/listing/picture-format';
import type { ChannelDemands } from '@/core/rules/demands';
import { notFound, TypicaError } from '@/core/errors';
import type { StoreAnswers } from '@/core/listing/answers';
import { feesIn, feesOn, type Fee } from '@/core/pricing/fees';
import { mulDiv, PPM } from '@/core/pricing/money';
import type { AimsAt, Outlet } from '@/core/pricing/outlet';
import type { RateTable } from '@/core/pricing/rates';
import type { StoreRule } from '@/core/pricing/store-rule';
import type { Category, Channel, Exemption } from '@/ports/channel';
import type { StandingRules } from '@/core/sync/standing-rules';
import { note } from '../activity/note';
import type { Context } from '../context';
import { emit } from '../events/events';

/** Live listings that end by the shop's clock are renewed for its fee, or let end. */
export const RENEWALS = ['renew', 'end'] as const;
export type Renewal = (typeof RENEWALS)[number];

/** How what is new in a store is sent where nobody says otherwise. */
export const SENDS_AS = ['draft', 'live'] as const;
export type SendsAs = (typeof SENDS_AS)[number];

export interface StoreSettings {
  /** Items over which a fee per listing is spread. */
  readonly expectedSales: number;
  /** Where its one price is to meet an aim; absent: at its first destination. */
  readonly aimsAt?: AimsAt;
  /** Print partners declared in the shop, by name, as last seen. */
  readonly declaredPartners: readonly string[];
  /** How it prices products that have no prices of their own there. */
  readonly priceRule?: StoreRule;
  /** Absent: as drafts. */
  readonly sendsAs?: SendsAs;
  /** Of its words, BCP 47. */
  readonly language?: string;
  /** Units in which sizes are told under descriptions; absent: they are not. */
  readonly sizesIn?: SizesIn;
  /** How pictures are made square; absent: by a margin. */
  readonly squares?: Squares;
  /** What is done with live listings that end by the shop's clock; absent: they are let end. */
  readonly renewal?: Renewal;
  /** What holds where the shop changed something, by kind of field; of what is not named somebody is asked. */
  readonly standing?: StandingRules;
  /** Who made these rules: what they take into products is that person's. */
  readonly standingBy?: string;
  /** What the seller answers the channel's questions for good. */
  readonly answers?: StoreAnswers;
}

/** What a shop itself was last seen to have. */
export interface ShopFacts {
  readonly categories?: readonly Category[];
  readonly warehouses?: readonly { readonly id: string; readonly name: string; readonly country: string }[];
  readonly exemptions?: readonly Exemption[];
}

export interface Store {
  readonly id: string;
  readonly workspaceId: string;
  readonly channel: string;
  /** The seller's own name for it. */
  readonly name: string;
  readonly shopId: string;
  /** What the shop calls itself. */
  readonly shopName: string;
  readonly shopUrl: string;
  readonly currency: string;
  readonly region: string | null;
  readonly state: 'connected' | 'lapsed' | 'disconnected';
  /** Why it is not well; null when it is. */
  readonly trouble: string | null;
  readonly settings: StoreSettings;
  readonly shopFacts: ShopFacts;
  readonly connectedAt: Date;
  /** Since when its listings are taken off sale for a while; null: it is not paused. */
  readonly pausedAt: Date | null;
  /** When keys end that do not renew themselves. */
  readonly keysEndAt: Date | null;
  /** When it last answered a question about its listings. */
  readonly readAt: Date | null;
  /** What it takes as the seller knows it, on any day; null: as its channel publishes. */
  readonly ownFees: readonly Fee[] | null;
}

const NEWEST_FEES = (of: string) =>
  `(SELECT f.fees FROM fee_list f WHERE f.workspace_id = store.workspace_id AND f.channel = store.channel AND f.store_id = ${of} AND f.currency IN ('', store.currency) ORDER BY f.id DESC LIMIT 1)`;
const COLUMNS = `id, workspace_id AS workspaceId, channel, name, shop_id AS shopId, shop_name AS shopName, shop_url AS shopUrl, currency, region, state, trouble, settings,
  shop_facts AS shopFacts, connected_at AS connectedAt, keys_end_at AS keysEndAt, read_at AS readAt, paused_at AS pausedAt, COALESCE(${NEWEST_FEES('store.id')}, ${NEWEST_FEES("''")}) AS ownFees`;

type StoreRow = Omit<Store, 'ownFees' | 'shopFacts'> & {
  readonly ownFees: string | readonly Fee[] | null;
  readonly shopFacts: string | null;
};
const asStore = ({ ownFees, shopFacts, ...row }: StoreRow): Store => ({
  ...row,
  ownFees: typeof ownFees === 'string' ? (JSON.parse(ownFees) as Fee[]) : ownFees,
  shopFacts: shopFacts === null ? {} : (JSON.parse(shopFacts) as ShopFacts),
});

export const sendsAs = ({ settings }: Pick<Store, 'settings'>): SendsAs => settings.sendsAs ?? 'draft';

export async function listStores(ctx: Context, workspaceId: string): Promise<Store[]> {
  const rows = await ctx.db.rows<StoreRow>(
    `SELECT ${COLUMNS} FROM store WHERE workspace_id = ? AND state <> 'disconnected' ORDER BY connected_at, id`,
    [workspaceId],
  );
  return rows.map(asStore);
}

export async function findStore(ctx: Context, workspaceId: string, id: string): Promise<Store> {
  const store = await ctx.db.row<StoreRow>(`SELECT ${COLUMNS} FROM store WHERE id = ? AND workspace_id = ?`, [
    id,
    workspaceId,
  ]);
  if (!store) throw notFound('store', id);
  return asStore(store);
}

/** What a store’s channel demands, with pictures made square as the store says. */
export function demandsOf(ctx: Context, { channel, settings }: Pick<Store, 'channel' | 'settings'>): ChannelDemands {
  const { demands } = channelOf(ctx, channel).about;
  return { ...demands, pictureFormat: squaredBy(demands.pictureFormat, settings.squares) };
}

export function channelOf(ctx: Context, code: string): Channel {
  const channel = ctx.channels.get(code);
  if (!channel)
    throw new TypicaError(
      'invalid',
      'channel-unknown',
      `There is no channel “${code}”; there are ${[...ctx.channels.keys()].join(', ')}.`,
    );
  return channel;
}

/** The day that decides what is in force, YYYY-MM-DD in UTC. */
export const today = (ctx: Context): string => ctx.clock.now().toISOString().slice(0, 10);

/** A store as pricing sees it today. */
export function outletOf(ctx: Context, store: Store): Outlet {
  const { fees: published, sellsTo, carries } = channelOf(ctx, store.channel).about;
  const fees = feesOn(store.ownFees ?? published, today(ctx));
  const { answers } = store.settings;
  return {
    id: store.id,
    name: store.name,
    currency: store.currency,
    fees,
    expectedSales: store.settings.expectedSales,
    sellsTo,
    aimsAt: store.settings.aimsAt ?? 'first',
    ...(store.settings.priceRule ? { rule: store.settings.priceRule } : {}),
    ...(carries.eachItemAlike ? { eachItemAlike: true } : {}),
    ...(answers?.shippingByClass ? { shippingByClass: answers.shippingByClass } : {}),
  };
}

/** What a store takes for a listing that goes on sale, its tax on that included, in the store's currency. */
export const listingFeeMinor = (ctx: Context, store: Store, rates: RateTable): number =>
  feesIn(outletOf(ctx, store).fees, store.currency, rates)
    .filter(({ per, own }) => per === 'listing' && !own)
    .reduce((sum, { fixedMinor, taxPpm = 0 }) => sum + fixedMinor + mulDiv(fixedMinor, taxPpm, PPM), 0);

async function markState(
  ctx: Context,
  store: Store,
  from: Store['state'],
  to: Store['state'],
  trouble: string | null,
): Promise<void> {
  const { affectedRows } = await ctx.db.run('UPDATE store SET state = ?, trouble = ? WHERE id = ? AND state = ?', [
    to,
    trouble?.slice(0, 400) ?? null,
    store.id,
    from,
  ]);
  if (affectedRows === 0) return;
  const says = to === 'lapsed' ? `${store.name} no longer takes its keys.` : `${store.name} takes its keys again.`;
  const doer = { workspaceId: store.workspaceId, personName: null };
  await note(ctx.db, doer, { about: 'store', what: to, says, storeId: store.id });
  await emit(ctx.db, store.workspaceId, 'store', { storeId: store.id });
}

/** The shop no longer takes the store's keys; `trouble` says it as a person reads it. */
export const markLapsed = (ctx: Context, store: Store, trouble: string): Promise<void> =>
  markState(ctx, store, 'connected', 'lapsed', trouble);

/** The shop took the keys of a store that was thought lapsed. */
export const markWorking = (ctx: Context, store: Store): Promise<void> =>
  markState(ctx, store, 'lapsed', 'connected', null);
