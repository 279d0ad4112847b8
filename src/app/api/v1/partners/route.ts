import { json, route } from '@/server/http/route';
import { listPartners } from '@/server/price-lists/price-lists';

export const GET = route('read', async ({ ctx, actor }) =>
  json({ partners: await listPartners(ctx, actor.workspaceId) }),
);
