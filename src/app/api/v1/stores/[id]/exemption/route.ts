import { json, route } from '@/server/http/route';
import { askExemption } from '@/server/stores/shop-facts';
import { findStore } from '@/server/stores/stores';

/** Asks the shop for leave to sell goods of the store's brand without product codes. */
export const POST = route<{ id: string }>('send', async ({ ctx, actor, params }) =>
  json((await askExemption(ctx, await findStore(ctx, actor.workspaceId, params.id))).exemption, 201),
);
