import { noContent, route } from '@/server/http/route';
import { undoBulk } from '@/server/pricing/bulk';

/** Takes prices of many back in one step, all of them or none. */
export const POST = route<{ id: string }>('price', async ({ ctx, actor, params }) => {
  await undoBulk(ctx, actor, params.id);
  return noContent();
});
