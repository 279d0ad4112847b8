import { conflict, isTypicaError } from '@/core/errors';
import { firstOfEach } from '@/core/rules/fixes';
import type { Context } from '../context';
import { listFixes, takeFixes, type FixView } from '../listings/fixes';
import type { Actor } from '../people/people';
import { loadBundles } from '../products/bundle';
import { productsById } from '../products/products';
import { listStores } from '../stores/stores';
import { lookAtAll } from './look';
import type { SendRow } from './send-row';

/** A listing that is not sent, with what would make it fit its store. */
export interface ItemFixes {
  readonly productId: string;
  readonly title: string;
  readonly storeId: string;
  readonly number: number;
  readonly fixes: readonly FixView[];
}

/** Listings that are looked at for fixes at once, in the order in which the plan tells them. */
const AT_ONCE = 100;

/** What of a plan is not sent and can be fixed, of the first hundred that are not. */
export async function sendFixes(ctx: Context, send: SendRow): Promise<ItemFixes[]> {
  const items = await ctx.db.rows<{ productId: string; storeId: string; number: number }>(
    "SELECT product_id AS productId, store_id AS storeId, number FROM send_item WHERE send_id = ? AND what = 'stopped' AND fix_tried = FALSE ORDER BY product_id, store_id, number LIMIT ?",
    [send.id, AT_ONCE],
  );
  const ids = [...new Set(items.map(({ productId }) => productId))];
  const [products, stores] = await Promise.all([
    productsById(ctx.db, send.workspaceId, ids),
    listStores(ctx, send.workspaceId),
  ]);
  const bundles = new Map((await loadBundles(ctx, send.workspaceId, products)).map((one) => [one.product.id, one]));
  const found: ItemFixes[] = [];
  for (const { productId, storeId, number } of items) {
    const [bundle, store] = [bundles.get(productId), stores.find(({ id }) => id === storeId)];
    const fixes = bundle && store ? firstOfEach(await listFixes(ctx, bundle, store, number)) : [];
    if (fixes.length > 0) found.push({ productId, title: bundle!.product.title, storeId, number, fixes });
  }
  return found;
}

/** Takes every fix of `sendFixes`, each for its store alone, and looks at those listings again. Gives how many listings were fixed. Throws `send-begun`. */
export async function fixSend(ctx: Context, actor: Actor, send: SendRow): Promise<{ fixed: number }> {
  if (send.state !== 'planned')
    throw conflict('send-begun', 'This has begun: what is not sent can be fixed in a new plan.');
  const stores = await listStores(ctx, send.workspaceId);
  let fixed = 0;
  for (const { productId, storeId, number } of await sendFixes(ctx, send)) {
    const store = stores.find(({ id }) => id === storeId)!;
    try {
      await takeFixes(ctx, actor, productId, store, { where: 'store', number });
      fixed += 1;
    } catch (error) {
      // Somebody was quicker, or put the product away: it is told as it stands.
      if (!isTypicaError(error) || !error.visible) throw error;
    }
    await ctx.db.run(
      'UPDATE send_item SET what = NULL, fix_tried = TRUE WHERE send_id = ? AND product_id = ? AND store_id = ? AND number = ?',
      [send.id, productId, storeId, number],
    );
  }
  await lookAtAll(ctx, send);
  return { fixed };
}
