import { json, route } from '@/server/http/route';
import { findPriceList, variantChanges } from '@/server/price-lists/price-lists';

/** What a list changes of one blank, variant by variant: `?blank=`. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const list = await findPriceList(ctx, actor.workspaceId, params.id);
  return json({ currency: list.currency, changes: await variantChanges(ctx, list, query.get('blank') ?? '') });
});
