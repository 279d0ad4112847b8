import { countryName } from '@/core/country-names';
import { asListed } from '@/core/document/split';
import { priceEffects, type VariantEffect } from '@/core/pricing/effects';
import type { PricingWorld } from '@/core/pricing/plan';
import { baseOutlet } from '@/core/pricing/outlet';
import type { ListingForm } from '@/core/listing/form';
import { count } from '@/core/words/count';
import { tierName } from '@/core/variants/tiers';
import { variantTroubles } from '@/core/variants/trouble';
import { loadBlanks } from '../catalog/blanks';
import { offersUnder, type Offer } from '../catalog/offers';
import type { Context } from '../context';
import { listingsOf } from '../listings/listings';
import type { Product } from '../products/products';
import { loadMoney } from '../pricing/settings';
import { loadRateTable } from '../rates/rates';
import { listStores, outletOf } from '../stores/stores';

/** What a new price list does to one product in one store (or, with no store, to its own prices). */
export interface ProductEffect {
  readonly productId: string;
  readonly title: string;
  readonly blankId: string;
  readonly store: { readonly id: string; readonly name: string } | null;
  readonly kind: 'loss' | 'under' | 'ended' | 'out-of-stock' | 'unknown';
  readonly variantKeys: readonly string[];
  /** `S – XL`, for a person. */
  readonly variants: string;
  /** The worst of the variants; amounts in minor units of `currency`. Null for an ended or missing variant. */
  readonly worst: {
    readonly currency: string;
    readonly country: string;
    readonly retailMinor: number;
    readonly profitBeforeMinor: number;
    readonly profitAfterMinor: number;
    readonly marginBeforePpm: number | null;
    readonly marginAfterPpm: number | null;
  } | null;
  readonly says: string;
  readonly remedy: string;
}

/** Products that are looked at in one go. */
const PAGE = 200;

/** What all products of one look share: the money of the workspace, its stores, and the offers before and after the list. */
interface Weighing {
  readonly ctx: Context;
  readonly workspace: { readonly id: string; readonly country: string };
  readonly rates: Awaited<ReturnType<typeof loadRateTable>>;
  readonly settings: Awaited<ReturnType<typeof loadMoney>>['settings'];
  readonly home: Awaited<ReturnType<typeof loadMoney>>['home'];
  readonly stores: Awaited<ReturnType<typeof listStores>>;
  readonly before: ReadonlyMap<string, Offer>;
  readonly after: ReadonlyMap<string, Offer>;
}

interface WeighedList {
  readonly id: string;
  readonly partnerId: string;
  readonly currency: string;
  readonly validFrom: string;
  readonly baseListId: string | null;
}

type ListingRow = Awaited<ReturnType<typeof listingsOf>>[number];

/**
 * Which products of a workspace lose money, fall under their aim, or lose variants when a price list takes the place of its base. Prices
 * are those that buyers pay: for a listing that is in a shop its price there, with that store's fees.
 */
export async function productEffects(
  ctx: Context,
  workspace: Weighing['workspace'],
  list: WeighedList,
  blankIds: readonly string[],
): Promise<ProductEffect[]> {
  const ids = await blanksInUse(ctx, workspace.id, blankIds);
  if (ids.length === 0) return [];
  const weighing = await loadWeighing(ctx, workspace, list, ids);
  const effects: ProductEffect[] = [];
  for await (const products of productPages(ctx, workspace.id, ids)) {
    const productIds = products.map((product) => product.id);
    const listings = await listingsOf(ctx.db, workspace.id, productIds);
    for (const product of products) {
      const inShops = listings.filter((row) => row.productId === product.id && row.externalId && row.agreedForm);
      effects.push(...effectsOn(weighing, product, inShops));
    }
  }
  return effects.sort(worstFirst);
}

