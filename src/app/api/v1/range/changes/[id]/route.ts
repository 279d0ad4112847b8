import { json, route } from '@/server/http/route';
import { findChange } from '@/server/range/many/change-row';
import { viewChange } from '@/server/range/many/changes';

export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) =>
  json(await viewChange(ctx, await findChange(ctx, actor.workspaceId, params.id))),
);
