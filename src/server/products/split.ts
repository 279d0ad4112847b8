import { setChosen } from '@/core/document/choosing';
import { invalid } from '@/core/errors';
import { diff } from '@/core/document/patch';
import { loadBlank } from '../catalog/blanks';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';
import { enqueuePictures } from '../pictures/renew';
import { insertProduct } from './insert';
import { patchIn } from './patch';
import { findProduct, oneLine, type Product } from './products';
import { writeVariantRowsSoon } from './variant-rows';

/**
 * Splits a product in two, for stores that hold fewer variants than it has: the named variants move to a new product with the same design,
 * prices and words. Throws `split-empty` where one of the two would have none.
 */
export async function splitProduct(
  ctx: Context,
  actor: Actor,
  id: string,
  input: { readonly variantKeys: readonly string[]; readonly title: string },
): Promise<{ first: Product; second: Product }> {
  const product = await findProduct(ctx, actor.workspaceId, id);
  const all = Object.keys(product.document.variants);
  const moved = all.filter((key) => input.variantKeys.includes(key));
  if (moved.length === 0 || moved.length === all.length)
    throw invalid('split-empty', 'Each of the two products needs at least one variant; name some of them, not all.');
  const kept = all.filter((key) => !moved.includes(key));
  await refuseOver(ctx, actor.workspaceId, 'products');
  const title = oneLine(input.title) || `${product.title} (2)`;
  const whole = setChosen(product.document, kept, false);
  const document = {
    ...whole,
    words: { base: { ...whole.words.base, title: title.slice(0, 500).toWellFormed() }, stores: whole.words.stores },
  };
  const blank = await loadBlank(ctx, product.blankId);
  const without = setChosen(product.document, moved, false);
  const patch = diff(product.document, without);
  // Both or neither: where somebody changed the first meanwhile, no copy stays behind.
  const newOne = await ctx.pools.transaction(async (db) => {
    await patchIn(db, actor, { id, blank }, product.revision, patch, { label: 'Split in two' });
    const made = await insertProduct(db, actor, document, 'Made the product from variants of another one.');
    await enqueuePictures(db, { id: made, workspaceId: actor.workspaceId, title: document.words.base.title });
    return made;
  });
  await Promise.all([writeVariantRowsSoon(ctx, id), writeVariantRowsSoon(ctx, newOne)]);
  return {
    first: await findProduct(ctx, actor.workspaceId, id),
    second: await findProduct(ctx, actor.workspaceId, newOne),
  };
}
