import { safeLine } from '@/core/csv/safe';
import { isTypicaError, TypicaError } from '@/core/errors';
import { baseOutlet, type Outlet } from '@/core/pricing/outlet';
import { pricer, type PricedVariant } from '@/core/pricing/plan';
import { SHEET_COLUMNS, SheetReader, sheetLines, type SheetChange, type SheetKnown } from '@/core/pricing/price-sheet';
import { CODE_COLUMNS, CodeReader, type CodeChange } from '@/core/variants/codes-csv';
import { skusOf } from '@/core/variants/sku';
import { variantName } from '@/core/variants/tiers';
import type { CsvFault } from '@/core/catalog/price-csv';
import type { Context } from '../context';
import { readRows } from '../csv/body';
import type { ProductBundle } from '../products/bundle';
import { listStores, outletOf } from '../stores/stores';
import { ownEntry } from '@/core/own-entry';

/** Where a product is priced: for all stores, and for each one. */
async function outletsOf(ctx: Context, bundle: ProductBundle): Promise<Outlet[]> {
  const { product, home, settings } = bundle;
  const stores = await listStores(ctx, product.workspaceId);
  return [baseOutlet(product.document.price.currency, home, settings), ...stores.map((store) => outletOf(ctx, store))];
}

/** All chosen variants that can be priced at an outlet. */
function pricedAt(bundle: ProductBundle, outlet: Outlet): PricedVariant[] {
  const { product, blank, list, rates, settings, home } = bundle;
  const price = pricer(product.document, { blank, list, rates, outlet, settings, home });
  return blank.variants.flatMap(({ key }) => {
    if (!Object.hasOwn(product.document.variants, key)) return [];
    try {
      return [price(key)];
    } catch (error) {
      if (!isTypicaError(error) || !error.visible) throw error;
      return [];
    }
  });
}

const skusBy = ({ product, blank, sentSkus }: ProductBundle) => skusOf(product.id, product.document, blank, sentSkus);

/** A product's prices as CSV: for all stores, then store by store. */
export async function exportPrices(ctx: Context, bundle: ProductBundle): Promise<string> {
  const skus = skusBy(bundle);
  const about = (key: string) => ({ sku: skus.get(key) ?? '', name: variantName(bundle.blank, key) });
  const outlets = await outletsOf(ctx, bundle);
  return (
    safeLine(SHEET_COLUMNS) + outlets.map((outlet) => sheetLines(pricedAt(bundle, outlet), outlet, about)).join('')
  );
}

export interface SheetPreview<C> {
  readonly changes: readonly C[];
  readonly faults: readonly CsvFault[];
  readonly same: number;
}

export const MOST_MEGABYTES = 4;

/** What a file of prices would change. Nothing is written; faults are told line by line. */
export async function previewPrices(
  ctx: Context,
  bundle: ProductBundle,
  csv: Uint8Array,
): Promise<SheetPreview<SheetChange>> {
  const outlets = await outletsOf(ctx, bundle);
  const skus = skusBy(bundle);
  const known: SheetKnown[] = outlets.flatMap((outlet) =>
    pricedAt(bundle, outlet).map(({ key, aim, retailMinor }) => ({
      variantKey: key,
      sku: skus.get(key) ?? '',
      storeId: outlet.id,
      aim,
      retailMinor,
    })),
  );
  const reader = new SheetReader(known, outlets);
  await readRows(csv, reader);
  return { changes: reader.changes, faults: reader.faults, same: reader.same };
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
      `Nothing was changed: line ${faults[0]!.line}: ${faults[0]!.says}${faults.length > 1 ? ` (and ${faults.length - 1} more)` : ''}`,
      { faults },
    );
  if (changes.length === 0)
    throw new TypicaError('invalid', 'sheet-empty', 'This file changes nothing: it has no row that differs.', {});
}
