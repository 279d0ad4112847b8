import { countryName } from '@/core/country-names';
import { priceEffects, type VariantEffect } from '@/core/pricing/effects';
import type { PricingWorld } from '@/core/pricing/plan';
import { baseOutlet } from '@/core/pricing/outlet';
import type { ListingForm } from '@/core/listing/form';
import { tierName } from '@/core/variants/tiers';
import { variantTroubles } from '@/core/variants/trouble';
import { loadBlanks, offersUnder, type Offer } from '../catalog/blanks';
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

const count = (n: number, word: string) => (n === 1 ? `1 ${word}` : `${n} ${word}s`);

/**
 * Which products of a workspace lose money, fall under their aim, or lose variants when a price list takes the place of its base. Prices
 * are those that buyers pay: for a listing that is in a shop its price there, with that store's fees.
 */
export async function productEffects(
  ctx: Context,
  workspace: { readonly id: string; readonly country: string },
  list: {
    readonly id: string;
    readonly partnerId: string;
    readonly currency: string;
    readonly validFrom: string;
    readonly baseListId: string | null;
  },
  blankIds: readonly string[],
): Promise<ProductEffect[]> {
  const [rates, { settings, home }, stores, used] = await Promise.all([
    loadRateTable(ctx, workspace.id),
    loadMoney(ctx, workspace.id),
    listStores(ctx, workspace.id),
    ctx.db.rows<{ blankId: string }>(
      'SELECT DISTINCT blank_id AS blankId FROM product WHERE workspace_id = ? AND archived_at IS NULL',
      [workspace.id],
    ),
  ]);
  const changed = new Set(blankIds);
  const ids = used.map((row) => row.blankId).filter((id) => changed.has(id));
  if (ids.length === 0) return [];
  const blanks = await loadBlanks(ctx, ids);
  const under = async (listId: string | null) => {
    const lists = listId ? new Map([[list.partnerId, { ...list, id: listId }]]) : new Map();
    return new Map((await offersUnder(ctx, blanks, lists)).map((offer) => [offer.blank.id, offer]));
  };
  const [before, after] = [await under(list.baseListId), await under(list.id)];

  const effects: ProductEffect[] = [];
  for (let offset = 0; ; offset += PAGE) {
    const products = await ctx.db.rows<Product>(
      `SELECT id, workspace_id AS workspaceId, blank_id AS blankId, title, revision, document FROM product
       WHERE workspace_id = ? AND archived_at IS NULL AND blank_id IN (${ids.map(() => '?').join(',')}) ORDER BY id LIMIT ? OFFSET ?`,
      [workspace.id, ...ids, PAGE, offset],
    );
    if (products.length === 0) break;
    const listings = await listingsOf(
      ctx.db,
      workspace.id,
      products.map((product) => product.id),
    );
    for (const product of products) {
      const [then, now] = [before.get(product.blankId)!, after.get(product.blankId)!];
      effects.push(...troubles(product, then, now));
      if (!then.list || !now.list) continue;
      const inShops = listings.filter((row) => row.productId === product.id && row.externalId && row.agreedForm);
      for (const row of inShops) {
        const store = stores.find((s) => s.id === row.storeId);
        if (!store) continue;
        const form = JSON.parse(row.thereForm ?? row.agreedForm!) as ListingForm;
        const prices = Object.fromEntries(Object.entries(form.variants).map(([key, v]) => [key, v.priceMinor]));
        const shared = {
          rates,
          settings,
          home,
          outlet: outletOf(ctx, store),
        };
        const unknown = new Map<string, string>();
        const note = (key: string, says: string) => void unknown.set(key, says);
        const found = priceEffects(product.document, world(then, shared), world(now, shared), prices, note);
        const at = { id: store.id, name: store.name };
        effects.push(...asEffects(product, now, at, found), ...unknownEffects(product, now, at, unknown));
      }
      if (inShops.length === 0) {
        const outlet = baseOutlet(product.document.price.currency, workspace.country, settings);
        const shared = { rates, settings, outlet, home: workspace.country };
        const unknown = new Map<string, string>();
        const note = (key: string, says: string) => void unknown.set(key, says);
        const found = priceEffects(product.document, world(then, shared), world(now, shared), null, note);
        effects.push(...asEffects(product, now, null, found), ...unknownEffects(product, now, null, unknown));
      }
    }
    if (products.length < PAGE) break;
  }
  const order = { loss: 0, ended: 1, unknown: 2, under: 3, 'out-of-stock': 4 };
  return effects.sort(
    (a, b) =>
      order[a.kind] - order[b.kind] || a.title.localeCompare(b.title, 'en') || (a.productId < b.productId ? -1 : 1),
  );
}

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
