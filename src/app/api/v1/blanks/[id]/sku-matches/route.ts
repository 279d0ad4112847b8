import { loadOffer } from '@/server/catalog/kept-offers';
import { csvBytes } from '@/server/csv/body';
import { json, route } from '@/server/http/route';
import { reckon } from '@/server/reckoning/reckoners';

/** What is sold already, as CSV in the body, matched with this blank's variants. Nothing is written. */
export const POST = route<{ id: string }>('read', async ({ ctx, actor, request, params }) => {
  const { blank } = await loadOffer(ctx, actor.workspaceId, params.id);
  const { workspaceId, currency } = actor;
  const csv = await csvBytes(request.body, 5);
  return json({
    currency,
    matches: await reckon(ctx, 'match-skus', { workspaceId, blankId: blank.id, currency, csv }, workspaceId),
  });
});
