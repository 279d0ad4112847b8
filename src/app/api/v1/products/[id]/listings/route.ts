import { readBody } from '@/server/http/body';
import { SendDto } from '@/server/http/dto/products';
import { json, route } from '@/server/http/route';
import { listingsOf, listingView, prepareListed, requestSend } from '@/server/listings/listings';
import { loadBundle } from '@/server/products/bundle';
import { findStore, listStores } from '@/server/stores/stores';

type Params = { id: string };

/** Where the product stands in each store, with every rule of its channel kept or broken. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) => {
  const [bundle, stores] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    listStores(ctx, actor.workspaceId),
  ]);
  const rows = await listingsOf(ctx.db, actor.workspaceId, [params.id]);
  return json({
    listings: stores.map((store) => {
      const row = rows.find(({ storeId }) => storeId === store.id) ?? null;
      return listingView(store, row, prepareListed(ctx, bundle, store, row));
    }),
  });
});

/** Sends the product to a store, as a draft or live, in a job. */
export const POST = route<Params>('send', async ({ ctx, actor, request, params }) => {
  const { storeId, visibility, seenHash } = await readBody(request, SendDto);
  const [bundle, store] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    findStore(ctx, actor.workspaceId, storeId),
  ]);
  return json(await requestSend(ctx, bundle, store, visibility, { seenHash, by: actor.personName }), 202);
});
