import type { Blank, PriceList } from '@/core/catalog/blank';
import { artworkIdsOf, type ProductDocument } from '@/core/document/document';
import { isTypicaError } from '@/core/errors';
import { pricer } from '@/core/pricing/plan';
import type { RateTable } from '@/core/pricing/rates';
import { skusOf } from '@/core/variants/sku';
import { loadOffer } from '../catalog/blanks';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { loadMoney, type WorkspaceMoney } from '../pricing/settings';
import { loadRateTable } from '../rates/rates';
import { sentSkusOf } from './sent-skus';

/** What the search rows of a product follow from, beside its document. */
export interface SearchWorld extends WorkspaceMoney {
  readonly blank: Blank;
  readonly list: PriceList | null;
  readonly rates: RateTable;
}

/**
 * Reads it before a transaction begins: inside one, every further connection that is asked for can be one too many, and as many writers
 * as the pool has connections would wait for each other for ever.
 */
export async function loadSearchWorld(ctx: Context, workspaceId: string, blankId: string): Promise<SearchWorld> {
  const [{ blank, list }, rates, money] = await Promise.all([
    loadOffer(ctx, workspaceId, blankId),
    loadRateTable(ctx, workspaceId),
    loadMoney(ctx, workspaceId),
  ]);
  return { blank, list, rates, ...money };
}

/** Keeps variants, SKUs, base prices and the artwork used in tables of their own, in the transaction that changes the document. */
export async function writeSearchRows(
  db: Database,
  product: { id: string; workspaceId: string; document: ProductDocument },
  { blank, list, rates, settings, home }: SearchWorld,
): Promise<void> {
  const { id, workspaceId, document } = product;
  const outlet = { id: null, name: '', currency: document.price.currency, fees: [], expectedSales: 1 };
  const price = list && pricer(document, { blank, list, rates, outlet, country: home, settings });
  const skus = skusOf(id, document, blank, (await sentSkusOf(db, [id])).get(id));
  const priceOf = (key: string): number | null => {
    if (!price) return null;
    try {
      return price(key).quote.retailMinor;
    } catch (error) {
      // What cannot be priced (a rate is missing) has no price; a fault of ours is not passed over.
      if (isTypicaError(error) && error.visible) return null;
      throw error;
    }
  };
  await db.run('DELETE FROM product_variant WHERE product_id = ?', [id]);
  await db.insertMany(
    'product_variant',
    ['product_id', 'variant_key', 'workspace_id', 'sku', 'price_minor', 'currency'],
    Object.keys(document.variants).map((key) => [
      id,
      key,
      workspaceId,
      skus.get(key) ?? '',
      priceOf(key),
      document.price.currency,
    ]),
  );
  await db.run('DELETE FROM product_artwork WHERE product_id = ?', [id]);
  await db.insertMany(
    'product_artwork',
    ['product_id', 'artwork_id'],
    artworkIdsOf(document.areas).map((artworkId) => [id, artworkId]),
  );
}