async function blanksInUse(ctx: Context, workspaceId: string, blankIds: readonly string[]): Promise<string[]> {
  const used = await ctx.db.rows<{ blankId: string }>(
    'SELECT DISTINCT blank_id AS blankId FROM product WHERE workspace_id = ? AND archived_at IS NULL',
    [workspaceId],
  );
  const changed = new Set(blankIds);
  return used.map((row) => row.blankId).filter((id) => changed.has(id));
}

async function loadWeighing(
  ctx: Context,
  workspace: Weighing['workspace'],
  list: WeighedList,
  blankIds: readonly string[],
): Promise<Weighing> {
  const [rates, { settings, home }, stores, blanks] = await Promise.all([
    loadRateTable(ctx, workspace.id),
    loadMoney(ctx, workspace.id),
    listStores(ctx, workspace.id),
    loadBlanks(ctx, blankIds),
  ]);
  const under = async (listId: string | null) => {
    const lists = listId ? new Map([[list.partnerId, { ...list, id: listId }]]) : new Map();
    return new Map((await offersUnder(ctx, blanks, lists)).map((offer) => [offer.blank.id, offer]));
  };
  const [before, after] = [await under(list.baseListId), await under(list.id)];
  return { ctx, workspace, rates, settings, home, stores, before, after };
}

async function* productPages(
  ctx: Context,
  workspaceId: string,
  blankIds: readonly string[],
): AsyncGenerator<Product[]> {
  for (let offset = 0; ; offset += PAGE) {
    const products = await ctx.db.rows<Product>(
      `SELECT id, workspace_id AS workspaceId, blank_id AS blankId, title, revision, document FROM product
       WHERE workspace_id = ? AND archived_at IS NULL AND blank_id IN (${blankIds.map(() => '?').join(',')})
       ORDER BY id LIMIT ? OFFSET ?`,
      [workspaceId, ...blankIds, PAGE, offset],
    );
    if (products.length > 0) yield products;
    if (products.length < PAGE) return;
  }
}

/** In every shop where the product is offered, and for one that is in no shop at its own prices. */
function effectsOn(weighing: Weighing, product: Product, inShops: readonly ListingRow[]): ProductEffect[] {
  const then = weighing.before.get(product.blankId)!;
  const now = weighing.after.get(product.blankId)!;
  const lost = troubles(product, then, now);
  if (!then.list || !now.list) return lost;
  const { workspace, rates, settings, home } = weighing;
  if (inShops.length === 0) {
    const outlet = baseOutlet(product.document.price.currency, workspace.country, settings);
    const shared = { rates, settings, outlet, home: workspace.country };
    return [...lost, ...priced(product, then, now, { store: null, prices: null, shared })];
  }
  return inShops.reduce((effects, row) => {
    const store = weighing.stores.find(({ id }) => id === row.storeId);
    if (!store) return effects;
    const shared = { rates, settings, home, outlet: outletOf(weighing.ctx, store) };
    const at = { id: store.id, name: store.name };
    const listed = { ...product, document: asListed(product.document, store.id, row.number) };
    return [...effects, ...priced(listed, then, now, { store: at, prices: pricesThere(row), shared })];
  }, lost);
}

/** Prices of a listing as its shop last said them, by variant key, in minor units of the store's currency. */
function pricesThere(row: ListingRow): Record<string, number> {
  const form = JSON.parse(row.thereForm ?? row.agreedForm!) as ListingForm;
  return Object.fromEntries(Object.entries(form.variants).map(([key, variant]) => [key, variant.priceMinor]));
}

function priced(
  product: Product,
  then: Offer,
  now: Offer,
  where: {
    readonly store: ProductEffect['store'];
    readonly prices: Record<string, number> | null;
    readonly shared: Omit<PricingWorld, 'blank' | 'list'>;
  },
): ProductEffect[] {
  const unknown = new Map<string, string>();
  const record = (key: string, says: string) => void unknown.set(key, says);
  const worlds = [world(then, where.shared), world(now, where.shared)] as const;
  const found = priceEffects(product.document, ...worlds, where.prices, record);
  return [...asEffects(product, now, where.store, found), ...unknownEffects(product, now, where.store, unknown)];
}

