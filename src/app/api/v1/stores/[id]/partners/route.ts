import { readBody } from '@/server/http/body';
import { PartnerDto } from '@/server/http/dto/stores';
import { json, route } from '@/server/http/route';
import { declarePartner } from '@/server/stores/shop-facts';
import { findStore } from '@/server/stores/stores';

/** Declares a print partner in the shop. */
export const POST = route<{ id: string }>('send', async ({ ctx, actor, request, params }) => {
  const { partnerId } = await readBody(request, PartnerDto);
  return json(await declarePartner(ctx, await findStore(ctx, actor.workspaceId, params.id), partnerId), 201);
});
