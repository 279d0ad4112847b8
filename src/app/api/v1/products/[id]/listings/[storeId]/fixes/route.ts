import { FIRST_LISTING } from '@/core/document/split';
import { readBody } from '@/server/http/body';
import { FixDto } from '@/server/http/dto/sends';
import { json, route } from '@/server/http/route';
import { listingNumber } from '@/server/http/listing-number';
import { listFixes, takeFixes } from '@/server/listings/fixes';
import { loadBundle } from '@/server/products/bundle';
import { findStore } from '@/server/stores/stores';

type Params = { id: string; storeId: string };

/** Ways to keep the rules that the product breaks in a store, each with what it was and what it becomes. */
export const GET = route<Params>('read', async ({ ctx, actor, params, query }) => {
  const [bundle, store] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    findStore(ctx, actor.workspaceId, params.storeId),
  ]);
  return json({ fixes: await listFixes(ctx, bundle, store, listingNumber(query)) });
});

/** Takes fixes, for the store alone or for all, in one revision. */
export const POST = route<Params>('design', async ({ ctx, actor, request, params }) => {
  const { rules, ids, where, number = FIRST_LISTING } = await readBody(request, FixDto);
  const store = await findStore(ctx, actor.workspaceId, params.storeId);
  return json(await takeFixes(ctx, actor, params.id, store, { rules, ids, where, number }));
});
