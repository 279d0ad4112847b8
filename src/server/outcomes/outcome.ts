import { groupBy } from '@/core/group';
import type { ListingForm } from '@/core/listing/form';
import { isTypicaError } from '@/core/errors';
import type { Left } from '@/core/pricing/least-left';
import type { RuleResult } from '@/core/rules/demands';
import { brokenRules } from '@/core/rules/evaluate';
import { changedKinds, type ChangedKind } from '@/core/sync/changed';
import type { SyncState } from '@/core/sync/state';
import type { Context } from '../context';
import { listingsOf, prepareListed, refuseDesign, standingOf } from '../listings/listings';
import { listingPlaces, type ListingPlace } from '../listings/place';
import { loadBundles, type ProductBundle } from '../products/bundle';
import type { Product } from '../products/products';
import type { Store } from '../stores/stores';

/** What comes of a channel's rules for a product in a store, and where it stands there when nothing is on its way. */
export interface Outcome {
  readonly productId: string;
  readonly storeId: string;
  /** Of the listings of the product in the store. */
  readonly number: number;
  readonly state: Exclude<SyncState, 'on-its-way'>;
  readonly hereHash: string | null;
  readonly broken: readonly RuleResult[];
  /** Kinds of fields that changed here since both sides agreed. */
  readonly changed: readonly ChangedKind[];
  readonly variants: number;
  /** Lowest and highest price there, minor units of the store's currency; null without a form. */
  readonly lowMinor: number | null;
  readonly highMinor: number | null;
  /** What least is left, over its variants and destinations; null without a form. */
  readonly left: Left | null;
  /** Whether some variant is sold at a loss to some destination, whoever accepted that. */
  readonly underFloor: boolean;
}

function outcomeOf(
  ctx: Context,
  bundle: ProductBundle,
  store: Store,
  { number, row }: ListingPlace,
  stops: readonly RuleResult[],
): Outcome {
  const prepared = prepareListed(ctx, bundle, store, row, number);
  const { form, hash, rules } = prepared;
  const prices = Object.values(form?.variants ?? {}).map(({ priceMinor }) => priceMinor);
  const agreed = row?.agreedForm ? (JSON.parse(row.agreedForm) as ListingForm) : null;
  return {
    productId: bundle.product.id,
    storeId: store.id,
    number,
    state: standingOf(row, prepared),
    hereHash: hash,
    broken: [...stops, ...brokenRules(rules)],
    changed: agreed && form && hash !== row!.agreedHash ? changedKinds(agreed, form) : [],
    variants: prices.length,
    lowMinor: prices.length > 0 ? Math.min(...prices) : null,
    highMinor: prices.length > 0 ? Math.max(...prices) : null,
    left: prepared.left,
    underFloor: prepared.losing.length > 0,
  };
}

/** What stands in the way of judging a product at all: told as a broken rule in every store. */
const unjudged = (
  productId: string,
  store: Store,
  { number, row }: ListingPlace,
  says: string,
  id: string,
): Outcome => ({
  productId,
  storeId: store.id,
  number,
  state: standingOf(row, { hash: null }),
  hereHash: null,
  broken: [{ id, kept: false, says, mend: null, part: 'price' }],
  changed: [],
  variants: 0,
  lowMinor: null,
  highMinor: null,
  left: null,
  underFloor: false,
});

/** Products with all that judging needs; one that cannot be read does not hold up the others. */
async function bundlesOf(
  ctx: Context,
  workspaceId: string,
  products: readonly Product[],
): Promise<(ProductBundle | { readonly product: Product; readonly says: string; readonly code: string })[]> {
  try {
    return await loadBundles(ctx, workspaceId, products);
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
    if (products.length <= 1) return products.map((product) => ({ product, says: error.message, code: error.code }));
    const alone = await Promise.all(products.map((product) => bundlesOf(ctx, workspaceId, [product])));
    return alone.flat();
  }
}

/** What must be put right in a design before it may be sold anywhere, as a broken rule. */
async function stopsOf(ctx: Context, bundle: ProductBundle): Promise<RuleResult[]> {
  try {
    await refuseDesign(ctx, bundle);
    return [];
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
    return [{ id: error.code, kept: false, says: error.message, mend: null, part: 'artwork' }];
  }
}

interface Judging {
  /** Without it what the checks say of a design is left out: setting its texts takes time. */
  readonly designs: boolean;
  /** Absent: each product in each store. */
  readonly isWanted?: (productId: string, storeId: string) => boolean;
}

/** Judges products in stores as they are now. */
export async function judge(
  ctx: Context,
  workspaceId: string,
  products: readonly Product[],
  stores: readonly Store[],
  { designs, isWanted = () => true }: Judging,
): Promise<Outcome[]> {
  if (products.length === 0 || stores.length === 0) return [];
  const rows = await listingsOf(
    ctx.db,
    workspaceId,
    products.map(({ id }) => id),
  );
  const byProduct = groupBy(rows, ({ productId }) => productId);
  const outcomes: Outcome[] = [];
  for (const one of await bundlesOf(ctx, workspaceId, products)) {
    const stops = designs && !('says' in one) ? await stopsOf(ctx, one) : [];
    for (const store of stores.filter(({ id }) => isWanted(one.product.id, id)))
      for (const place of listingPlaces(one.product, store.id, byProduct.get(one.product.id) ?? []))
        outcomes.push(
          'says' in one
            ? unjudged(one.product.id, store, place, one.says, one.code)
            : outcomeOf(ctx, one, store, place, stops),
        );
  }
  return outcomes;
}
