import { acceptancesOf, findingsOf, withAcceptances } from '@/server/findings/findings';
import { json, route } from '@/server/http/route';
import { loadBundle } from '@/server/products/bundle';

/** What the checks say of the product as it is saved, with remedies, and who accepted what. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const bundle = await loadBundle(ctx, actor.workspaceId, params.id);
  const acceptances = await acceptancesOf(ctx, actor.workspaceId, params.id);
  return json({
    revision: bundle.product.revision,
    findings: withAcceptances(await findingsOf(ctx, bundle), acceptances),
  });
});
