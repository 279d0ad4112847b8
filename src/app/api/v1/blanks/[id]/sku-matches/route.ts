import { loadOffer } from '@/server/catalog/blanks';
import { readSoldItems } from '@/server/catalog/sold-items';
import { matchSkus } from '@/core/variants/match';
import { json, route } from '@/server/http/route';

/** What is sold already, as CSV in the body, matched with this blank's variants. Nothing is written. */
export const POST = route<{ id: string }>(async ({ ctx, actor, request, params }) => {
  const { blank } = await loadOffer(ctx, actor.workspaceId, params.id);
  const items = await readSoldItems(request.body, actor.currency);
  return json({ currency: actor.currency, matches: matchSkus(blank, items) });
});
