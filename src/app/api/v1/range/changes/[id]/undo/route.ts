import { json, route } from '@/server/http/route';
import { findChange } from '@/server/range/many/change-row';
import { undoChange, viewChange } from '@/server/range/many/changes';

/** Undoes what was done, by a job: what was changed since stays. */
export const POST = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  await undoChange(ctx, actor, params.id);
  return json(await viewChange(ctx, await findChange(ctx, actor.workspaceId, params.id)), 202);
});
