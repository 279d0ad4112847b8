import type { PriceList } from '../catalog/blank';
import { companionIdsOf, type ProductDocument } from '../document/document';
import { ownEntry } from '../own-entry';
import { NO_COMPANIONS, splitBundled, type Companions } from '../pricing/bundle';
import { bundleWildcard } from '../pricing/changes';
import { feesIn } from '../pricing/fees';
import type { Outlet } from '../pricing/outlet';
import type { RateTable } from '../pricing/rates';
import type { SaleOff } from '../pricing/sale';
import type { MoneySettings } from '../pricing/settings';
import { contentHash } from '../canonical/canonical';
import type { ListingForm } from './form';

/**
 * Why a shop shows another price than before. `first`: it shows the variant for the first time; `gone`: it shows it no longer; `product`: something of
 * the product that is no price, a further area for example.
 */
export const PRICE_CAUSES = [
  'first',
  'gone',
  'sale',
  'typed',
  'rule',
  'file',
  'list',
  'rate',
  'fee',
  'settings',
  'product',
] as const;
export type PriceCause = (typeof PRICE_CAUSES)[number];

/** Causes that a person's edit of the prices has. */
export const EDIT_CAUSES = ['typed', 'rule', 'file'] as const satisfies readonly PriceCause[];
export type EditCause = (typeof EDIT_CAUSES)[number];

/** Everything beside the product that prices in a shop were made from, as hashes that change when it does. */
export interface PriceTerms {
  readonly list: string;
  readonly rate: string;
  readonly fee: string;
  readonly settings: string;
  readonly sale: string;
  /** Up to which revision of the product its edits are counted in. */
  readonly revision: number;
}

/** Hashes of price lists, which do not change: each is the same for many products. */
const listHashes = new WeakMap<PriceList, string>();

function listHash(list: PriceList): string {
  const hash = listHashes.get(list) ?? contentHash(list);
  listHashes.set(list, hash);
  return hash;
}

/** No sale at all, as `PriceTerms` tell it. */
export const NO_SALE = contentHash([]);

export function priceTerms(
  { document, revision }: { readonly document: ProductDocument; readonly revision: number },
  world: {
    readonly list: PriceList;
    readonly companions?: Companions;
    readonly rates: RateTable;
    readonly outlet: Outlet;
    readonly settings: MoneySettings;
    readonly sales: readonly SaleOff[];
  },
): PriceTerms {
  const { list, rates, outlet, settings, sales, companions = NO_COMPANIONS } = world;
  const lists = companionIdsOf(document).flatMap((id) => companions.get(id)?.list ?? []);
  const { currency, fees, sellsTo, expectedSales, aimsAt, rule } = outlet;
  return {
    list: lists.length > 0 ? contentHash([list, ...lists]) : listHash(list),
    rate: contentHash(
      [list.currency, document.price.currency, ...lists.map((one) => one.currency)].map((from) =>
        rates.about(from, currency),
      ),
    ),
    fee: contentHash(feesIn(fees, currency, rates)),
    // Where one sells moves prices only where aims are met on the whole of it.
    settings: contentHash([
      aimsAt === 'mix' ? settings : { ...settings, mix: [] },
      ...[sellsTo, expectedSales, aimsAt],
      // Without a rule they are hashed as before there was one.
      ...(rule ? [rule] : []),
    ]),
    sale: contentHash(sales),
    revision,
  };
}

/** A price that a shop shows from some time on; both null once it shows the variant no longer. Minor units of the store's currency. */
export interface ShownPrice {
  readonly variantKey: string;
  readonly priceMinor: number | null;
  readonly compareAtMinor: number | null;
  readonly causes: readonly PriceCause[];
}

/** Whether a variant's price was typed for a store in the store's own currency: then costs, rates and fees do not move it. */
function isFixed({ price, bundles }: ProductDocument, storeId: string, currency: string, key: string): boolean {
  const { variantKey, bundleId } = splitBundled(key);
  const bundle = bundleId === null ? undefined : ownEntry(bundles?.entries, bundleId);
  if (bundle) {
    const here = ownEntry(bundle.stores, storeId);
    return here ? here.kind === 'retail' : bundle.aim.kind === 'retail' && price.currency === currency;
  }
  const own = ownEntry(price.stores, storeId);
  const mine = ownEntry(own?.variants, variantKey) ?? own?.aim;
  if (mine) return mine.kind === 'retail';
  const aim = ownEntry(price.base.variants, variantKey) ?? price.base.aim;
  return aim.kind === 'retail' && price.currency === currency;
}

/** Whether an edit is of a variant's price: of it, of its bundle, or of all. */
const concerns = (edited: string, variantKey: string): boolean => {
  const { bundleId } = splitBundled(variantKey);
  return edited === '*' || edited === variantKey || (bundleId !== null && edited === bundleWildcard(bundleId));
};

/** What of `before` and `after` differs, in the order in which it is told. */
const differing = (
  before: PriceTerms,
  after: PriceTerms,
  edits: readonly EditCause[],
  fixed: boolean,
): PriceCause[] => [
  ...(before.sale === after.sale ? [] : (['sale'] as const)),
  ...edits,
  ...(fixed ? [] : (['list', 'rate', 'fee', 'settings'] as const).filter((part) => before[part] !== after[part])),
];

/** Edits of prices since what was shown before, newest last. `storeId` null: for all stores; `variantKey` `*`: for all variants. */
export interface PriceEdit {
  readonly storeId: string | null;
  readonly variantKey: string;
  readonly cause: EditCause;
}

/**
 * Which prices a shop shows from now on that it did not show before, and what had changed in between. Without `before`, or without its terms, all of
 * them are shown first. A variant of which nothing differs in price is left out.
 */
export function newlyShown(
  before: { readonly form: ListingForm; readonly terms: PriceTerms } | null,
  after: { readonly form: ListingForm; readonly terms: PriceTerms },
  of: { readonly document: ProductDocument; readonly storeId: string; readonly edits: readonly PriceEdit[] },
): ShownPrice[] {
  const shown: ShownPrice[] = [];
  for (const [variantKey, { priceMinor, compareAtMinor }] of Object.entries(after.form.variants)) {
    const was = ownEntry(before?.form.variants, variantKey);
    if (was?.priceMinor === priceMinor && was.compareAtMinor === compareAtMinor) continue;
    const told = { variantKey, priceMinor, compareAtMinor };
    if (!before || !was) {
      shown.push({ ...told, causes: ['first'] });
      continue;
    }
    const edits = of.edits.filter(
      (edit) => (edit.storeId === null || edit.storeId === of.storeId) && concerns(edit.variantKey, variantKey),
    );
    const fixed = isFixed(of.document, of.storeId, after.form.currency, variantKey);
    const causes = differing(before.terms, after.terms, [...new Set(edits.map(({ cause }) => cause))], fixed);
    shown.push({ ...told, causes: causes.length > 0 ? causes : ['product'] });
  }
  return [...shown, ...(before ? noLonger(before.form, after.form) : [])];
}

/** Variants that a shop showed and shows no longer. */
export const noLonger = (before: ListingForm, after: ListingForm | null): ShownPrice[] =>
  Object.keys(before.variants)
    .filter((variantKey) => !ownEntry(after?.variants, variantKey))
    .map((variantKey) => ({ variantKey, priceMinor: null, compareAtMinor: null, causes: ['gone'] }));
