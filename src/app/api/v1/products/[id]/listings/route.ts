import { readBody } from '@/server/http/body';
import { SendDto } from '@/server/http/dto/products';
import { json, route } from '@/server/http/route';
import { listingsOf, listingView, prepareListed } from '@/server/listings/listings';
import { requestSend } from '@/server/listings/request-send';
import { listingPlaces } from '@/server/listings/place';
import { loadBundle } from '@/server/products/bundle';
import { findStore, listStores } from '@/server/stores/stores';

type Params = { id: string };

/** Where each listing of the product in each store stands, with every rule of its channel kept or broken. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) => {
  const [bundle, stores] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    listStores(ctx, actor.workspaceId),
  ]);
  const rows = await listingsOf(ctx.db, actor.workspaceId, [params.id]);
  return json({
    listings: stores.flatMap((store) =>
      listingPlaces(bundle.product, store.id, rows).map((place) =>
        listingView(store, place, prepareListed(ctx, bundle, store, place.row, place.number)),
      ),
    ),
  });
});

/** Sends the product to a store, as a draft or live, in a job. */
export const POST = route<Params>('send', async ({ ctx, actor, request, params }) => {
  const { storeId, number, visibility, seenHash } = await readBody(request, SendDto);
  const [bundle, store] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    findStore(ctx, actor.workspaceId, storeId),
  ]);
  return json(await requestSend(ctx, bundle, store, visibility, { seenHash, number, by: actor.personName }), 202);
});
