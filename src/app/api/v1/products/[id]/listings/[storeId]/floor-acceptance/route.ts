import { acceptFloor, withdrawFloor } from '@/server/listings/floor';
import { noContent, route } from '@/server/http/route';
import { loadBundle } from '@/server/products/bundle';
import { findProduct } from '@/server/products/products';
import { findStore } from '@/server/stores/stores';

type Params = { id: string; storeId: string };

/** Takes selling below the floor in a store upon oneself, as the prices stand now. */
export const PUT = route<Params>('price', async ({ ctx, actor, params }) => {
  const [bundle, store] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    findStore(ctx, actor.workspaceId, params.storeId),
  ]);
  await acceptFloor(ctx, actor, bundle, store);
  return noContent();
});

export const DELETE = route<Params>('price', async ({ ctx, actor, params }) => {
  const { id } = await findProduct(ctx, actor.workspaceId, params.id);
  await withdrawFloor(ctx, actor, id, params.storeId);
  return noContent();
});
