import { setChosen } from '@/core/document/choosing';
import { invalid } from '@/core/errors';
import { diff } from '@/core/document/patch';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';
import { renewPictures } from '../pictures/renew';
import { findProduct, patchProduct, type Product, oneLine } from './products';
import { loadSearchWorld, writeSearchRows } from './search-rows';

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
  const world = await loadSearchWorld(ctx, actor.workspaceId, product.blankId);
  const newOne = newId('p');
  // The copy is there before its variants leave the first: if this ends in between, nothing is lost.
  await ctx.pools.transaction(async (db) => {
    await db.run(
      'INSERT INTO product (id, workspace_id, blank_id, title, revision, document) VALUES (?, ?, ?, ?, 1, ?)',
      [newOne, actor.workspaceId, product.blankId, document.words.base.title, JSON.stringify(document)],
    );
    await writeSearchRows(db, { id: newOne, workspaceId: actor.workspaceId, document }, world);
    await renewPictures(db, { id: newOne, workspaceId: actor.workspaceId, title: document.words.base.title });
  });
  const without = setChosen(product.document, moved, false);
  await patchProduct(ctx, actor, id, product.revision, diff(product.document, without), 'Split in two');
  return {
    first: await findProduct(ctx, actor.workspaceId, id),
    second: await findProduct(ctx, actor.workspaceId, newOne),
  };
}
