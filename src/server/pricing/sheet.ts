import { othersToo } from '@/core/words/and-more';
import { safeLine } from '@/core/csv/safe';
import { isTypicaError, TypicaError } from '@/core/errors';
import { baseOutlet, type Outlet } from '@/core/pricing/outlet';
import { aimFor } from '@/core/pricing/plan';
import { pricer, type PricedVariant } from '@/core/pricing/pricer';
import { setAims } from '@/core/pricing/fixing';
import {
  SHEET_COLUMNS,
  SheetReader,
  sheetLines,
  type SheetChange,
  type SheetKnown,
  type Unpriced,
} from '@/core/pricing/price-sheet';
import type { Aim } from '@/core/pricing/solve';
import { CODE_COLUMNS, CodeReader, type CodeChange } from '@/core/variants/codes-csv';
import { skusOf } from '@/core/variants/sku';
import { variantName } from '@/core/variants/tiers';
import type { CsvFault } from '@/core/csv/fault';
import type { Context } from '../context';
import { readRows } from '../csv/body';
import type { ProductBundle } from '../products/bundle';
import { listStores, outletOf } from '../stores/stores';
import { ownEntry } from '@/core/own-entry';

/** Where a product is priced: for all stores, and for each one. */
export async function outletsOf(ctx: Context, bundle: ProductBundle): Promise<Outlet[]> {
  const { product, home, settings } = bundle;
  const stores = await listStores(ctx, product.workspaceId);
  return [baseOutlet(product.document.price.currency, home, settings), ...stores.map((store) => outletOf(ctx, store))];
}

/** The chosen variants at an outlet: those that have a price, and those that no price meets or that lack a cost. */
function pricedAt(bundle: ProductBundle, outlet: Outlet): { priced: PricedVariant[]; unpriced: Unpriced[] } {
  const { product, blank, list, rates, settings, home } = bundle;
  const { document } = product;
  const priced: PricedVariant[] = [];
  const unpriced: Unpriced[] = [];
  let price: ((key: string) => PricedVariant) | null = null;
  for (const { key } of blank.variants) {
    if (!Object.hasOwn(document.variants, key)) continue;
    try {
      price ??= pricer(document, { blank, list, rates, outlet, settings, home });
      priced.push(price(key));
    } catch (error) {
      if (!isTypicaError(error) || !error.visible) throw error;
      unpriced.push({ key, aim: aimOr(() => aimFor(document, outlet, key, rates), document.price.base.aim) });
    }
  }
  return { priced, unpriced };
}

/** What is fixed for a variant; the base's aim as it stands where it cannot be converted. */
function aimOr(aim: () => Aim, base: Aim): Aim {
  try {
    return aim();
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
    return base;
  }
}

const skusBy = ({ product, blank, sentSkus }: ProductBundle) => skusOf(product.id, product.document, blank, sentSkus);

/** A product's prices as lines: for all stores, then store by store. */
export async function priceLines(ctx: Context, bundle: ProductBundle): Promise<string> {
  const skus = skusBy(bundle);
  const about = (key: string) => ({ sku: skus.get(key) ?? '', name: variantName(bundle.blank, key) });
  const outlets = await outletsOf(ctx, bundle);
  return outlets
    .map((outlet) => {
      return sheetLines(pricedAt(bundle, outlet), outlet, about);
    })
    .join('');
}

/** A product's prices as CSV. */
export const exportPrices = async (ctx: Context, bundle: ProductBundle): Promise<string> =>
  safeLine(SHEET_COLUMNS) + (await priceLines(ctx, bundle));

export interface SheetPreview<C> {
  readonly changes: readonly C[];
  readonly faults: readonly CsvFault[];
  readonly same: number;
}

export const MAX_MEGABYTES = 4;

