import { setCodes } from '@/core/document/choosing';
import type { ProductDocument } from '@/core/document/document';
import { diff } from '@/core/document/patch';
import { setAims } from '@/core/pricing/fixing';
import type { SheetChange } from '@/core/pricing/price-sheet';
import { matchSkus, type SkuMatch } from '@/core/variants/match';
import type { CodeChange } from '@/core/variants/codes-csv';
import { loadOffer } from '../catalog/kept-offers';
import { readSoldItems } from '../catalog/sold-items';
import type { Context } from '../context';
import type { Applied, FileOf, OfProduct, PreviewOf } from '../reckoning/reckoners';
import { loadBundle } from '../products/bundle';
import { patchProduct } from '../products/patch';
import {
  exportPrices as priceLines,
  previewCodes as codes,
  previewPrices as prices,
  refuseFaulty,
  type SheetPreview,
} from './sheet';

/** Files of prices and codes, read and written in a process of their own (../reckoning): thousands of rows in several stores take their time. */

export const exportPrices = async (ctx: Context, { workspaceId, productId }: OfProduct): Promise<string> =>
  priceLines(ctx, await loadBundle(ctx, workspaceId, productId));

export async function previewPrices(
  ctx: Context,
  { workspaceId, productId, csv }: FileOf,
): Promise<PreviewOf<SheetChange>> {
  const bundle = await loadBundle(ctx, workspaceId, productId);
  return { ...(await prices(ctx, bundle, csv)), revision: bundle.product.revision };
}

export async function previewCodes(
  ctx: Context,
  { workspaceId, productId, csv }: FileOf,
): Promise<PreviewOf<CodeChange>> {
  const bundle = await loadBundle(ctx, workspaceId, productId);
  return { ...(await codes(bundle, csv)), revision: bundle.product.revision };
}

/** Changes a product by what a file says: all of it, or nothing. */
async function apply<C>(
  ctx: Context,
  { actor, productId }: Applied,
  preview: SheetPreview<C>,
  product: { readonly revision: number; readonly document: ProductDocument },
  changed: ProductDocument,
  label: string,
): Promise<PreviewOf<C>> {
  const { revision } = await patchProduct(ctx, actor, productId, product.revision, diff(product.document, changed), {
    label: `${label} from a file (${preview.changes.length})`,
    cause: 'file',
  });
  return { ...preview, revision };
}

export async function applyPrices(ctx: Context, input: Applied): Promise<PreviewOf<SheetChange>> {
  const bundle = await loadBundle(ctx, input.workspaceId, input.productId);
  const preview = await prices(ctx, bundle, input.csv);
  refuseFaulty(preview);
  const { product } = bundle;
  const priced = preview.changes.reduce(
    (doc, { storeId, variantKey, now }) => setAims(doc, storeId, [variantKey], now),
    product.document,
  );
  return apply(ctx, input, preview, product, priced, 'Prices');
}

export async function applyCodes(ctx: Context, input: Applied): Promise<PreviewOf<CodeChange>> {
  const bundle = await loadBundle(ctx, input.workspaceId, input.productId);
  const preview = await codes(bundle, input.csv);
  refuseFaulty(preview);
  const { product } = bundle;
  return apply(ctx, input, preview, product, setCodes(product.document, preview.changes), 'Codes');
}

/** What is sold already, matched with a blank's variants. */
export async function matchSold(
  ctx: Context,
  { workspaceId, blankId, currency, csv }: { workspaceId: string; blankId: string; currency: string; csv: Uint8Array },
): Promise<readonly SkuMatch[]> {
  const { blank } = await loadOffer(ctx, workspaceId, blankId);
  return matchSkus(blank, await readSoldItems(csv, currency));
}
