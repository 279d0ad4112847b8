import { notFound } from '@/core/errors';
import { readBody } from '@/server/http/body';
import { LeaveDto } from '@/server/http/dto/sends';
import { listingNumber } from '@/server/http/listing-number';
import { noContent, route } from '@/server/http/route';
import { listingAt } from '@/server/listings/place';
import { leaveAsThere } from '@/server/listings/settle';
import { findStore } from '@/server/stores/stores';

/** Leaves a listing on sale, or off sale, as somebody put it in the shop. */
export const POST = route<{ id: string; storeId: string }>('send', async ({ ctx, actor, request, params, query }) => {
  const { visibility } = await readBody(request, LeaveDto);
  const store = await findStore(ctx, actor.workspaceId, params.storeId);
  const row = await listingAt(ctx, actor.workspaceId, params.id, store.id, listingNumber(query));
  if (!row?.externalId) throw notFound('listing of this product in the store', params.storeId);
  await leaveAsThere(ctx, actor, row, visibility);
  return noContent();
});
