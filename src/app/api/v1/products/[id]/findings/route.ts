import { acceptancesOf, findingsOf, withAcceptances } from '@/server/findings/findings';
import { json, route } from '@/server/http/route';
import { loadDesign } from '@/server/products/bundle';

/** What the checks say of the product as it is saved, with remedies, and who accepted what. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const design = await loadDesign(ctx, actor.workspaceId, params.id);
  const acceptances = await acceptancesOf(ctx, actor.workspaceId, params.id);
  return json({
    revision: design.product.revision,
    findings: withAcceptances(await findingsOf(ctx, design), acceptances),
  });
});
