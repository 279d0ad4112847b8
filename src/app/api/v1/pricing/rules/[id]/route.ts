import { noContent, route } from '@/server/http/route';
import { deleteRule } from '@/server/pricing/rules';

export const DELETE = route<{ id: string }>('price', async ({ ctx, actor, params }) => {
  await deleteRule(ctx, actor, params.id);
  return noContent();
});