/** What is known of a product's variants before a file is read. */
export async function knownPrices(
  ctx: Context,
  bundle: ProductBundle,
): Promise<{ outlets: Outlet[]; known: SheetKnown[] }> {
  const outlets = await outletsOf(ctx, bundle);
  const skus = skusBy(bundle);
  const known = outlets.flatMap((outlet) => {
    const { priced, unpriced } = pricedAt(bundle, outlet);
    const of = (key: string, aim: Aim, retailMinor: number | null): SheetKnown => ({
      variantKey: key,
      sku: skus.get(key) ?? '',
      storeId: outlet.id,
      aim,
      retailMinor,
    });
    return [
      ...priced.map(({ key, aim, retailMinor }) => of(key, aim, retailMinor)),
      ...unpriced.map(({ key, aim }) => of(key, aim, null)),
    ];
  });
  return { outlets, known };
}

/** Changes of a file that no price meets, as faults on their lines: a product is not left without a price by a file. */
export function impossibleAims(
  bundle: ProductBundle,
  outlets: readonly Outlet[],
  changes: readonly SheetChange[],
): CsvFault[] {
  const { product, blank, list, rates, settings, home } = bundle;
  const after = changes.reduce(
    (doc, { storeId, variantKey, now }) => setAims(doc, storeId, [variantKey], now),
    product.document,
  );
  const pricers = new Map<string | null, (key: string) => PricedVariant>();
  return changes.flatMap(({ line, storeId, variantKey, now }) => {
    const outlet = outlets.find(({ id }) => id === storeId)!;
    try {
      let price = pricers.get(storeId);
      if (!price) pricers.set(storeId, (price = pricer(after, { blank, list, rates, outlet, settings, home })));
      price(variantKey);
      return [];
    } catch (error) {
      if (!isTypicaError(error, 'price-unsolvable')) {
        if (!isTypicaError(error) || !error.visible) throw error;
        // What lacks a cost or a rate lacked it before: that is told where the product is.
        return [];
      }
      const column = now.kind === 'retail' ? 'price' : now.kind;
      return [{ line, column, code: 'aim-impossible', says: error.message }];
    }
  });
}

/** What a file of prices would change. Nothing is written; faults are told line by line. */
export async function previewPrices(
  ctx: Context,
  bundle: ProductBundle,
  csv: Uint8Array,
): Promise<SheetPreview<SheetChange>> {
  const { outlets, known } = await knownPrices(ctx, bundle);
  const reader = new SheetReader(known, outlets);
  await readRows(csv, reader);
  const faults = [...reader.faults, ...impossibleAims(bundle, outlets, reader.changes)];
  return { changes: reader.changes, faults, same: reader.same };
}

/** SKUs and GTINs of the chosen variants as CSV. */
export function exportCodes(bundle: ProductBundle): string {
  const { product, blank } = bundle;
  return (
    safeLine(CODE_COLUMNS) +
    [...skusBy(bundle)]
      .map(([key, sku]) =>
        safeLine([key, sku, variantName(blank, key), ownEntry(product.document.variants, key)?.gtin ?? '', '']),
      )
      .join('')
  );
}

/** What a file of codes would change. Nothing is written. */
export async function previewCodes(bundle: ProductBundle, csv: Uint8Array): Promise<SheetPreview<CodeChange>> {
  const { product, sentSkus } = bundle;
  const reader = new CodeReader(
    [...skusBy(bundle)].map(([variantKey, sku]) => ({
      variantKey,
      sku,
      gtin: ownEntry(product.document.variants, variantKey)?.gtin ?? null,
      sent: ownEntry(sentSkus, variantKey) !== undefined,
    })),
  );
  await readRows(csv, reader);
  return { changes: reader.changes, faults: reader.faults, same: reader.same };
}

/** Throws `sheet-faulty` where a file that is to be taken has faults. */
export function refuseFaulty({ faults, changes }: SheetPreview<unknown>): void {
  if (faults.length > 0)
    throw new TypicaError(
      'invalid',
      'sheet-faulty',
      `Nothing was changed: line ${faults[0]!.line}: ${faults[0]!.says}${othersToo(faults.length)}`,
      { faults },
    );
  if (changes.length === 0)
    throw new TypicaError('invalid', 'sheet-empty', 'This file changes nothing: it has no row that differs.', {});
}
