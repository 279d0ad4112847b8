import { json, route } from '@/server/http/route';
import { findChange } from '@/server/range/many/change-row';
import { beginChange, viewChange } from '@/server/range/many/changes';

/** Does what was planned, by a job. */
export const POST = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  await beginChange(ctx, actor, params.id);
  return json(await viewChange(ctx, await findChange(ctx, actor.workspaceId, params.id)), 202);
});
