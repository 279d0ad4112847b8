import { acceptFinding, withdrawAcceptance } from '@/server/findings/findings';
import { noContent, route } from '@/server/http/route';
import { loadDesign } from '@/server/products/bundle';
import { findProduct } from '@/server/products/products';

type Params = { id: string; findingId: string };

/** Accepts a warning as it stands now, in the name of whoever asks. */
export const PUT = route<Params>('design', async ({ ctx, actor, params }) => {
  const design = await loadDesign(ctx, actor.workspaceId, params.id);
  await acceptFinding(ctx, actor, design, params.findingId);
  return noContent();
});

export const DELETE = route<Params>('design', async ({ ctx, actor, params }) => {
  const { id } = await findProduct(ctx, actor.workspaceId, params.id);
  await withdrawAcceptance(ctx, actor, id, params.findingId);
  return noContent();
});
