import type { Blank } from '@/core/catalog/blank';
import { artworkIdsOf, type ProductDocument } from '@/core/document/document';
import { onOtherBlank, type Transfer } from '@/core/document/other-blank';
import { layerAspect } from '@/core/print/plan';
import { findArtworks } from '../artwork/artwork';
import { loadBlank } from '../catalog/blanks';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import type { Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';
import { insertProduct } from './insert';
import { findProduct, oneLine, type Product } from './products';
import { writeVariantRowsSoon } from './variant-rows';

const MAX_TITLE = 500;

/** The same product once more. Codes of variants stay behind: a SKU or GTIN names one good. */
function sameAgain(document: ProductDocument): ProductDocument {
  return { ...document, variants: Object.fromEntries(Object.keys(document.variants).map((key) => [key, {}])) };
}

function titled(document: ProductDocument, title: string): ProductDocument {
  const cut = title.slice(0, MAX_TITLE).toWellFormed();
  return { ...document, words: { ...document.words, base: { ...document.words.base, title: cut } } };
}

/** What a product would be on another blank. Nothing is written. */
export async function previewOnBlank(
  ctx: Context,
  actor: Actor,
  id: string,
  blankId: string,
): Promise<Transfer & { readonly blank: Blank }> {
  const product = await findProduct(ctx, actor.workspaceId, id);
  const [from, blank] = await Promise.all([loadBlank(ctx, product.blankId), loadBlank(ctx, blankId)]);
  const artworks = await findArtworks(ctx.db, actor.workspaceId, artworkIdsOf(product.document.areas));
  const sizes = new Map([...artworks].flatMap(([key, { facts }]) => (facts ? [[key, facts] as const] : [])));
  return { ...onOtherBlank(product.document, from, blank, (layer) => layerAspect(layer, sizes)), blank };
}

/**
 * Makes another product of one: the same again, or its design, prices and words on another blank. The first one is not changed. Gives the
 * new product, and what did not fit.
 */
export async function copyProduct(
  ctx: Context,
  actor: Actor,
  id: string,
  input: { readonly title?: string | null; readonly blankId?: string | null },
  /** Written together with it. */
  also: (db: Database, madeId: string) => Promise<void> = async () => {},
): Promise<{ product: Product; notes: readonly string[] }> {
  const product = await findProduct(ctx, actor.workspaceId, id);
  await refuseOver(ctx, actor.workspaceId, 'products');
  const other =
    input.blankId == null || input.blankId === product.blankId
      ? null
      : await previewOnBlank(ctx, actor, id, input.blankId);
  const title =
    oneLine(input.title ?? '') || (other ? `${product.title}, ${other.blank.name}` : `${product.title} (copy)`);
  const document = titled(other?.document ?? sameAgain(product.document), title);
  const made = await ctx.pools.transaction(async (db) => {
    const madeId = await insertProduct(db, actor, document, 'Made the product as a copy of another one.');
    await also(db, madeId);
    return madeId;
  });
  await writeVariantRowsSoon(ctx, made);
  return { product: await findProduct(ctx, actor.workspaceId, made), notes: other?.notes ?? [] };
}
