import { json, route } from '@/server/http/route';
import { listBatches } from '@/server/pricing/bulk';

export const GET = route('read', async ({ ctx, actor }) =>
  json({ batches: await listBatches(ctx, actor.workspaceId) }),
);
