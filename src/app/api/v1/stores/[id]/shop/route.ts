import { json, route } from '@/server/http/route';
import { readShopFacts } from '@/server/stores/shop-facts';
import { findStore } from '@/server/stores/stores';

/** Reads anew what the shop itself has: declared partners, categories, warehouses, exemptions. */
export const POST = route<{ id: string }>('send', async ({ ctx, actor, params }) =>
  json(await readShopFacts(ctx, await findStore(ctx, actor.workspaceId, params.id))),
);