const ORDER = { loss: 0, ended: 1, unknown: 2, under: 3, 'out-of-stock': 4 };

const worstFirst = (a: ProductEffect, b: ProductEffect): number =>
  ORDER[a.kind] - ORDER[b.kind] || a.title.localeCompare(b.title, 'en') || (a.productId < b.productId ? -1 : 1);

const world = (offer: Offer, shared: Omit<PricingWorld, 'blank' | 'list'>): PricingWorld => ({
  blank: offer.blank,
  list: offer.list!,
  ...shared,
});

/** Variants of which nobody can say what the list does to them: an exchange rate is missing. */
function unknownEffects(
  product: Product,
  { blank }: Offer,
  store: { id: string; name: string } | null,
  unknown: ReadonlyMap<string, string>,
): ProductEffect[] {
  if (unknown.size === 0) return [];
  const variantKeys = [...unknown.keys()];
  return [
    {
      productId: product.id,
      title: product.title,
      blankId: product.blankId,
      store,
      kind: 'unknown',
      variantKeys,
      variants: tierName(blank, variantKeys),
      worst: null,
      says: [...unknown.values()][0]!,
      remedy: 'Enter the rate under Rates and rules, then upload the list again.',
    },
  ];
}

function asEffects(
  product: Product,
  { blank }: Offer,
  store: { id: string; name: string } | null,
  found: readonly VariantEffect[],
): ProductEffect[] {
  return (['loss', 'under'] as const).flatMap((kind) => {
    const hit = found.filter((effect) => effect.verdict === kind);
    if (hit.length === 0) return [];
    const worst = hit.reduce((a, b) => (b.after.profitMinor < a.after.profitMinor ? b : a));
    const keys = hit.map((effect) => effect.key);
    const typed = worst.aim.kind === 'retail' && !worst.follows;
    const where = store ? ` at its price in ${store.name}` : '';
    return [
      {
        productId: product.id,
        title: product.title,
        blankId: product.blankId,
        store,
        kind,
        variantKeys: keys,
        variants: tierName(blank, keys),
        worst: {
          currency: worst.after.currency,
          country: worst.country,
          retailMinor: worst.retailMinor,
          profitBeforeMinor: worst.before.profitMinor,
          profitAfterMinor: worst.after.profitMinor,
          marginBeforePpm: worst.before.marginPpm,
          marginAfterPpm: worst.after.marginPpm,
        },
        says:
          kind === 'loss'
            ? `${count(keys.length, 'variant')} would be sold below cost to ${countryName(worst.country)}${where}.`
            : `${count(keys.length, 'variant')} would fall under the ${worst.aim.kind} that you set${where}.`,
        remedy: typed
          ? 'Its price was typed in: raise it under Price, then send again.'
          : 'Its price here follows the cost: send it again, so that the store takes the new price.',
      },
    ];
  });
}

/** Chosen variants that end or run out with the list and had not before. */
function troubles(product: Product, then: Offer, now: Offer): ProductEffect[] {
  const known = new Set(
    variantTroubles(then.blank, product.document.variants).flatMap((t) =>
      t.variantKeys.map((key) => `${t.kind}/${key}`),
    ),
  );
  return variantTroubles(now.blank, product.document.variants).flatMap((trouble) => {
    const keys = trouble.variantKeys.filter((key) => !known.has(`${trouble.kind}/${key}`));
    if (keys.length === 0) return [];
    const chosen = Object.fromEntries(keys.map((key) => [key, true]));
    const [fresh] = variantTroubles(now.blank, chosen);
    return [
      {
        productId: product.id,
        title: product.title,
        blankId: product.blankId,
        store: null,
        kind: trouble.kind,
        variantKeys: keys,
        variants: count(keys.length, 'variant'),
        worst: null,
        says: fresh!.says,
        remedy: trouble.remedy,
      },
    ];
  });
}
