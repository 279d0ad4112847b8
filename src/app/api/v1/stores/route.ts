import { json, route } from '@/server/http/route';
import { listStores } from '@/server/stores/stores';

export const GET = route('read', async ({ ctx, actor }) => json({ stores: await listStores(ctx, actor.workspaceId) }));
